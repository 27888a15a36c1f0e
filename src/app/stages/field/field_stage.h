// The near field on the stage.
#pragma once

#include "app/stages/map_worker.h"
#include "app/stages/stage.h"

namespace rm::app {

class FieldView;

class FieldStage : public Stage {
    Q_OBJECT
  public:
    explicit FieldStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;
    void refresh() override;
    bool settled() const override { return !worker_.running(); }
    void stop() override { worker_.stop(); }

  private:
    void ask();
    void saveCsv();

    FieldView* view_;
    MapWorker worker_;
    AnalysisPtr asked_;  ///< what the map on the screen, or the one under way, is of
    double askedW_ = 0.0;
    NearLook askedLook_;
};

}  // namespace rm::app
