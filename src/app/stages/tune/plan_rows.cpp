#include "app/stages/tune/plan_rows.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>
#include <cmath>

#include "app/look/focus_frame.h"
#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr int kGaugeWidth = 122;
/// Where the post stands, as a share of the gauge.
constexpr double kPost = 0.62;

double shareOf(double miss) {
    return miss <= 0.0 ? kPost * (1.0 - std::tanh(-miss / 3.0))
                       : kPost + (1.0 - kPost) * std::tanh(miss / 4.0);
}

}  // namespace

PlanRows::PlanRows(QWidget* parent) : Themed(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Goals and limits"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void PlanRows::setRows(std::vector<PlanRow> rows) {
    rows_ = std::move(rows);
    if (selected_ >= static_cast<int>(rows_.size())) selected_ = -1;
    updateGeometry();
    update();
}

void PlanRows::setSelected(int row) {
    selected_ = row;
    update();
}

QSize PlanRows::sizeHint() const {
    return {300, kRowHeight * std::max(1, static_cast<int>(rows_.size()))};
}

QRect PlanRows::tickOf(int row) const {
    return {2, row * kRowHeight + 4, 16, 16};
}

QRect PlanRows::sentenceOf(int row) const {
    return {24, row * kRowHeight + 2, width() - kGaugeWidth - 36, 18};
}

QRectF PlanRows::gaugeOf(int row) const {
    return {static_cast<double>(width() - kGaugeWidth - 4), row * kRowHeight + 6.0,
            static_cast<double>(kGaugeWidth), 10.0};
}

void PlanRows::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (rows_.empty()) {
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(rect().adjusted(8, 0, -8, 0), Qt::AlignVCenter | Qt::TextWordWrap,
                   tr("Say first what a good antenna is: add a goal."));
    }
    for (int r = 0; r < static_cast<int>(rows_.size()); ++r) paintRow(p, r);
    paintFocusFrame(p, *this, theme_);
}

void PlanRows::paintRow(QPainter& p, int r) const {
    const PlanRow& row = rows_[static_cast<std::size_t>(r)];
    if (r == selected_) {
        p.setPen(Qt::NoPen);
        p.setBrush(theme_.reedTint);
        p.drawRoundedRect(QRectF(0, r * kRowHeight + 0.5, width(), kRowHeight - 1.0), 5, 5);
    }
    const QRectF tick = QRectF(tickOf(r)).adjusted(2, 2, -2, -2);
    p.setPen(QPen(theme_.softInk, 1.0));
    p.setBrush(row.enabled ? theme_.sun : theme_.panel);
    p.drawRoundedRect(tick, 3, 3);
    p.setPen(row.enabled ? theme_.ink : theme_.softInk);
    p.setFont(textFont(kTextPt));
    p.drawText(sentenceOf(r), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(row.sentence, Qt::ElideRight, sentenceOf(r).width()));
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    QString second = row.note;
    if (row.enabled && !row.now.isEmpty())
        second +=
            (second.isEmpty() ? QString() : QString(";  ")) +
            (row.best.isEmpty() ? tr("now ") + row.now : tr("was ") + row.now + tr(",  best ") + row.best);
    // The verdict takes what it needs of that line, up to half of it.
    const QFont bold = textFont(kTinyPt, true);
    const QRectF gauge = gaugeOf(r);
    const double wanted =
        row.enabled ? QFontMetricsF(bold).horizontalAdvance(row.verdict) + 2.0 : kGaugeWidth + 40.0;
    const QRectF verdict(QPointF(gauge.right() - std::min(wanted, 0.5 * width()), r * kRowHeight + 18.0),
                         QPointF(gauge.right(), r * kRowHeight + 33.0));
    QRect below = sentenceOf(r).translated(0, 16);
    below.setRight(std::min(below.right(), static_cast<int>(verdict.left()) - 6));
    p.drawText(below, Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(second, Qt::ElideRight, below.width()));
    if (!row.enabled) return;
    if (row.nowMiss || row.bestMiss) paintGauge(p, gauge, row);
    p.setFont(bold);
    p.setPen(row.met ? theme_.reed : theme_.clay);
    p.drawText(verdict, Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(row.verdict, Qt::ElideRight, static_cast<int>(verdict.width())));
}

void PlanRows::paintGauge(QPainter& p, const QRectF& g, const PlanRow& row) const {
    const double middle = g.center().y();
    const auto at = [&](double miss) { return g.left() + g.width() * shareOf(miss); };
    const double post = g.left() + g.width() * kPost;
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.sunken);
    p.drawRoundedRect(QRectF(g.left(), middle - 2, g.width(), 4), 2, 2);
    if (row.bands.size() > 1) {
        // Every band on its own: a stroke each, the missed ones beyond the post.
        for (const double miss : row.bands) {
            p.setPen(QPen(miss <= 0.0 ? theme_.reed : theme_.clay, 2.4));
            p.drawLine(QPointF(at(miss), middle - 4), QPointF(at(miss), middle + 4));
        }
        if (row.counted) {
            p.setPen(QPen(theme_.ink, 1.6));
            p.drawLine(QPointF(post, g.top() - 1), QPointF(post, g.bottom() + 1));
            return;
        }
    }
    const double shown = row.bestMiss ? *row.bestMiss : *row.nowMiss;
    p.setBrush(shown <= 0.0 ? theme_.reed : theme_.clay);
    // What there is to spare, or what is missing.
    p.drawRect(QRectF(QPointF(std::min(post, at(shown)), middle - 2),
                      QPointF(std::max(post, at(shown)), middle + 2)));
    p.setPen(QPen(theme_.ink, 1.6));
    p.drawLine(QPointF(post, g.top() - 1), QPointF(post, g.bottom() + 1));
    if (row.nowMiss) {
        p.setPen(QPen(theme_.ink, 1.2));
        p.setBrush(theme_.panel);
        p.drawEllipse(QPointF(at(*row.nowMiss), middle), 3.4, 3.4);
    }
    if (row.bestMiss) {
        const double x = at(*row.bestMiss);
        p.setPen(QPen(theme_.panel, 0.8));
        p.setBrush(theme_.copper);
        p.drawPolygon(
            QPolygonF({{x, middle - 5.5}, {x + 5.0, middle}, {x, middle + 5.5}, {x - 5.0, middle}}));
    }
}

void PlanRows::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>(event->position().y()) / kRowHeight;
    if (row < 0 || row >= static_cast<int>(rows_.size())) return;
    if (tickOf(row).adjusted(-2, -2, 4, 6).contains(event->position().toPoint())) {
        Q_EMIT toggled(row);
        return;
    }
    Q_EMIT chosen(row == selected_ ? -1 : row);
}

void PlanRows::keyPressEvent(QKeyEvent* event) {
    const int last = static_cast<int>(rows_.size()) - 1;
    if (event->key() == Qt::Key_Down && last >= 0)
        Q_EMIT chosen(std::min(last, selected_ + 1));
    else if (event->key() == Qt::Key_Up && last >= 0)
        Q_EMIT chosen(std::max(0, selected_ - 1));
    else if (event->key() == Qt::Key_Space && selected_ >= 0)
        Q_EMIT toggled(selected_);
    else
        QWidget::keyPressEvent(event);
}

bool PlanRows::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const auto row = static_cast<std::size_t>(std::max(0, help->pos().y() / kRowHeight));
    if (row < rows_.size() && !rows_[row].tip.isEmpty())
        QToolTip::showText(help->globalPos(), rows_[row].tip, this);
    else
        QToolTip::hideText();
    return true;
}

}  // namespace rm::app
