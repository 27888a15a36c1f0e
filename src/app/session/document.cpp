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

#include "core/edit/designs.h"
#include "core/edit/ids.h"
#include "core/project/project_file.h"

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

Document::Document(QObject* parent) : QObject(parent) {
    auto first = std::make_shared<model::Project>(edit::starterProject());
    lastId_ = first->lastId;
    project_ = std::move(first);
    editClock_.start();
    autosaveTimer_.setSingleShot(true);
    autosaveTimer_.setInterval(1500);
    connect(&autosaveTimer_, &QTimer::timeout, this, &Document::autosave);
}

Document::~Document() = default;

void Document::replace(ProjectPtr project) {
    project_ = std::move(project);
    editClock_.restart();
    Q_EMIT changed();
}

void Document::goTo(const ProjectPtr& snapshot) {
    const std::string band = edit::workingBand(*project_, 0.0).name;
    autosaveTimer_.start();
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
    auto own = std::make_shared<model::Project>(project);
    // No id of the project that was here before means anything in this one.
    own->lastId = lastId_;
    edit::giveIds(*own);
    lastId_ = own->lastId;
    path_ = path;
    restored_ = false;
    lastKey_.clear();
    autosaveTimer_.stop();
    project_ = std::move(own);
    undo_.clear();
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
    QFile::remove(recoveryFileFor(path_));
    path_ = QFileInfo(path).absoluteFilePath();
    QFile::remove(recoveryFileFor(path_));
    restored_ = false;
    autosaveTimer_.stop();
    undo_.setClean();
    Q_EMIT fileChanged();
}

void Document::startNew() {
    adopt(edit::starterProject(), {});
}

QString Document::recoveryFolder() {
    const QString chosen = qEnvironmentVariable("REEDMAST_RECOVERY");
    return chosen.isEmpty()
               ? QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/recovery"
               : chosen;
}

QString Document::recoveryFileFor(const QString& path) const {
    const auto hash = QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha1).toHex().left(16);
    return recoveryFolder() + "/" + QString::fromLatin1(hash) + ".json";
}

void Document::autosave() {
    if (!modified()) {
        QFile::remove(recoveryFileFor(path_));
        return;
    }
    QDir().mkpath(recoveryFolder());
    try {
        io::writeProject(*project_, recoveryFileFor(path_).toStdString());
    } catch (const std::exception& e) {
        // Saving will say so.
        spdlog::error("autosave: {}", e.what());
    }
}

std::optional<Document::Recovery> Document::recovery() const {
    const QFileInfo saved(recoveryFileFor(path_));
    if (!saved.exists()) return std::nullopt;
    return Recovery{saved.absoluteFilePath(), saved.lastModified().toString("d MMM yyyy, hh:mm")};
}

void Document::restore(const Recovery& recovery) {
    const auto project = io::readProject(recovery.file.toStdString());
    edit("Restore unsaved work", [&](model::Project& p) {
        const model::Id last = p.lastId;
        p = project;
        p.lastId = last;
    });
    restored_ = true;
}

void Document::discard(const Recovery& recovery) {
    QFile::remove(recovery.file);
}

}  // namespace rm::app
