#include "app/stages/clear/clear_stage.h"

#include <QDate>
#include <QFileDialog>

#include "app/look/text.h"
#include "app/stages/clear/clear_view.h"
#include "core/export/clear_table.h"
#include "core/project/text_file.h"

namespace rm::app {

ClearStage::ClearStage(Session& s) : ClearStage(s, new ClearView) {}

ClearStage::ClearStage(Session& s, ClearView* view) : StudyStage("clear", s, view), view_(view) {
    connect(view_, &ClearView::rulesChosen, this, [this](const model::KeepClear& rules) {
        document().edit(tr("Change what is kept clear"), [&](model::Project& p) {
            const model::Extra kept = p.keepClear.extra;
            p.keepClear = rules;
            p.keepClear.extra = kept;
        });
        study();
    });
    connect(view_, &ClearView::powerChosen, this, [this](double watts) {
        document().edit(tr("Change power"), [&](model::Project& p) { p.powerW = watts; });
        study();
    });
    connect(view_, &ClearView::bandChosen, this, [this](const QString& name) {
        const auto& bands = session().project().bands;
        for (std::size_t b = 0; b < bands.size(); ++b)
            if (text(bands[b].name) == name) session().chooseBand(static_cast<int>(b));
    });
    connect(view_, &ClearView::mapRequested, this, [this] {
        NearLook look = session().nearLook();
        look.place.upright = false;
        look.place.heightM = session().project().keepClear.headM;
        session().setNearLook(look);
        Q_EMIT otherRequested("field");
    });
    // The distances in the band strip go with what they rest on.
    connect(&s, &Session::projectChanged, this, [this] {
        if (session().clear() && isOld()) session().setClear(nullptr);
    });
    connect(view_, &ClearView::pdfRequested, this, [this] { save(true); });
    connect(view_, &ClearView::csvRequested, this, [this] { save(false); });
}

std::vector<StageAction> ClearStage::actions() {
    return {{StageAction::Menu::Study, tr("&Keep clear: how far people stay"), "Ctrl+Alt+K",
             tr("Where the field is below published limits, on all bands of the design"),
             [this] { study(); }}};
}

void ClearStage::study() {
    of_ = session().design();
    bands_ = session().project().bands;
    powerW_ = session().project().powerW;
    const bool feet = session().project().feetAndInches;
    begin(
        tr("Keep clear"), Varied::Nothing,
        [project = session().project()](const auto& design, double, const auto&, std::stop_token stop,
                                        const auto& progress) {
            return std::make_shared<const study::ClearTable>(
                study::keepClear(project, design, stop, progress));
        },
        [](const ClearPtr& table) { return table->complete; },
        [this, feet, expansion = session().expansion()](const ClearPtr& table, const QString&) {
            view_->setTable(table, expansion,
                            tr("Keep clear: %1, %2 W").arg(text(of_.name)).arg(table->radioW), feet);
            session().setClear(table);
            refresh();
        });
}

bool ClearStage::isOld() const {
    const auto& p = session().project();
    return view_->table() != nullptr && (!(of_ == session().design()) || bands_ != p.bands ||
                                         powerW_ != p.powerW || !(view_->table()->rules == p.keepClear));
}

void ClearStage::show(const ResultsPtr&) {
    refresh();
}

void ClearStage::refresh() {
    view_->setRules(session().project().keepClear);
    view_->setPower(session().project().powerW);
    view_->setFeet(session().project().feetAndInches);
    view_->showBand(text(session().band().name));
    view_->setStale(isOld() && !task().running());
}

void ClearStage::save(bool pdf) {
    if (view_->table() == nullptr || isOld())
        return session().bad(
            tr("The table is of the antenna before its last change: work it out again first."));
    const QString path = QFileDialog::getSaveFileName(
        view_, tr("Write the distances"), pdf ? "keep-clear.pdf" : "keep-clear.csv",
        pdf ? tr("Portable document (*.pdf)") : tr("Comma-separated values (*.csv)"));
    if (path.isEmpty()) return;
    const auto& p = session().project();
    try {
        if (pdf)
            io::writePdf(
                io::clearSheets(*view_->table(),
                                {of_.name, p.title, say("Keep clear"),
                                 QDate::currentDate().toString(Qt::ISODate).toStdString(), ""},
                                p.feetAndInches, p.feetAndInches ? io::Paper::Letter : io::Paper::A4),
                path.toStdString());
        else
            io::writeTextAtomically(path.toStdString(), io::clearCsv(*view_->table()));
        session().good(tr("Written: %1.").arg(path));
    } catch (const Error& e) {
        session().bad(QString::fromUtf8(e.what()));
    }
}

}  // namespace rm::app
