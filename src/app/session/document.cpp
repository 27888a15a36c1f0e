#include "app/session/document.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>
#include <QUndoCommand>

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

    void undo() override { document_.replace(before_); }
    void redo() override { document_.replace(after_); }
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
    project_ = std::make_shared<const model::Project>(starterProject());
    editClock_.start();
    autosaveTimer_.setSingleShot(true);
    autosaveTimer_.setInterval(1500);
    connect(&autosaveTimer_, &QTimer::timeout, this, &Document::autosave);
}

Document::~Document() = default;

void Document::replace(ProjectPtr project) {
    project_ = std::move(project);
    ++generation_;
    editClock_.restart();
    autosaveTimer_.start();
    Q_EMIT changed();
}

void Document::edit(const QString& label, const std::function<void(model::Project&)>& change,
                    const QString& mergeKey) {
    auto after = std::make_shared<model::Project>(*project_);
    change(*after);
    undo_.push(new ProjectEdit(*this, project_, std::move(after), label, mergeKey, mergeRun_));
}

void Document::editDesign(const QString& label, const std::function<void(model::Design&)>& change,
                          const QString& mergeKey) {
    edit(
        label, [&](model::Project& p) { change(p.designs.at(p.activeDesign)); }, mergeKey);
}

void Document::adopt(const model::Project& project, const QString& path) {
    path_ = path;
    restored_ = false;
    undo_.clear();
    replace(std::make_shared<const model::Project>(project));
    autosaveTimer_.stop();
    Q_EMIT fileChanged();
}

void Document::openFile(const QString& path) {
    adopt(io::readProject(path.toStdString()), QFileInfo(path).absoluteFilePath());
}

void Document::saveFile(const QString& path) {
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
    adopt(starterProject(), {});
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
    } catch (const Error&) {
        // Nothing to be done about a full disk here; saving will say so.
    }
}

std::optional<Document::Recovery> Document::recovery() const {
    const QFileInfo saved(recoveryFileFor(path_));
    if (!saved.exists()) return std::nullopt;
    return Recovery{saved.absoluteFilePath(), saved.lastModified().toString("d MMM yyyy, hh:mm")};
}

void Document::restore(const Recovery& recovery) {
    const auto project = io::readProject(recovery.file.toStdString());
    edit("Restore unsaved work", [&](model::Project& p) { p = project; });
    restored_ = true;
}

void Document::discard(const Recovery& recovery) {
    QFile::remove(recovery.file);
}

model::Project starterProject() {
    model::Project p;
    for (const char* name : {"40 m", "20 m", "15 m", "10 m"})
        p.bands.push_back(*model::findAllocatedBand(name));
    p.workingBand = 1;
    model::Design d;
    d.name = "Dipole";
    d.dimensions.push_back(
        {"span", "10.35 m", model::DimensionKind::Length, "5 m", "15 m", "Length of the dipole", true, {}});
    model::Part part;
    part.name = "Dipole";
    part.shape = model::StraightWire{{"0 m", "-span/2", "0 m"}, {"0 m", "span/2", "0 m"}};
    d.parts.push_back(part);
    model::Feed feed;
    feed.part = "Dipole";
    d.feeds.push_back(feed);
    d.site.ground = model::GroundKind::Real;
    d.site.height = "10 m";
    p.designs.push_back(d);
    return p;
}

}  // namespace rm::app
