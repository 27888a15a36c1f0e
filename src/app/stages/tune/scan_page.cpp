#include "app/stages/tune/scan_page.h"

#include <QComboBox>

#include "app/look/text.h"
#include "app/stages/study_basis.h"
#include "app/stages/tune/scan_view.h"
#include "core/study/tuning/tune_axes.h"

namespace rm::app {

ScanPage::ScanPage(Session& session) : TunePage(session), view_(new ScanView(session.document())) {
    connect(view_, &ScanView::runRequested, this, &ScanPage::scan);
    connect(view_, &ScanView::valuesChosen, this,
            [this](const QString& first, double x, const QString& second, double y) {
                std::map<std::string, double> values{{first.toStdString(), x}};
                if (!second.isEmpty()) values[second.toStdString()] = y;
                session_.document().editDesign(tr("Set from the scan"), [&](model::Design& d) {
                    d = study::withValues(d, values, true);
                });
            });
    connect(&task_, &Task::progress, &session, &Session::progress);
    connect(&task_, &Task::done, &session, [&session] { Q_EMIT session.progress(1.0); });
}

QWidget* ScanPage::widget() {
    return view_;
}

void ScanPage::refresh() {
    view_->refresh();
    view_->setOld(!scanned_.empty() && scanned_ != basisOf(view_->plot()->scan()));
}

std::string ScanPage::basisOf(const study::Scan& scan) const {
    return studyBasis(session_, withoutTyped(session_.design(), {scan.x.dimension, scan.y.dimension}));
}

void ScanPage::scan() {
    study::ScanAxis x;
    study::ScanAxis y;
    try {
        x = view_->axis(0);
        y = view_->axis(1);
    } catch (const Error& e) {
        return session_.bad(QString::fromUtf8(e.what()));
    }
    const auto design = session_.design();
    const auto quantity = view_->quantity();
    const QString name = view_->figures()->currentText();
    const double hz = session_.frequencyHz();
    task_.start([this, design, quantity, name, x, y, hz, basis = basisOf({x, y, {}, false})](
                    std::stop_token stop, const Task::Progress& progress) -> Task::After {
        const auto scan = study::scanFigure(design, hz, quantity, x, y, stop, progress);
        return [this, scan, quantity, name, hz, basis, id = design.id] {
            if (!scan.complete) return session_.caution(tr("The scan was stopped."));
            if (id != session_.design().id)
                return session_.caution(tr("Another design is on the bench now: the scan was dropped."));
            scanned_ = basis;
            view_->setScan(scan, quantity, name, hz);
            refresh();
        };
    });
}

}  // namespace rm::app
