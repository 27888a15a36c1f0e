#include "core/model/expand_parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/materials.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

/// Unit vector at a bearing to the right of the front, in the horizontal plane.
Vec3 bearing(double degrees) {
    return {std::cos(degrees * kDegree), -std::sin(degrees * kDegree), 0.0};
}

class PartBuilder {
  public:
    PartBuilder(FieldValues& values, const Part& part, const PartScene& scene, PartSizes& sizes)
        : values_(values), part_(part), scene_(scene), sizes_(sizes) {}

    Unit run() {
        unit_.base = part_.name;
        unit_.enabled = part_.enabled;
        if (!part_.enabled) return unit_;
        values_.failed = false;
        const Material* material = findMaterial(part_.conductor.material);
        if (material == nullptr)
            values_.problem(part_.name,
                            say("{}: \"{}\" is not a known conductor.", part_.name, part_.conductor.material),
                            say("Choose a material from the list."));
        else
            base_.conductivitySm = material->conductivitySm;
        base_.radiusM = values_.radius(part_.conductor.diameter, part_.name, say("the diameter"));
        base_.part = base_.source = base_.unit = part_.name;
        readCoat();
        const bool closed = std::visit([&](const auto& shape) { return build(shape); }, part_.shape);
        if (values_.failed) unit_.wires.clear();
        if (unit_.wires.empty())
            unit_.paths.clear();
        else if (unit_.paths.empty())
            unit_.paths.push_back({"", 0, unit_.wires.size(), closed});
        return unit_;
    }

  private:
    void addWire(const Vec3& from, const Vec3& to) {
        PlainWire wire = base_;
        wire.startM = from;
        wire.endM = to;
        unit_.wires.push_back(wire);
    }

    /// A wire broken by insulators into equal pieces.
    void addBroken(const Vec3& from, const Vec3& to, const std::string& insulators) {
        constexpr double kInsulatorM = 0.1;
        const int n = values_.count(insulators, 0, 40, part_.name, say("the number of insulators"));
        const Vec3 whole = to - from;
        const double gap = n > 0 ? kInsulatorM / whole.norm() : 0.0;
        const double piece = (1.0 - n * gap) / (n + 1);
        if (!values_.failed && piece <= 0.0)
            values_.problem(part_.name, say("{} has more insulators than room for them.", part_.name),
                            say("Use fewer."));
        for (int i = 0; i <= n; ++i) {
            const double begin = i * (piece + gap);
            addWire(from + begin * whole, from + (begin + piece) * whole);
        }
    }

    void addPolyline(const std::vector<Vec3>& points, bool closed) {
        for (std::size_t i = 0; i + 1 < points.size(); ++i) addWire(points[i], points[i + 1]);
        if (closed && points.size() > 2) addWire(points.back(), points.front());
    }

    void readCoat() {
        base_.coatM = 0.0;
        base_.coatPermittivity = 1.0;
        if (part_.conductor.coat.empty()) return;
        base_.coatM = values_.value(part_.conductor.coat, Kind::Diameter, part_.name, say("the insulation"));
        base_.coatPermittivity = values_.value(part_.conductor.coatPermittivity, Kind::Number, part_.name,
                                               say("the permittivity of the insulation"));
        if (values_.failed) return;
        if (base_.coatM < 0.0 || base_.coatM > 20.0 * base_.radiusM)
            values_.problem(
                part_.name,
                say("{} has insulation {:.1f} mm thick on a wire of {:.1f} mm.", part_.name,
                    base_.coatM * 1e3, 2e3 * base_.radiusM),
                say("Give the thickness of the coat alone, up to ten times the diameter of the wire."));
        if (base_.coatPermittivity < 1.0 || base_.coatPermittivity > 12.0)
            values_.problem(
                part_.name,
                say("{}: the permittivity of the insulation is {:g}.", part_.name, base_.coatPermittivity),
                say("Use a number from 1 to 12; polyethylene has 2.3, PVC about 3."));
    }

    bool build(const StraightWire& shape) {
        const Vec3 start = values_.point(shape.start, part_.name, say("start"));
        addBroken(start, values_.point(shape.end, part_.name, say("end")), shape.insulators);
        return false;
    }

    bool build(const BentWire& shape) {
        std::vector<Vec3> points;
        for (std::size_t i = 0; i < shape.points.size(); ++i)
            points.push_back(values_.point(shape.points[i], part_.name, say("point {}", i + 1)));
        if (points.size() < 2)
            values_.problem(part_.name, say("{} has fewer than two points.", part_.name),
                            say("Add a point."));
        addPolyline(points, shape.closed);
        return shape.closed;
    }

    bool build(const RegularLoop& shape) {
        const Vec3 centre = values_.point(shape.centre, part_.name, say("centre"));
        const int sides = values_.count(shape.sides, 3, 60, part_.name, say("the number of sides"));
        const double size = values_.value(shape.size, Kind::Length, part_.name,
                                          shape.byPerimeter ? say("the perimeter") : say("the side"));
        const double tilt = values_.value(shape.tilt, Kind::Angle, part_.name, say("the tilt"));
        const double turn = values_.value(shape.turn, Kind::Angle, part_.name, say("the turn"));
        const double side = shape.byPerimeter ? size / sides : size;
        const double radius = side / (2.0 * std::sin(kPi / sides));
        // In the plane of the loop: `across` to the left, `up` towards the top.
        const Vec3 front = bearing(turn);
        const Vec3 across = Vec3::UnitZ().cross(front);
        const Vec3 up = std::sin(tilt * kDegree) * Vec3::UnitZ() + std::cos(tilt * kDegree) * front;
        std::vector<Vec3> points;
        // From the bottom corner, or the left end of the bottom side, and round.
        const double first = shape.cornerDown ? -90.0 : -90.0 - 180.0 / sides;
        for (int i = 0; i < sides; ++i) {
            const double angle = (first + 360.0 * i / sides) * kDegree;
            points.push_back(centre + radius * (std::cos(angle) * across + std::sin(angle) * up));
        }
        addPolyline(points, true);
        return true;
    }

    bool build(const InvertedV& shape) {
        const Vec3 foot = values_.point(shape.foot, part_.name, say("foot"));
        const double apexHeight =
            values_.value(shape.apexHeight, Kind::Length, part_.name, say("the apex height"));
        const double leg = values_.value(shape.leg, Kind::Length, part_.name, say("the leg"));
        const double angle =
            values_.value(shape.angle, Kind::Angle, part_.name, say("the angle between the legs"));
        const double turn = values_.value(shape.turn, Kind::Angle, part_.name, say("the turn"));
        const Vec3 apex = foot + apexHeight * Vec3::UnitZ();
        const Vec3 left = Vec3::UnitZ().cross(bearing(turn));
        const double half = 0.5 * angle * kDegree;
        const Vec3 down = -std::cos(half) * Vec3::UnitZ();
        addPolyline(
            {apex + leg * (std::sin(half) * left + down), apex, apex + leg * (-std::sin(half) * left + down)},
            false);
        return false;
    }

    bool build(const Fan& shape) {
        const Vec3 hub = values_.point(shape.hub, part_.name, say("hub"));
        const int n = values_.count(shape.count, 1, 128, part_.name, say("the number of wires"));
        const double length = values_.value(shape.length, Kind::Length, part_.name, say("the length"));
        const double slope = values_.value(shape.slope, Kind::Angle, part_.name, say("the slope"));
        const double first = values_.value(shape.first, Kind::Angle, part_.name, say("the first bearing"));
        for (int i = 0; i < n; ++i) {
            const Vec3 out = std::cos(slope * kDegree) * bearing(first + 360.0 * i / n) -
                             std::sin(slope * kDegree) * Vec3::UnitZ();
            addBroken(hub, hub + length * out, shape.insulators);
        }
        return false;
    }

    bool build(const ElementRow& shape) {
        for (auto& element : buildRow(values_, part_.name, shape, base_, scene_.lambdaM, sizes_.row)) {
            unit_.paths.push_back({element.element, unit_.wires.size(), element.fed.size(), false});
            for (auto* wires : {&element.fed, &element.rest})
                unit_.wires.insert(unit_.wires.end(), wires->begin(), wires->end());
        }
        return false;
    }

    std::vector<double> lengths(const std::string& texts) {
        std::vector<double> all;
        for (const std::string& one : lengthsInTurn(texts)) {
            all.push_back(values_.value(one, Kind::Length, part_.name, say("the length")));
            if (!values_.failed && !(all.back() > 0.0))
                values_.problem(part_.name, say("{} has radials without a length.", part_.name),
                                say("Give them one, as 10 m, or several that take turns, as 5 m; 10 m."));
        }
        return all;
    }

    bool build(const RadialSystem& shape) {
        const Vec3 foot = values_.point(shape.foot, part_.name, say("foot"));
        const int n = values_.count(shape.count, 1, 180, part_.name, say("the number of radials"));
        const std::vector<double> length = lengths(shape.length);
        const double depth = values_.value(shape.depth, Kind::Length, part_.name, say("the depth"));
        const double slope = values_.value(shape.slope, Kind::Angle, part_.name, say("the slope"));
        const double first = values_.value(shape.first, Kind::Angle, part_.name, say("the first bearing"));
        const double sector = values_.value(shape.sector, Kind::Angle, part_.name, say("the sector"));
        const double bentUp = values_.value(shape.bentUp, Kind::Length, part_.name, say("the bent piece"));
        const double rod = values_.value(shape.rod, Kind::Length, part_.name, say("the rod"));
        const double rodRadius =
            rod > 0.0 ? values_.radius(shape.rodDiameter, part_.name, say("the diameter of the rod")) : 0.0;
        if (values_.failed) return false;
        if (depth < 0.0)
            values_.problem(part_.name, say("{} has a depth below zero.", part_.name),
                            say("For radials above the ground put their foot higher, with a depth of 0."));
        if (sector <= 0.0 || sector > 360.0)
            values_.problem(part_.name, say("{} is spread over {:g} degrees.", part_.name, sector),
                            say("Use a sector above 0, up to 360 degrees for all round."));
        if (rod < 0.0 || bentUp < 0.0)
            values_.problem(part_.name, say("{} has a length below zero.", part_.name),
                            say("Use 0 for no rod and for radials that are not bent up."));
        if (values_.failed) return false;
        const Vec3 hub = foot - depth * Vec3::UnitZ();
        if (depth > 0.0) addWire(foot, hub);
        if (rod > 0.0) {
            addWire(hub, hub - rod * Vec3::UnitZ());
            unit_.wires.back().radiusM = rodRadius;
            unit_.wires.back().coatM = 0.0;
        }
        const bool round = sector >= 360.0 - 1e-9;
        for (int i = 0; i < n; ++i) {
            const double turn =
                round ? first + 360.0 * i / n
                      : first + (n > 1 ? sector * (static_cast<double>(i) / (n - 1) - 0.5) : 0.0);
            const Vec3 out =
                std::cos(slope * kDegree) * bearing(turn) - std::sin(slope * kDegree) * Vec3::UnitZ();
            const double whole = length[static_cast<std::size_t>(i) % length.size()];
            if (bentUp >= whole) {
                values_.problem(part_.name, say("{} is bent up over its whole length.", part_.name),
                                say("Make the bent piece shorter than the radials."));
                return false;
            }
            const Vec3 bend = hub + (whole - bentUp) * out;
            addWire(hub, bend);
            if (bentUp > 0.0) addWire(bend, bend + bentUp * Vec3::UnitZ());
        }
        return false;
    }

    bool build(const GroundRod& shape) {
        const Vec3 top = values_.point(shape.top, part_.name, say("top"));
        const double length = values_.value(shape.length, Kind::Length, part_.name, say("the length"));
        if (!values_.failed && !(length > 0.0))
            values_.problem(part_.name, say("{} has no length.", part_.name), say("Give it one, as 1.5 m."));
        addWire(top, top - length * Vec3::UnitZ());
        return false;
    }

    /// Kilograms per metre, insulation included: that of a density of 1.3 t/m3, as PVC has.
    double weight() const {
        constexpr double kCoatKgM3 = 1300.0;
        const Material* material = findMaterial(part_.conductor.material);
        const double metal = kPi * base_.radiusM * base_.radiusM;
        const double outer = base_.radiusM + base_.coatM;
        return (material != nullptr ? material->densityKgM3 : 0.0) * metal +
               kCoatKgM3 * (kPi * outer * outer - metal);
    }

    bool build(const HungWire& shape) {
        sizes_.hung = hang(values_, part_.name, shape, weight(), scene_.supports);
        auto points = sizes_.hung.wireM;
        for (Vec3& point : points) point.z() -= scene_.heightM;
        addPolyline(points, false);
        for (std::size_t i = 1; i < unit_.wires.size(); ++i) unit_.wires[i].runsOn = !sizes_.hung.corner[i];
        return false;
    }

    bool build(const CableRun&) {
        sizes_.run = base_;
        return false;
    }

    FieldValues& values_;
    const Part& part_;
    const PartScene& scene_;
    PartSizes& sizes_;
    Unit unit_;
    PlainWire base_;
};

}  // namespace

std::vector<std::string> lengthsInTurn(const std::string& texts) {
    std::vector<std::string> all;
    for (std::size_t from = 0; from <= texts.size();) {
        const std::size_t to = std::min(texts.find(';', from), texts.size());
        const std::string one = texts.substr(from, to - from);
        if (all.empty() || one.find_first_not_of(' ') != std::string::npos) all.push_back(one);
        from = to + 1;
    }
    return all;
}

Unit expandPart(FieldValues& values, const Part& part, const PartScene& scene, PartSizes& sizes) {
    return PartBuilder(values, part, scene, sizes).run();
}

}  // namespace rm::model
