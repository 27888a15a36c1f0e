// The band in the large: the chart, a table of the frequencies that matter, and what was measured.
#pragma once

#include "app/instruments/band_data.h"
#include "app/instruments/sweep_kept.h"
#include "app/stages/stage.h"

namespace rm::app {

class BandPage;

class BandStage : public Stage {
    Q_OBJECT
  public:
    explicit BandStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;

  private:
    void handOver();

    BandPage* page_;
    SweepKept swept_;
};

}  // namespace rm::app
