#include "app/instruments/instruments.h"

#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/instruments/band_view.h"
#include "app/instruments/polar_view.h"
#include "app/look/panel.h"

namespace rm::app {

Instruments::Instruments(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      elevation_(new PolarView(PolarView::Kind::Elevation)),
      azimuth_(new PolarView(PolarView::Kind::Azimuth)),
      band_(new BandView) {
    elevation_->setObjectName("elevation");
    azimuth_->setObjectName("azimuth");
    band_->setObjectName("band");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(panel(elevation_), 10);
    column->addWidget(panel(azimuth_), 11);
    column->addWidget(panel(band_), 9);
    connectCut(elevation_);
    connectCut(azimuth_);
    connect(elevation_, &PolarView::angleChosen, this, [this](double degrees) {
        // In the lower half of free space and behind the zenith the elevation of the cut is meant.
        session_.cutAzimuthAt(degrees <= 90.0    ? degrees
                              : degrees <= 270.0 ? 180.0 - degrees
                                                 : degrees - 360.0);
    });
    connect(elevation_, &PolarView::resetRequested, this, [this] { session_.cutAzimuthAt(std::nullopt); });
    connect(azimuth_, &PolarView::angleChosen, this,
            [this](double azimuth) { session_.cutElevationAt(session_.expansion()->headingDeg - azimuth); });
    connect(azimuth_, &PolarView::resetRequested, this, [this] { session_.cutElevationAt(std::nullopt); });
    connect(band_->chart(), &BandChart::frequencyChosen, &session_, &Session::setFrequency);
    connect(band_, &BandView::chosen, &session_, &Session::showQuantity);
    connect(band_->enlarge(), &QToolButton::clicked, this, &Instruments::enlargeRequested);
    connect(&session_, &Session::quantityChanged, this, [this](BandQuantity quantity, study::Plane plane) {
        band_->showQuantity(quantity, plane);
        handBand();
    });
    connect(&session_, &Session::resonanceChanged, this, &Instruments::handBand);
    connect(&swept_, &SweepKept::changed, this, &Instruments::showBand);
    connect(&session_, &Session::projectChanged, this, [this] {
        for (PolarView* view : {elevation_, azimuth_}) view->setAngles(session_.project().angles);
    });
}

/// The same direction in the other cut and in the yard.
void Instruments::connectCut(PolarView* view) {
    connect(view, &PolarView::cursorMoved, this, [this, view](double degrees) {
        const auto angle = std::isnan(degrees) ? std::nullopt : std::optional<double>(degrees);
        view->setCursorAngle(angle);
        std::optional<em::Direction> direction;
        if (angle && cuts_)
            direction = view == azimuth_ ? em::Direction{cuts_->analysis->azimuth.fixedAngleDeg, *angle}
                                         : em::Direction{*angle, cuts_->analysis->elevation.fixedAngleDeg};
        PolarView* other = view == azimuth_ ? elevation_ : azimuth_;
        other->setCursorAngle(!direction         ? std::nullopt
                              : view == azimuth_ ? std::optional<double>(direction->elevationDeg)
                                                 : std::optional<double>(direction->azimuthDeg));
        session_.point(direction);
    });
    connect(view, &PolarView::painted, this, [this] {
        if (cuts_) Q_EMIT painted(cuts_);
    });
}

void Instruments::show(const ResultsPtr& results) {
    band_->setRange(results->lowHz, results->highHz);
    if (results->analysis) {
        const bool other = !cuts_ || cuts_->analysis != results->analysis;
        const bool pins = !cuts_ || cuts_->pins != results->pins;
        cuts_ = results;
        for (PolarView* view : {elevation_, azimuth_}) {
            if (other) view->setAnalysis(results->analysis, results->expansion->headingDeg);
            if (pins) view->setPins(results->pins);
        }
    }
    swept_.take(results);
}

void Instruments::showBand() {
    const ResultsPtr& now = swept_.shown();
    const bool same = drawn_ && drawn_->sweep == now->sweep && drawn_->pins == now->pins &&
                      drawn_->patterns == now->patterns && drawn_->measured == now->measured &&
                      drawn_->project == now->project && drawn_->frequencyHz == now->frequencyHz;
    drawn_ = now;
    if (!same) handBand();
    band_->setStale(swept_.late());
}

void Instruments::handBand() {
    if (drawn_) band_->setData(bandData(*drawn_, session_.resonance()));
}

void Instruments::setStale(bool stale) {
    elevation_->setStale(stale);
    azimuth_->setStale(stale);
    // Its curve is as fresh as its sweep, which comes after the figures.
    if (stale) band_->setStale(true);
}

}  // namespace rm::app
