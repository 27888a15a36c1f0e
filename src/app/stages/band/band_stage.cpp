#include "app/stages/band/band_stage.h"

#include "app/look/text.h"
#include "app/stages/band/band_page.h"

namespace rm::app {

BandStage::BandStage(Session& s) : Stage("band", s), page_(new BandPage) {
    connect(page_, &StudyFrame::closed, this, &Stage::closed);
    connect(page_, &BandPage::frequencyChosen, &s, &Session::setFrequency);
    connect(page_->view()->chart(), &BandChart::frequencyChosen, &s, &Session::setFrequency);
    connect(page_->view(), &BandView::chosen, this,
            [this](BandQuantity quantity, study::Plane plane) { session().showQuantity(quantity, plane); });
    connect(&s, &Session::quantityChanged, this, [this](BandQuantity quantity, study::Plane plane) {
        page_->view()->showQuantity(quantity, plane);
        handOver();
    });
    connect(&s, &Session::resonanceChanged, this, &BandStage::handOver);
    connect(&swept_, &SweepKept::changed, this, &BandStage::handOver);
}

QWidget* BandStage::widget() {
    return page_;
}

std::vector<StageAction> BandStage::actions() {
    return {{StageAction::Menu::View, tr("&Band in the large"), "Ctrl+3",
             tr("The band with a table and measurements"), [this] { Q_EMIT frontRequested(); }}};
}

void BandStage::show(const ResultsPtr& results) {
    page_->view()->setRange(results->lowHz, results->highHz);
    swept_.take(results);
}

void BandStage::handOver() {
    if (!swept_.shown() || !inFront()) return;
    page_->setData(bandData(*swept_.shown(), session().resonance()));
    page_->setStale(swept_.late());
}

void BandStage::setStale(bool stale) {
    // Its curve is as fresh as its sweep, which comes after the figures.
    if (stale) page_->setStale(true);
}

}  // namespace rm::app
