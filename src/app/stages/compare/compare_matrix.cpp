#include "app/stages/compare/compare_matrix.h"
#include "app/look/key_pointer.h"
#include "app/look/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kHead = 20.0;
constexpr double kRow = 21.0;
constexpr double kNames = 190.0;

}  // namespace

QColor rowColour(const Theme& theme, int row) {
    return row % 6 == 0 ? theme.copper : theme.overlay(static_cast<std::size_t>(row % 6 - 1));
}

Qt::PenStyle rowDash(int row) {
    return row % 12 < 6 ? Qt::SolidLine : Qt::DashLine;
}

CompareMatrix::CompareMatrix(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Comparison"));
    setToolTip(tr(
        "Click a cell to open that antenna on that band, a band to see its patterns below, a name to make it "
        "the one "
        "that the others are compared with."));
}

void CompareMatrix::setComparison(ComparisonPtr comparison, const model::SwrLimits& limits) {
    comparison_ = std::move(comparison);
    limits_ = limits;
    if (baseline_ >= rows()) baseline_ = -1;
    band_ = std::clamp(band_, 0, std::max(0, bands() - 1));
    setFixedHeight(sizeHint().height());
    update();
}

void CompareMatrix::setQuantity(study::CompareQuantity quantity) {
    quantity_ = quantity;
    update();
}

void CompareMatrix::setBand(int band) {
    band_ = band;
    update();
}

void CompareMatrix::setBaseline(int row) {
    baseline_ = row;
    update();
}

QSize CompareMatrix::sizeHint() const {
    return {500, static_cast<int>(kHead + kRow * std::max(1, rows()) + 4)};
}

QRectF CompareMatrix::nameRect(int row) const {
    return {0.0, kHead + kRow * row, kNames, kRow};
}

QRectF CompareMatrix::cellRect(int row, int band) const {
    const double each = (width() - kNames) / std::max(1, bands());
    return {kNames + each * band, kHead + kRow * row, each, kRow};
}

QString CompareMatrix::cellText(int row, int band) const {
    const auto& cell =
        comparison_->rows.at(static_cast<std::size_t>(row)).cells.at(static_cast<std::size_t>(band));
    if (!cell.meant) return {};
    const auto value = study::figureOf(cell, quantity_);
    if (!value) return "–";
    if (baseline_ >= 0 && baseline_ != row) {
        const auto& base =
            comparison_->rows[static_cast<std::size_t>(baseline_)].cells[static_cast<std::size_t>(band)];
        if (const auto reference = study::figureOf(base, quantity_)) {
            const double d = *value - *reference;
            return QString("%1%2")
                .arg(d < 0.0 ? "−" : "+")
                .arg(written(std::abs(d), 'f', std::abs(d) < 99.5 ? 1 : 0));
        }
    }
    if (quantity_ == study::CompareQuantity::Swr) return text(quantity::formatSwr(*value));
    if (quantity_ == study::CompareQuantity::Takeoff) return QString("%1°").arg(written(*value, 'f', 0));
    if (quantity_ == study::CompareQuantity::Efficiency) return QString("%1 %").arg(written(*value, 'f', 0));
    return text(quantity::formatDb(*value));
}

/// From clay to reed, faint: the words stay the message.
QColor CompareMatrix::shadeOf(double value, double low, double high) const {
    QColor shade;
    double strength = 0.0;
    if (quantity_ == study::CompareQuantity::Swr) {
        shade = theme_.forSwr(value, limits_);
        strength = 1.0;
    } else {
        // A low takeoff angle is what is usually sought; of the rest more is better.
        double share = high > low ? (value - low) / (high - low) : 0.5;
        if (quantity_ == study::CompareQuantity::Takeoff) share = 1.0 - share;
        shade = share > 0.5 ? theme_.reed : theme_.clay;
        strength = std::abs(2.0 * share - 1.0);
    }
    shade.setAlphaF(static_cast<float>(0.06 + 0.2 * strength));
    return shade;
}

void CompareMatrix::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!comparison_) return;
    for (int b = 0; b < bands(); ++b) {
        const QRectF head(cellRect(0, b).left(), 0, cellRect(0, b).width(), kHead);
        if (b == band_) {
            p.setPen(Qt::NoPen);
            p.setBrush(theme_.reedTint);
            p.drawRoundedRect(head.adjusted(2, 1, -2, -1), 5, 5);
        }
        p.setFont(textFont(kSmallPt, b == band_));
        p.setPen(b == band_ ? theme_.reed : theme_.softInk);
        p.drawText(head, Qt::AlignCenter, text(comparison_->bands[static_cast<std::size_t>(b)].name));
    }
    for (int r = 0; r < rows(); ++r) {
        const auto& row = comparison_->rows[static_cast<std::size_t>(r)];
        const QRectF name = nameRect(r);
        p.setPen(QPen(rowColour(theme_, r), 3.0, rowDash(r) == Qt::DashLine ? Qt::DotLine : Qt::SolidLine));
        p.drawLine(QPointF(6, name.center().y()), QPointF(18, name.center().y()));
        p.setFont(textFont(kSmallPt, r == baseline_));
        p.setPen(theme_.ink);
        const QString words =
            (row.pin ? tr("pin: ") : "") + text(row.name) + (r == baseline_ ? tr("  (baseline)") : "");
        p.drawText(name.adjusted(25, 0, -4, 0), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(words, Qt::ElideMiddle, static_cast<int>(kNames - 30)));
    }
    for (int b = 0; b < bands(); ++b) {
        double low = 1e9;
        double high = -1e9;
        for (const auto& row : comparison_->rows)
            if (const auto v = study::figureOf(row.cells[static_cast<std::size_t>(b)], quantity_)) {
                low = std::min(low, *v);
                high = std::max(high, *v);
            }
        for (int r = 0; r < rows(); ++r) {
            const auto& cell =
                comparison_->rows[static_cast<std::size_t>(r)].cells[static_cast<std::size_t>(b)];
            const QRectF box = cellRect(r, b).adjusted(1, 1, -1, -1);
            const auto value = study::figureOf(cell, quantity_);
            p.setPen(box.contains(mouse_) && value ? QPen(theme_.reed, 1.4) : QPen(theme_.line, 0.6));
            p.setBrush(value ? QBrush(shadeOf(*value, low, high)) : Qt::NoBrush);
            p.drawRoundedRect(box, 3, 3);
            p.setFont(textFont(kSmallPt));
            p.setPen(cell.problem.empty() ? theme_.ink : theme_.clay);
            p.drawText(box, Qt::AlignCenter, cellText(r, b));
        }
    }
}

void CompareMatrix::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    const QPointF at = event->position();
    for (int b = 0; b < bands(); ++b) {
        const QRectF column = cellRect(0, b);
        if (at.y() < kHead && at.x() >= column.left() && at.x() < column.right()) return Q_EMIT bandChosen(b);
        for (int r = 0; r < rows(); ++r)
            if (cellRect(r, b).contains(at) &&
                comparison_->rows[static_cast<std::size_t>(r)].cells[static_cast<std::size_t>(b)].meant)
                return Q_EMIT cellChosen(r, b);
    }
    for (int r = 0; r < rows(); ++r)
        if (nameRect(r).contains(at)) return Q_EMIT baselineChosen(r == baseline_ ? -1 : r);
}

void CompareMatrix::mouseMoveEvent(QMouseEvent* event) {
    mouse_ = event->position();
    update();
}

void CompareMatrix::leaveEvent(QEvent*) {
    mouse_ = {-1, -1};
    update();
}

}  // namespace rm::app
