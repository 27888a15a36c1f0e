#include "app/stages/clear/zone_view.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/plot/ticks.h"

namespace rm::app {

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
        all.push_back({&row.head, colour, false, tr("%1, at %2 m").arg(who).arg(row.head.heightM)});
        all.push_back({&row.window, colour, true, tr("%1, at %2 m").arg(who).arg(row.window.heightM)});
    }
    return all;
}

std::size_t ZoneView::pieces() const {
    std::size_t sum = 0;
    for (const auto& zone : zones()) sum += zone.zone->contour.size();
    return sum;
}

void ZoneView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    const auto all = zones();
    if (all.empty() || !expansion_) return;
    // The front up and the left on the left, as on the map.
    const model::Bounds box = expansion_->model.bounds();
    const Vec3 middle = box.centre();
    double reach = 0.55 * std::max(1.0, std::hypot(box.high.x() - box.low.x(), box.high.y() - box.low.y()));
    for (const auto& zone : all) reach = std::max(reach, 1.1 * zone.zone->fromMiddleM);
    const QRectF area = QRectF(rect()).adjusted(150, 4, -10, -18);
    const double scale = 0.5 * std::min(area.width(), area.height()) / reach;
    const auto place = [&](const Vec3& point) {
        return area.center() - scale * QPointF(point.y() - middle.y(), point.x() - middle.x());
    };
    p.drawText(QRectF(0, 2, 140, 14), Qt::AlignLeft, tr("%1 from above").arg(band()));
    const double step = roundStep(reach, 3);
    p.setBrush(Qt::NoBrush);
    for (int ring = 1; ring <= 4 && ring * step <= 1.2 * reach; ++ring) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawEllipse(area.center(), ring * step * scale, ring * step * scale);
        p.setPen(theme_.softInk);
        p.drawText(QRectF(area.center().x() + ring * step * scale - 40, area.center().y() + 2, 38, 12),
                   Qt::AlignRight, QString("%1 m").arg(ring * step));
    }
    p.setPen(QPen(theme_.copper, 1.6));
    for (const auto& wire : expansion_->model.wires) p.drawLine(place(wire.startM), place(wire.endM));
    double y = 22.0;
    for (const auto& zone : all) {
        p.setPen(QPen(zone.colour, 1.8, zone.dashed ? Qt::DashLine : Qt::SolidLine));
        for (const auto& piece : zone.zone->contour)
            p.drawLine(place(zone.zone->plane.at(piece.fromColumn, piece.fromRow)),
                       place(zone.zone->plane.at(piece.toColumn, piece.toRow)));
        p.drawLine(QPointF(2, y + 6), QPointF(22, y + 6));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(28, y - 1, 130, 14), Qt::AlignLeft,
                   zone.name + (zone.zone->contour.empty() ? tr(": nowhere") : ""));
        y += 16.0;
    }
}

}  // namespace rm::app
