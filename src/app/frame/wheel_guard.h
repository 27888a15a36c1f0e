// The wheel scrolls; it turns a slider or a list only where that has the focus.
#pragma once

#include <QObject>

namespace rm::app {

/// An event filter for the whole application.
class WheelGuard : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
};

}  // namespace rm::app
