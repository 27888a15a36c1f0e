#include "app/stages/field/field_canvas.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/frame.h"
#include "app/plot/ticks.h"
#include "core/model/geometry.h"

namespace rm::app {

namespace {

constexpr double kLeft = 46.0;
constexpr double kRight = 86.0;
constexpr double kTop = 8.0;
constexpr double kBottom = 36.0;
constexpr int kFrameMs = 40;
constexpr double kPhaseStep = 2.0 * kPi / 36.0;
/// Lines of equal value stand this far apart: 1, 2, 5, 10.
constexpr double kSteps[] = {1.0, 2.0, 5.0};

}  // namespace

FieldCanvas::FieldCanvas(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setMinimumSize(320, 260);
    setAccessibleName(tr("Field close to the antenna"));
    timer_.setInterval(kFrameMs);
    connect(&timer_, &QTimer::timeout, this, [this] {
        phase_ = std::fmod(phase_ + kPhaseStep, 2.0 * kPi);
        recolour();
    });
}

void FieldCanvas::setMap(FieldMapPtr map, ExpansionPtr expansion, const NearLook& look) {
    // Another plane has other columns and rows.
    if (map_ && map && (map->plane.columns != map_->plane.columns || map->plane.rows != map_->plane.rows))
        line_.reset();
    map_ = std::move(map);
    expansion_ = std::move(expansion);
    look_ = look;
    refreshLines();
    recolour();
}

void FieldCanvas::setLook(const NearLook& look) {
    look_ = look;
    refreshLines();
    recolour();
}

void FieldCanvas::setRules(std::optional<model::KeepClear> rules) {
    rules_ = std::move(rules);
    refreshLines();
    update();
}

void FieldCanvas::setAnimated(bool on) {
    if (on)
        timer_.start();
    else
        timer_.stop();
    recolour();
}

void FieldCanvas::themeChanged() {
    recolour();
}

void FieldCanvas::recolour() {
    if (!map_) return update();
    const bool sign =
        (animated() || look_.kind == study::FieldKind::Power) && look_.part != study::FieldPart::Total;
    scale_ = fieldScale(*map_, look_, sign);
    image_ = fieldImage(*map_, look_, scale_, theme_, animated() ? std::optional(phase_) : std::nullopt);
    update();
}

void FieldCanvas::refreshLines() {
    lines_.clear();
    for (auto& limit : limits_) limit.clear();
    if (!map_) return;
    const FieldScale scale = fieldScale(*map_, look_, false);
    std::vector<double> values;
    for (const auto& field : map_->fields)
        values.push_back(std::abs(study::fieldValue(field, look_.kind, look_.part, look_.peak)));
    for (double decade = std::pow(10.0, std::floor(std::log10(scale.low))); decade <= scale.high;
         decade *= 10.0)
        for (const double step : kSteps) {
            const double level = decade * step;
            if (level < scale.low || level > scale.high) continue;
            lines_.push_back(study::levelLines(values, map_->plane.columns, map_->plane.rows, level));
        }
    if (!rules_) return;
    for (const study::Person person : {study::Person::Public, study::Person::Operator}) {
        const auto limits = study::fieldLimits(*rules_, person, map_->frequencyHz);
        const double counted = study::countedShare(*rules_);
        for (std::size_t i = 0; i < map_->fields.size(); ++i)
            values[i] = study::exposure(map_->fields[i], limits, counted);
        limits_[static_cast<std::size_t>(person)] =
            study::levelLines(values, map_->plane.columns, map_->plane.rows, 1.0);
    }
}

QRectF FieldCanvas::area() const {
    const QRectF room = QRectF(rect()).adjusted(kLeft, kTop, -kRight, -kBottom);
    if (!map_) return room;
    const double wide = map_->plane.rightM.norm() * (map_->plane.columns - 1);
    const double high = map_->plane.upM.norm() * (map_->plane.rows - 1);
    const double scale = std::min(room.width() / wide, room.height() / high);
    return {room.center().x() - 0.5 * wide * scale, room.center().y() - 0.5 * high * scale, wide * scale,
            high * scale};
}

QPointF FieldCanvas::placeOf(double column, double row) const {
    const QRectF box = area();
    return {box.left() + box.width() * column / (map_->plane.columns - 1),
            box.bottom() - box.height() * row / (map_->plane.rows - 1)};
}

std::optional<QPointF> FieldCanvas::gridAt(const QPointF& at) const {
    const QRectF box = area();
    if (!map_ || !box.contains(at)) return std::nullopt;
    return QPointF((at.x() - box.left()) / box.width() * (map_->plane.columns - 1),
                   (box.bottom() - at.y()) / box.height() * (map_->plane.rows - 1));
}

QString FieldCanvas::reading() const {
    if (!pointer_ || !map_) return {};
    const auto grid = gridAt(*pointer_);
    if (!grid) return {};
    const auto& field =
        map_->at(std::clamp(static_cast<int>(std::lround(grid->x())), 0, map_->plane.columns - 1),
                 std::clamp(static_cast<int>(std::lround(grid->y())), 0, map_->plane.rows - 1));
    const Vec3 at = map_->plane.at(grid->x(), grid->y());
    const auto value = [&](study::FieldKind kind) {
        return written(study::fieldValue(field, kind, study::FieldPart::Total, look_.peak), 'g', 3);
    };
    QString words = tr("%1 V/m, %2 A/m (%3), %4 W/m² at %5 forward, %6 left, %7 up")
                        .arg(value(study::FieldKind::Electric), value(study::FieldKind::Magnetic),
                             look_.peak ? tr("peak") : tr("rms"), value(study::FieldKind::Power))
                        .arg(lengthText(at.x(), 1), lengthText(at.y(), 1), lengthText(at.z(), 1))
                        .replace("-", QChar(0x2212));
    if (look_.part != study::FieldPart::Total)
        words +=
            tr(", %1 %2 of it %3")
                .arg(written(study::fieldValue(field, look_.kind, look_.part, look_.peak), 'g', 3))
                .arg(study::unitOf(look_.kind), look_.part == study::FieldPart::Front  ? tr("forward")
                                                : look_.part == study::FieldPart::Left ? tr("to the left")
                                                                                       : tr("upright"))
                .replace("-", QChar(0x2212));
    if (nearWire(at)) words += tr("; so close to a wire an estimate");
    if (rules_) {
        const auto limits = study::fieldLimits(*rules_, study::Person::Public, map_->frequencyHz);
        words +=
            tr(": %1 % of the public's limit")
                .arg(written(100.0 * study::exposure(field, limits, study::countedShare(*rules_)), 'g', 3));
    }
    return words;
}

/// Between the points of the map.
double FieldCanvas::valueAt(const QPointF& grid) const {
    const int column = std::clamp(static_cast<int>(grid.x()), 0, map_->plane.columns - 2);
    const int row = std::clamp(static_cast<int>(grid.y()), 0, map_->plane.rows - 2);
    const double x = std::clamp(grid.x() - column, 0.0, 1.0);
    const double y = std::clamp(grid.y() - row, 0.0, 1.0);
    const auto value = [&](int c, int r) {
        return std::abs(study::fieldValue(map_->at(c, r), look_.kind, look_.part, look_.peak));
    };
    return (1.0 - y) * ((1.0 - x) * value(column, row) + x * value(column + 1, row)) +
           y * ((1.0 - x) * value(column, row + 1) + x * value(column + 1, row + 1));
}

std::vector<std::pair<double, double>> FieldCanvas::alongLine() const {
    std::vector<std::pair<double, double>> values;
    if (!map_ || !line_) return values;
    constexpr int kSamples = 200;
    const auto& [from, to] = *line_;
    const double length = (map_->plane.at(to.x(), to.y()) - map_->plane.at(from.x(), from.y())).norm();
    if (!(length > 0.0)) return values;
    for (int i = 0; i <= kSamples; ++i) {
        const double share = static_cast<double>(i) / kSamples;
        values.emplace_back(share * length, valueAt(from + share * (to - from)));
    }
    return values;
}

void FieldCanvas::paintLine(QPainter& p) const {
    const auto values = alongLine();
    if (values.empty()) return;
    const QRectF box = area();
    p.setPen(QPen(theme_.heather, 1.8));
    p.drawLine(placeOf(line_->first.x(), line_->first.y()), placeOf(line_->second.x(), line_->second.y()));
    p.setBrush(theme_.heather);
    p.drawEllipse(placeOf(line_->first.x(), line_->first.y()), 3, 3);
    // The values along it, from its dot, over the half of the map that it leaves free.
    const bool below = line_->first.y() + line_->second.y() > map_->plane.rows;
    const double high = std::min(120.0, 0.4 * box.height());
    const QRectF panel(box.left() + 8, below ? box.bottom() - high - 8 : box.top() + 8, box.width() - 16,
                       high);
    QColor back = theme_.panel;
    back.setAlpha(230);
    p.setPen(QPen(theme_.line, 1));
    p.setBrush(back);
    p.drawRoundedRect(panel, 6, 6);
    const QRectF plot = panel.adjusted(44, 18, -10, -18);
    double most = 0.0;
    for (const auto& [at, value] : values) most = std::max(most, value);
    const Range range = Range{0.0, std::max(most, 1e-12)}.rounded(3, 1e-12);
    const double step = roundStep(range.span(), 3);
    p.setFont(textFont(kTinyPt));
    for (const double v : ticksBy(range.low, range.high, step)) {
        const double y = plot.bottom() - plot.height() * (v - range.low) / range.span();
        p.setPen(QPen(theme_.line, 0.7));
        p.drawLine(QPointF(plot.left(), y), QPointF(plot.right(), y));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(panel.left(), y - 7, 40, 14), Qt::AlignRight | Qt::AlignVCenter,
                   written(v, 'g', 3));
    }
    QPolygonF curve;
    for (const auto& [at, value] : values)
        curve << QPointF(plot.left() + plot.width() * at / values.back().first,
                         plot.bottom() - plot.height() * (value - range.low) / range.span());
    p.setPen(QPen(theme_.heather, 1.8));
    p.drawPolyline(curve);
    p.setPen(theme_.softInk);
    p.drawText(QRectF(plot.left(), panel.top() + 2, plot.width(), 14), Qt::AlignLeft,
               tr("%1 along the line").arg(study::unitOf(look_.kind)));
    p.drawText(QRectF(plot.left(), plot.bottom() + 2, plot.width(), 14), Qt::AlignLeft, "0");
    p.drawText(QRectF(plot.left(), plot.bottom() + 2, plot.width(), 14), Qt::AlignRight,
               lengthText(values.back().first, 1));
}

/// Within some ten radii the field of a thin line of current is not that of a tube.
bool FieldCanvas::nearWire(const Vec3& point) const {
    constexpr double kRadii = 10.0;
    return expansion_ && std::any_of(expansion_->model.wires.begin(), expansion_->model.wires.end(),
                                     [&](const model::PlainWire& wire) {
                                         return model::pointToSegment(point, wire.startM, wire.endM) <
                                                kRadii * (wire.radiusM + wire.coatM);
                                     });
}

void FieldCanvas::mousePressEvent(QMouseEvent* event) {
    const auto grid = gridAt(event->position());
    if (!grid || event->button() != Qt::LeftButton) return;
    line_ = {*grid, *grid};
    drawing_ = true;
    update();
}

void FieldCanvas::mouseReleaseEvent(QMouseEvent*) {
    drawing_ = false;
    // A click without a way takes the line away.
    if (line_ && alongLine().empty()) line_.reset();
    update();
}

void FieldCanvas::mouseMoveEvent(QMouseEvent* event) {
    pointer_ = event->position();
    if (const auto grid = gridAt(event->position()); drawing_ && line_ && grid) {
        line_->second = *grid;
        update();
    }
    Q_EMIT pointerMoved();
}

void FieldCanvas::leaveEvent(QEvent*) {
    pointer_.reset();
    Q_EMIT pointerMoved();
}

void FieldCanvas::paintWires(QPainter& p) const {
    if (!expansion_) return;
    const auto& plane = map_->plane;
    const Vec3 right = plane.rightM / plane.rightM.squaredNorm();
    const Vec3 up = plane.upM / plane.upM.squaredNorm();
    const auto place = [&](const Vec3& point) {
        const Vec3 d = point - plane.cornerM;
        return placeOf(d.dot(right), d.dot(up));
    };
    p.setPen(QPen(theme_.ink, 1.4));
    for (const auto& wire : expansion_->model.wires) p.drawLine(place(wire.startM), place(wire.endM));
    p.setPen(QPen(theme_.ink, 1.0));
    p.setBrush(theme_.sun);
    for (const auto& feed : expansion_->model.feeds) {
        const auto& wire = expansion_->model.wires[feed.place.wire];
        p.drawEllipse(place(wire.startM + feed.place.at * (wire.endM - wire.startM)), 3.5, 3.5);
    }
}

void FieldCanvas::paintScale(QPainter& p) const {
    const QRectF box = area();
    const QRectF bar(box.right() + 14, box.top() + 16, 12,
                     std::max(60.0, std::min(box.height() - 20, 320.0)));
    for (int y = 0; y < static_cast<int>(bar.height()); ++y) {
        p.setPen(fieldColour(theme_, 1.0 - y / (bar.height() - 1.0), scale_.sign));
        p.drawLine(QPointF(bar.left(), bar.top() + y), QPointF(bar.right(), bar.top() + y));
    }
    p.setPen(QPen(theme_.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(bar);
    p.setFont(textFont(kTinyPt));
    p.setPen(theme_.softInk);
    p.drawText(QRectF(bar.left() - 4, bar.top() - 16, 70, 14), Qt::AlignLeft, study::unitOf(look_.kind));
    const int marks = 5;
    for (int i = 0; i < marks; ++i) {
        const double share = static_cast<double>(i) / (marks - 1);
        p.drawText(QRectF(bar.right() + 4, bar.bottom() - share * bar.height() - 7, 52, 14),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   written(scale_.valueAt(share), 'g', 2).replace("-", QChar(0x2212)));
    }
}

void FieldCanvas::paintAxes(QPainter& p) const {
    const auto& plane = map_->plane;
    const QRectF box = area();
    const LengthUnit unit = lengthUnit();
    p.setFont(textFont(kTinyPt));
    const auto axis = [&](bool level) {
        const Vec3 step = level ? plane.rightM : plane.upM;
        const int count = (level ? plane.columns : plane.rows) - 1;
        // Along the largest part of the direction, in the coordinates of the design.
        Eigen::Index along = 0;
        step.cwiseAbs().maxCoeff(&along);
        const bool slanted = level && map_->place.upright && step.cwiseAbs().maxCoeff() < 0.999 * step.norm();
        const double length = step.norm() * count;
        const double from = slanted ? -0.5 * length : plane.cornerM(along);
        const double to = slanted ? 0.5 * length : from + step(along) * count;
        const double mark = roundStep(std::abs(to - from) / unit.metres, 6);
        for (const double value :
             ticksBy(std::min(from, to) / unit.metres, std::max(from, to) / unit.metres, mark)) {
            const double share = (value * unit.metres - from) / (to - from);
            p.setPen(theme_.softInk);
            if (level) {
                const double x = box.left() + share * box.width();
                p.drawLine(QPointF(x, box.bottom()), QPointF(x, box.bottom() + 3));
                p.drawText(QRectF(x - 24, box.bottom() + 4, 48, 13), Qt::AlignCenter, tickText(value, mark));
            } else {
                const double y = box.bottom() - share * box.height();
                p.drawLine(QPointF(box.left() - 3, y), QPointF(box.left(), y));
                p.drawText(QRectF(box.left() - 44, y - 7, 38, 14), Qt::AlignRight | Qt::AlignVCenter,
                           tickText(value, mark));
            }
        }
        const QString names[] = {tr("%1 forward"), tr("%1 to the left"), tr("%1 up")};
        const QString name = slanted
                                 ? tr("%1 along %2° of azimuth").arg(unit.name).arg(map_->place.azimuthDeg)
                                 : names[along].arg(unit.name);
        if (level) {
            p.drawText(QRectF(box.left(), box.bottom() + 18, box.width(), 14), Qt::AlignCenter, name);
        } else {
            p.save();
            p.translate(box.left() - 40, box.center().y());
            p.rotate(-90);
            p.drawText(QRectF(-80, -8, 160, 14), Qt::AlignCenter, name);
            p.restore();
        }
    };
    axis(true);
    axis(false);
}

void FieldCanvas::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(kSmallPt));
    if (!map_ || image_.isNull()) {
        p.setPen(theme_.softInk);
        p.drawText(rect(), Qt::AlignCenter, tr("No field yet: it comes with the figures."));
        return;
    }
    const QRectF box = area();
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(box, image_);
    p.save();
    p.setClipRect(box);
    const auto draw = [&](const std::vector<study::MapSegment>& pieces) {
        for (const auto& piece : pieces)
            p.drawLine(placeOf(piece.fromColumn, piece.fromRow), placeOf(piece.toColumn, piece.toRow));
    };
    if (!animated()) {
        QColor thin = theme_.ink;
        thin.setAlpha(70);
        p.setPen(QPen(thin, 0.7));
        for (const auto& line : lines_) draw(line);
    }
    p.setPen(QPen(theme_.sun, 2.0, Qt::DashLine));
    draw(limits_[1]);
    p.setPen(QPen(theme_.clay, 2.4));
    draw(limits_[0]);
    if (map_->place.upright && expansion_ && expansion_->model.ground.kind != model::GroundKind::FreeSpace) {
        p.setPen(QPen(theme_.reed, 2.0));
        p.drawLine(box.bottomLeft(), box.bottomRight());
    }
    paintWires(p);
    paintLine(p);
    p.restore();
    p.setPen(QPen(theme_.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(box);
    paintScale(p);
    paintAxes(p);
}

}  // namespace rm::app
