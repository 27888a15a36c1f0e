// Trade-off: what the design on the bench could do against one number asked of it, made when it is asked for.
#pragma once

#include "app/stages/tune/tune_stage.h"

namespace rm::app {

class TradeView;

class TradePage : public TunePage {
    Q_OBJECT
  public:
    TradePage(Session& session, Editing& editing);
    QWidget* widget() override;
    void refresh() override;

  Q_SIGNALS:
    /// The design on the bench is to be tuned on, as it is now.
    void tuneRequested();

  private:
    void trade();
    /// The chosen point onto the bench; false where its design is not there.
    bool take();
    /// The curve on the screen is not of the design as it is now.
    bool isOld() const;

    Editing& editing_;
    TradeView* view_;
    model::Id traded_ = 0;  ///< the design that the curve is of
    ProjectPtr of_;         ///< the project as it was then
};

}  // namespace rm::app
