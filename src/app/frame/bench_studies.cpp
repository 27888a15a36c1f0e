// The studies that take the middle of the bench: height and ground.
#include <QProgressBar>
#include <QStackedWidget>
#include <QToolButton>
#include <algorithm>

#include "app/frame/bench.h"
#include "app/stages/compare/compare_view.h"
#include "app/instruments/band_view.h"
#include "app/stages/match/match_view.h"
#include "app/frame/notice_bar.h"
#include "app/stages/band/band_stage.h"
#include "app/stages/currents/current_view.h"
#include "app/stages/grounds/ground_view.h"
#include "app/stages/heights/height_view.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/shape/yard.h"
#include "core/project/project_file.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

/// All that a study rests on, but what it varies itself.
std::string fingerprint(model::Design design, const model::Angles& angles, double frequencyHz,
                        bool heightVaries) {
    if (heightVaries) {
        design.site.height.clear();
    } else {
        design.site.ground = model::GroundKind::Real;
        design.site.soil.clear();
    }
    model::Project alone;
    alone.designs.push_back(std::move(design));
    alone.angles = angles;
    return io::toJson(alone).dump() + std::to_string(frequencyHz);
}

}  // namespace

void Bench::buildStudies() {
    heightView_ = new HeightView;
    groundView_ = new GroundView;
    stage_ = new QStackedWidget;
    stage_->addWidget(yard_);
    stage_->addWidget(heightView_);
    stage_->addWidget(groundView_);
    matchView_ = new MatchView(document_);
    stage_->addWidget(matchView_);
    bandStage_ = new BandStage;
    stage_->addWidget(bandStage_);
    compareView_ = new CompareView;
    stage_->addWidget(compareView_);
    currentView_ = new CurrentView;
    stage_->addWidget(currentView_);
    connect(currentView_, &CurrentView::closed, this, &Bench::showYard);
    connect(compareView_, &CompareView::cellChosen, this, &Bench::openCompared);
    connect(bandStage_, &BandStage::closed, this, &Bench::showYard);
    connect(bandStage_, &BandStage::frequencyChosen, this, &Bench::setWorkingFrequency);
    connect(bandStage_, &BandStage::importRequested, this, &Bench::askMeasured);
    connect(bandStage_, &BandStage::exportRequested, this, &Bench::exportSweep);
    connect(bandStage_, &BandStage::sweepRequested, this, &Bench::askSweep);
    connect(matchView_, &MatchView::selected, this, &Bench::selectEverywhere);
    connect(matchView_, &MatchView::wishChanged, this, [this] {
        matchView_->refresh();
        startWork();
    });
    connect(matchView_, &MatchView::addRequested, this, &Bench::askBlock);
    connect(matchView_, &MatchView::inserted, this, [this](const QString& title) {
        notice_->show(NoticeBar::Tone::Good, QString("Put in: %1.").arg(title), "Undo",
                      [this] { document_.undoStack()->undo(); });
    });
    connect(heightView_, &HeightView::closed, this, &Bench::showYard);
    connect(groundView_, &GroundView::closed, this, &Bench::showYard);
    connect(heightView_, &HeightView::againRequested, this, &Bench::studyHeights);
    connect(groundView_, &GroundView::againRequested, this, &Bench::studyGrounds);
    connect(heightView_->plots(), &HeightPlots::heightChosen, this, [this](double metres) {
        document_.finishMerging();
        document_.editDesign("Change height", [&](model::Design& d) {
            d.site.height = quantity::lengthLike(d.site.height, metres);
        });
    });
    connect(groundView_->rows(), &GroundRows::groundChosen, this, [this](const QString& soil) {
        document_.finishMerging();
        document_.editDesign("Change ground", [&](model::Design& d) {
            d.site.ground = soil == "perfect" ? model::GroundKind::Perfect : model::GroundKind::Real;
            if (soil != "perfect") d.site.soil = soil.toStdString();
        });
    });
}

void Bench::showSite() {
    selectEverywhere({Selection::Type::Site, 0});
}

void Bench::showFeedPath() {
    if (document_.design().feedPath.empty()) return addItem(Selection::Type::Block);
    selectEverywhere({Selection::Type::Block, 0});
}

void Bench::showMode(QWidget* view) {
    stage_->setCurrentWidget(view);
    QWidget* const others[] = {matchView_, tuneStage_, compareView_};
    modes_[0]->setChecked(std::find(std::begin(others), std::end(others), view) == std::end(others));
    for (std::size_t i = 0; i < std::size(others); ++i) modes_[i + 1]->setChecked(view == others[i]);
}

void Bench::showCurrents() {
    showMode(currentView_);
    if (!analysis_ || !expansion_) return;
    currentView_->setAnalysis(expansion_, analysis_);
    const Selection s = selection();
    const auto& parts = document_.design().parts;
    if (s.type == Selection::Type::Part && s.index < parts.size())
        currentView_->choose(QString::fromStdString(parts[s.index].name));
}

void Bench::showLobe(bool show) {
    lobeShown_ = show;
    yard_->setShowLobe(show);
    if (show && !yard_->lobe()) startWork();
}

void Bench::showYard() {
    showMode(yard_);
}

void Bench::showBand() {
    showMode(bandStage_);
}

void Bench::showQuantity(BandQuantity quantity, study::Plane plane) {
    for (BandView* view : {band_, bandStage_->view()}) view->showQuantity(quantity, plane);
    refreshBand();
    // The patterns of a band are worked out where they are looked at.
    if (ofPattern(quantity) && !patterns_) startWork();
}

/// Hands what is known of the band to both of its views.
void Bench::refreshBand() {
    BandData shown;
    shown.title = range_ ? QString("Range") : QString::fromStdString(workingBand().name);
    shown.band = workingBand();
    shown.sweep = sweep_;
    shown.expansion = expansion_;
    shown.patterns = patterns_;
    shown.resonance = resonance_;
    shown.limits = document_.project().swrLimits;
    shown.pins = pins_;
    shown.workingHz = frequencyHz_;
    const auto& list = document_.design().measured;
    for (std::size_t i = 0; measured_ && i < measured_->size() && i < list.size(); ++i)
        if (list[i].shown)
            shown.measured.push_back({QString::fromStdString(list[i].name), i, (*measured_)[i]});
    band_->setData(shown);
    bandStage_->setData(shown);
}

void Bench::showMatch() {
    showMode(matchView_);
    if (selection().type != Selection::Type::Block && !document_.design().feedPath.empty())
        selectEverywhere({Selection::Type::Block, 0});
}

std::function<void(double)> Bench::progressOfTask() {
    return [this](double share) {
        QMetaObject::invokeMethod(
            this,
            [this, share] {
                if (!task_.running()) return;
                progress_->show();
                cancel_->show();
                progress_->setValue(static_cast<int>(100.0 * share));
            },
            Qt::QueuedConnection);
    };
}

void Bench::studyHeights() {
    const auto design = document_.design();
    const double frequency = frequencyHz_;
    const model::Angles angles = document_.project().angles;
    const study::Look look{analysis_ ? analysis_->elevation.fixedAngleDeg : 0.0, angles.watchDeg};
    const auto progress = progressOfTask();
    task_.start(
        [this, design, angles, frequency, look, progress](std::stop_token stop) -> std::function<void()> {
            const auto study = std::make_shared<const study::HeightStudy>(
                study::studyHeights(design, frequency, look, 120, stop, progress));
            return [this, design, angles, frequency, study] {
                if (!study->complete)
                    return notice_->show(NoticeBar::Tone::Caution, "The height study was stopped.");
                studied_ = fingerprint(design, angles, frequency, true);
                heightView_->setStudy(study, QString::fromStdString(design.name));
                showMode(heightView_);
                refreshStudies();
            };
        });
}

void Bench::studyGrounds() {
    const auto design = document_.design();
    const double frequency = frequencyHz_;
    const model::Angles angles = document_.project().angles;
    const study::Look look{analysis_ ? analysis_->elevation.fixedAngleDeg : 0.0, angles.watchDeg};
    const auto progress = progressOfTask();
    task_.start(
        [this, design, angles, frequency, look, progress](std::stop_token stop) -> std::function<void()> {
            const auto study = study::studyGrounds(design, frequency, look, stop, progress);
            return [this, design, angles, frequency, study] {
                if (study.points.empty())
                    return notice_->show(NoticeBar::Tone::Caution, "The ground study was stopped.");
                studied_ = fingerprint(design, angles, frequency, false);
                groundView_->setStudy(study,
                                      QString("Ground study: %1, %2")
                                          .arg(QString::fromStdString(design.name),
                                               QString::fromStdString(quantity::formatFrequency(frequency))));
                showMode(groundView_);
                refreshStudies();
            };
        });
}

/// Brings the marks of the present height and ground up to date, and says where a study has become old.
void Bench::refreshStudies() {
    const auto& site = document_.design().site;
    if (stage_->currentWidget() == heightView_) {
        if (expansion_ && expansion_->usable())
            heightView_->plots()->setNow(study::feedHeightM(expansion_->model));
        heightView_->setStale(
            fingerprint(document_.design(), document_.project().angles, frequencyHz_, true) != studied_);
    }
    if (stage_->currentWidget() == groundView_) {
        groundView_->rows()->setNow(site.ground == model::GroundKind::Real ? QString::fromStdString(site.soil)
                                    : site.ground == model::GroundKind::Perfect ? "perfect"
                                                                                : "");
        groundView_->setStale(
            fingerprint(document_.design(), document_.project().angles, frequencyHz_, false) != studied_);
    }
}

}  // namespace rm::app
