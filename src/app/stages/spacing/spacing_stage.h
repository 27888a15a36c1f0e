// Gain and side lobes of a stack against its spacing.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class SpacingView;

class SpacingStage : public StudyStage {
    Q_OBJECT
  public:
    explicit SpacingStage(Session& session);

    std::vector<StageAction> actions() override { return {}; }
    void show(const ResultsPtr& results) override;

    /// Scans the spacing of this stack and comes to the front with it.
    void scan(model::Id copy);

  private:
    SpacingStage(Session& session, SpacingView* view);
    void study() override { scan(copy_); }

    SpacingView* view_;
    model::Id copy_ = 0;     ///< the stack that the scan is of
    model::Design scanned_;  ///< as it was then
    std::optional<double> advisedM_;
};

}  // namespace rm::app
