// Match mode: the feed path from the antenna to the radio.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class MatchView;

class MatchStage : public Stage {
    Q_OBJECT
  public:
    MatchStage(Session& session, Editing& editing);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;
    void refresh() override;
    Wants wants() const override;

  private:
    MatchView* view_;
};

}  // namespace rm::app
