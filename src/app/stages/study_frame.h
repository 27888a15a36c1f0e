// What both studies stand in: a title, the way back to the yard, and an offer to work it out again when it is
// old.
#pragma once

#include <QFrame>

#include "app/look/themed.h"

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace rm::app {

class StudyFrame : public Themed<QFrame> {
    Q_OBJECT
  public:
    explicit StudyFrame(QWidget* parent = nullptr);

    void setTitle(const QString& title);
    /// The study belongs to a design that has changed since.
    virtual void setStale(bool stale);
    bool stale() const { return stale_; }

  Q_SIGNALS:
    void closed();
    void againRequested();

  protected:
    /// Below the title.
    void addContent(QWidget* content, int stretch);

  private:
    QVBoxLayout* layout_;
    QLabel* title_;
    QToolButton* again_;
    bool stale_ = false;
};

}  // namespace rm::app
