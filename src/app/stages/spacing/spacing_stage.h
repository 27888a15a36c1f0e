// Gain and side lobes of a stack against its spacing.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class SpacingView;

class SpacingStage : public Stage {
    Q_OBJECT
  public:
    explicit SpacingStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override { return {}; }
    void show(const ResultsPtr& results) override;
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

    /// Scans the spacing of this stack and comes to the front with it.
    void scan(model::Id copy);

  private:
    SpacingView* view_;
    Task task_;
    model::Id copy_ = 0;     ///< the stack that the scan is of
    model::Design scanned_;  ///< as it was then
    std::optional<double> advisedM_;
};

}  // namespace rm::app
