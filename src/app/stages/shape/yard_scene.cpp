#include "app/stages/shape/yard_scene.h"

#include <QPaintEngine>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"
#include "app/stages/shape/support_scene.h"

namespace rm::app {

namespace {

/// Of a wire's colour, what is left on the other side of the ground.
constexpr float kBehindGround = 0.4F;
/// Of the farthest wire's colour, so that what is near is read first.
constexpr double kFarthest = 0.62;
/// Drop lines closer together than this say nothing new, pixels.
constexpr double kDropApart = 22.0;
constexpr std::size_t kMostDrops = 24;
/// Of many wires the first few say it.
constexpr std::size_t kMostDropsOfMany = 12;
constexpr double kDropStrength = 0.38;
/// Steps between the nearest and the farthest wire: those of one step are drawn in one stroke.
constexpr double kDepthSteps = 12.0;
constexpr std::size_t kMostHeights = 8;
constexpr qsizetype kMostWords = 200;
/// Strokes of wires, pixels; of so many wires on one picture thinner ones are told apart better, in fewer
/// steps of depth. Not hairlines: those the raster engine draws one by one, where strokes of one pen go line
/// by line of the picture.
constexpr double kStroke = 1.7;
constexpr double kThinStroke = 1.2;
constexpr double kFewDepthSteps = 4.0;
constexpr std::size_t kManyWires = 120;

/// `share` of `colour` over what is left of `behind`, opaque.
QColor mixed(const QColor& colour, const QColor& behind, double share) {
    const auto mix = [&](float a, float b) { return static_cast<float>(share * a + (1.0 - share) * b); };
    return QColor::fromRgbF(mix(colour.redF(), behind.redF()), mix(colour.greenF(), behind.greenF()),
                            mix(colour.blueF(), behind.blueF()));
}

/// While it lives, opaque strokes replace what they cover instead of being mixed with it: the raster engine
/// does that at once, where for mixing it wakes threads for every stroke.
class Replacing {
  public:
    explicit Replacing(QPainter& painter) : painter_(painter), before_(painter.compositionMode()) {
        if (painter.paintEngine()->hasFeature(QPaintEngine::PorterDuff))
            painter.setCompositionMode(QPainter::CompositionMode_Source);
    }
    Replacing(const Replacing&) = delete;
    Replacing& operator=(const Replacing&) = delete;
    ~Replacing() {
        if (painter_.compositionMode() != before_) painter_.setCompositionMode(before_);
    }

  private:
    QPainter& painter_;
    QPainter::CompositionMode before_;
};

QRectF boxOf(const QLineF& line) {
    return QRectF(line.p1(), line.p2()).normalized().adjusted(-1, -1, 1, 1);
}

/// As QRectF::intersects() for boxes that are not empty; it is asked for every pair of wires.
bool meet(const QRectF& a, const QRectF& b) {
    return a.left() < b.right() && b.left() < a.right() && a.top() < b.bottom() && b.top() < a.bottom();
}

/// Whether a line whose box meets `box` touches it.
bool touches(const QLineF& line, const QRectF& box) {
    if (box.contains(line.p1()) || box.contains(line.p2())) return true;
    const QLineF across(box.topLeft(), box.bottomRight());
    const QLineF back(box.bottomLeft(), box.topRight());
    return line.intersects(across, nullptr) == QLineF::BoundedIntersection ||
           line.intersects(back, nullptr) == QLineF::BoundedIntersection;
}

/// Whether two lines whose boxes meet cross on the screen elsewhere than in an end that they share.
bool crossing(const QLineF& a, const QLineF& b) {
    for (const QPointF& end : {a.p1(), a.p2()})
        for (const QPointF& other : {b.p1(), b.p2()})
            if ((end - other).manhattanLength() < 1.0) return false;
    return a.intersects(b, nullptr) == QLineF::BoundedIntersection;
}

}  // namespace

void YardScene::write(const QRectF& place, Qt::Alignment alignment, const QString& words) {
    if (layers_ == nullptr) return p_.drawText(place, static_cast<int>(alignment), words);
    const QString key = p_.font().key() + words;
    auto known = layers_->words.find(key);
    if (known == layers_->words.end()) {
        // Heights and lengths change all the time: what is long gone is forgotten.
        if (layers_->words.size() >= kMostWords) layers_->words.clear();
        QStaticText set(words);
        set.setTextFormat(Qt::PlainText);
        set.prepare({}, p_.font());
        known = layers_->words.insert(key, set);
    }
    const QSizeF size = known->size();
    const double free = place.width() - size.width();
    const double left = alignment & Qt::AlignHCenter ? 0.5 * free : alignment & Qt::AlignRight ? free : 0.0;
    const double top = alignment & Qt::AlignVCenter ? 0.5 * (place.height() - size.height()) : 0.0;
    p_.drawStaticText(place.topLeft() + QPointF(left, top), *known);
}

bool YardScene::label(const QPointF& at, const QString& words, const QColor& colour, double width) {
    const double wide = width > 0.0 ? width : p_.fontMetrics().horizontalAdvance(words);
    const QRectF box(at, QSizeF(wide, p_.fontMetrics().height()));
    if (std::any_of(taken_.begin(), taken_.end(), [&](const QRectF& other) { return other.intersects(box); }))
        return false;
    taken_.push_back(box);
    p_.setPen(colour);
    write(box.adjusted(0, 0, 2, 0), Qt::AlignLeft | Qt::AlignVCenter, words);
    return true;
}

const std::vector<YardScene::SeenWire>& YardScene::seenWires() {
    if (seen_.empty())
        for (const auto& wire : s_.expansion->model.wires) {
            const QLineF line(onScreen(wire.startM), onScreen(wire.endM));
            seen_.push_back({line, boxOf(line)});
        }
    return seen_;
}

QPointF YardScene::freePlace(const QPointF& at, const QSizeF& size, std::initializer_list<QPointF> beside) {
    for (const QPointF& by : beside) {
        const QRectF box(at + by, size);
        const bool free = QRectF(QPointF(), s_.size).adjusted(8, 26, -8, -24).contains(box) &&
                          std::none_of(taken_.begin(), taken_.end(),
                                       [&](const QRectF& other) { return other.intersects(box); }) &&
                          std::none_of(seenWires().begin(), seenWires().end(), [&](const SeenWire& wire) {
                              return meet(wire.box, box) && touches(wire.line, box);
                          });
        if (free) return at + by;
    }
    return at + *beside.begin();
}

QSizeF YardScene::sizeOf(const QString& words) const {
    const QFontMetricsF metrics(p_.font());
    return {metrics.horizontalAdvance(words), metrics.height()};
}

void YardScene::labelBeside(const QPointF& at, double away, const QString& words) {
    const QSizeF size = sizeOf(words);
    const double left = -away - size.width();
    label(freePlace(at, size,
                    {QPointF(away, -17.0), QPointF(left, -17.0), QPointF(away, 5.0), QPointF(left, 5.0),
                     QPointF(-0.5 * size.width(), -30.0), QPointF(-0.5 * size.width(), 14.0)}),
          words, s_.theme.softInk);
}

void YardScene::paint() {
    // From below the soil is in front of what stands on it.
    const bool below = fromBelow();
    if (below) {
        wires(false);
        currents(false);
    }
    ground();
    gridLabel();
    compass();
    if (!below) shadows();
    if (s_.expansion)
        SupportScene(s_, p_, [this](const QPointF& at, const QString& words, const QColor& colour) {
            label(at, words, colour);
        }).paint();
    field();
    keepLines();
    lobe();
    remarks();
    keepForHandle();
    heights();
    currents(true);
    wires(true);
    if (!below) {
        currents(false);
        wires(false);
    }
    marks();
    handle();
}

void YardScene::paintBare() {
    ground();
    shadows();
    wires(true);
    wires(false);
    marks();
}

void YardScene::ground() {
    if (!s_.overGround()) return;
    const YardGrid lines = grid();
    if (layers_ == nullptr) return paintGround(p_, lines);
    // With nothing before it, it covers all there is.
    layers_->ground(p_, s_.size, fromBelow() ? QColor(Qt::transparent) : s_.theme.yard,
                    {s_.camera, lines, s_.theme.dark},
                    [&](QPainter& painter) { paintGround(painter, lines); });
}

YardGrid YardScene::grid() const {
    const double span = 2.6 * s_.extent();
    const double unit = lengthUnit().metres;
    const double step = roundStep(span / unit, 14) * unit;
    const Vec3& c = s_.centreM;
    return {Vec3(std::round(c.x() / step) * step, std::round(c.y() / step) * step, 0.0), step,
            static_cast<int>(std::ceil(0.5 * span / step))};
}

/// Grass that fades towards the horizon, with a grid to measure by.
void YardScene::paintGround(QPainter& painter, const YardGrid& grid) {
    const double edge = grid.edgeM();
    const Vec3& c = grid.centreM;
    QPolygonF field;
    for (const auto& [x, y] : {std::pair{-edge, -edge}, {edge, -edge}, {edge, edge}, {-edge, edge}})
        field << onScreen(c + Vec3(x, y, 0));
    QRadialGradient fade(onScreen(c), edge * s_.camera.pixelsPerM(s_.size) * 1.02);
    const auto fading = [&](double strength) {
        QColor colour = s_.theme.reed;
        for (const auto& [at, share] : {std::pair{0.0, 1.0}, {0.55, 0.9}, {0.85, 0.35}, {1.0, 0.0}}) {
            colour.setAlphaF(static_cast<float>(strength * share));
            fade.setColorAt(at, colour);
        }
        return QBrush(fade);
    };
    painter.setPen(Qt::NoPen);
    painter.setBrush(fading(s_.theme.dark ? 0.13 : 0.12));
    painter.drawPolygon(field);
    painter.setPen(QPen(fading(0.30), 0.8));
    painter.setBrush(Qt::NoBrush);
    for (int i = -grid.lines; i <= grid.lines; ++i) {
        const double at = i * grid.stepM;
        painter.drawLine(onScreen(c + Vec3(at, -edge, 0)), onScreen(c + Vec3(at, edge, 0)));
        painter.drawLine(onScreen(c + Vec3(-edge, at, 0)), onScreen(c + Vec3(edge, at, 0)));
    }
}

void YardScene::gridLabel() {
    if (!s_.overGround()) return;
    const LengthUnit unit = lengthUnit();
    p_.setFont(textFont(kTinyPt));
    p_.setPen(s_.theme.softInk);
    p_.drawText(QRectF(12, s_.size.height() - 20, 300, 14), Qt::AlignLeft | Qt::AlignVCenter,
                tr("grid %1%2")
                    .arg(unit.text(grid().stepM / unit.metres),
                         fromBelow() ? tr("   seen from below the ground") : ""));
}

/// What stands above the ground darkens it: where a wire is, in plan, is read from its shadow.
void YardScene::shadows() {
    if (!s_.overGround() || !s_.expansion) return;
    QColor dark = s_.theme.dark ? QColor(0, 0, 0) : s_.theme.ink;
    dark.setAlphaF(s_.theme.dark ? 0.34F : 0.10F);
    std::vector<Stroke> strokes;
    // Wires above each other throw one shadow.
    std::set<std::array<int, 4>> thrown;
    for (const auto& wire : s_.expansion->model.wires) {
        if (wire.startM.z() + wire.endM.z() < 1e-3) continue;
        QPointF from = onScreen({wire.startM.x(), wire.startM.y(), 0.0});
        QPointF to = onScreen({wire.endM.x(), wire.endM.y(), 0.0});
        if (std::make_pair(to.x(), to.y()) < std::make_pair(from.x(), from.y())) std::swap(from, to);
        if (!thrown.insert({qRound(from.x()), qRound(from.y()), qRound(to.x()), qRound(to.y())}).second)
            continue;
        strokes.push_back({from, to, dark, 2.6});
    }
    drawTogether(strokes);
}

void YardScene::heights() {
    if (!s_.overGround() || !s_.expansion) return;
    struct Drop {
        Vec3 end;
        bool selected;
    };
    std::vector<Drop> drops;
    std::map<long, bool> depths;
    p_.setFont(textFont(kTinyPt));
    for (const auto& wire : s_.expansion->model.wires)
        for (const Vec3& end : {wire.startM, wire.endM}) {
            if (s_.expansion->model.runsThrough(end)) continue;
            if (end.z() < -1e-3 && depths.size() < 3 &&
                depths.emplace(std::lround(end.z() * 50.0), true).second)
                label(onScreen(end) + QPointF(6, 3), tr("%1 deep").arg(lengthText(-end.z(), 2)),
                      s_.theme.softInk);
            if (end.z() > 1e-3) drops.push_back({end, s_.isSelected(wire)});
        }
    // Those of what is selected first, then the highest; a line beside another one is left out.
    std::stable_sort(drops.begin(), drops.end(), [](const Drop& a, const Drop& b) {
        return a.selected != b.selected ? a.selected : a.end.z() > b.end.z() + 1e-6;
    });
    const std::size_t most = s_.expansion->model.wires.size() > kManyWires ? kMostDropsOfMany : kMostDrops;
    std::vector<QPointF> feet;
    std::vector<QLineF> dropped;
    std::map<long, bool> labelled;
    for (const auto& drop : drops) {
        const QPointF foot = onScreen({drop.end.x(), drop.end.y(), 0.0});
        const bool crowded = std::any_of(feet.begin(), feet.end(), [&](const QPointF& other) {
            const QPointF apart = other - foot;
            return QPointF::dotProduct(apart, apart) < kDropApart * kDropApart;
        });
        if (!crowded && feet.size() < most) {
            feet.push_back(foot);
            dropped.emplace_back(foot, onScreen(drop.end));
        }
        if (!drop.selected && !s_.selected.isEmpty()) continue;
        // One label for each height, on the first end that has it.
        if (labelled.size() >= kMostHeights ||
            !labelled.emplace(std::lround(drop.end.z() * 50.0), true).second)
            continue;
        labelBeside(onScreen(drop.end), drop.selected ? 9.0 : 6.0,
                    tr("%1 up").arg(lengthText(drop.end.z(), drop.end.z() < 100.0 ? 2 : 0)));
    }
    // Hairlines, upright but for the perspective: dots along them or soft edges would take most of the frame.
    const Replacing opaque(p_);
    p_.setRenderHint(QPainter::Antialiasing, false);
    p_.setPen(QPen(mixed(s_.theme.softInk, s_.theme.yard, kDropStrength), 1.0));
    p_.drawLines(dropped.data(), static_cast<int>(dropped.size()));
    p_.setRenderHint(QPainter::Antialiasing);
}

/// Far wires first and a little paler; each with a seam of the background, so that crossings show which one
/// is in front.
void YardScene::wires(bool inSoil) {
    if (!s_.expansion) return;
    struct Piece {
        Vec3 from;
        Vec3 to;
        const model::PlainWire* wire;
        double depth;
        QLineF seen;
        QRectF box;
    };
    std::vector<Piece> pieces;
    double near = 1e99;
    double far = -1e99;
    const auto add = [&](const Vec3& from, const Vec3& to, const model::PlainWire& wire) {
        if (s_.overGround() && (from.z() + to.z() < -1e-9) != inSoil) return;
        if (!s_.overGround() && inSoil) return;
        const double depth = view_(0.5 * (from + to)).depth;
        near = std::min(near, depth);
        far = std::max(far, depth);
        const QLineF seen(onScreen(from), onScreen(to));
        pieces.push_back({from, to, &wire, depth, seen, boxOf(seen)});
    };
    for (const auto& wire : s_.expansion->model.wires) {
        const double from = wire.startM.z();
        const double to = wire.endM.z();
        if (s_.overGround() && from * to < 0.0) {
            const Vec3 surface = wire.startM + from / (from - to) * (wire.endM - wire.startM);
            add(wire.startM, surface, wire);
            add(surface, wire.endM, wire);
        } else {
            add(wire.startM, wire.endM, wire);
        }
    }
    std::sort(pieces.begin(), pieces.end(), [](const Piece& a, const Piece& b) { return a.depth > b.depth; });
    const bool behind = inSoil != fromBelow() && s_.overGround();
    std::optional<Replacing> opaque;
    if (!behind) opaque.emplace(p_);
    // Neighbours in depth with one pen are drawn at once.
    std::vector<QLineF> stroke;
    QPen strokePen;
    const auto flush = [&] {
        if (stroke.empty()) return;
        p_.setPen(strokePen);
        p_.drawLines(stroke.data(), static_cast<int>(stroke.size()));
        stroke.clear();
    };
    const bool many = pieces.size() > kManyWires;
    const double least = many ? kThinStroke : kStroke;
    const double steps = many ? kFewDepthSteps : kDepthSteps;
    for (const auto& piece : pieces) {
        const bool selected = s_.isSelected(*piece.wire);
        const double thickness = 2.0 * piece.wire->radiusM * s_.camera.pixelsPerM(s_.size);
        const double width = std::clamp(thickness, selected ? 2.6 : least, 14.0);
        const double depth = far - near > 1e-9 ? (piece.depth - near) / (far - near) : 0.0;
        const double away = std::round(steps * depth) / steps;
        QColor colour = selected ? s_.theme.reed : s_.theme.ink;
        const double bright = selected ? 1.0 : 1.0 - (1.0 - kFarthest) * away;
        if (behind)
            colour.setAlphaF(kBehindGround);
        else
            colour = mixed(colour, s_.theme.yard, bright);
        const bool crossed = !behind && std::any_of(pieces.begin(), pieces.end(), [&](const Piece& other) {
            return &other != &piece && other.depth >= piece.depth && meet(other.box, piece.box) &&
                   crossing(other.seen, piece.seen);
        });
        if (crossed) {
            flush();
            // Short of the ends: joints stay joined.
            const QPointF from = piece.seen.p1();
            const QPointF to = piece.seen.p2();
            const double cut = std::min(0.4, 5.0 / std::max(1.0, piece.seen.length()));
            p_.setPen(QPen(s_.theme.yard, width + 3.0, Qt::SolidLine, Qt::FlatCap));
            p_.drawLine(from + cut * (to - from), to - cut * (to - from));
        }
        const QPen pen(colour, width, Qt::SolidLine, many ? Qt::FlatCap : Qt::SquareCap);
        if (!stroke.empty() && pen != strokePen) flush();
        strokePen = pen;
        stroke.push_back(piece.seen);
    }
    flush();
    opaque.reset();
    if (inSoil) return;
    p_.setPen(Qt::NoPen);
    p_.setBrush(s_.theme.ink);
    for (const auto& joint : s_.expansion->joints)
        if (!s_.expansion->model.runsThrough(joint.pointM)) p_.drawEllipse(onScreen(joint.pointM), 2.6, 2.6);
}

void YardScene::compass() {
    if (!s_.expansion) return;
    const double reach = s_.compassReach();
    const Vec3 c(s_.centreM.x(), s_.centreM.y(), s_.overGround() ? 0.0 : s_.centreM.z());
    const auto toward = [&](double bearing) {
        const double azimuth = (s_.expansion->headingDeg - bearing) * kDegree;
        return Vec3(std::cos(azimuth), std::sin(azimuth), 0.0);
    };
    p_.setFont(textFont(kSmallPt, true));
    for (const auto& [name, bearing] :
         {std::pair{tr("N"), 0.0}, {tr("E"), 90.0}, {tr("S"), 180.0}, {tr("W"), 270.0}}) {
        const Vec3 out = c + reach * 1.16 * toward(bearing);
        const QPointF at = onScreen(out);
        p_.setPen(bearing == 0.0 ? s_.theme.ink : s_.theme.softInk);
        const QRectF place(at.x() - 10, at.y() - 8, 20, 16);
        write(place, Qt::AlignCenter, name);
        taken_.push_back(place);
    }
    p_.setPen(QPen(s_.theme.softInk, 1.2));
    line(c + reach * 0.9 * toward(0), c + reach * 1.02 * toward(0));
    // The front of the antenna.
    const Vec3 front = Vec3::UnitX();
    const Vec3 side = Vec3::UnitY();
    const QPointF tip = onScreen(c + reach * front);
    QPolygonF arrow{{tip, onScreen(c + reach * (0.90 * front + 0.035 * side)),
                     onScreen(c + reach * (0.90 * front - 0.035 * side))}};
    QColor copper = s_.theme.copper;
    copper.setAlphaF(0.75F);
    p_.setPen(Qt::NoPen);
    p_.setBrush(copper);
    p_.drawPolygon(arrow);
    p_.setPen(s_.theme.copper);
    p_.setFont(textFont(kTinyPt));
    const int bearing =
        static_cast<int>(std::lround(std::fmod(s_.expansion->headingDeg + 360.0, 360.0))) % 360;
    taken_.emplace_back(tip.x() - 30, tip.y() + 3, 60, 12);
    write(taken_.back(), Qt::AlignCenter, tr("front %1°").arg(bearing, 3, 10, QChar('0')));
    if (s_.ray) {
        const double a = s_.ray->azimuthDeg * kDegree;
        const double e = s_.ray->elevationDeg * kDegree;
        p_.setPen(QPen(s_.theme.heather, 1.4));
        line(c, c + reach * Vec3(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e)));
    }
}

void YardScene::marks() {
    if (!s_.expansion) return;
    // Lines between points: a loose pair of threads.
    const auto ports = s_.expansion->model.places();
    for (const auto& line : s_.expansion->model.lines) {
        const QPointF from = onScreen(s_.pointOf(ports.at(line.fromPort).place));
        const QPointF to = onScreen(s_.pointOf(ports.at(line.toPort).place));
        const QPointF along = to - from;
        const double length = std::max(1.0, std::hypot(along.x(), along.y()));
        const QPointF side = QPointF(-along.y(), along.x()) * (1.8 / length);
        p_.setPen(QPen(s_.theme.water, 1.1));
        p_.drawLine(from + side, line.crossed ? to - side : to + side);
        p_.drawLine(from - side, line.crossed ? to + side : to - side);
    }
    // Loads: a small open box on the wire.
    for (const auto& load : s_.expansion->model.loads) {
        const QPointF at = onScreen(s_.pointOf(load.place));
        p_.setPen(QPen(s_.theme.water, 1.8));
        p_.setBrush(s_.theme.panel);
        p_.drawRect(QRectF(at.x() - 5, at.y() - 4, 10, 8));
    }
    // Feedpoint: a diamond of sunlight with a dark heart, split by the wire.
    int number = 0;
    for (const auto& feed : s_.expansion->model.feeds) {
        ++number;
        const QPointF at = onScreen(s_.pointOf(feed.place));
        p_.setPen(QPen(s_.theme.ink, 1.2));
        p_.setBrush(s_.theme.sun);
        p_.drawPolygon(QPolygonF(
            {at + QPointF(0, -8), at + QPointF(6.5, 0), at + QPointF(0, 8), at + QPointF(-6.5, 0)}));
        p_.setBrush(s_.theme.ink);
        p_.drawEllipse(at, 1.7, 1.7);
        if (s_.expansion->model.feeds.size() > 1) {
            p_.setFont(textFont(kTinyPt, true));
            label(at + QPointF(8, -8), QString::number(number), s_.theme.ink);
        }
    }
}

/// No label is written over the handle.
void YardScene::keepForHandle() {
    if (!s_.overGround() || s_.expansion->model.wires.empty()) return;
    const Vec3 point = s_.handlePoint();
    const QPointF at = onScreen(point);
    taken_.push_back(QRectF(onScreen({point.x(), point.y(), 0.0}), at).normalized().adjusted(-3, -3, 3, 3));
    taken_.push_back(QRectF(at - QPointF(8, 8), at + QPointF(8, 8)));
}

void YardScene::handle() {
    if (!s_.overGround() || s_.expansion->model.wires.empty()) return;
    const Vec3 point = s_.handlePoint();
    const QPointF at = onScreen(point);
    p_.setPen(QPen(s_.theme.reed, 1.3));
    line({point.x(), point.y(), 0.0}, point);
    p_.setBrush(s_.handleHeld ? s_.theme.reed : s_.theme.panel);
    p_.drawEllipse(at, 6, 6);
    p_.setPen(QPen(s_.handleHeld ? s_.theme.panel : s_.theme.reed, 1.4));
    p_.drawLine(at + QPointF(-2.5, -1), at + QPointF(0, -3.5));
    p_.drawLine(at + QPointF(2.5, -1), at + QPointF(0, -3.5));
    p_.drawLine(at + QPointF(-2.5, 1), at + QPointF(0, 3.5));
    p_.drawLine(at + QPointF(2.5, 1), at + QPointF(0, 3.5));
    p_.setFont(textFont(kTinyPt));
    p_.setPen(s_.theme.reed);
    const QString text = tr("lowest %1").arg(lengthText(point.z(), 2));
    const QSizeF size = sizeOf(text);
    const QPointF right(12.0, -0.5 * size.height());
    const QPointF left(-12.0 - size.width(), right.y());
    const QPointF above(-8.0, -11.0 - size.height());
    const QPointF aboveLeft(8.0 - size.width(), above.y());
    const bool room = at.x() + right.x() + size.width() < s_.size.width();
    write({room ? freePlace(at, size, {right, above, left, aboveLeft})
                : freePlace(at, size, {left, aboveLeft, above}),
           size},
          Qt::AlignLeft, text);
}

}  // namespace rm::app
