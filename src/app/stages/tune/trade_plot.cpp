#include "app/stages/tune/trade_plot.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <ranges>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kReachPx = 14.0;

}  // namespace

TradePlot::TradePlot(QWidget* parent) : Themed(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Trade-off"));
    setToolTip(tr("Click a point to see its antenna; the arrow keys go from one to the next"));
}

void TradePlot::setTrade(std::shared_ptr<const study::TradeOff> trade, const QString& across) {
    trade_ = std::move(trade);
    across_ = across;
    if (!trade_) chosen_.reset();
    update();
}

void TradePlot::setGoal(std::size_t goal) {
    goal_ = goal;
    update();
}

void TradePlot::setOld(bool old) {
    old_ = old;
    update();
}

void TradePlot::choose(std::optional<std::size_t> point) {
    chosen_ = point;
    update();
}

std::optional<double> TradePlot::heightOf(std::size_t point) const {
    const auto& p = trade_->points[point];
    if (!p.solved || goal_ >= p.goals.size()) return std::nullopt;
    return p.goals[goal_].worst;
}

std::optional<QPointF> TradePlot::now() const {
    const double x = trade_->nowValue;
    if (goal_ >= trade_->now.size() || x < trade_->axis.from || x > trade_->axis.to) return std::nullopt;
    return QPointF(x, trade_->now[goal_].worst);
}

Frame TradePlot::frame() const {
    Frame f;
    f.area = QRectF(rect()).adjusted(56, 12, -16, -36);
    f.x = {trade_->axis.from, trade_->axis.to};
    f.y = Range::nothing();
    for (std::size_t i = 0; i < trade_->points.size(); ++i)
        if (const auto height = heightOf(i)) f.y.include(*height);
    if (const auto at = now()) f.y.include(at->y());
    f.y = f.y.rounded(5, 0.2);
    return f;
}

QPointF TradePlot::placeOf(std::size_t point) const {
    return frame().at(trade_->points[point].value, heightOf(point).value_or(0.0));
}

void TradePlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTextPt));
    if (!trade_) {
        p.setPen(theme_.softInk);
        p.drawText(
            rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
            tr("Choose a number that is asked of the antenna and how far it goes. Everything else is tuned "
               "at every step: the curve is what can be had, and every point of it an antenna to take."));
        return;
    }
    const auto known = [this](std::size_t i) { return heightOf(i).has_value(); };
    if (!std::ranges::any_of(std::views::iota(std::size_t{0}, trade_->points.size()), known)) {
        p.setPen(theme_.softInk);
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("The first antenna is being tuned…"));
        return;
    }
    if (old_) p.setOpacity(0.35);
    const Frame f = frame();
    f.paintGrid(p, theme_, 7, 5);
    QString left;
    for (const auto& point : trade_->points)
        if (point.solved && goal_ < point.goals.size()) {
            const auto& state = point.goals[goal_];
            left = text(state.sentence).section(tr(" at "), 0, 0).section(tr(" as "), 0, 0);
            if (!state.unit.empty()) left += ", " + text(state.unit);
            break;
        }
    f.paintTitles(p, theme_, across_, left);
    QPolygonF line;
    for (std::size_t i = 0; i < trade_->points.size(); ++i)
        if (heightOf(i)) line << placeOf(i);
    p.setPen(QPen(theme_.copper, 2.0));
    p.drawPolyline(line);
    if (const auto is = now()) {
        const QPointF at = f.at(is->x(), is->y());
        p.setPen(QPen(theme_.sun, 1.6));
        p.setBrush(Qt::NoBrush);
        p.drawLine(at - QPointF(7, 0), at + QPointF(7, 0));
        p.drawLine(at - QPointF(0, 7), at + QPointF(0, 7));
        p.setFont(textFont(kTinyPt));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(at.x() + 9, at.y() + 2, 90, 13), Qt::AlignLeft, tr("the design now"));
    }
    for (std::size_t i = 0; i < trade_->points.size(); ++i) {
        if (!heightOf(i)) continue;
        const bool met = trade_->points[i].met();
        const bool chosen = chosen_ == i;
        const double r = chosen ? 6.5 : 4.5;
        p.setPen(QPen(chosen ? theme_.ink : theme_.copper, chosen ? 2.0 : 1.4));
        p.setBrush(met ? theme_.copper : theme_.panel);
        p.drawEllipse(placeOf(i), r, r);
    }
}

void TradePlot::mousePressEvent(QMouseEvent* event) {
    if (!trade_) return;
    std::optional<std::size_t> nearest;
    double least = kReachPx;
    for (std::size_t i = 0; i < trade_->points.size(); ++i) {
        if (!heightOf(i)) continue;
        const QPointF gap = placeOf(i) - event->position();
        const double away = std::hypot(gap.x(), gap.y());
        if (away < least) {
            least = away;
            nearest = i;
        }
    }
    if (nearest) Q_EMIT pointChosen(static_cast<int>(*nearest));
}

void TradePlot::keyPressEvent(QKeyEvent* event) {
    const int way = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (way == 0 || !trade_) return QWidget::keyPressEvent(event);
    const int count = static_cast<int>(trade_->points.size());
    for (int i = chosen_   ? static_cast<int>(*chosen_) + way
                 : way > 0 ? 0
                           : count - 1;
         i >= 0 && i < count; i += way)
        if (heightOf(static_cast<std::size_t>(i))) return Q_EMIT pointChosen(i);
}

}  // namespace rm::app
