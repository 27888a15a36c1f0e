// What the bench reads and writes: projects, measurements, sweeps, patterns, pictures; and the questions
// before it.
#pragma once

#include <QObject>

#include "app/session/editing.h"

class QWidget;

namespace rm::app {

class Files : public QObject {
    Q_OBJECT
  public:
    /// `window` is what dialogs belong to.
    Files(Session& session, Editing& editing, QWidget& window);

    /// Opens a file, or says why it cannot.
    bool open(const QString& path);
    bool save(const QString& path);
    void newProject();
    void askOpen();
    void askSave(bool always);
    /// Whether what is on the bench may go: asks where something is not saved.
    bool mayDiscard();
    void askMeasured();
    void exportSweep();
    void exportSweepTo(const QString& path);
    void exportPattern();
    void exportPatternTo(const QString& path);
    void exportPicture(QWidget* view);

  private:
    void offerRecovery();

    Session& session_;
    Editing& editing_;
    QWidget& window_;
};

}  // namespace rm::app
