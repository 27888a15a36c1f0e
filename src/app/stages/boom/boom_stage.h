// An element row: the boom to scale and the table of its elements.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class BoomView;

class BoomStage : public Stage {
    Q_OBJECT
  public:
    explicit BoomStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;
    void refresh() override;

  private:
    void open();

    BoomView* view_;
};

}  // namespace rm::app
