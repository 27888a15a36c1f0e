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
    /// The line under the title; empty where there is none.
    QString line() const;

  Q_SIGNALS:
    void closed();
    void againRequested();

  protected:
    /// Below the title.
    void addContent(QWidget* content, int stretch);
    /// The line under the title: what the pointer reads; without one, where the study is old, what may
    /// differ; else what there is to say. There is no line before this was called.
    void setLine(const QString& reading, const QString& old, const QString& plain);

  private:
    QVBoxLayout* layout_;
    QLabel* title_;
    QToolButton* again_;
    QLabel* line_ = nullptr;
    bool stale_ = false;
};

}  // namespace rm::app
