#include "app/session/document.h"

#include <spdlog/spdlog.h>

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QScopedValueRollback>
#include <QStandardPaths>
#include <QUndoCommand>
#include <utility>

#include "core/edit/designs.h"
#include "core/edit/ids.h"
#include "core/project/project_file.h"
#include "core/quantity/format.h"

namespace rm::app {

/// One undoable step: the project before and after.
class ProjectEdit : public QUndoCommand {
  public:
    ProjectEdit(Document& document, ProjectPtr before, ProjectPtr after, const QString& label,
                const QString& mergeKey, int run)
        : QUndoCommand(label),
          document_(document),
          before_(std::move(before)),
          after_(std::move(after)),
          mergeKey_(mergeKey),
          run_(run) {}

    void undo() override { document_.goTo(before_); }
    void redo() override { document_.goTo(after_); }
    int id() const override { return mergeKey_.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* next = static_cast<const ProjectEdit*>(other);
        if (next->mergeKey_ != mergeKey_ || next->run_ != run_) return false;
        after_ = next->after_;
        return true;
    }

  private:
    Document& document_;
    ProjectPtr before_;
    ProjectPtr after_;
    QString mergeKey_;
    int run_;
};

Document::Document(QObject* parent)
    : QObject(parent), journal_(recoveryFolder().toStdString(), [this](const std::string& why) {
          // From the journal's thread.
          QMetaObject::invokeMethod(
              this, [this, why] { Q_EMIT unkept(QString::fromStdString(why)); }, Qt::QueuedConnection);
      }) {
    auto first = std::make_shared<model::Project>(edit::starterProject());
    lastId_ = first->lastId;
    project_ = std::move(first);
    editClock_.start();
    connect(&undo_, &QUndoStack::indexChanged, this, &Document::keep);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, [this] {
        // Whoever replaces a file takes the watch with it.
        if (QFile::exists(path_)) watcher_.addPath(path_);
        if (onDisk() != OnDisk::Same) Q_EMIT changedOutside();
    });
}

Document::~Document() {
    if (!modified()) journal_.forget();
    // The history says that it is emptied, when the journal is gone already.
    undo_.disconnect(this);
}

/// What is not saved is on disk within a second, what is saved is not kept a second time.
void Document::keep() {
    if (modified())
        journal_.keep(project_, undo_.undoText().toStdString());
    else
        journal_.forget();
}

namespace {

/// Keeps a project until it is deleted itself: later, where nobody is in the middle of anything.
struct Outgoing : QObject {
    Outgoing(ProjectPtr what, QObject* parent) : QObject(parent), project(std::move(what)) {}
    ProjectPtr project;
};

}  // namespace

void Document::put(ProjectPtr project) {
    (new Outgoing(std::exchange(project_, std::move(project)), this))->deleteLater();
    // Before anybody asks the core what is wrong with it.
    quantity::sayLengths(project_->feetAndInches ? quantity::LengthStyle::FeetInches
                                                 : quantity::LengthStyle::Metric);
}

void Document::replace(ProjectPtr project) {
    put(std::move(project));
    editClock_.restart();
    Q_EMIT changed();
}

void Document::goTo(const ProjectPtr& snapshot) {
    const std::string band = edit::workingBand(*project_, 0.0).name;
    if (edit::workingBand(*snapshot, 0.0).name == band) return replace(snapshot);
    replace(std::make_shared<const model::Project>(edit::chooseBand(*snapshot, band)));
}

void Document::settleHand() {
    if (settling_) return;
    const QScopedValueRollback committing(settling_, true);
    Q_EMIT aboutToChange();
}

bool Document::edit(const QString& label, const Change& change, const QString& mergeKey) {
    if (changing_) {
        spdlog::warn("\"{}\" came in the middle of another change and was dropped", label.toStdString());
        return false;
    }
    if (mergeKey.isEmpty() || mergeKey != lastKey_) settleHand();
    const QScopedValueRollback busy(changing_, true);
    auto after = std::make_shared<model::Project>(*project_);
    after->lastId = lastId_;
    try {
        change(*after);
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
        return false;
    }
    edit::giveIds(*after);
    lastId_ = after->lastId;
    if (mergeKey.isEmpty()) finishMerging();
    lastKey_ = mergeKey;
    undo_.push(new ProjectEdit(*this, project_, std::move(after), label, mergeKey, mergeRun_));
    // A step that was merged into the one before is no new place in the history.
    keep();
    return true;
}

bool Document::editDesign(const QString& label, const DesignChange& change, const QString& mergeKey) {
    return edit(
        label, [&](model::Project& p) { change(p.designs.at(p.activeDesign)); }, mergeKey);
}

bool Document::editDesign(model::Id design, const QString& label, const DesignChange& change,
                          const QString& mergeKey) {
    return edit(
        label, [&](model::Project& p) { change(model::at(p.designs, design)); }, mergeKey);
}

void Document::look(const Change& change) {
    if (changing_) return;
    settleHand();
    const QScopedValueRollback busy(changing_, true);
    auto after = std::make_shared<model::Project>(*project_);
    change(*after);
    replace(std::move(after));
}

void Document::setFineness(model::Id design, int level) {
    if (changing_ || model::find(project_->designs, design) == nullptr) return;
    auto after = std::make_shared<model::Project>(*project_);
    model::at(after->designs, design).fineness.level = level;
    put(std::move(after));
}

void Document::undo() {
    if (changing_) return;
    settleHand();
    const QScopedValueRollback busy(changing_, true);
    undo_.undo();
}

void Document::redo() {
    if (changing_) return;
    settleHand();
    const QScopedValueRollback busy(changing_, true);
    undo_.redo();
}

void Document::adopt(const model::Project& project, const QString& path) {
    // What is half typed was typed for the project that goes.
    settleHand();
    auto own = std::make_shared<model::Project>(project);
    // No id of the project that was here before means anything in this one.
    own->lastId = lastId_;
    edit::giveIds(*own);
    lastId_ = own->lastId;
    path_ = path;
    restored_ = false;
    lastKey_.clear();
    journal_.begin(path.toStdString());
    put(std::move(own));
    undo_.clear();
    watchFile();
    editClock_.restart();
    Q_EMIT adopted();
    Q_EMIT changed();
    Q_EMIT fileChanged();
}

void Document::openFile(const QString& path) {
    adopt(io::readProject(path.toStdString()), QFileInfo(path).absoluteFilePath());
}

void Document::saveFile(const QString& path) {
    settleHand();
    io::writeProject(*project_, path.toStdString());
    path_ = QFileInfo(path).absoluteFilePath();
    restored_ = false;
    undo_.setClean();
    journal_.begin(path_.toStdString());
    watchFile();
    Q_EMIT fileChanged();
}

void Document::startNew() {
    adopt(edit::starterProject(project_->feetAndInches), {});
}

QString Document::recoveryFolder() {
    const QString chosen = qEnvironmentVariable("REEDMAST_RECOVERY");
    return chosen.isEmpty()
               ? QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/recovery"
               : chosen;
}

std::vector<io::LeftWork> Document::leftWork() {
    return io::leftWork(recoveryFolder().toStdString());
}

void Document::restore(const io::LeftWork& work) {
    const auto project = io::readLeft(work);
    adopt(project, QString::fromStdString(work.path));
    restored_ = true;
    Q_EMIT fileChanged();
    // In a journal of this window before it goes from that of the other.
    journal_.keep(project_, work.lastDone);
    journal_.flush();
    io::discardLeft(work);
}

Document::Stamp Document::stampOf(const QString& path) {
    const QFileInfo file(path);
    if (path.isEmpty() || !file.exists()) return {};
    return {true, file.size(), file.lastModified().toMSecsSinceEpoch()};
}

namespace {

QByteArray hashOf(const QString& path) {
    QFile file(path);
    QCryptographicHash hash(QCryptographicHash::Sha1);
    if (!file.open(QIODevice::ReadOnly) || !hash.addData(&file)) return {};
    return hash.result();
}

}  // namespace

void Document::watchFile() {
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    stamp_ = stampOf(path_);
    content_ = path_.isEmpty() ? QByteArray() : hashOf(path_);
    if (stamp_.there) watcher_.addPath(path_);
}

Document::OnDisk Document::onDisk() const {
    if (!stamp_.there) return OnDisk::Same;
    const Stamp now = stampOf(path_);
    if (!now.there) return OnDisk::Gone;
    // Touched, or written anew with what it had: nothing has changed.
    if (now == stamp_ || hashOf(path_) == content_) return OnDisk::Same;
    return OnDisk::Changed;
}

}  // namespace rm::app
