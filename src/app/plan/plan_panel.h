// The plan at the left of the bench: the outline of the design, and below it the editor of what is selected.
#pragma once

#include <QWidget>

#include "app/look/themed.h"
#include "app/session/editing.h"

namespace rm::app {

class ItemEditor;
class Outline;

class PlanPanel : public QWidget {
    Q_OBJECT
  public:
    PlanPanel(Session& session, Editing& editing, QWidget* parent = nullptr);

    Outline* outline() { return outline_; }
    ItemEditor* editor() { return editor_; }

  Q_SIGNALS:
    void addRequested(rm::app::Selection::Type type);

  private:
    Outline* outline_;
    ItemEditor* editor_;
};

}  // namespace rm::app
