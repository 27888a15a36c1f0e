#include "app/stages/site/site_scene.h"

#include <QLineF>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/plot/ticks.h"

namespace rm::app {

namespace {

/// To the centimetre, without zeros that say nothing: a plan is read with a tape in hand.
QString tapeWords(double metres, bool feet) {
    if (feet) return lengthWords(metres, true);
    const double rounded = std::round(100.0 * metres) / 100.0;
    return QString("%1%2 m").arg(rounded < 0.0 ? "−" : "").arg(std::abs(rounded));
}

}  // namespace

QString placeWords(const QPointF& eastNorthM, bool feet) {
    return tr("%1 east, %2 north").arg(tapeWords(eastNorthM.x(), feet), tapeWords(eastNorthM.y(), feet));
}

QString runWords(const QPointF& fromM, const QPointF& toM, bool feet) {
    const QPointF run = toM - fromM;
    const double bearing = std::fmod(std::atan2(run.x(), run.y()) / kDegree + 360.0, 360.0);
    return QString("%1, %2°")
        .arg(tapeWords(std::hypot(run.x(), run.y()), feet))
        .arg(std::lround(bearing) % 360, 3, 10, QChar('0'));
}

void SiteScene::label(const QPointF& at, const QString& words, const QColor& colour, bool centred) {
    const double wide = p_.fontMetrics().horizontalAdvance(words) + 6.0;
    QRectF box(at, QSizeF(wide, p_.fontMetrics().height()));
    if (centred) box.moveCenter(at);
    const QRectF view(QPointF(2.0, 2.0), s_.map.size - QSizeF(4.0, 4.0));
    // To the other side, down or up where another one stands or the view ends.
    const double over = wide + 22.0;
    for (const QPointF& shift : {QPointF(0, 0), QPointF(-over, 0), QPointF(0, 16), QPointF(0, -16),
                                 QPointF(-0.5 * over, 20), QPointF(-0.5 * over, -20), QPointF(0, 30)}) {
        const QRectF tried = box.translated(shift);
        if (!view.contains(tried)) continue;
        if (std::any_of(taken_.begin(), taken_.end(),
                        [&](const QRectF& other) { return other.intersects(tried); }))
            continue;
        taken_.push_back(tried);
        QColor behind = s_.theme.yard;
        behind.setAlphaF(0.78F);
        p_.fillRect(tried, behind);
        p_.setPen(colour);
        p_.drawText(tried, Qt::AlignCenter, words);
        return;
    }
}

void SiteScene::paint() {
    picture();
    grid();
    if (s_.expansion) {
        supports();
        ropes();
        wires();
        distances();
    }
    measure();
    north();
}

void SiteScene::picture() {
    if (s_.picture == nullptr || !s_.picture->canShow(s_.site->backdrop)) return;
    p_.save();
    p_.setRenderHint(QPainter::SmoothPixmapTransform);
    p_.setOpacity(s_.theme.dark ? 0.55 : 0.7);
    p_.setTransform(s_.picture->onto(s_.map, s_.site->backdrop), true);
    p_.drawImage(QPointF(0, 0), s_.picture->image());
    p_.restore();
}

void SiteScene::grid() {
    const QSizeF& size = s_.map.size;
    const double unit = s_.feet ? 0.3048 : 1.0;
    const double step = roundStep(size.width() / s_.map.pixelsPerM / unit, 9) * unit;
    const QPointF low = s_.map.metres({0, size.height()});
    const QPointF high = s_.map.metres({size.width(), 0});
    QColor faint = s_.theme.softInk;
    faint.setAlphaF(0.16F);
    p_.setFont(textFont(kTinyPt));
    const auto number = [&](double metres) {
        return QString("%1%2").arg(metres < -1e-9 ? "−" : "").arg(std::abs(metres) / unit);
    };
    for (const double east : ticksBy(low.x(), high.x(), step)) {
        const double x = s_.map.at({east, 0.0}).x();
        p_.setPen(QPen(faint, std::abs(east) < 1e-9 ? 1.6 : 0.8));
        p_.drawLine(QPointF(x, 0), QPointF(x, size.height()));
        p_.setPen(s_.theme.softInk);
        p_.drawText(QRectF(x - 30, size.height() - 15, 60, 13), Qt::AlignCenter, number(east));
    }
    for (const double north : ticksBy(low.y(), high.y(), step)) {
        const double y = s_.map.at({0.0, north}).y();
        p_.setPen(QPen(faint, std::abs(north) < 1e-9 ? 1.6 : 0.8));
        p_.drawLine(QPointF(0, y), QPointF(size.width(), y));
        p_.setPen(s_.theme.softInk);
        if (y > 32.0) p_.drawText(QRectF(4, y - 14, 60, 13), Qt::AlignLeft | Qt::AlignVCenter, number(north));
    }
    p_.drawText(QRectF(size.width() - 150, size.height() - 30, 144, 13), Qt::AlignRight | Qt::AlignVCenter,
                s_.feet ? tr("feet to the east") : tr("metres to the east"));
    p_.drawText(QRectF(4, 4, 160, 13), Qt::AlignLeft | Qt::AlignVCenter,
                s_.feet ? tr("feet to the north") : tr("metres to the north"));
}

void SiteScene::north() {
    const QPointF c(s_.map.size.width() - 28.0, 34.0);
    p_.setPen(Qt::NoPen);
    p_.setBrush(s_.theme.ink);
    p_.drawPolygon(
        QPolygonF({c + QPointF(0, -18), c + QPointF(5, 6), c + QPointF(0, 2), c + QPointF(-5, 6)}));
    p_.setFont(textFont(kSmallPt, true));
    p_.setPen(s_.theme.ink);
    p_.drawText(QRectF(c.x() - 10, c.y() + 7, 20, 14), Qt::AlignCenter, "N");
    if (!s_.expansion) return;
    // Where the front points, from the middle of the site.
    const QPointF middle = s_.map.at({0.0, 0.0});
    const double a = s_.expansion->headingDeg * kDegree;
    const QPointF front(std::sin(a), -std::cos(a));
    const QPointF side(-front.y(), front.x());
    const QPointF tip = middle + 26.0 * front;
    p_.setPen(QPen(s_.theme.copper, 1.4));
    p_.drawLine(middle, tip);
    p_.setPen(Qt::NoPen);
    p_.setBrush(s_.theme.copper);
    p_.drawPolygon(QPolygonF({tip + 7.0 * front, tip + 3.5 * side, tip - 3.5 * side}));
    p_.setFont(textFont(kTinyPt));
    label(tip + 14.0 * front, tr("front"), s_.theme.copper, true);
}

void SiteScene::wires() {
    for (const bool chosen : {false, true})
        for (const auto& wire : s_.expansion->model.wires) {
            const bool selected = s_.part == text(wire.origin());
            if (selected != chosen) continue;
            QColor colour = selected ? s_.theme.reed : s_.theme.copper;
            if (wire.startM.z() + wire.endM.z() < 0.0) colour.setAlphaF(0.45F);
            p_.setPen(QPen(colour, selected ? 2.6 : 2.0, Qt::SolidLine, Qt::RoundCap));
            p_.drawLine(at(wire.startM), at(wire.endM));
        }
    for (const auto& feed : s_.expansion->model.feeds) {
        const auto& wire = s_.expansion->model.wires.at(feed.place.wire);
        const QPointF c = at(wire.startM + feed.place.at * (wire.endM - wire.startM));
        p_.setPen(QPen(s_.theme.ink, 1.0));
        p_.setBrush(s_.theme.sun);
        p_.drawPolygon(
            QPolygonF({c + QPointF(0, -6), c + QPointF(5, 0), c + QPointF(0, 6), c + QPointF(-5, 0)}));
    }
}

void SiteScene::ropes() {
    p_.setBrush(Qt::NoBrush);
    for (const auto& hung : s_.expansion->hung)
        for (const auto* rope : {&hung.ropeStartM, &hung.ropeEndM}) {
            QPolygonF line;
            for (const Vec3& point : *rope) line << at(point);
            p_.setPen(QPen(s_.theme.softInk, 1.3, Qt::DashLine, Qt::FlatCap));
            if (line.size() > 1) p_.drawPolyline(line);
        }
}

void SiteScene::supports() {
    // Marks first: no label covers one.
    for (const auto& support : s_.expansion->supports)
        for (const Vec3& end : {support.topM, support.otherM})
            taken_.emplace_back(at(end) - QPointF(8, 8), QSizeF(16, 16));
    for (const auto& support : s_.expansion->supports) {
        const bool selected = s_.support == text(support.name);
        const bool chosen = s_.hanging.contains(text(support.name));
        const QColor colour = selected || chosen ? s_.theme.reed : s_.theme.ink;
        const QPointF c = at(support.topM);
        QColor fill = colour;
        p_.setPen(QPen(colour, selected ? 2.2 : 1.5));
        switch (support.kind) {
            case model::SupportKind::Tree:
                fill = s_.theme.reed;
                fill.setAlphaF(0.28F);
                p_.setBrush(fill);
                p_.drawEllipse(c, std::max(9.0, 0.16 * support.heightM() * s_.map.pixelsPerM),
                               std::max(9.0, 0.16 * support.heightM() * s_.map.pixelsPerM));
                p_.setBrush(colour);
                p_.drawEllipse(c, 2.5, 2.5);
                break;
            case model::SupportKind::RoofEdge:
            case model::SupportKind::Wall:
                p_.setPen(QPen(colour, support.kind == model::SupportKind::Wall ? 5.0 : 3.0, Qt::SolidLine,
                               Qt::FlatCap));
                p_.drawLine(c, at(support.otherM));
                p_.setPen(QPen(colour, 1.5));
                p_.setBrush(s_.theme.panel);
                p_.drawRect(QRectF(c.x() - 4, c.y() - 4, 8, 8));
                p_.drawRect(QRectF(at(support.otherM).x() - 4, at(support.otherM).y() - 4, 8, 8));
                break;
            case model::SupportKind::Peg:
                p_.drawLine(c + QPointF(-5, -5), c + QPointF(5, 5));
                p_.drawLine(c + QPointF(-5, 5), c + QPointF(5, -5));
                break;
            case model::SupportKind::Mast:
                p_.setBrush(s_.theme.panel);
                p_.drawEllipse(c, 7.0, 7.0);
                p_.setBrush(colour);
                p_.drawEllipse(c, 2.5, 2.5);
                break;
        }
        p_.setFont(textFont(kSmallPt, selected || chosen));
        QString words = text(support.name);
        if (support.kind != model::SupportKind::Peg)
            words += tr(", %1 high").arg(tapeWords(support.heightM(), s_.feet));
        label(0.5 * (c + at(support.otherM)) + QPointF(11, -6), words, colour);
    }
}

void SiteScene::measured(const QPointF& fromM, const QPointF& toM, const QColor& colour) {
    const QPointF from = s_.map.at(fromM);
    const QPointF to = s_.map.at(toM);
    if (QLineF(from, to).length() < 4.0) return;
    p_.setPen(QPen(colour, 1.1, Qt::DotLine));
    p_.drawLine(from, to);
    p_.setFont(textFont(kTinyPt));
    // Off the middle, where a feed often is.
    label(from + 0.3 * (to - from), runWords(fromM, toM, s_.feet), colour, true);
}

/// From the selected support to the others; along the selected hung wire.
void SiteScene::distances() {
    const auto compass = [&](const Vec3& point) {
        const Vec3 c = model::toCompass(point, s_.expansion->headingDeg);
        return QPointF(c.x(), c.y());
    };
    constexpr std::size_t kMost = 8;
    for (const auto& own : s_.expansion->supports) {
        if (s_.support != text(own.name)) continue;
        std::size_t drawn = 0;
        for (const auto& other : s_.expansion->supports)
            if (other.name != own.name && drawn++ < kMost)
                measured(compass(own.topM), compass(other.topM), s_.theme.heather);
    }
    for (const auto& hung : s_.expansion->hung)
        if (s_.part == text(hung.part))
            for (std::size_t i = 0; i + 1 < hung.tiedM.size(); ++i)
                measured(compass(hung.tiedM[i]), compass(hung.tiedM[i + 1]), s_.theme.heather);
}

void SiteScene::measure() {
    if (s_.measured) {
        p_.setPen(QPen(s_.theme.water, 1.6));
        p_.drawLine(s_.map.at(s_.measured->p1()), s_.map.at(s_.measured->p2()));
        measured(s_.measured->p1(), s_.measured->p2(), s_.theme.water);
    }
    for (const QPointF& point : s_.scaling) {
        p_.setPen(QPen(s_.theme.clay, 2.0));
        p_.setBrush(Qt::NoBrush);
        p_.drawEllipse(s_.map.at(point), 6.0, 6.0);
    }
    if (s_.scaling.size() == 2) measured(s_.scaling[0], s_.scaling[1], s_.theme.clay);
}

}  // namespace rm::app
