#include "app/stages/heights/height_stage.h"

#include "app/look/text.h"
#include "app/stages/heights/height_view.h"

namespace rm::app {

namespace {

constexpr int kHeights = 120;

}  // namespace

HeightStage::HeightStage(Session& s, Editing& editing) : HeightStage(s, editing, new HeightView) {}

HeightStage::HeightStage(Session& s, Editing& editing, HeightView* view)
    : StudyStage("heights", s, view), view_(view) {
    connect(view_->plots(), &HeightPlots::heightChosen, this,
            [&editing](double metres) { editing.setHeight(metres); });
}

std::vector<StageAction> HeightStage::actions() {
    return {{StageAction::Menu::Study, tr("&Height study"), "Ctrl+H",
             tr("Impedance, takeoff angle and gain from near the ground to two wavelengths"),
             [this] { study(); }}};
}

void HeightStage::study() {
    using StudyPtr = std::shared_ptr<const study::HeightStudy>;
    begin(
        tr("Height study"), Varied::Height,
        [](const auto& design, double hz, const auto& look, std::stop_token stop, const auto& progress) {
            return std::make_shared<const study::HeightStudy>(
                study::studyHeights(design, hz, look, kHeights, stop, progress));
        },
        [](const StudyPtr& heights) { return heights->complete; },
        [this](const StudyPtr& heights, const QString& title) { view_->setStudy(heights, title); });
}

void HeightStage::show(const ResultsPtr&) {
    const ExpansionPtr expansion = session().expansion();
    if (expansion->usable()) view_->plots()->setNow(study::feedHeightM(expansion->model));
    view_->setStale(isOld(Varied::Height));
}

}  // namespace rm::app
