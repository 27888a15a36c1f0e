// The radials study: what their number and length are worth.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class RadialView;

class RadialStage : public Stage {
    Q_OBJECT
  public:
    explicit RadialStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

  private:
    void study();

    RadialView* view_;
    Task task_;
    std::string studied_;  ///< what the study on the screen rests on
};

}  // namespace rm::app
