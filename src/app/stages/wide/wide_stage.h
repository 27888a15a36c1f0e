// The result of a wide study on the bench.
#pragma once

#include "app/session/task.h"
#include "app/stages/stage.h"

namespace rm::app {

class WideView;

class WideStage : public Stage {
    Q_OBJECT
  public:
    explicit WideStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    bool settled() const override { return !task_.running(); }
    void stop() override { task_.stop(); }

    /// Reads a result, in the background, and comes to the front with it.
    void open(const QString& path);

  private:
    void askOpen();
    void take(std::size_t row);

    WideView* view_;
    Task task_;
};

}  // namespace rm::app
