#include "app/stages/tune/trade_page.h"

#include "app/look/text.h"
#include "app/stages/tune/trade_view.h"
#include "core/project/project_file.h"
#include "core/study/tuning/tune_axes.h"

namespace rm::app {

TradePage::TradePage(Session& session, Editing& editing)
    : TunePage(session), editing_(editing), view_(new TradeView(session.document())) {
    connect(view_, &TradeView::runRequested, this, &TradePage::trade);
    connect(view_, &TradeView::stopRequested, &task_, &Task::stop);
    connect(view_, &TradeView::takeRequested, this, [this] { take(); });
    connect(view_, &TradeView::goOnRequested, this, [this] {
        if (take()) Q_EMIT tuneRequested();
    });
    connect(view_, &TradeView::pinRequested, this, [this] {
        if (const auto* point = view_->chosenPoint())
            editing_.pinDesign(QString("%1, %2 %3")
                                   .arg(text(point->design.name), view_->swept()->currentText())
                                   .arg(written(point->value, 'g', 4)),
                               point->design);
    });
    connect(&task_, &Task::progress, &session, &Session::progress);
    connect(&task_, &Task::failed, this, [this] { view_->setTrade(nullptr, false); });
    connect(&task_, &Task::done, &session, [&session] { Q_EMIT session.progress(1.0); });
    // Another project: its designs may have the ids of these.
    connect(&session.document(), &Document::adopted, this, [this] {
        task_.drop();
        traded_ = 0;
        view_->setTrade(nullptr, false);
    });
}

QWidget* TradePage::widget() {
    return view_;
}

void TradePage::refresh() {
    if (traded_ != 0 && traded_ != session_.design().id) {
        task_.drop();
        traded_ = 0;
        view_->setTrade(nullptr, false);
    }
    view_->refresh();
    view_->setOld(isOld());
}

bool TradePage::isOld() const {
    const auto* trade = view_->trade();
    if (traded_ == 0 || trade == nullptr) return false;
    const auto solved =
        std::find_if(trade->points.begin(), trade->points.end(), [](const auto& p) { return p.solved; });
    if (solved == trade->points.end()) return false;
    // What is swept and what the points move may be anything: taking one of them makes none of them old.
    const auto basis = [&](const model::Project& project) {
        model::Project rest;
        rest.bands = project.bands;
        model::Design design = project.active();
        const auto size = trade->axis.ofLimit ? design.tune.limits.size() : design.tune.goals.size();
        if (trade->axis.index < size) design = study::withAsked(design, trade->axis, trade->axis.from);
        rest.designs.push_back(study::withValues(design, solved->values));
        return io::textOf(rest);
    };
    return basis(*of_) != basis(session_.project());
}

void TradePage::trade() {
    study::TradeAxis axis;
    try {
        axis = view_->axis();
    } catch (const Error& e) {
        return session_.bad(QString::fromUtf8(e.what()));
    }
    const auto design = std::make_shared<const model::Design>(session_.design());
    const auto bands = session_.project().bands;
    traded_ = design->id;
    of_ = session_.document().share();
    view_->plot()->choose(std::nullopt);
    auto empty = std::make_shared<study::TradeOff>();
    empty->axis = axis;
    view_->setTrade(empty, true);
    auto box = std::make_shared<Mailbox>(this);
    connect(this, &QObject::destroyed, [box] { box->close(); });
    study::TradeOptions options;
    options.maxSeconds = view_->maxSeconds();
    options.improved = [this, box, id = design->id](const study::TradeOff& so) {
        box->post([this, id, known = std::make_shared<const study::TradeOff>(so)] {
            if (task_.running() && traded_ == id) view_->setTrade(known, true);
        });
    };
    task_.start([this, design, bands, axis, options](std::stop_token stop,
                                                     const Task::Progress& progress) mutable -> Task::After {
        options.stop = stop;
        options.progress = progress;
        const auto trade =
            std::make_shared<const study::TradeOff>(study::studyTrade(*design, bands, axis, options));
        return [this, trade, id = design->id] {
            if (traded_ != id) return;
            view_->setTrade(trade, false);
            refresh();
        };
    });
}

bool TradePage::take() {
    const auto* point = view_->chosenPoint();
    if (point == nullptr) return false;
    if (traded_ != session_.design().id) {
        session_.caution(tr("This curve is of another design: trade again."));
        return false;
    }
    const auto axis = view_->trade()->axis;
    const auto chosen = *point;
    // Only what was asked and found: what was changed beside it meanwhile stays.
    session_.document().editDesign(tr("Take from the trade-off"), [&](model::Design& d) {
        const auto size = axis.ofLimit ? d.tune.limits.size() : d.tune.goals.size();
        if (axis.index < size) d = study::withAsked(d, axis, chosen.value);
        d = study::withValues(d, chosen.values, true);
    });
    return true;
}

}  // namespace rm::app
