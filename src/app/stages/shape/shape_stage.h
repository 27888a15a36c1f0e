// Shape mode: the yard, where the antenna stands and is taken hold of.
#pragma once

#include <QTimer>

#include "app/stages/map_worker.h"
#include "app/stages/stage.h"

namespace rm::app {

class FeedTool;
class GripTool;
class PenTool;
class SupportTool;
class Yard;

class ShapeStage : public Stage {
    Q_OBJECT
  public:
    ShapeStage(Session& session, Editing& editing);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    std::vector<StageAction> viewActions() override;
    std::vector<StageSwitch> switches() override;
    void show(const ResultsPtr& results) override;
    void setStale(bool stale) override;
    void refresh() override;
    Wants wants() const override;
    bool settled() const override { return !field_.running(); }
    void showLobe(bool show);
    void showField(bool show);

    GripTool* grips() const { return grips_; }
    SupportTool* supports() const { return supports_; }
    FeedTool* feeds() const { return feeds_; }
    PenTool* pen() const { return pen_; }

  private:
    Yard* yard_;
    PenTool* pen_;
    FeedTool* feeds_;
    SupportTool* supports_;
    GripTool* grips_;
    QTimer wiresAlone_;
    void askField();
    void showKeep();

    MapWorker field_;
    bool lobe_ = false;
    bool showsField_ = false;
};

}  // namespace rm::app
