// How the feeds see each other.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class CouplingView;

class CouplingStage : public Stage {
    Q_OBJECT
  public:
    CouplingStage(Session& session, Editing& editing);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;

  private:
    CouplingView* view_;
};

}  // namespace rm::app
