// What stands beside the menus: the modes, the project's title, the design on the bench, and what is being
// done.
#pragma once

#include <QWidget>
#include <vector>

#include "app/session/session.h"
#include "app/stages/stage.h"

class QComboBox;
class QLabel;
class QProgressBar;
class QToolButton;

namespace rm::app {

class TopBar : public QWidget {
    Q_OBJECT
  public:
    explicit TopBar(Session& session, QWidget* parent = nullptr);

    /// A button for an action that has a mode.
    void addMode(const QString& stage, const StageAction& action);
    void setFront(const QString& stage);
    /// Leaves out what there is no room for in a window of this width.
    void setRoom(int width);
    QString status() const;
    void setLatency(double milliseconds);

  Q_SIGNALS:
    void stopRequested();

  protected:
    bool event(QEvent* event) override;

  private:
    void refresh();
    void showStatus();
    void makeRoom();
    void place(int end);

    Session& session_;
    QWidget* modes_;
    std::vector<std::pair<QString, QToolButton*>> buttons_;
    QLabel* title_;
    int width_ = 0;  ///< of the window
    QComboBox* designs_;
    QWidget* running_;  ///< what stops the work, and how far it is
    QProgressBar* progress_;
    QToolButton* stop_;
    QLabel* status_;
    QString doing_;
};

}  // namespace rm::app
