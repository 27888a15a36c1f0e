// The height study: the same antenna at many heights.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class HeightView;

class HeightStage : public StudyStage {
    Q_OBJECT
  public:
    HeightStage(Session& session, Editing& editing);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;

  private:
    HeightStage(Session& session, Editing& editing, HeightView* view);
    void study() override;

    HeightView* view_;
};

}  // namespace rm::app
