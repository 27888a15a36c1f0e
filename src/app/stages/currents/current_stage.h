// The current along one part, in size and phase.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class CurrentView;

class CurrentStage : public Stage {
    Q_OBJECT
  public:
    explicit CurrentStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;

  private:
    CurrentView* view_;
};

}  // namespace rm::app
