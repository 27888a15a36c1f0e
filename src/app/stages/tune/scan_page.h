// Scan: a figure over one or two dimensions of the design on the bench, made when it is asked for.
#pragma once

#include "app/stages/tune/tune_stage.h"
#include "core/study/scan.h"

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
    /// What a scan of these dimensions rests on.
    std::string basisOf(const study::Scan& scan) const;

    ScanView* view_;
    std::string scanned_;  ///< what the scan on the screen rests on; empty: there is none
};

}  // namespace rm::app
