#include "app/stages/trim/trim_stage.h"

#include <cmath>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/stages/trim/trim_view.h"
#include "core/edit/fit.h"
#include "core/stopped.h"

namespace rm::app {

TrimStage::TrimStage(Session& s) : TrimStage(s, new TrimView) {}

TrimStage::TrimStage(Session& s, TrimView* view) : StudyStage("trim", s, view), view_(view) {
    connect(view_, &TrimView::dimensionChosen, this, [this] { study(); });
    connect(view_, &TrimView::takeOverRequested, this, &TrimStage::takeOver);
}

std::vector<StageAction> TrimStage::actions() {
    return {{StageAction::Menu::Study, tr("T&rim by what was measured"), "Ctrl+Shift+6",
             tr("What differs from the drawing, as far as a measured curve can tell, and how much to cut off "
                "or add"),
             [this] { study(); }}};
}

void TrimStage::study() {
    const auto& design = session().design();
    if (std::none_of(design.measured.begin(), design.measured.end(), [](const auto& m) { return m.shown; }))
        return session().caution(
            tr("There is no measurement of this antenna to trim by: import one first (Ctrl+Shift+I)."));
    build::TrimRequest request;
    request.band = session().band();
    const auto names = build::trimDimensions(design);
    const std::string chosen = view_->dimension().toStdString();
    if (std::find(names.begin(), names.end(), chosen) != names.end()) request.dimension = chosen;
    using AnswerPtr = std::shared_ptr<const build::TrimAnswer>;
    begin(
        tr("Trim"), Varied::Nothing,
        [request](const auto& of, double, const auto&, std::stop_token stop,
                  const auto& progress) -> AnswerPtr {
            try {
                return std::make_shared<const build::TrimAnswer>(build::trim(of, request, stop, progress));
            } catch (const Stopped&) {
                return nullptr;  // half a fit advises nothing
            }
        },
        [](const AnswerPtr& answer) { return answer != nullptr; },
        [this](const AnswerPtr& answer, const QString& title) { view_->setAnswer(answer, title); });
}

void TrimStage::takeOver() {
    const auto answer = view_->answer();
    if (!answer) return;
    const double metres = 0.001 * std::round(1e3 * (answer->nowM + answer->changeM));
    const bool done = document().editDesign(tr("Cut ") + text(answer->dimension), [&](model::Design& d) {
        for (auto& dimension : d.dimensions)
            if (dimension.name == answer->dimension)
                edit::fitFields(d, {{&dimension.text, quantity::Kind::Length, metres, dimension.name}},
                                {0.001, 0.1});
    });
    if (done)
        session().done(
            tr("%1 is %2 now. Cut it so, measure again and import that: the next advice is better.")
                .arg(text(answer->dimension), lengthText(metres, 3)));
}

void TrimStage::refresh() {
    QStringList names;
    for (const auto& name : build::trimDimensions(session().design())) names << text(name);
    view_->setDimensions(names);
}

void TrimStage::show(const ResultsPtr&) {
    view_->setStale(isOld(Varied::Nothing));
}

}  // namespace rm::app
