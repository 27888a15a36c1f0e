// Keep clear: how far people have to stay from the antenna on all of its bands.
#pragma once

#include "app/stages/study_stage.h"
#include "core/study/keep_clear.h"

namespace rm::app {

class ClearView;

class ClearStage : public StudyStage {
    Q_OBJECT
  public:
    explicit ClearStage(Session& session);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    void refresh() override;

  private:
    ClearStage(Session& session, ClearView* view);
    void study() override;
    void save(bool pdf);
    /// What the distances on the screen rest on is not what there is now.
    bool isOld() const;

    ClearView* view_;
    model::Design of_;
    std::vector<model::Band> bands_;
    double powerW_ = 0.0;
};

}  // namespace rm::app
