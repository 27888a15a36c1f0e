#include "app/stages/compare/overlay_plots.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kRingsDb[] = {0.0, -3.0, -10.0, -20.0, -30.0};

double share(double belowDb) {
    return std::pow(10.0, std::clamp(belowDb, -60.0, 0.5) / 40.0);
}

}  // namespace

OverlayPlots::OverlayPlots(QWidget* parent) : Themed(parent) {
    setMinimumHeight(200);
    setAccessibleName(tr("Patterns compared"));
}

void OverlayPlots::setPatterns(ComparisonPtr comparison, int band, int baseline) {
    comparison_ = std::move(comparison);
    band_ = band;
    baseline_ = baseline;
    update();
}

void OverlayPlots::setTitles(const QString& elevation, const QString& azimuth) {
    elevationTitle_ = elevation;
    azimuthTitle_ = azimuth;
}

const study::CompareCell* OverlayPlots::cell(int row) const {
    if (!comparison_ || row < 0 || row >= rows() || band_ >= static_cast<int>(comparison_->bands.size()))
        return nullptr;
    const auto& c = comparison_->rows[static_cast<std::size_t>(row)].cells[static_cast<std::size_t>(band_)];
    return c.known() ? &c : nullptr;
}

std::optional<double> OverlayPlots::differenceDb(int row, double elevationDeg) const {
    const auto* own = cell(row);
    const auto* base = cell(baseline_);
    if (own == nullptr || base == nullptr) return std::nullopt;
    const double a = own->analysis->elevation.at(elevationDeg);
    const double b = base->analysis->elevation.at(elevationDeg);
    if (a < -60.0 || b < -60.0) return std::nullopt;
    return a - b;
}

void OverlayPlots::paintElevation(QPainter& p, QRectF box, double strongest) const {
    const double r = std::min(0.5 * box.width() - 8.0, box.height() - 34.0);
    const QPointF centre(box.center().x(), box.bottom() - 14.0);
    p.setFont(textFont(kTinyPt));
    for (const double level : kRingsDb) {
        const double s = r * share(level);
        p.setPen(QPen(theme_.line, 0.9));
        p.setBrush(Qt::NoBrush);
        p.drawArc(QRectF(centre.x() - s, centre.y() - s, 2 * s, 2 * s), 0, 180 * 16);
        p.setPen(theme_.softInk);
        if (level < 0.0)
            p.drawText(QRectF(centre.x() - 14, centre.y() - s - 6, 28, 12), Qt::AlignCenter,
                       QString::fromStdString(quantity::formatDb(level, 0)));
    }
    p.setPen(QPen(theme_.softInk, 1.0));
    p.drawLine(QPointF(centre.x() - r - 6, centre.y()), QPointF(centre.x() + r + 6, centre.y()));
    p.setPen(QPen(theme_.softInk, 0.7, Qt::DotLine));
    for (const double watch : comparison_->angles.watchDeg) {
        const double a = watch * kDegree;
        p.drawLine(centre, centre + r * QPointF(std::cos(a), -std::sin(a)));
    }
    for (int row = 0; row < rows(); ++row) {
        const auto* c = cell(row);
        if (c == nullptr) continue;
        const auto& cut = c->analysis->elevation;
        QPolygonF curve;
        for (std::size_t i = 0; i < cut.angleDeg.size() && cut.angleDeg[i] <= 180.0; ++i) {
            const double a = cut.angleDeg[i] * kDegree;
            curve << centre + r * share(cut.gainDbi[i] - strongest) * QPointF(std::cos(a), -std::sin(a));
        }
        p.setPen(QPen(rowColour(theme_, row), row == baseline_ ? 2.6 : 1.6, rowDash(row)));
        p.drawPolyline(curve);
    }
    p.setFont(textFont(kSmallPt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(box.left() + 4, box.top(), box.width(), 16), Qt::AlignLeft, elevationTitle_);
}

void OverlayPlots::paintAzimuth(QPainter& p, QRectF box, double strongest) const {
    const double r = 0.5 * std::min(box.width(), box.height() - 20.0) - 12.0;
    const QPointF centre(box.center().x(), box.top() + 18.0 + 0.5 * (box.height() - 20.0));
    for (const double level : kRingsDb) {
        const double s = r * share(level);
        p.setPen(QPen(theme_.line, 0.9));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(centre, s, s);
    }
    p.setFont(textFont(kTinyPt, true));
    p.setPen(theme_.softInk);
    for (const auto& [name, bearing] :
         {std::pair{tr("N"), 0.0}, {tr("E"), 90.0}, {tr("S"), 180.0}, {tr("W"), 270.0}}) {
        const double a = (90.0 - bearing) * kDegree;
        const QPointF at = centre + (r + 8.0) * QPointF(std::cos(a), -std::sin(a));
        p.drawText(QRectF(at.x() - 8, at.y() - 7, 16, 14), Qt::AlignCenter, name);
    }
    for (int row = 0; row < rows(); ++row) {
        const auto* c = cell(row);
        if (c == nullptr) continue;
        const auto& cut = c->analysis->azimuth;
        const double heading = comparison_->rows[static_cast<std::size_t>(row)].headingDeg;
        QPolygonF curve;
        for (std::size_t i = 0; i < cut.angleDeg.size(); ++i) {
            const double a = (90.0 - (heading - cut.angleDeg[i])) * kDegree;
            curve << centre + r * share(cut.gainDbi[i] - strongest) * QPointF(std::cos(a), -std::sin(a));
        }
        p.setPen(QPen(rowColour(theme_, row), row == baseline_ ? 2.6 : 1.6, rowDash(row)));
        p.drawPolyline(curve);
    }
    p.setFont(textFont(kSmallPt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(box.left() + 4, box.top(), box.width(), 16), Qt::AlignLeft, azimuthTitle_);
}

void OverlayPlots::paintDifference(QPainter& p, QRectF box) const {
    const QRectF plot = box.adjusted(34, 18, -8, -16);
    p.setFont(textFont(kSmallPt, true));
    p.setPen(theme_.ink);
    p.drawText(QRectF(box.left() + 4, box.top(), box.width(), 16), Qt::AlignLeft,
               baseline_ >= 0 && baseline_ < rows()
                   ? tr("dB above ") +
                         QString::fromStdString(comparison_->rows[static_cast<std::size_t>(baseline_)].name) +
                         tr(", against elevation")
                   : tr("Click a name above to make it the baseline"));
    double largest = 0.0;
    for (int row = 0; row < rows(); ++row)
        for (double a = 3.0; a <= 90.0; a += 3.0)
            if (const auto d = differenceDb(row, a)) largest = std::max(largest, std::abs(*d));
    // Halves of it are whole decibels.
    const double reach = largest <= 6.0 ? 6.0 : largest <= 10.0 ? 10.0 : 20.0;
    const auto at = [&](double elevation, double db) {
        return QPointF(plot.left() + plot.width() * elevation / 90.0,
                       plot.center().y() - 0.5 * plot.height() * std::clamp(db / reach, -1.0, 1.0));
    };
    p.setFont(textFont(kTinyPt));
    for (const double db : {-reach, -0.5 * reach, 0.0, 0.5 * reach, reach}) {
        p.setPen(QPen(theme_.line, db == 0.0 ? 1.4 : 0.7));
        p.drawLine(at(0, db), at(90, db));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(box.left(), at(0, db).y() - 7, 30, 14), Qt::AlignRight | Qt::AlignVCenter,
                   QString::fromStdString(quantity::formatDb(db, 0)));
    }
    for (const double elevation : {0.0, 15.0, 30.0, 45.0, 60.0, 75.0, 90.0}) {
        p.setPen(QPen(theme_.line, 0.7));
        p.drawLine(at(elevation, -reach), at(elevation, reach));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(at(elevation, 0).x() - 16, plot.bottom() + 1, 32, 13), Qt::AlignCenter,
                   QString("%1°").arg(elevation));
    }
    for (int row = 0; row < rows(); ++row) {
        if (row == baseline_) continue;
        QPolygonF curve;
        for (double a = 1.0; a <= 90.0; a += 1.0)
            if (const auto d = differenceDb(row, a)) curve << at(a, *d);
        p.setPen(QPen(rowColour(theme_, row), 1.7, rowDash(row)));
        p.drawPolyline(curve);
    }
}

void OverlayPlots::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!comparison_) return;
    double strongest = -999.0;
    for (int row = 0; row < rows(); ++row)
        if (const auto* c = cell(row)) strongest = std::max(strongest, c->analysis->figures.peak.gainDbi);
    if (strongest < -900.0) {
        p.setPen(theme_.softInk);
        p.drawText(rect(), Qt::AlignCenter, tr("None of these antennas is for this band."));
        return;
    }
    const double upper = 0.58 * height();
    paintElevation(p, QRectF(0, 0, 0.58 * width(), upper), strongest);
    paintAzimuth(p, QRectF(0.58 * width(), 0, 0.42 * width(), upper), strongest);
    paintDifference(p, QRectF(0, upper + 4, width(), height() - upper - 4));
}

}  // namespace rm::app
