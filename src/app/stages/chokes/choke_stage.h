// The choke study: where on the cable run a choke does most, and how much of it is enough.
#pragma once

#include "app/stages/study_stage.h"

namespace rm::app {

class ChokeView;

class ChokeStage : public StudyStage {
    Q_OBJECT
  public:
    explicit ChokeStage(Session& session);

    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;

  private:
    ChokeStage(Session& session, ChokeView* view);
    void study() override;
    /// Changes the choke on the run, or puts one there.
    void choke(const QString& label, const std::function<void(model::Load&)>& change);

    ChokeView* view_;
};

}  // namespace rm::app
