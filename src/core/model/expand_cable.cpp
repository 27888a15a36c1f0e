#include "core/model/expand_cable.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/geometry.h"
#include "core/model/materials.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

/// Of a rod and of the lead to it.
constexpr double kRodRadiusM = 0.008;
/// Corners closer than this to each other are one.
constexpr double kSamePointM = 1e-6;

class RunBuilder {
  public:
    RunBuilder(FieldValues& values, const CableRun& run, const std::string& part, const PlainWire& like,
               const Ground& ground, const std::vector<PlainSupport>& supports)
        : values_(values), run_(run), part_(part), like_(like), ground_(ground), supports_(supports) {}

    RunWires from(const Vec3& feedM) {
        values_.failed = false;
        std::vector<Vec3> way{feedM};
        if (run_.down) {
            const double level =
                values_.value(run_.level, Kind::Length, part_, say("the height it comes down to"));
            if (!values_.failed && level > feedM.z() - 1e-3)
                values_.problem(part_,
                                say("{} is to come down to {}, but the feed is at {}.", part_,
                                    quantity::said(level, 2), quantity::said(feedM.z(), 2)),
                                say("Choose a lower height, or lead it to its first point at once."));
            way.emplace_back(feedM.x(), feedM.y(), level);
        }
        for (std::size_t i = 0; i < run_.points.size(); ++i) way.push_back(corner(i));
        if (!values_.failed && way.size() < 2)
            values_.problem(part_, say("{} leads nowhere.", part_),
                            say("Let it come straight down, or add a point."));
        if (values_.failed) return {};
        for (std::size_t i = 0; i + 1 < way.size(); ++i)
            if ((way[i + 1] - way[i]).norm() > kSamePointM) addCable(way[i], way[i + 1]);
        out_.cable = out_.wires.size();
        if (run_.end != RunEnd::Open) addEarth(way.back());
        if (values_.failed || out_.cable == 0) return {};
        return std::move(out_);
    }

  private:
    Vec3 corner(std::size_t i) {
        const RunPoint& point = run_.points[i];
        if (point.support.empty()) return values_.point(point.at, part_, say("point {}", i + 1));
        const auto found = std::find_if(supports_.begin(), supports_.end(),
                                        [&](const auto& s) { return s.name == point.support; });
        if (found == supports_.end()) {
            values_.problem(part_, say("{} passes \"{}\", which is not there.", part_, point.support),
                            say("Choose another support, or a point."));
            return Vec3::Zero();
        }
        const double height =
            values_.value(point.at[2], Kind::Length, part_, say("the height at ") + found->name);
        return {found->topM.x(), found->topM.y(), height};
    }

    PlainWire wire(const Vec3& from, const Vec3& to) const {
        PlainWire w = like_;
        w.startM = from;
        w.endM = to;
        return w;
    }

    /// A piece of the cable, cut where it passes the surface of the ground.
    void addCable(const Vec3& from, const Vec3& to) {
        out_.lengthM += (to - from).norm();
        const bool through =
            ground_.kind == GroundKind::Real && from.z() * to.z() < 0.0 && std::abs(from.z() - to.z()) > 1e-6;
        if (!through) return out_.wires.push_back(wire(from, to));
        const Vec3 surface = from + from.z() / (from.z() - to.z()) * (to - from);
        out_.wires.push_back(wire(from, {surface.x(), surface.y(), 0.0}));
        out_.wires.push_back(wire({surface.x(), surface.y(), 0.0}, to));
    }

    void addEarth(const Vec3& end) {
        if (ground_.kind == GroundKind::FreeSpace) {
            values_.findings.push_back({Severity::Warning, part_,
                                        say("{} is to be earthed, but there is no ground in free "
                                            "space: it ends open.",
                                            part_),
                                        say("Choose the ground of the site.")});
            return;
        }
        const double length = values_.positive(run_.rod, Kind::Length, part_, say("the length of the rod"));
        if (run_.end == RunEnd::Earth)
            out_.earthOhm = values_.within(run_.earthOhm, Kind::Number, 0.0, 1e5, part_,
                                           say("the resistance of the earth"));
        if (values_.failed) return;
        const Vec3 foot(end.x(), end.y(), std::min(end.z(), 0.0));
        if (end.z() > kSamePointM) {
            PlainWire lead = wire(end, foot);
            lead.coatM = 0.0;
            out_.wires.push_back(lead);
        }
        if (ground_.kind != GroundKind::Real) return;
        PlainWire rod = wire(foot, foot - length * Vec3::UnitZ());
        rod.coatM = 0.0;
        rod.radiusM = kRodRadiusM;
        const Material* steel = findMaterial("steel");
        if (steel != nullptr) rod.conductivitySm = steel->conductivitySm;
        out_.wires.push_back(rod);
    }

    FieldValues& values_;
    const CableRun& run_;
    const std::string& part_;
    const PlainWire& like_;
    const Ground& ground_;
    const std::vector<PlainSupport>& supports_;
    RunWires out_;
};

/// Calls `change` with every place on a wire that the model has.
template <typename Change>
void eachPlaceOf(WireModel& model, const Change& change) {
    for (auto& feed : model.feeds) {
        change(feed.place);
        for (auto& other : feed.together) change(other);
        for (auto& other : feed.against) change(other);
    }
    for (auto& load : model.loads) change(load.place);
    for (auto& tap : model.taps) change(tap.place);
}

/// Cuts a wire in two at a fraction of its length; the second half follows it.
void cutWire(WireModel& model, std::vector<Hanging>& runs, std::size_t wire, double at) {
    PlainWire second = model.wires[wire];
    const Vec3 point = second.startM + at * (second.endM - second.startM);
    second.startM = point;
    second.runsOn = true;
    model.wires[wire].endM = point;
    model.wires.insert(model.wires.begin() + static_cast<std::ptrdiff_t>(wire) + 1, second);
    for (auto& run : runs)
        if (run.wire > wire) ++run.wire;
    eachPlaceOf(model, [&](WirePlace& place) {
        if (place.wire > wire) {
            ++place.wire;
        } else if (place.wire == wire && place.at > at) {
            place = {wire + 1, (place.at - at) / (1.0 - at)};
        } else if (place.wire == wire) {
            place.at = std::min(1.0, place.at / at);
        }
    });
}

}  // namespace

RunWires runFrom(FieldValues& values, const CableRun& run, const std::string& part, const Vec3& feedM,
                 const PlainWire& like, const Ground& ground, const std::vector<PlainSupport>& supports) {
    return RunBuilder(values, run, part, like, ground, supports).from(feedM);
}

void joinShields(WireModel& model, std::vector<Hanging> runs) {
    for (std::size_t r = 0; r < runs.size(); ++r) {
        const ShieldOn shield = runs[r].shield;
        const std::size_t feed = runs[r].feed;
        const WirePlace fed = model.feeds[feed].place;
        const bool inMiddle = fed.at > 0.0 && fed.at < 1.0;
        if (inMiddle) {
            cutWire(model, runs, fed.wire, fed.at);
            // The side towards the end of the wire counts as its own, as in a mesh.
            model.feeds[feed].place =
                shield == ShieldOn::Own ? WirePlace{fed.wire, 1.0} : WirePlace{fed.wire + 1, 0.0};
            if (shield == ShieldOn::Middle) model.feeds[feed].against = {{fed.wire, 1.0}};
            continue;
        }
        if (shield == ShieldOn::Own) model.feeds[feed].together.push_back({runs[r].wire, 0.0});
        if (shield != ShieldOn::Middle) continue;
        // All other ends in the joint are on the other side of the balun.
        PlainFeed& own = model.feeds[feed];
        const PlainWire& wire = model.wires[fed.wire];
        const Vec3 joint = fed.at == 0.0 ? wire.startM : wire.endM;
        for (std::size_t w = 0; w < model.wires.size(); ++w)
            for (const double at : {0.0, 1.0}) {
                const auto is = [&](const WirePlace& place) { return place.wire == w && place.at == at; };
                const Vec3& end = at == 0.0 ? model.wires[w].startM : model.wires[w].endM;
                if (is(fed) || is({runs[r].wire, 0.0}) ||
                    (end - joint).norm() > joinToleranceM(wire.radiusM, model.wires[w].radiusM) ||
                    std::any_of(own.together.begin(), own.together.end(), is))
                    continue;
                if (std::any_of(runs.begin(), runs.end(), [&](const Hanging& other) {
                        return is({other.wire, 0.0});
                    }))
                    continue;
                own.against.push_back({w, at});
            }
    }
}

}  // namespace rm::model
