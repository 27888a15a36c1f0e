#include "app/stages/tune/tolerance_page.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <algorithm>

#include "app/stages/tune/tolerance_view.h"

namespace rm::app {

namespace {

constexpr int kFewestBuilds = 5;

}  // namespace

TolerancePage::TolerancePage(Session& session)
    : TunePage(session), view_(new ToleranceView(session.document())) {
    connect(view_, &ToleranceView::runRequested, this, &TolerancePage::build);
    connect(view_, &ToleranceView::typedChanged, this, &TolerancePage::refresh);
    connect(&task_, &Task::done, this, [this] { view_->plot()->setBuilding(0); });
    connect(&task_, &Task::progress, &session, &Session::progress);
    connect(&task_, &Task::done, &session, [&session] { Q_EMIT session.progress(1.0); });
}

QWidget* TolerancePage::widget() {
    return view_;
}

void TolerancePage::refresh() {
    view_->setOld(!built_                                    ? QString()
                  : !(built_->active() == session_.design()) ? tr("Of an older design: build again.")
                  : errors_ != view_->typed()                ? tr("Of other errors: build again.")
                                                             : QString());
}

void TolerancePage::build() {
    study::BuildErrors errors;
    int builds = 0;
    try {
        errors = view_->errors();
        builds = view_->builds();
    } catch (const Error& e) {
        return session_.bad(QString::fromUtf8(e.what()));
    }
    const auto project = session_.document().share();
    const model::Band band = session_.band();
    view_->plot()->setBuilding(builds);
    task_.start([this, project, band, errors, builds, typed = view_->typed()](
                    std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const auto result = study::studyTolerance(project->active(), project->bands, band.lowHz, band.highHz,
                                                  builds, errors, 1, stop, progress);
        const bool stopped = stop.stop_requested();
        return [this, project, band, result, stopped, typed] {
            if (result.builds < kFewestBuilds)
                return session_.caution(tr("The builds were stopped before there were five."));
            if (stopped) session_.caution(tr("Stopped: these are the first %1 builds.").arg(result.builds));
            built_ = project;
            errors_ = typed;
            double limit = project->swrLimits[1];
            for (const auto& goal : project->active().tune.goals)
                if (goal.enabled && goal.kind == model::GoalKind::Swr)
                    limit = std::max(1.01, quantity::readNumber(goal.limit).value_or(0.0));
            view_->setResult(result, QString::fromStdString(band.name), limit);
            refresh();
        };
    });
}

}  // namespace rm::app
