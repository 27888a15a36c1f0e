#include "app/stages/spacing/spacing_stage.h"

#include <algorithm>

#include "app/look/text.h"
#include "app/stages/spacing/spacing_view.h"

namespace rm::app {

namespace {

constexpr int kPoints = 49;

/// The spacing that a stack has now in m; 0 where it cannot be read, which the finding about the copy says.
double spacingM(const model::Design& design, model::Copy copy) {
    try {
        return quantity::evaluate(edit::spacingOf(copy), quantity::Kind::Length, model::scopeOf(design));
    } catch (const Error&) {
        return 0.0;
    }
}

}  // namespace

SpacingStage::SpacingStage(Session& s) : SpacingStage(s, new SpacingView) {}

SpacingStage::SpacingStage(Session& s, SpacingView* view) : StudyStage("spacing", s, view), view_(view) {
    connect(view_->plot(), &SpacingPlot::spacingChosen, this, [this](double metres) {
        document().edit(tr("Set spacing"),
                        [&](model::Project& p) { p = edit::setSpacing(std::move(p), copy_, metres); });
    });
}

void SpacingStage::scan(model::Id copy) {
    const model::Design design = session().design();
    const std::size_t place = model::indexOf(design.copies, copy);
    if (place >= design.copies.size()) return session().caution(tr("These copies are not there any more."));
    task().start([this, design, place, copy, hz = session().frequencyHz()](
                     std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const model::Copy stack = design.copies.at(place);
        const auto advice = study::adviseStacking(design, place, hz);
        const auto advised = stack.rows != "1" ? advice.rowSpacingM : advice.columnSpacingM;
        const double now = spacingM(design, stack);
        const double lambda = wavelengthM(hz);
        const double to = std::max({1.6 * lambda, 1.5 * advised.value_or(0.0), 1.2 * now});
        const auto points =
            study::scanStacking(design, place, hz, 0.25 * lambda, to, kPoints, stop, progress);
        const bool stopped = stop.stop_requested();
        return [this, points, advised, now, copy, design, stopped, name = stack.name] {
            if (stopped) return session().caution(tr("The scan was stopped."));
            if (model::find(session().design().copies, copy) == nullptr)
                return session().caution(tr("The copies that were scanned are not there any more."));
            copy_ = copy;
            scanned_ = design;
            advisedM_ = advised;
            view_->plot()->setPoints(points, advised, now);
            view_->setTitle(tr("Stacking distance, %1").arg(QString::fromStdString(name)));
            Q_EMIT frontRequested();
        };
    });
}

void SpacingStage::show(const ResultsPtr&) {
    const model::Design& design = session().design();
    const model::Copy* copy = model::find(design.copies, copy_);
    if (copy == nullptr) {
        view_->plot()->setPoints({}, std::nullopt, 0.0);
        view_->setTitle(tr("Stacking distance: the copies that were scanned are not in this design"));
        view_->setStale(false);
        return;
    }
    const double now = spacingM(design, *copy);
    if (!view_->plot()->points().empty()) view_->plot()->setPoints(view_->plot()->points(), advisedM_, now);
    // All but the spacing itself has to be as it was.
    view_->setStale(!(scanned_.parts == design.parts) || !(scanned_.feeds == design.feeds) ||
                    scanned_.designFrequency != design.designFrequency);
}

}  // namespace rm::app
