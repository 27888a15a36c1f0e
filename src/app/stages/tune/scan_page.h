// Scan: a figure over one or two dimensions of the design on the bench, made when it is asked for.
#pragma once

#include "app/stages/tune/tune_stage.h"

namespace rm::app {

class ScanView;

class ScanPage : public TunePage {
    Q_OBJECT
  public:
    explicit ScanPage(Session& session);
    QWidget* widget() override;
    void refresh() override;

  private:
    void scan();

    ScanView* view_;
    model::Id scanned_ = 0;  ///< the design that the scan on the screen is of
};

}  // namespace rm::app
