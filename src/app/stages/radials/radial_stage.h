// The radials study: what their number and length are worth.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class RadialView;

class RadialStage : public StudyStage {
    Q_OBJECT
  public:
    explicit RadialStage(Session& session);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;

  private:
    RadialStage(Session& session, RadialView* view);
    void study() override;

    RadialView* view_;
};

}  // namespace rm::app
