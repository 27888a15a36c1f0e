// What hands do in the yard beside looking: a tool is offered the mouse and the keys before the camera is.
#pragma once

#include <QKeyEvent>
#include <QObject>
#include <QPainter>
#include <optional>

#include "app/look/text.h"
#include "app/stages/shape/yard_state.h"

namespace rm::app {

class YardTool : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;

    virtual void paint(QPainter&, const YardState&) {}
    /// True takes the mouse until it is released.
    virtual bool press(const QPointF&, Qt::KeyboardModifiers, Qt::MouseButton) { return false; }
    virtual void drag(const QPointF&, Qt::KeyboardModifiers) {}
    virtual void release(const QPointF&, Qt::KeyboardModifiers) {}
    virtual bool doubleClick(const QPointF&) { return false; }
    /// What is under the pointer, for the tip (empty: none is needed); nothing where it is nothing of this
    /// tool's.
    virtual std::optional<QString> hover(const QPointF&) { return std::nullopt; }
    /// The yard is left: what is half typed there was typed for it as it was.
    virtual void lookAway() {}
    /// True where the key means something to the tool now: no shortcut of the window gets it then.
    virtual bool wantsKey(const QKeyEvent&) const { return false; }
    virtual void key(QKeyEvent&) {}

  Q_SIGNALS:
    void changed();  ///< it looks otherwise now
};

/// A label beside the pointer: lines on a panel, the first one large.
void paintTag(QPainter& painter, const YardState& yard, const QPointF& at, const QStringList& lines);

}  // namespace rm::app
