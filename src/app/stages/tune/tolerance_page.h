// Tolerance: many builds of the design on the bench, made when they are asked for.
#pragma once

#include "app/stages/tune/tune_stage.h"

namespace rm::app {

class ToleranceView;

class TolerancePage : public TunePage {
    Q_OBJECT
  public:
    explicit TolerancePage(Session& session);
    QWidget* widget() override;
    void refresh() override;

  private:
    void build();

    ToleranceView* view_;
    ProjectPtr built_;    ///< what the builds on the screen rest on
    std::string errors_;  ///< and what was typed for them
};

}  // namespace rm::app
