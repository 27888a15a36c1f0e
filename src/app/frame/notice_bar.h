// A line above the yard for findings, results and questions: never a box in the way.
#pragma once

#include <QFrame>

#include "app/look/themed.h"
#include "app/session/session.h"

class QLabel;
class QHBoxLayout;
class QToolButton;

namespace rm::app {

/// The worst of at least one finding, with the way to the part that it is about.
Notice noticeOf(const std::vector<model::Finding>& findings, Session& session);

class NoticeBar : public Themed<QFrame> {
    Q_OBJECT
  public:
    explicit NoticeBar(QWidget* parent = nullptr);
    /// Shows a sentence with its answers; no answers: it can only be closed.
    void show(const Notice& notice);
    void clear();
    bool shows(Notice::About about) const;
    /// Takes it away where it speaks of this, and leaves everything else.
    void retire(Notice::About about);
    QString sentence() const;
    QToolButton* answer(int number) const { return number == 0 ? first_ : second_; }

  private:
    void paint();

    Notice shown_;
    QLabel* mark_;
    QLabel* label_;
    QToolButton* first_;
    QToolButton* second_;

  protected:
    void themeChanged() override;
};

}  // namespace rm::app
