// The project on the bench: an immutable value, replaced by every edit, with undo, saving and recovery.
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <functional>
#include <memory>
#include <optional>

#include "core/model/design.h"

namespace rm::app {

using ProjectPtr = std::shared_ptr<const model::Project>;

class Document : public QObject {
    Q_OBJECT
  public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    const model::Project& project() const { return *project_; }
    const model::Design& design() const { return project_->active(); }
    ProjectPtr share() const { return project_; }
    quint64 generation() const { return generation_; }
    /// Milliseconds since the last edit.
    double sinceEditMs() const { return static_cast<double>(editClock_.nsecsElapsed()) * 1e-6; }

    /// Changes the project as one undoable step. Steps with the same merge key that follow each other, as a
    /// slider makes them, are undone together; finishMerging ends such a run.
    void edit(const QString& label, const std::function<void(model::Project&)>& change,
              const QString& mergeKey = {});
    void editDesign(const QString& label, const std::function<void(model::Design&)>& change,
                    const QString& mergeKey = {});
    void finishMerging() { mergeRun_++; }

    QUndoStack* undoStack() { return &undo_; }

    /// Throw rm::Error; the document is unchanged then.
    void openFile(const QString& path);
    void saveFile(const QString& path);
    void startNew();
    /// Shows a project that has no file yet.
    void adopt(const model::Project& project, const QString& path);

    const QString& path() const { return path_; }
    bool modified() const { return !undo_.isClean() || restored_; }

    /// Where autosaved projects wait for recovery; the environment variable REEDMAST_RECOVERY overrides it.
    static QString recoveryFolder();
    /// An autosaved newer state of the open file, left by a crash.
    struct Recovery {
        QString file;
        QString when;
    };
    std::optional<Recovery> recovery() const;
    void restore(const Recovery& recovery);
    void discard(const Recovery& recovery);
    /// Writes the recovery file now; called on a timer after every edit.
    void autosave();

  Q_SIGNALS:
    void changed();
    void fileChanged();

  private:
    friend class ProjectEdit;
    void replace(ProjectPtr project);
    QString recoveryFileFor(const QString& path) const;

    ProjectPtr project_;
    QUndoStack undo_;
    QString path_;
    QTimer autosaveTimer_;
    QElapsedTimer editClock_;
    quint64 generation_ = 0;
    int mergeRun_ = 0;
    bool restored_ = false;
};

/// A project with one straight dipole for 20 m and a few bands.
model::Project starterProject();

}  // namespace rm::app
