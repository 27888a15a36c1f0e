// What the bench reads and writes: projects, measurements, sweeps, patterns, pictures; and the questions
// before it.
#pragma once

#include <QObject>

#include "app/session/editing.h"
#include "core/export/build_drawing.h"
#include "core/project/versions.h"

class QWidget;

namespace rm::app {

class LeftWorkDialog;

class Files : public QObject {
    Q_OBJECT
  public:
    /// `window` is what dialogs belong to.
    Files(Session& session, Editing& editing, QWidget& window);

    /// Opens a file, or says why it cannot.
    bool open(const QString& path);
    bool save(const QString& path);
    void newProject();
    /// The project that comes with the program, as one that has no file yet.
    void openDemo();
    /// Files opened or saved lately that are still there, the newest first.
    static QStringList recentFiles();
    void askOpen();
    void askSave(bool always);
    /// Whether what is on the bench may go: asks where something is not saved.
    bool mayDiscard();
    /// Says what windows left unsaved when they ended, if any did.
    void offerLeftWork();
    /// All of it, side by side; also where there is none.
    void showLeftWork();
    /// Brings what was left to the bench, where what is there may go.
    void restore(const io::LeftWork& work);
    /// Says what is to be done where another program changed or removed the file.
    void fileChangedOutside();
    /// The project as it was before it was saved over.
    std::vector<io::Version> versions() const;
    void goBackTo(const io::Version& version);
    void askMeasured();
    void exportSweep();
    void exportSweepTo(const QString& path);
    void exportPattern();
    void exportPatternTo(const QString& path);
    void exportPicture(QWidget* view);
    void exportDrawing();
    /// As SVG, PDF or DXF, by the end of the name.
    void exportDrawingTo(const QString& path);
    /// The holes of the boom at 1 : 1.
    void exportTemplate();
    void exportTemplateTo(const QString& path);
    void exportReport();
    /// In the background; says when it is there.
    void exportReportTo(const QString& path);
    /// Ends what is written in the background.
    void stop() { report_.stop(); }

  private:
    io::DrawingOptions drawingOptions();
    /// False where the file was changed by another program meanwhile and is not to be replaced.
    bool mayReplace();
    static void remember(const QString& path);
    QString versionsFolder() const;

    Session& session_;
    Editing& editing_;
    QWidget& window_;
    LeftWorkDialog* leftWork_ = nullptr;
    Task report_;  ///< its own: what else the bench looks for meanwhile does not end it
};

}  // namespace rm::app
