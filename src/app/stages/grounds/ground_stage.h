// The ground study: the same antenna over every kind of ground.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class GroundView;

class GroundStage : public Stage {
    Q_OBJECT
  public:
    explicit GroundStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

  private:
    void study();

    GroundView* view_;
    Task task_;
    std::string studied_;  ///< what the study on the screen rests on
};

}  // namespace rm::app
