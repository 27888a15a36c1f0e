// The project on the bench: an immutable value, replaced by every edit, with undo, saving and recovery.
#pragma once

#include <QElapsedTimer>
#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <memory>
#include <vector>

#include "core/model/design.h"
#include "core/project/journal.h"

namespace rm::app {

using ProjectPtr = std::shared_ptr<const model::Project>;

/// What changes a project. Throws rm::Error where it cannot be done.
using Change = std::function<void(model::Project&)>;
using DesignChange = std::function<void(model::Design&)>;

class Document : public QObject {
    Q_OBJECT
  public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    /// Whoever holds a reference may go on reading it through any change: a project that is replaced goes
    /// when control is back in the event loop from which it was.
    const model::Project& project() const { return *project_; }
    const model::Design& design() const { return project_->active(); }
    ProjectPtr share() const { return project_; }
    /// Milliseconds since the last edit.
    double sinceEditMs() const { return static_cast<double>(editClock_.nsecsElapsed()) * 1e-6; }

    /// Changes the project as one undoable step. Steps with the same merge key that follow each other, as a
    /// slider makes them, are undone together; any other edit, and finishMerging, end such a run. What is
    /// half typed somewhere is committed first (aboutToChange). False where nothing was done: the change was
    /// refused and `refused` says why, or it was asked for in the middle of another one.
    bool edit(const QString& label, const Change& change, const QString& mergeKey = {});
    /// The same of the design on the bench.
    bool editDesign(const QString& label, const DesignChange& change, const QString& mergeKey = {});
    /// The same of any design by its id; nothing where it is gone.
    bool editDesign(model::Id design, const QString& label, const DesignChange& change,
                    const QString& mergeKey = {});
    void finishMerging() { mergeRun_++; }
    /// Changes what is looked at (the design on the bench, the working band) and nothing else: no step to
    /// undo, no change to save.
    void look(const Change& change);
    /// How fine a mesh a design needs: no change of it, nothing to show anew, no half-typed number disturbed.
    void setFineness(model::Id design, int level);

    void undo();
    void redo();
    QUndoStack* undoStack() { return &undo_; }

    /// Throw rm::Error; the document is unchanged then.
    void openFile(const QString& path);
    void saveFile(const QString& path);
    void startNew();
    /// Shows a project that has no file yet.
    void adopt(const model::Project& project, const QString& path);

    const QString& path() const { return path_; }
    /// Commits what is half typed somewhere to what it was typed for.
    void settleHand();
    bool modified() const { return !undo_.isClean() || restored_; }

    /// Where unsaved work is kept; the environment variable REEDMAST_RECOVERY overrides it.
    static QString recoveryFolder();
    /// What other windows, of this program run or an earlier one, left unsaved when they ended.
    static std::vector<io::LeftWork> leftWork();
    /// Brings it to the bench, unsaved as it was. Throws rm::Error; the document is unchanged then.
    void restore(const io::LeftWork& work);
    /// What is on the bench is not wanted: nothing of it is kept.
    void giveUp() { journal_.forget(); }
    /// Returns when what is on the bench is on disk, too, saved or not.
    void settleJournal() { journal_.flush(); }
    QString journalFile() const { return QString::fromStdString(journal_.file().string()); }

    /// Whether the file on disk is the one that was opened or saved last: another program may have changed or
    /// removed it.
    enum class OnDisk { Same, Changed, Gone };
    OnDisk onDisk() const;

  Q_SIGNALS:
    /// Before the project changes: whoever holds something half typed commits it to the design it was typed
    /// for.
    void aboutToChange();
    void changed();
    /// Another project is here, or it has another file.
    void adopted();
    void fileChanged();
    /// An edit was not made, with the reason.
    void refused(QString sentence);
    /// Unsaved work cannot be kept, and why; empty: it can again.
    void unkept(QString why);
    /// Another program changed or removed the file.
    void changedOutside();

  private:
    friend class ProjectEdit;
    void replace(ProjectPtr project);
    /// Puts it in place of the one that is here, which others may be reading still.
    void put(ProjectPtr project);
    /// Takes over a snapshot of the history, with the band that is looked at now.
    void goTo(const ProjectPtr& snapshot);
    void keep();
    void watchFile();
    /// What tells one state of a file from another without reading it.
    struct Stamp {
        bool there = false;
        qint64 size = 0;
        qint64 modifiedMs = 0;
        bool operator==(const Stamp&) const = default;
    };
    static Stamp stampOf(const QString& path);

    ProjectPtr project_;
    QUndoStack undo_;
    QString path_;
    io::Journal journal_;
    QFileSystemWatcher watcher_;
    Stamp stamp_;
    QByteArray content_;  ///< a hash of the file as it was opened or saved
    QElapsedTimer editClock_;
    model::Id lastId_ = 0;  ///< the highest id that was ever given here
    int mergeRun_ = 0;
    QString lastKey_;
    bool restored_ = false;
    bool settling_ = false;  ///< what was half typed is being committed
    bool changing_ = false;  ///< a change is under way
};

}  // namespace rm::app
