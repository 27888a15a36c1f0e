#include "core/edit/grips.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/edit/reshape.h"
#include "core/edit/shape_fields.h"
#include "core/model/expand_parts.h"
#include "core/model/geometry.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

/// Beyond so many there are more grips than a hand can tell apart.
constexpr std::size_t kMostTips = 40;

/// A part by itself: its wires as its fields put them.
struct Alone {
    FieldValues values;
    double headingDeg = 0.0;
    Vec3 liftM = Vec3::Zero();  ///< of the site, which does not lift what hangs
    Unit unit;
    RowSizes sizes;
    HungSizes hung;
};

Alone alone(const Design& design, const Part& part) {
    Alone a{fieldValues(design), 0.0, Vec3::Zero(), {}, {}, {}};
    a.headingDeg = a.values.value(design.site.heading, Kind::Angle, say("Site"), say("the heading"));
    a.liftM.z() = a.values.value(design.site.height, Kind::Length, say("Site"), say("the height"));
    const PartScene scene{a.values.scope.lambdaM, readSupports(a.values, design.site.supports, a.headingDeg),
                          a.liftM.z()};
    PartSizes sizes;
    a.unit = expandPart(a.values, part, scene, sizes);
    a.sizes = std::move(sizes.row);
    a.hung = std::move(sizes.hung);
    return a;
}

/// The way of a hung wire, rope to rope, and lengths along it.
std::vector<Vec3> wayOf(const HungSizes& hung) {
    std::vector<Vec3> way = hung.ropeStartM;
    for (const auto* piece : {&hung.wireM, &hung.ropeEndM})
        for (const Vec3& point : *piece)
            if (way.empty() || (way.back() - point).norm() > 1e-9) way.push_back(point);
    return way;
}

/// How far along a way the point nearest to `at` is.
double alongWay(const std::vector<Vec3>& way, const Vec3& at) {
    double best = 0.0;
    double nearest = 1e99;
    double before = 0.0;
    for (std::size_t i = 1; i < way.size(); ++i) {
        const Vec3 piece = way[i] - way[i - 1];
        const double length = piece.norm();
        const double t = std::clamp((at - way[i - 1]).dot(piece) / (length * length), 0.0, 1.0);
        const double distance = (way[i - 1] + t * piece - at).norm();
        if (distance < nearest) {
            nearest = distance;
            best = before + t * length;
        }
        before += length;
    }
    return best;
}

/// The angle equal to `angle` but for whole turns that is nearest to `near`.
double nearTurn(double angle, double near) {
    return angle + 360.0 * std::round((near - angle) / 360.0);
}

class Gripper {
  public:
    Gripper(const Design& design, const Part& part, const Vec3& offset)
        : part_(part), offset_(offset), alone_(alone(design, part)) {}

    std::vector<Grip> run() {
        if (alone_.unit.wires.empty()) return {};
        std::visit([this](const auto& shape) { of(shape); }, part_.shape);
        return std::move(grips_);
    }

  private:
    const std::vector<PlainWire>& wires() const { return alone_.unit.wires; }

    Grip& add(GripKind kind, std::size_t index, const std::string& name, const Vec3& at) {
        Grip grip;
        grip.part = part_.id;
        grip.kind = kind;
        grip.index = index;
        grip.name = name;
        grip.atM = at + offset_;
        grips_.push_back(grip);
        return grips_.back();
    }
    void add(GripKind kind, std::size_t index, const std::string& name, const Vec3& at, const Vec3& anchor) {
        add(kind, index, name, at).anchorM = anchor + offset_;
    }
    void whole() {
        Bounds box;
        for (const auto& wire : wires()) box.include(wire);
        add(GripKind::Whole, 0, say("whole part"), box.centre());
    }

    void of(const StraightWire&) {
        const Vec3 a = wires().front().startM;
        const Vec3 b = wires().back().endM;
        add(GripKind::Point, 0, say("start"), a, b);
        add(GripKind::Point, 1, say("end"), b, a);
        whole();
    }
    void of(const BentWire& bent) {
        const std::size_t n = bent.points.size();
        const auto at = [&](std::size_t i) {
            return i < wires().size() ? wires()[i].startM : wires().back().endM;
        };
        for (std::size_t i = 0; i < n; ++i) {
            const bool last = i + 1 == n && !bent.closed;
            const std::string name = i == 0 && !bent.closed ? say("start")
                                     : last                 ? say("end")
                                                            : say("corner {}", bent.closed ? i + 1 : i);
            const std::size_t from = i > 0 ? i - 1 : bent.closed ? n - 1 : 1;
            Grip& grip = add(GripKind::Point, i, name, at(i));
            grip.anchorM = at(from) + offset_;
            if (n > 2 && (i > 1 || bent.closed))
                grip.beforeAnchorM = at(from > 0 ? from - 1 : n - 1) + offset_;
            if (n > 2 && i == 0 && !bent.closed) grip.beforeAnchorM = at(2) + offset_;
        }
        whole();
    }
    void of(const RegularLoop&) {
        Vec3 centre = Vec3::Zero();
        for (const auto& wire : wires()) centre += wire.startM / static_cast<double>(wires().size());
        for (std::size_t i = 0; i < std::min(wires().size(), kMostTips); ++i)
            add(GripKind::Corner, i, say("corner {}", i + 1), wires()[i].startM, centre);
        add(GripKind::Whole, 0, say("centre"), centre);
    }
    void of(const InvertedV&) {
        const Vec3 apex = wires()[0].endM;
        add(GripKind::Tip, 0, say("left tip"), wires()[0].startM, apex);
        add(GripKind::Tip, 1, say("right tip"), wires()[1].endM, apex);
        add(GripKind::Apex, 0, say("apex"), apex);
        whole();
    }
    void of(const Fan& fan) {
        const auto broken = static_cast<std::size_t>(
            std::max(0, alone_.values.count(fan.insulators, 0, 40, part_.name, say("the insulators"))));
        const Vec3 hub = wires().front().startM;
        for (std::size_t i = 0; i < std::min(wires().size() / (broken + 1), kMostTips); ++i)
            add(GripKind::Tip, i, say("tip {}", i + 1), wires()[(broken + 1) * i + broken].endM, hub);
        add(GripKind::Whole, 0, say("hub"), hub);
    }
    void of(const ElementRow& row) {
        const RowAxes axes = rowAxes(alone_.values, part_.name, row);
        for (std::size_t e = 0; e < std::min(alone_.sizes.elements.size(), kMostTips); ++e) {
            const auto& size = alone_.sizes.elements[e];
            const Vec3 centre = axes.start + size.positionM * axes.boom;
            const auto& path = alone_.unit.paths[e];
            add(GripKind::Tip, 2 * e, size.name + say(", left tip"), wires()[path.first].startM, centre);
            add(GripKind::Tip, 2 * e + 1, size.name + say(", right tip"),
                wires()[path.first + path.count - 1].endM, centre);
            if (e > 0) add(GripKind::Element, e, size.name, centre);
        }
        add(GripKind::Whole, 0, say("start of the boom"), axes.start);
    }
    void of(const RadialSystem& radials) {
        const Vec3 foot = alone_.values.point(radials.foot, part_.name, say("foot"));
        const double depth = alone_.values.value(radials.depth, Kind::Length, part_.name, say("the depth"));
        const double rod = alone_.values.value(radials.rod, Kind::Length, part_.name, say("the rod"));
        const double bent =
            alone_.values.value(radials.bentUp, Kind::Length, part_.name, say("the bent piece"));
        const Vec3 hub = foot - depth * Vec3::UnitZ();
        const std::size_t skip = (depth > 0.0 ? 1 : 0) + (rod > 0.0 ? 1 : 0);
        const std::size_t each = bent > 0.0 ? 2 : 1;
        for (std::size_t i = 0; skip + each * (i + 1) <= wires().size() && i < kMostTips; ++i)
            add(GripKind::Tip, i, say("tip {}", i + 1), wires()[skip + each * i].endM, hub);
        if (depth > 0.0) add(GripKind::Depth, 0, say("hub"), hub, foot);
        if (rod > 0.0) add(GripKind::Depth, 1, say("end of the rod"), hub - rod * Vec3::UnitZ(), hub);
        add(GripKind::Whole, 0, say("foot"), foot);
    }
    void of(const HungWire& hung) {
        add(GripKind::Tip, 0, say("start"), wires().front().startM, wires().front().endM);
        add(GripKind::Tip, 1, say("end"), wires().back().endM, wires().back().startM);
        const auto& tied = alone_.hung.tiedM;
        for (std::size_t i = 0; i < tied.size(); ++i)
            add(GripKind::Point, i, say("tied to ") + hung.points[i].support, tied[i] - alone_.liftM);
    }
    void of(const CableRun&) {}
    void of(const GroundRod&) {
        add(GripKind::Depth, 1, say("end of the rod"), wires()[0].endM, wires()[0].startM);
        add(GripKind::Whole, 0, say("top"), wires()[0].startM);
    }

    const Part& part_;
    Vec3 offset_;
    Alone alone_;
    std::vector<Grip> grips_;
};

/// What the fields of a part must be for a grip to be at `to`, in the coordinates of the design.
class Targets {
  public:
    Targets(Design& design, Part& part, const Grip& grip, const Vec3& to)
        : design_(design), part_(part), grip_(grip), to_(to), alone_(alone(design, part)) {}

    std::vector<FieldTarget> run() {
        if (!alone_.unit.wires.empty()) std::visit([this](auto& shape) { of(shape); }, part_.shape);
        return std::move(targets_);
    }

  private:
    double value(const std::string& text, Kind kind) {
        return alone_.values.value(text, kind, part_.name, say("the field"));
    }
    Vec3 point(const PointText& text) { return alone_.values.point(text, part_.name, say("the point")); }
    void set(std::string& text, Kind kind, double wanted, const std::string& name) {
        targets_.push_back({&text, kind, wanted, name});
    }
    void set(PointText& text, const Vec3& wanted, const std::string& name) {
        const char* const axes[] = {", forward", ", left", ", up"};
        for (int a = 0; a < 3; ++a)
            set(text[static_cast<std::size_t>(a)], Kind::Length, wanted[a], name + axes[a]);
    }
    /// A bearing keeps its value where the wire stands upright.
    void setTurn(std::string& text, double wanted, double level, const std::string& name) {
        if (level > 1e-3) set(text, Kind::Angle, nearTurn(wanted, value(text, Kind::Angle)), name);
    }

    void of(StraightWire& w) { set(grip_.index == 0 ? w.start : w.end, to_, grip_.name); }
    void of(BentWire& w) {
        if (grip_.index < w.points.size()) set(w.points[grip_.index], to_, grip_.name);
    }
    void of(RegularLoop& l) {
        const int sides = static_cast<int>(alone_.unit.wires.size());
        const double side = 2.0 * (to_ - point(l.centre)).norm() * std::sin(kPi / sides);
        set(l.size, Kind::Length, l.byPerimeter ? side * sides : side,
            l.byPerimeter ? say("perimeter") : say("side"));
    }
    void of(InvertedV& v) {
        if (grip_.kind == GripKind::Apex) {
            const double foot = value(v.foot[2], Kind::Length);
            set(v.foot[0], Kind::Length, to_.x(), say("foot, forward"));
            set(v.foot[1], Kind::Length, to_.y(), say("foot, left"));
            set(v.apexHeight, Kind::Length, to_.z() - foot, say("apex height"));
            return;
        }
        const Vec3 d = to_ - alone_.unit.wires[0].endM;
        const double leg = d.norm();
        if (leg < 1e-3) return;
        const Vec3 left = grip_.index == 0 ? d : Vec3(-d);
        set(v.leg, Kind::Length, leg, say("leg"));
        set(v.angle, Kind::Angle, 2.0 * std::acos(std::clamp(-d.z() / leg, -1.0, 1.0)) / kDegree,
            say("angle"));
        setTurn(v.turn, std::atan2(left.x(), left.y()) / kDegree, std::hypot(d.x(), d.y()) / leg,
                say("turn"));
    }
    void tip(const Vec3& hub, std::string& length, std::string& slope) {
        const Vec3 d = to_ - hub;
        if (d.norm() < 1e-3) return;
        set(length, Kind::Length, d.norm(), say("length"));
        set(slope, Kind::Angle, std::asin(std::clamp(-d.z() / d.norm(), -1.0, 1.0)) / kDegree, say("slope"));
    }
    void of(Fan& f) {
        const Vec3 hub = point(f.hub);
        tip(hub, f.length, f.slope);
        const int n = alone_.values.count(f.count, 1, 128, part_.name, say("the number of wires"));
        const Vec3 d = to_ - hub;
        if (d.norm() > 1e-3)
            setTurn(f.first, bearingDeg(d) - 360.0 * static_cast<double>(grip_.index) / std::max(1, n),
                    std::hypot(d.x(), d.y()) / d.norm(), say("first bearing"));
    }
    void of(ElementRow& row) {
        const RowAxes axes = rowAxes(alone_.values, part_.name, row);
        const std::size_t e = grip_.kind == GripKind::Element ? grip_.index : grip_.index / 2;
        if (e >= alone_.sizes.elements.size() || e >= row.elements.size()) return;
        const auto& size = alone_.sizes.elements[e];
        const Vec3 centre = axes.start + size.positionM * axes.boom;
        if (grip_.kind == GripKind::Element) {
            const double before = row.spacings && e > 0 ? alone_.sizes.elements[e - 1].positionM : 0.0;
            set(row.elements[e].position, Kind::Length, (to_ - axes.start).dot(axes.boom) - before,
                size.name + say(", position"));
            return;
        }
        const auto& path = alone_.unit.paths[e];
        const Vec3 tip = (grip_.index % 2 == 0 ? alone_.unit.wires[path.first].startM
                                               : alone_.unit.wires[path.first + path.count - 1].endM) -
                         centre;
        const double longer = (to_ - centre).dot(tip) / tip.squaredNorm();
        if (longer > 0.05)
            set(row.elements[e].length, Kind::Length, longer * size.lengthM * (row.half ? 0.5 : 1.0),
                size.name + say(", length"));
    }
    void of(RadialSystem& r) {
        const Vec3 foot = point(r.foot);
        const double depth = value(r.depth, Kind::Length);
        if (grip_.kind == GripKind::Depth) {
            if (grip_.index == 0)
                set(r.depth, Kind::Length, std::max(0.0, foot.z() - to_.z()), say("depth"));
            else
                set(r.rod, Kind::Length, std::max(0.1, foot.z() - depth - to_.z()), say("rod"));
            return;
        }
        const Vec3 hub = foot - depth * Vec3::UnitZ();
        const auto lengths = lengthsInTurn(r.length);
        const double bent = value(r.bentUp, Kind::Length);
        const Vec3 d = to_ - hub;
        if (lengths.size() == 1 && d.norm() > 1e-3)
            set(r.length, Kind::Length, d.norm() + bent, say("length"));
        if (d.norm() > 1e-3)
            set(r.slope, Kind::Angle, std::asin(std::clamp(-d.z() / d.norm(), -1.0, 1.0)) / kDegree,
                say("slope"));
        const int n = alone_.values.count(r.count, 1, 180, part_.name, say("the number of radials"));
        if (value(r.sector, Kind::Angle) >= 360.0 && n > 0)
            setTurn(r.first, bearingDeg(d) - 360.0 * static_cast<double>(grip_.index) / n,
                    std::hypot(d.x(), d.y()) / std::max(1e-3, d.norm()), say("first bearing"));
    }
    void of(CableRun&) {}
    void of(GroundRod& r) {
        set(r.length, Kind::Length, std::max(0.1, point(r.top).z() - to_.z()), say("length"));
    }

    /// Ends of the wire move along its way, and its length with them; where it is tied, the support moves.
    void of(HungWire& w) {
        if (grip_.kind == GripKind::Point) return tie(w);
        const auto way = wayOf(alone_.hung);
        const double total =
            alone_.hung.ropeStartLengthM + alone_.hung.wireLengthM + alone_.hung.ropeEndLengthM;
        const double at = alongWay(way, to_ + alone_.liftM);
        const double start = alone_.hung.ropeStartLengthM;
        const double end = start + alone_.hung.wireLengthM;
        constexpr double kLeastM = 0.1;
        double length = grip_.index == 0 ? end - at : at - start;
        if (w.by != HungBy::Start) {
            // What holds its middle stays; what does not reach would not hang.
            const double middle = 0.5 * (start + end);
            length = 2.0 * std::min({std::abs(at - middle), middle, total - middle});
        } else if (grip_.index == 0) {
            set(w.rope, Kind::Length, std::min(at, end - kLeastM), say("rope"));
        }
        if (!(length > kLeastM)) return;
        if (w.length.empty()) w.length = "1 m";  // until now all the way
        set(w.length, Kind::Length, length, say("length"));
    }
    void tie(HungWire& w) {
        if (grip_.index >= w.points.size()) return;
        HangPoint& point = w.points[grip_.index];
        const auto found = std::find_if(design_.site.supports.begin(), design_.site.supports.end(),
                                        [&](const Support& s) { return s.name == point.support; });
        if (found == design_.site.supports.end()) return;
        const double height = std::max(0.0, to_.z() + alone_.liftM.z());
        if (!point.height.empty())
            set(point.height, Kind::Length, height, say("height at ") + found->name);
        else
            set(found->height, Kind::Length, height, found->name + say(", height"));
        const Vec3 compass = toCompass(to_, alone_.headingDeg);
        if (!isEdge(found->kind)) {
            set(found->east, Kind::Length, compass.x(), found->name + say(", east"));
            set(found->north, Kind::Length, compass.y(), found->name + say(", north"));
            return;
        }
        const Vec3 first(value(found->east, Kind::Length), value(found->north, Kind::Length), 0.0);
        const Vec3 other(value(found->toEast, Kind::Length), value(found->toNorth, Kind::Length), 0.0);
        const double reach = (other - first).norm();
        if (point.along.empty()) point.along = "1 m";  // until now its middle
        set(point.along, Kind::Length, alongWay({first, other}, {compass.x(), compass.y(), 0.0}),
            say("place along {} of {}", found->name, quantity::said(reach, 2)));
    }

    Design& design_;
    Part& part_;
    const Grip& grip_;
    Vec3 to_;
    Alone alone_;
    std::vector<FieldTarget> targets_;
};

}  // namespace

Vec3 gripOffset(const Design& design, const Expansion& expansion, Id part) {
    const Part* found = find(design.parts, part);
    const Vec3 lifted(0.0, 0.0, expansion.heightM);
    if (found == nullptr) return lifted;
    const Alone a = alone(design, *found);
    if (a.unit.wires.empty()) return lifted;
    const auto shown = std::find_if(expansion.model.wires.begin(), expansion.model.wires.end(),
                                    [&](const PlainWire& wire) { return wire.origin() == found->name; });
    if (shown == expansion.model.wires.end()) return lifted;
    const auto& own = a.unit.wires.front();
    const Vec3 by = shown->startM - own.startM;
    // What was turned or mirrored is not simply elsewhere.
    return (shown->endM - own.endM - by).norm() < 1e-6 ? by : lifted;
}

std::vector<Grip> gripsOf(const Design& design, const Expansion& expansion, Id part) {
    const Part* found = find(design.parts, part);
    if (found == nullptr || !found->enabled) return {};
    return Gripper(design, *found, gripOffset(design, expansion, part)).run();
}

std::optional<Grip> gripNow(const Design& design, const Expansion& expansion, const Grip& grip) {
    for (const Grip& one : gripsOf(design, expansion, grip.part))
        if (one.is(grip)) return one;
    return std::nullopt;
}

Dragged dragGrip(Design design, const Grip& grip, const Vec3& toM, const Vec3& offsetM, const Steps& steps) {
    Dragged out{std::move(design), {}};
    Part* part = find(out.design.parts, grip.part);
    if (part == nullptr) return out;
    if (grip.kind == GripKind::Whole) {
        out.fit = shiftParts(out.design, {grip.part}, toM - grip.atM, steps);
        return out;
    }
    const auto targets = Targets(out.design, *part, grip, toM - offsetM).run();
    out.fit = fitFields(out.design, targets, steps);
    return out;
}

}  // namespace rm::edit
