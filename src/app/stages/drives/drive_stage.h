// All drive sets of an array side by side.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class DriveView;

class DriveStage : public Stage {
    Q_OBJECT
  public:
    DriveStage(Session& session, Editing& editing);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;
    Wants wants() const override;

  private:
    DriveView* view_;
};

}  // namespace rm::app
