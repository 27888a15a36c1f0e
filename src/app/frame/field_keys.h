// Keys that a field would take for itself though they are the window's.
#pragma once

#include <QObject>

namespace rm::app {

/// An event filter for the whole application. In a field that holds nothing half typed, undo and redo are
/// those of the project; and no key empties a field that means something else in a menu.
class FieldKeys : public QObject {
    Q_OBJECT
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
};

}  // namespace rm::app
