// Compare mode: every design and pin on every band.
#pragma once

#include "app/stages/stage.h"
#include "core/study/field_store.h"

namespace rm::app {

class CompareView;

class CompareStage : public Stage {
    Q_OBJECT
  public:
    explicit CompareStage(Session& session);

    QWidget* widget() override;
    std::vector<StageAction> actions() override;
    void show(const ResultsPtr& results) override;
    bool settled() const override { return !task_.running() && shown_ == wanted_; }
    void stop() override { task_.stop(); }

  private:
    void compare(const ProjectPtr& project);
    void openCell(int row, int band);

    CompareView* view_;
    Task task_;
    std::shared_ptr<study::FieldStore> fields_ = std::make_shared<study::FieldStore>();
    ProjectPtr wanted_;  ///< what is compared
    ProjectPtr shown_;   ///< what the comparison on the screen is of
};

}  // namespace rm::app
