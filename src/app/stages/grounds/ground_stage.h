// The ground study: the same antenna over every kind of ground.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class GroundView;

class GroundStage : public StudyStage {
    Q_OBJECT
  public:
    explicit GroundStage(Session& session);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;

  private:
    GroundStage(Session& session, GroundView* view);
    void study() override;

    GroundView* view_;
};

}  // namespace rm::app
