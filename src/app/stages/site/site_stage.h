// The site from above, to scale: what stands there, what hangs from it, and a picture of the garden under it.
#pragma once

#include "app/stages/site/site_canvas.h"
#include "app/stages/stage.h"
#include "app/stages/study_frame.h"

class QLineEdit;
class QToolButton;
class QWidget;

namespace rm::app {

class SiteFrame : public StudyFrame {
    Q_OBJECT
  public:
    SiteFrame(Session& session, Editing& editing);

    void refresh();
    SiteCanvas* canvas() const { return canvas_; }

  private:
    void buildTools();
    void askPicture();
    void dropPicture();
    void scale();
    void showTool();

    Session& session_;
    SiteCanvas* canvas_;
    QToolButton* put_ = nullptr;
    QToolButton* hang_ = nullptr;
    QToolButton* measure_ = nullptr;
    QToolButton* scale_ = nullptr;
    QToolButton* drop_ = nullptr;
    QWidget* scaleFields_ = nullptr;
    QLineEdit* distance_ = nullptr;
    QLineEdit* bearing_ = nullptr;
};

class SiteStage : public Stage {
    Q_OBJECT
  public:
    SiteStage(Session& session, Editing& editing);

    QWidget* widget() override { return frame_; }
    std::vector<StageAction> actions() override;
    void refresh() override { frame_->refresh(); }
    SiteCanvas* canvas() const { return frame_->canvas(); }

  private:
    SiteFrame* frame_;
};

}  // namespace rm::app
