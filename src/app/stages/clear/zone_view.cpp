#include "app/stages/clear/zone_view.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"

namespace rm::app {

namespace {

/// Of a line of the legend in its colour, and of what follows its name.
constexpr double kSample = 28.0;
constexpr double kBesideLegend = 12.0;
/// Zones within this part of the reach of a plan are hard to see on it.
constexpr double kSmall = 0.3;
/// No less is drawn large, m.
constexpr double kLeastAcross = 0.2;

bool small(const QRectF& zones, double reachM) {
    return std::hypot(zones.width(), zones.height()) < kSmall * reachM;
}

}  // namespace

ZoneView::ZoneView(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("Zones from above"));
    setMinimumHeight(120);
}

void ZoneView::setRows(ClearPtr table, int row, ExpansionPtr expansion) {
    table_ = std::move(table);
    row_ = row;
    expansion_ = std::move(expansion);
    update();
}

QString ZoneView::band() const {
    if (!table_ || row_ < 0 || row_ >= static_cast<int>(table_->rows.size())) return {};
    return text(table_->rows[static_cast<std::size_t>(row_)].band);
}

std::vector<ZoneView::Zone> ZoneView::zones() const {
    std::vector<Zone> all;
    if (!table_) return all;
    for (const auto& row : table_->rows) {
        if (text(row.band) != band()) continue;
        const bool people = row.person == study::Person::Public;
        const QColor colour = people ? theme_.clay : theme_.sun;
        const QString who = people ? tr("public") : tr("operator");
        all.push_back(
            {&row.head, colour, false, tr("%1, at %2").arg(who, lengthUnit().near(row.head.heightM))});
        all.push_back(
            {&row.window, colour, true, tr("%1, at %2").arg(who, lengthUnit().near(row.window.heightM))});
    }
    return all;
}

std::size_t ZoneView::pieces() const {
    std::size_t sum = 0;
    for (const auto& zone : zones()) sum += zone.zone->contour.size();
    return sum;
}

double ZoneView::reach() const {
    const model::Bounds box = expansion_->model.bounds();
    double most = 0.55 * std::max(1.0, std::hypot(box.high.x() - box.low.x(), box.high.y() - box.low.y()));
    for (const auto& zone : zones()) most = std::max(most, 1.1 * zone.zone->fromMiddleM);
    return most;
}

QRectF ZoneView::extent() const {
    QRectF all;
    for (const auto& zone : zones())
        for (const auto& piece : zone.zone->contour) {
            const Vec3 from = zone.zone->plane.at(piece.fromColumn, piece.fromRow);
            const Vec3 to = zone.zone->plane.at(piece.toColumn, piece.toRow);
            // A piece may lie along one side of the plane, and a rectangle of no width has no union.
            all |= QRectF(QPointF(from.x(), from.y()), QPointF(to.x(), to.y()))
                       .normalized()
                       .adjusted(-1e-3, -1e-3, 1e-3, 1e-3);
        }
    return all;
}

QString ZoneView::legendOf(const Zone& zone) {
    return zone.name + (zone.zone->contour.empty() ? tr(": nowhere") : "");
}

QStringList ZoneView::legend() const {
    QStringList all;
    for (const auto& zone : zones()) all << legendOf(zone);
    return all;
}

double ZoneView::legendWidth() const {
    const QFontMetricsF metrics(textFont(kTinyPt));
    double widest = 0.0;
    for (const auto& line : legend()) widest = std::max(widest, metrics.horizontalAdvance(line));
    return kSample + widest + kBesideLegend;
}

QRectF ZoneView::area() const {
    return QRectF(rect()).adjusted(legendWidth(), 4, -10, -18);
}

QRectF ZoneView::lens() const {
    if (!expansion_ || extent().isEmpty() || !small(extent(), reach())) return {};
    const double side = std::min(0.5 * area().width(), area().height()) - 4.0;
    return {area().right() - side, area().top() + 2.0, side, side};
}

void ZoneView::paintEvent(QPaintEvent*) {
    if (zones().empty() || !expansion_) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTinyPt));
    const QRectF glass = lens();
    const QRectF left = area().adjusted(0, 0, -glass.width(), 0);
    const Vec3 middle = expansion_->model.bounds().centre();
    const Above above{left.center(), QPointF(middle.x(), middle.y()),
                      0.5 * std::min(left.width(), left.height()) / reach()};
    paintRings(p, above);
    paintPlan(p, above);
    if (!glass.isEmpty()) paintLens(p, above, glass);
    paintLegend(p);
}

void ZoneView::paintRings(QPainter& p, const Above& above) const {
    const LengthUnit unit = lengthUnit();
    const double step = roundStep(reach() / unit.metres, 3);
    p.setBrush(Qt::NoBrush);
    for (int ring = 1; ring <= 4 && ring * step * unit.metres <= reach(); ++ring) {
        const double radius = ring * step * unit.metres * above.pixelsPerM;
        p.setPen(QPen(theme_.line, 0.8));
        p.drawEllipse(above.at, radius, radius);
        p.setPen(theme_.softInk);
        p.drawText(QRectF(above.at.x() + radius - 40, above.at.y() + 2, 38, 12), Qt::AlignRight,
                   unit.text(ring * step));
    }
}

void ZoneView::paintPlan(QPainter& p, const Above& above) const {
    p.setPen(QPen(theme_.copper, 1.6));
    for (const auto& wire : expansion_->model.wires)
        p.drawLine(above.place(wire.startM), above.place(wire.endM));
    for (const auto& zone : zones()) {
        p.setPen(QPen(zone.colour, 1.8, zone.dashed ? Qt::DashLine : Qt::SolidLine));
        for (const auto& piece : zone.zone->contour)
            p.drawLine(above.place(zone.zone->plane.at(piece.fromColumn, piece.fromRow)),
                       above.place(zone.zone->plane.at(piece.toColumn, piece.toRow)));
    }
}

void ZoneView::paintLens(QPainter& p, const Above& above, const QRectF& glass) const {
    const QRectF zone = extent();
    const double across = std::max(std::hypot(zone.width(), zone.height()), kLeastAcross);
    const Above large{glass.center(), zone.center(), 0.8 * glass.width() / across};
    const QPointF here = above.place({zone.center().x(), zone.center().y(), 0.0});
    const double radius = 0.5 * glass.width();
    p.setPen(QPen(theme_.softInk, 0.8));
    const QPointF way = glass.center() - here;
    p.drawLine(here, glass.center() - way * (radius / std::hypot(way.x(), way.y())));
    p.save();
    QPainterPath round;
    round.addEllipse(glass);
    p.fillPath(round, theme_.panel);
    p.setClipPath(round);
    paintPlan(p, large);
    p.restore();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme_.softInk, 0.8));
    p.drawEllipse(glass);
    // How large that is.
    const LengthUnit unit = lengthUnit();
    const double bar = roundStep(across / unit.metres, 3);
    const double half = 0.5 * bar * unit.metres * large.pixelsPerM;
    const QPointF under(glass.center().x(), glass.bottom() - 0.13 * glass.height());
    p.setPen(QPen(theme_.softInk, 1.2));
    p.drawLine(under - QPointF(half, 0), under + QPointF(half, 0));
    const QString length = unit.text(bar);
    const QRectF words(under.x() - 40, under.y() + 2, 80, 14);
    p.fillRect(p.boundingRect(words, Qt::AlignHCenter, length).adjusted(-2, 0, 2, 0), theme_.panel);
    p.drawText(words, Qt::AlignHCenter, length);
}

void ZoneView::paintLegend(QPainter& p) const {
    p.setPen(theme_.softInk);
    p.drawText(QRectF(0, 2, legendWidth(), 14), Qt::AlignLeft, tr("%1 from above").arg(band()));
    double y = 22.0;
    for (const auto& zone : zones()) {
        p.setPen(QPen(zone.colour, 1.8, zone.dashed ? Qt::DashLine : Qt::SolidLine));
        p.drawLine(QPointF(2, y + 6), QPointF(22, y + 6));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(kSample, y - 1, legendWidth() - kSample, 14), Qt::AlignLeft, legendOf(zone));
        y += 16.0;
    }
}

}  // namespace rm::app
