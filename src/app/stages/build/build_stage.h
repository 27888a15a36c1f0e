// Build mode: what is cut for the live design.
#pragma once

#include "app/stages/stage.h"

namespace rm::app {

class BuildView;

class BuildStage : public Stage {
    Q_OBJECT
  public:
    explicit BuildStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void refresh() override;
    bool settled() const override;
    void stop() override;

  private:
    BuildView* view_;
    std::shared_ptr<const model::Project> shown_;
    model::Id design_ = 0;
};

}  // namespace rm::app
