#include "app/stages/tune/matters_page.h"

#include "app/stages/tune/matters_view.h"
#include "core/project/project_file.h"

namespace rm::app {

MattersPage::MattersPage(Session& session) : TunePage(session), view_(new MattersView) {
    connect(view_, &MattersView::stepChanged, this, &MattersPage::refresh);
    connect(view_->plot(), &MattersPlot::dimensionChosen, this, [this](const QString& name) {
        for (const auto& dimension : session_.design().dimensions)
            if (QString::fromStdString(dimension.name) == name)
                session_.select({Selection::Type::Dimension, dimension.id});
    });
}

QWidget* MattersPage::widget() {
    return view_;
}

void MattersPage::refresh() {
    const auto step = view_->step();
    const double hz = session_.frequencyHz();
    const auto design = session_.design();
    model::Project alone;
    alone.designs.push_back(design);
    const std::string key = io::textOf(alone) + std::to_string(hz) + std::to_string(static_cast<int>(step));
    if (key == shown_ || !session_.expansion()->usable()) return;
    shown_ = key;
    view_->setWorking(true);
    task_.start([this, design, hz, step](std::stop_token stop, const Task::Progress&) -> Task::After {
        auto rows = study::studySensitivity(design, hz, step, stop);
        const bool stopped = stop.stop_requested();
        return [this, rows = std::move(rows), hz, stopped] {
            // What was stopped is worked out when it is next looked at.
            if (stopped) shown_.clear();
            view_->setRows(rows, hz);
        };
    });
}

}  // namespace rm::app
