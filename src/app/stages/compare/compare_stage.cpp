#include "app/stages/compare/compare_stage.h"

#include "app/look/text.h"
#include "app/stages/compare/compare_view.h"
#include "core/edit/designs.h"
#include "core/edit/names.h"

namespace rm::app {

CompareStage::CompareStage(Session& s) : Stage("compare", s), view_(new CompareView) {
    connect(view_, &CompareView::cellChosen, this, &CompareStage::openCell);
    connect(&task_, &Task::failed, this, [this](const QString& sentence) {
        shown_ = wanted_;
        session().bad(sentence);
    });
}

QWidget* CompareStage::widget() {
    return view_;
}

std::vector<StageAction> CompareStage::actions() {
    return {{StageAction::Menu::View, tr("C&ompare"), "Ctrl+4", tr("Designs and pins on every band (Ctrl+4)"),
             [this] { Q_EMIT frontRequested(); }, tr("Compare")}};
}

void CompareStage::show(const ResultsPtr&) {
    const ProjectPtr project = document().share();
    if (wanted_ != project) compare(project);
}

void CompareStage::compare(const ProjectPtr& project) {
    wanted_ = project;
    view_->setStale(true);
    task_.start(
        [this, project, fields = fields_](std::stop_token stop, const Task::Progress&) -> Task::After {
            const auto comparison =
                std::make_shared<const study::Comparison>(study::compare(*project, fields.get(), stop));
            return [this, project, comparison] {
                // Stopped by hand: what was there before stays, and is of an older project.
                shown_ = project;
                if (!comparison->complete) return;
                view_->setComparison(comparison, project->swrLimits, static_cast<int>(project->workingBand));
            };
        });
}

/// Puts what was clicked on the bench; the comparison may be of an older project.
void CompareStage::openCell(int row, int band) {
    const auto comparison = view_->comparison();
    if (!comparison || !shown_ || row >= static_cast<int>(comparison->rows.size()) ||
        band >= static_cast<int>(comparison->bands.size()))
        return;
    const auto& chosen = comparison->rows[static_cast<std::size_t>(row)];
    const std::string bandName = comparison->bands[static_cast<std::size_t>(band)].name;
    if (chosen.pin) {
        if (chosen.index >= shown_->pins.size()) return;
        const model::Id id = shown_->pins[chosen.index].id;
        const model::Pin* pin = model::find(session().project().pins, id);
        if (pin == nullptr)
            return session().caution(tr("This pin is not there any more: the comparison is of before."));
        const std::string name = pin->design.name + ": " + pin->name;
        const auto& designs = session().project().designs;
        const auto there =
            std::find_if(designs.begin(), designs.end(), [&](const auto& d) { return d.name == name; });
        if (there != designs.end()) {
            session().chooseDesign(there->id);
        } else {
            document().edit(tr("Open from the comparison"), [&](model::Project& p) {
                model::Design design = pin->design;
                design.id = 0;
                design.name = name;
                p.designs.push_back(std::move(design));
                p.activeDesign = p.designs.size() - 1;
            });
        }
    } else {
        if (chosen.index >= shown_->designs.size()) return;
        const model::Id id = shown_->designs[chosen.index].id;
        if (model::find(session().project().designs, id) == nullptr)
            return session().caution(tr("This design is not there any more: the comparison is of before."));
        session().chooseDesign(id);
    }
    const auto& bands = session().project().bands;
    for (std::size_t i = 0; i < bands.size(); ++i)
        if (bands[i].name == bandName) session().chooseBand(static_cast<int>(i));
    Q_EMIT closed();
}

}  // namespace rm::app
