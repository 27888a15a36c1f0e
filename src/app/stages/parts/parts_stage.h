// With and without: what each part of a design does to it.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class PartsView;

class PartsStage : public StudyStage {
    Q_OBJECT
  public:
    PartsStage(Session& session, Editing& editing);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;

  private:
    PartsStage(Session& session, Editing& editing, PartsView* view);
    void study() override;

    PartsView* view_;
};

}  // namespace rm::app
