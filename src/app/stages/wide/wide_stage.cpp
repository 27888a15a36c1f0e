#include "app/stages/wide/wide_stage.h"

#include <QFileDialog>
#include <QFileInfo>

#include "app/look/text.h"
#include "app/stages/wide/wide_view.h"
#include "core/edit/designs.h"
#include "core/edit/names.h"

namespace rm::app {

WideStage::WideStage(Session& s) : Stage("wide", s), view_(new WideView) {
    connect(view_, &WideView::closed, this, &Stage::closed);
    connect(view_, &WideView::openRequested, this, &WideStage::askOpen);
    connect(view_, &WideView::taken, this, &WideStage::take);
    connect(&task_, &Task::progress, &s, &Session::progress);
    connect(&task_, &Task::done, &s, [&s] { Q_EMIT s.progress(1.0); });
    connect(&task_, &Task::failed, this, [this](const QString& sentence) { session().bad(sentence); });
}

QWidget* WideStage::widget() {
    return view_;
}

std::vector<StageAction> WideStage::actions() {
    return {{StageAction::Menu::Study, tr("&Results of studies"), "Ctrl+Alt+R",
             tr("Thousands of variants, builds or searches that reedmast-cli study has worked out"),
             [this] { Q_EMIT frontRequested(); }}};
}

void WideStage::askOpen() {
    const QString path =
        QFileDialog::getOpenFileName(view_, tr("Open the result of a study"), session().document().path(),
                                     tr("Results (*.csv *.jsonl);;All files (*)"));
    if (!path.isEmpty()) open(path);
}

void WideStage::open(const QString& path) {
    task_.start([this, path](std::stop_token stop, const Task::Progress& progress) -> Task::After {
        auto table =
            std::make_shared<const wide::Table>(wide::readResult(path.toStdString(), stop, progress), stop);
        return [this, table, name = QFileInfo(path).fileName()] {
            view_->setTable(table, name);
            Q_EMIT frontRequested();
        };
    });
}

void WideStage::take(std::size_t row) {
    const auto* table = view_->table();
    if (table == nullptr || row >= table->rows()) return;
    const auto& result = table->result();
    const QString name =
        tr("%1, case %2").arg(text(result.cases.given().design.name)).arg(result.rows[row].number + 1);
    auto design = result.cases.designOf(result.rows[row]);
    document().edit(tr("Take a case of a study"), [&](model::Project& p) {
        design.name = edit::freeName(p.designs, name.toStdString());
        p = edit::addDesign(std::move(p), design);
    });
    session().good(tr("%1 is a design of this project now.").arg(text(session().design().name)));
}

}  // namespace rm::app
