// The instruments at the right of the bench: elevation, azimuth and band, each of one and the same results.
#pragma once

#include <QWidget>

#include "app/instruments/sweep_kept.h"
#include "app/look/themed.h"
#include "app/session/session.h"

namespace rm::app {

class BandView;
class PolarView;

class Instruments : public QWidget {
    Q_OBJECT
  public:
    explicit Instruments(Session& session, QWidget* parent = nullptr);

    void show(const ResultsPtr& results);
    void setStale(bool stale);
    PolarView* elevation() { return elevation_; }
    PolarView* azimuth() { return azimuth_; }
    BandView* band() { return band_; }

  Q_SIGNALS:
    void enlargeRequested();
    /// A cut of these results is on the screen.
    void painted(rm::app::ResultsPtr results);

  private:
    void connectCut(PolarView* view);
    void showBand();
    void handBand();

    Session& session_;
    PolarView* elevation_;
    PolarView* azimuth_;
    BandView* band_;
    ResultsPtr cuts_;   ///< what the cuts show
    SweepKept swept_;   ///< what the band shows
    ResultsPtr drawn_;  ///< what of that it has drawn last
};

}  // namespace rm::app
