// The keyboard's hand on a view that answers to the mouse. While the view has the focus it has a frame, and a
// cross that arrow keys move as a mouse would be moved: by 10 px, with Shift by one, with Ctrl by 50; Home
// and End go to the sides. Enter presses where the cross is, Space takes hold there and lets go the next
// time.
#pragma once

#include <QEvent>
#include <QObject>
#include <QPointF>
#include <optional>

class QKeyEvent;
class QWidget;

namespace rm::app {

class KeyPointer : public QObject {
  public:
    /// Lives as long as the view, which can be reached with Tab from now on.
    explicit KeyPointer(QWidget& view);

    /// Where the cross is, px of the view; nowhere while the focus is elsewhere.
    std::optional<QPointF> at() const { return shown_ ? std::optional(at_) : std::nullopt; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    bool key(const QKeyEvent& event);
    void moveBy(double right, double down);
    void moveTo(const QPointF& point);
    /// Whether this, and so the view, is still there when the event has been dealt with: what a press sets
    /// off may take the view away.
    bool send(QEvent::Type type, Qt::MouseButton button);
    void letGo();
    void show(bool shown);

    QWidget& view_;
    QWidget* mark_;
    QPointF at_;
    bool placed_ = false;  ///< the cross has been somewhere before
    bool shown_ = false;
    bool held_ = false;
};

}  // namespace rm::app
