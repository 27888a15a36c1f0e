#include "app/stages/field/field_stage.h"

#include <QFileDialog>

#include "app/look/text.h"
#include "app/stages/field/field_view.h"
#include "core/export/field_text.h"
#include "core/project/text_file.h"

namespace rm::app {

namespace {

constexpr int kMapPoints = 160;

}  // namespace

FieldStage::FieldStage(Session& s) : Stage("field", s), view_(new FieldView) {
    connect(view_, &StudyFrame::closed, this, &Stage::closed);
    connect(view_, &FieldView::lookChosen, this, [this](const NearLook& look) {
        session().setNearLook(look);
        ask();
    });
    connect(view_, &FieldView::csvRequested, this, &FieldStage::saveCsv);
    connect(view_, &FieldView::clearRequested, this, [this] { Q_EMIT otherRequested("clear"); });
    connect(&worker_, &MapWorker::mapped, view_, &FieldView::setMap);
    connect(&worker_, &MapWorker::failed, &s, &Session::bad);
    view_->setLook(s.nearLook());
}

QWidget* FieldStage::widget() {
    return view_;
}

std::vector<StageAction> FieldStage::actions() {
    return {{StageAction::Menu::Study, tr("Field &close to the antenna"), "Ctrl+Alt+N",
             tr("E, H and the flow of power on a plane, with the radio at full power"), [this] {
                 Q_EMIT frontRequested();
                 ask();
             }}};
}

void FieldStage::show(const ResultsPtr&) {
    ask();
}

void FieldStage::refresh() {
    view_->setLook(session().nearLook());
    view_->setRules(session().project().keepClear);
}

/// What is on the screen already, or under way, is not asked for again.
void FieldStage::ask() {
    const ResultsPtr results = session().results();
    if (!results->analysis || !results->expansion) return;
    const NearLook& look = session().nearLook();
    const double radioW = results->project->powerW;
    view_->setLook(look);
    if (asked_ == results->analysis && askedW_ == radioW && askedLook_ == look) return;
    const bool samePlace = asked_ == results->analysis && askedW_ == radioW && askedLook_.samePlace(look);
    asked_ = results->analysis;
    askedW_ = radioW;
    askedLook_ = look;
    if (samePlace && view_->canvas()->map() != nullptr) return view_->canvas()->setLook(look);
    worker_.ask(results->expansion, results->analysis, radioW, look, kMapPoints);
}

void FieldStage::setStale(bool stale) {
    view_->canvas()->setEnabled(!stale);
}

void FieldStage::saveCsv() {
    const auto* map = view_->canvas()->map();
    if (map == nullptr) return session().bad(tr("There is no field yet."));
    const QString path = QFileDialog::getSaveFileName(view_, tr("Write the field"), "field.csv",
                                                      tr("Comma-separated values (*.csv)"));
    if (path.isEmpty()) return;
    try {
        io::writeTextAtomically(path.toStdString(), io::fieldCsv(*map, session().nearLook().peak));
        session().good(tr("Written: %1.").arg(path));
    } catch (const Error& e) {
        session().bad(QString::fromUtf8(e.what()));
    }
}

}  // namespace rm::app
