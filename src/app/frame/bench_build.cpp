// What matters, the tolerance of building, and scans: the studies beside tuning.
#include <QComboBox>
#include <QProgressBar>
#include <QStackedWidget>
#include <QToolButton>

#include "app/frame/bench.h"
#include "app/frame/notice_bar.h"
#include "app/stages/tune/matters_view.h"
#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/tune_stage.h"
#include "core/project/project_file.h"
#include "core/study/tune_axes.h"

namespace rm::app {

void Bench::buildBuildStudies() {
    mattersView_ = new MattersView;
    toleranceView_ = new ToleranceView(document_);
    scanView_ = new ScanView(document_);
    tuneStage_->addPage("What matters", "What each dimension does to the figures", mattersView_);
    tuneStage_->addPage("Tolerance", "What errors of building do", toleranceView_);
    tuneStage_->addPage("Scan", "A figure over one or two dimensions", scanView_);
    connect(mattersView_, &MattersView::stepChanged, this, &Bench::refreshBuildStudies);
    connect(mattersView_->plot(), &MattersPlot::dimensionChosen, this, [this](const QString& name) {
        const auto& dimensions = document_.design().dimensions;
        for (std::size_t i = 0; i < dimensions.size(); ++i)
            if (QString::fromStdString(dimensions[i].name) == name)
                selectEverywhere({Selection::Type::Dimension, i});
    });
    connect(toleranceView_, &ToleranceView::runRequested, this, &Bench::buildMany);
    connect(scanView_, &ScanView::runRequested, this, &Bench::runScan);
    connect(scanView_, &ScanView::valuesChosen, this,
            [this](const QString& first, double x, const QString& second, double y) {
                std::map<std::string, double> values{{first.toStdString(), x}};
                if (!second.isEmpty()) values[second.toStdString()] = y;
                document_.finishMerging();
                document_.editDesign("Set from the scan",
                                     [&](model::Design& d) { d = study::withValues(d, values, true); });
            });
}

void Bench::showMatters() {
    showMode(tuneStage_);
    tuneStage_->showPage(mattersView_);
}

void Bench::showTolerance() {
    showMode(tuneStage_);
    tuneStage_->showPage(toleranceView_);
}

void Bench::showScan() {
    showMode(tuneStage_);
    tuneStage_->showPage(scanView_);
}

/// Brings the page that is looked at up to date.
void Bench::refreshBuildStudies() {
    if (stage_->currentWidget() != tuneStage_) return;
    if (tuneStage_->page() == scanView_) scanView_->refresh();
    if (tuneStage_->page() == toleranceView_) toleranceView_->setStale(built_ && built_ != document_.share());
    if (tuneStage_->page() != mattersView_) return;
    const auto step = mattersView_->step();
    const double hz = frequencyHz_;
    const auto design = document_.design();
    model::Project alone;
    alone.designs.push_back(design);
    const std::string key =
        io::toJson(alone).dump() + std::to_string(hz) + std::to_string(static_cast<int>(step));
    if (key == mattered_ || (expansion_ && !expansion_->usable())) return;
    mattered_ = key;
    mattersView_->setWorking(true);
    mattersTask_.start([this, design, hz, step](std::stop_token stop) -> std::function<void()> {
        auto rows = study::studySensitivity(design, hz, step, stop);
        if (stop.stop_requested()) return [] {};
        return [this, rows = std::move(rows), hz] { mattersView_->setRows(rows, hz); };
    });
}

void Bench::buildMany() {
    study::BuildErrors errors;
    int builds = 0;
    try {
        errors = toleranceView_->errors();
        builds = toleranceView_->builds();
    } catch (const Error& e) {
        return fail(QString::fromUtf8(e.what()));
    }
    const auto project = document_.share();
    const model::Band band = workingBand();
    const auto progress = progressOfTask();
    task_.start(
        [this, project, band, errors, builds, progress](std::stop_token stop) -> std::function<void()> {
            const auto result = study::studyTolerance(project->active(), project->bands, band.lowHz,
                                                      band.highHz, builds, errors, 1, stop, progress);
            const bool stopped = stop.stop_requested();
            return [this, project, band, result, stopped] {
                if (result.builds < 5)
                    return notice_->show(NoticeBar::Tone::Caution,
                                         "The builds were stopped before there were five.");
                if (stopped)
                    notice_->show(NoticeBar::Tone::Caution,
                                  QString("Stopped: these are the first %1 builds.").arg(result.builds));
                built_ = project;
                double limit = project->swrLimits[1];
                for (const auto& goal : project->active().tune.goals)
                    if (goal.enabled && goal.kind == model::GoalKind::Swr)
                        limit = std::max(1.01, QString::fromStdString(goal.limit).toDouble());
                toleranceView_->setResult(result, QString::fromStdString(band.name), limit);
                toleranceView_->setStale(built_ != document_.share());
            };
        });
}

void Bench::runScan() {
    study::ScanAxis x;
    study::ScanAxis y;
    try {
        x = scanView_->axis(0);
        y = scanView_->axis(1);
    } catch (const Error& e) {
        return fail(QString::fromUtf8(e.what()));
    }
    const auto design = document_.design();
    const auto quantity = scanView_->quantity();
    const QString name = scanView_->figures()->currentText();
    const double hz = frequencyHz_;
    const auto progress = progressOfTask();
    task_.start(
        [this, design, quantity, name, x, y, hz, progress](std::stop_token stop) -> std::function<void()> {
            const auto scan = study::scanFigure(design, hz, quantity, x, y, stop, progress);
            return [this, scan, quantity, name, hz] {
                if (!scan.complete) return notice_->show(NoticeBar::Tone::Caution, "The scan was stopped.");
                scanView_->setScan(scan, quantity, name, hz);
            };
        });
}

}  // namespace rm::app
