// The height study: impedance, takeoff angle and gain against height.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class HeightView;

class HeightStage : public Stage {
    Q_OBJECT
  public:
    HeightStage(Session& session, Editing& editing);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

  private:
    void study();

    HeightView* view_;
    Task task_;
    std::string studied_;  ///< what the study on the screen rests on
};

}  // namespace rm::app
