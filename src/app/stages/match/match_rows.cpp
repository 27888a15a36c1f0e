#include "app/stages/match/match_rows.h"
#include "app/look/focus_frame.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr int kHeading = 18;
constexpr int kOption = 46;
constexpr int kRatio = 18;
constexpr std::size_t kRatiosShown = 4;

QString familyName(study::MatchFamily family) {
    switch (family) {
        case study::MatchFamily::L:
            return tr("L networks");
        case study::MatchFamily::Stub:
            return tr("Single stub");
        case study::MatchFamily::QuarterWave:
            return tr("Quarter-wave section");
        case study::MatchFamily::Pi:
            return tr("Pi networks");
        default:
            return tr("T networks");
    }
}

}  // namespace

MatchRows::MatchRows(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Ways to match"));
}

void MatchRows::setStudy(std::shared_ptr<const study::PathStudy> study, const model::SwrLimits& limits) {
    study_ = std::move(study);
    limits_ = limits;
    stale_ = false;
    layOut();
}

void MatchRows::setStale(bool stale) {
    stale_ = stale;
    update();
}

void MatchRows::layOut() {
    rows_.clear();
    int top = 0;
    const auto add = [&](Row row, int height) {
        row.top = top;
        row.height = height;
        top += height;
        rows_.push_back(std::move(row));
    };
    if (study_) {
        std::optional<study::MatchFamily> family;
        for (std::size_t i = 0; i < study_->options.size(); ++i) {
            if (family != study_->options[i].family) {
                family = study_->options[i].family;
                add({familyName(*family)}, kHeading);
            }
            add({{}, static_cast<int>(i)}, kOption);
        }
        if (study_->options.empty())
            add({study_->problem.empty() ? tr("Already there: nothing to match.") : text(study_->problem)},
                2 * kHeading);
        if (!study_->ratios.empty()) add({tr("Best transformer ratio over all bands")}, kHeading);
        for (std::size_t i = 0; i < std::min(kRatiosShown, study_->ratios.size()); ++i)
            add({{}, -1, static_cast<int>(i)}, kRatio);
    }
    setFixedHeight(top + 4);
    update();
}

QSize MatchRows::sizeHint() const {
    return {230, rows_.empty() ? 60 : rows_.back().top + rows_.back().height};
}

QRect MatchRows::rowRect(int row) const {
    const auto& r = rows_.at(static_cast<std::size_t>(row));
    return {0, r.top, width(), r.height};
}

QString MatchRows::title(int row) const {
    const auto& r = rows_.at(static_cast<std::size_t>(row));
    if (r.option >= 0) return text(study_->options[static_cast<std::size_t>(r.option)].title);
    if (r.ratio >= 0) return text(study_->ratios[static_cast<std::size_t>(r.ratio)].ratio);
    return r.heading;
}

void MatchRows::paintOption(QPainter& p, const Row& row, bool hovered) const {
    const auto& option = study_->options[static_cast<std::size_t>(row.option)];
    const QRectF box(1, row.top + 1, width() - 2, row.height - 3);
    p.setPen(QPen(hovered ? theme_.reed : theme_.line, 1.0));
    p.setBrush(hovered ? theme_.reedTint : theme_.panel);
    p.drawRoundedRect(box, 5, 5);
    const double plotWidth = 62.0;
    const QRectF words(box.left() + 6, box.top() + 2, box.width() - plotWidth - 16, box.height() - 4);
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.ink);
    p.drawText(QRectF(words.left(), words.top(), words.width(), 26), Qt::AlignLeft | Qt::TextWordWrap,
               text(option.title));
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(words.left(), box.bottom() - 14, words.width(), 12), Qt::AlignLeft,
               tr("SWR %1, up to %2   %3 dB")
                   .arg(text(quantity::formatSwr(option.swr)), text(quantity::formatSwr(option.worstSwr)))
                   .arg(written(option.lossDb, 'f', 2)));
    // The curve, from 1 at the bottom to 4 at the top; the second limit as a line.
    const QRectF plot(box.right() - plotWidth - 5, box.top() + 5, plotWidth, box.height() - 10);
    const double ceiling = 4.0;
    const auto y = [&](double swr) {
        return plot.bottom() - plot.height() * (std::min(swr, ceiling) - 1.0) / (ceiling - 1.0);
    };
    p.setPen(QPen(theme_.line, 1.0));
    p.drawRect(plot);
    p.setPen(QPen(theme_.reed, 0.9, Qt::DashLine));
    p.drawLine(QPointF(plot.left(), y(limits_[1])), QPointF(plot.right(), y(limits_[1])));
    QPolygonF curve;
    for (std::size_t i = 0; i < option.bandSwr.size(); ++i)
        curve << QPointF(
            plot.left() + plot.width() * static_cast<double>(i) /
                              static_cast<double>(std::max<std::size_t>(1, option.bandSwr.size() - 1)),
            y(option.bandSwr[i]));
    p.setPen(QPen(theme_.copper, 1.6));
    p.drawPolyline(curve);
}

void MatchRows::paintRatio(QPainter& p, const Row& row) const {
    const auto& ratio = study_->ratios[static_cast<std::size_t>(row.ratio)];
    p.setFont(textFont(kSmallPt, row.ratio == 0));
    p.setPen(theme_.ink);
    p.drawText(QRectF(8, row.top, 60, row.height), Qt::AlignLeft | Qt::AlignVCenter, shownTyped(ratio.ratio));
    double x = 58;
    p.setFont(textFont(kSmallPt));
    const double each =
        (width() - x - 4) / static_cast<double>(std::max<std::size_t>(1, ratio.worstSwr.size()));
    for (const double swr : ratio.worstSwr) {
        p.setPen(theme_.forSwr(swr, limits_));
        p.drawText(QRectF(x, row.top, each, row.height), Qt::AlignCenter, text(quantity::formatSwr(swr)));
        x += each;
    }
}

void MatchRows::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (stale_) p.setOpacity(0.45);
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const Row& row = rows_[i];
        const bool hovered = static_cast<int>(i) == hover_;
        if (row.option >= 0) {
            paintOption(p, row, hovered);
        } else if (row.ratio >= 0) {
            if (hovered) p.fillRect(rowRect(static_cast<int>(i)), theme_.reedTint);
            paintRatio(p, row);
        } else {
            p.setFont(textFont(kSmallPt, true));
            p.setPen(theme_.softInk);
            p.drawText(QRectF(2, row.top, width() - 4, row.height),
                       Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, row.heading);
        }
    }
    paintFocusFrame(p, *this, theme_);
}

void MatchRows::choose(int row) {
    if (row < 0 || stale_) return;
    const Row r = rows_.at(static_cast<std::size_t>(row));
    if (r.option >= 0) Q_EMIT optionChosen(study_->options[static_cast<std::size_t>(r.option)]);
    if (r.ratio >= 0) Q_EMIT ratioChosen(title(row));
}

void MatchRows::mouseMoveEvent(QMouseEvent* event) {
    hover_ = -1;
    for (int row = 0; row < count(); ++row)
        if (rowRect(row).contains(event->position().toPoint())) hover_ = row;
    setCursor(hover_ >= 0 && rows_[static_cast<std::size_t>(hover_)].heading.isEmpty()
                  ? Qt::PointingHandCursor
                  : Qt::ArrowCursor);
    update();
}

void MatchRows::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    for (int row = 0; row < count(); ++row)
        if (rowRect(row).contains(event->position().toPoint())) return choose(row);
}

void MatchRows::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step != 0 && count() > 0) {
        hover_ = std::clamp(hover_ + step, 0, count() - 1);
        return update();
    }
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return choose(hover_);
    QWidget::keyPressEvent(event);
}

void MatchRows::leaveEvent(QEvent*) {
    hover_ = -1;
    update();
}

}  // namespace rm::app
