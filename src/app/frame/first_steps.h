// Your first antenna: five steps on the real bench, each recognised when it has been done.
#pragma once

#include <QFrame>
#include <vector>

#include "app/look/text.h"
#include "app/session/session.h"

class QLabel;

namespace rm::app {

class FirstSteps : public QFrame {
    Q_OBJECT
  public:
    explicit FirstSteps(Session& session, QWidget* parent = nullptr);

    /// Puts a dipole that is too long on the bench, as a project of its own, and begins.
    void begin();
    void end();
    bool active() const { return active_; }
    /// The step that is asked for, from 0; five where all are done.
    int step() const { return step_; }
    QString sentence() const;
    /// Another stage came to the front.
    void stageShown(const QString& name);

  private:
    void look();
    void advance();
    void say();

    Session& session_;
    QLabel* title_;
    QLabel* words_;
    bool active_ = false;
    int step_ = 0;
    QString stage_;
    double heightM_ = 0.0;  ///< when the step that raises it began
};

}  // namespace rm::app
