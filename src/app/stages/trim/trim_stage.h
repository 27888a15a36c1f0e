// Trim: from the measured curve to the saw.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class TrimView;

class TrimStage : public StudyStage {
    Q_OBJECT
  public:
    explicit TrimStage(Session& session);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void refresh() override;

  private:
    TrimStage(Session& session, TrimView* view);
    void study() override;
    void takeOver();

    TrimView* view_;
};

}  // namespace rm::app
