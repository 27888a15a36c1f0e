#include "app/stages/currents/current_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"

namespace rm::app {

CurrentPlot::CurrentPlot(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Current along the part"));
    setMinimumSize(280, 200);
}

void CurrentPlot::setPoints(std::vector<study::CurrentPoint> points, double largestA) {
    points_ = std::move(points);
    largestA_ = largestA;
    update();
}

QRectF CurrentPlot::plot() const {
    return QRectF(rect()).adjusted(46, 24, -46, -34);
}

void CurrentPlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF area = plot();
    p.setFont(textFont(kTinyPt));
    if (points_.size() < 2 || !(largestA_ > 0.0)) {
        p.setPen(theme_.softInk);
        p.drawText(area, Qt::AlignCenter, tr("This part has no wires now."));
        return;
    }
    const double length = points_.back().alongM;
    const auto x = [&](double metres) { return area.left() + area.width() * metres / length; };
    const auto y = [&](double share) { return area.bottom() - area.height() * share; };
    for (int i = 0; i <= 4; ++i) {
        const double share = 0.25 * i;
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(area.left(), y(share)), QPointF(area.right(), y(share)));
        p.setPen(theme_.copper);
        p.drawText(QRectF(0, y(share) - 7, area.left() - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                   QString("%1 %").arg(25 * i));
        p.setPen(theme_.water);
        p.drawText(QRectF(area.right() + 5, y(share) - 7, 40, 14), Qt::AlignLeft | Qt::AlignVCenter,
                   QString("%1°").arg(-180 + 90 * i).replace('-', QChar(0x2212)));
    }
    const LengthUnit unit = lengthUnit();
    const double step = roundStep(length / unit.metres, 6);
    for (const double count : ticksBy(0.0, length / unit.metres, step)) {
        const double at = count * unit.metres;
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(QPointF(x(at), area.top()), QPointF(x(at), area.bottom()));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(x(at) - 24, area.bottom() + 3, 48, 13), Qt::AlignCenter, written(count));
    }
    p.drawText(QRectF(area.left(), area.bottom() + 17, area.width(), 14), Qt::AlignCenter,
               tr("%1 from the start of the part").arg(unit.whole));
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.copper);
    p.drawText(QRectF(area.left(), 4, 0.5 * area.width(), 16), Qt::AlignLeft,
               tr("size, of the largest anywhere"));
    p.setPen(theme_.water);
    p.drawText(QRectF(area.center().x(), 4, 0.5 * area.width(), 16), Qt::AlignRight, tr("phase"));
    QPolygonF size;
    QPolygonF phase;
    const auto flush = [&] {
        p.setPen(QPen(theme_.water, 1.4));
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(phase);
        phase.clear();
    };
    QPainterPath filled(QPointF(x(0), y(0)));
    for (const auto& point : points_) {
        size << QPointF(x(point.alongM), y(std::abs(point.ampere) / largestA_));
        filled.lineTo(size.back());
    }
    filled.lineTo(QPointF(x(length), y(0)));
    QColor glow = theme_.copper;
    glow.setAlphaF(0.16F);
    p.setPen(Qt::NoPen);
    p.setBrush(glow);
    p.drawPath(filled);
    double before = 0.0;
    for (const auto& point : points_) {
        // Where there is no current there is no phase; a jump through 180 degrees is no line.
        const double angle = std::arg(point.ampere) / kDegree;
        if (!phase.isEmpty() && std::abs(angle - before) > 180.0) flush();
        before = angle;
        if (std::abs(point.ampere) > 1e-3 * largestA_)
            phase << QPointF(x(point.alongM), y((angle + 180.0) / 360.0));
    }
    flush();
    p.setPen(QPen(theme_.copper, 2.0));
    p.drawPolyline(size);
    if (cursorM_) {
        const auto nearest =
            std::min_element(points_.begin(), points_.end(), [&](const auto& a, const auto& b) {
                return std::abs(a.alongM - *cursorM_) < std::abs(b.alongM - *cursorM_);
            });
        p.setPen(QPen(theme_.heather, 1.2));
        p.drawLine(QPointF(x(nearest->alongM), area.top()), QPointF(x(nearest->alongM), area.bottom()));
        p.drawText(QRectF(area.left(), area.top() + 2, area.width() - 4, 16), Qt::AlignRight,
                   QString("%1  %2 %  %3°")
                       .arg(lengthText(nearest->alongM, 2))
                       .arg(written(100.0 * std::abs(nearest->ampere) / largestA_, 'f', 1))
                       .arg(written(std::arg(nearest->ampere) / kDegree, 'f', 0)));
    }
}

void CurrentPlot::mouseMoveEvent(QMouseEvent* event) {
    const QRectF area = plot();
    if (points_.empty()) return;
    cursorM_ = points_.back().alongM * (event->position().x() - area.left()) / area.width();
    update();
}

void CurrentPlot::leaveEvent(QEvent*) {
    cursorM_.reset();
    update();
}

CurrentView::CurrentView(QWidget* parent) : StudyFrame(parent) {
    setTitle(tr("Current along a part"));
    parts_ = new QComboBox;
    parts_->setAccessibleName(tr("Part"));
    addContent(parts_, 0);
    plot_ = new CurrentPlot;
    addContent(plot_, 1);
    connect(parts_, &QComboBox::activated, this, &CurrentView::refresh);
}

void CurrentView::setResults(const ResultsPtr& results) {
    if (shown_ && shown_->analysis == results->analysis) return;
    shown_ = results;
    const QString chosen = parts_->currentText();
    QStringList names;
    for (const auto& wire : shown_->expansion->model.wires)
        if (!names.contains(QString::fromStdString(wire.part))) names << QString::fromStdString(wire.part);
    parts_->clear();
    parts_->addItems(names);
    parts_->setCurrentIndex(std::max<int>(0, static_cast<int>(names.indexOf(chosen))));
    refresh();
}

void CurrentView::choose(const QString& part) {
    if (const int index = parts_->findText(part); index >= 0) parts_->setCurrentIndex(index);
    refresh();
}

void CurrentView::refresh() {
    if (!shown_) return;
    const auto& expansion = *shown_->expansion;
    const auto& analysis = *shown_->analysis;
    double largest = 0.0;
    for (int i = 0; i < parts_->count(); ++i)
        for (const auto& p : study::currentAlong(expansion, analysis, parts_->itemText(i).toStdString()))
            largest = std::max(largest, std::abs(p.ampere));
    plot_->setPoints(study::currentAlong(expansion, analysis, parts_->currentText().toStdString()), largest);
}

}  // namespace rm::app
