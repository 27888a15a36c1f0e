#include "families.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <random>

namespace rm::trials {

namespace {

using model::GroundKind;

/// What a family builds with: lengths are in wavelengths until the end.
class Builder {
  public:
    explicit Builder(unsigned seed) : random_(seed) {}

    double between(double low, double high) {
        return low + (high - low) * (static_cast<double>(random_()) / 4294967296.0);
    }
    /// Evenly spread in the logarithm.
    double about(double low, double high) { return low * std::pow(high / low, between(0.0, 1.0)); }
    int count(int low, int high) {
        return low + static_cast<int>(random_() % static_cast<unsigned>(high - low + 1));
    }
    bool chance(double share) { return between(0.0, 1.0) < share; }
    double radius() { return about(1e-5, 5e-3); }
    Vec3 direction() {
        const double z = between(-1.0, 1.0);
        const double turn = between(0.0, 2.0 * kPi);
        const double r = std::sqrt(1.0 - z * z);
        return {r * std::cos(turn), r * std::sin(turn), z};
    }

    std::size_t wire(const Vec3& from, const Vec3& to, double radius) {
        model::PlainWire w;
        w.startM = from;
        w.endM = to;
        w.radiusM = radius;
        w.part = "Wire " + std::to_string(model.wires.size() + 1);
        model.wires.push_back(w);
        return model.wires.size() - 1;
    }
    void feed(std::size_t wire, double at) {
        model.feeds.push_back({{wire, at}, 1.0, "Feed", true, 0.0, {}});
    }
    /// Free space as a rule, above perfect or real ground now and then; the lowest wire decides the height.
    void site() {
        const double dice = between(0.0, 1.0);
        if (dice < 0.5) return;
        model.ground.kind = dice < 0.7 ? GroundKind::Perfect : GroundKind::Real;
        model.ground.relativePermittivity = 13.0;
        model.ground.conductivitySm = 0.005;
        double lowest = 1e9;
        for (const auto& w : model.wires) lowest = std::min({lowest, w.startM.z(), w.endM.z()});
        const double up = about(0.03, 1.0) - lowest;
        for (auto& w : model.wires) {
            w.startM.z() += up;
            w.endM.z() += up;
        }
    }
    void bend(const std::vector<Vec3>& points, double radius, bool closed) {
        for (std::size_t i = 0; i + 1 < points.size(); ++i) wire(points[i], points[i + 1], radius);
        if (closed) wire(points.back(), points.front(), radius);
    }

    model::WireModel model;

  private:
    std::mt19937 random_;
};

void chain(Builder& b) {
    Vec3 at = Vec3::Zero();
    const int n = b.count(2, 5);
    const double r = b.radius();
    for (int i = 0; i < n; ++i) {
        const Vec3 next = at + b.between(0.06, 0.35) * b.direction();
        b.wire(at, next, b.chance(0.7) ? r : b.radius());
        if (b.chance(0.7)) at = next;
    }
    b.feed(0, b.between(0.2, 0.8));
    b.site();
}

/// Two wires side by side, nearly parallel, whose ends do not line up.
void nearPair(Builder& b) {
    const double r = b.about(1e-5, 2e-3);
    const double s = b.chance(0.5) ? r : b.about(1e-5, 2e-3);
    const double apart = std::max(b.about(1e-3, 0.06), 5.0 * (r + s));
    const double first = b.between(0.3, 1.1);
    const double second = b.between(0.15, 0.8) * first;
    const double shift = b.between(-0.3, 0.3) * first;
    const double tilt = b.chance(0.5) ? 0.0 : b.between(-0.3, 0.3) * apart / second;
    b.wire({0.0, -0.5 * first, 0.0}, {0.0, 0.5 * first, 0.0}, r);
    b.wire({apart, shift - 0.5 * second, 0.0}, {apart + tilt * second, shift + 0.5 * second, 0.3 * tilt}, s);
    b.feed(b.chance(0.8) ? 0 : 1, b.chance(0.6) ? 0.5 : b.between(0.2, 0.8));
    b.site();
}

/// Dipoles for several bands from one feed, close together at it, or parallel all along.
void fan(Builder& b) {
    const double r = b.about(1e-5, 1e-3);
    const int n = b.count(2, 3);
    const double gap = std::max(b.about(5e-4, 5e-3), 6.0 * r);
    const double drop = std::max(b.about(2e-3, 0.08), 8.0 * r);
    b.wire({0.0, -gap, 0.0}, {0.0, gap, 0.0}, r);
    b.feed(0, 0.5);
    for (int i = 0; i < n; ++i) {
        const double half = 0.25 * b.between(0.5, 1.05) / (1.0 + 0.7 * i);
        for (const double side : {-1.0, 1.0}) {
            const Vec3 root(0.0, side * gap, 0.0);
            if (i == 0) {
                b.wire(root, {0.0, side * half, 0.0}, r);
                continue;
            }
            const Vec3 corner(0.0, side * (gap + 0.3 * drop), -drop * i);
            b.wire(root, corner, r);
            b.wire(corner, {0.0, side * (half + gap), -drop * i}, r);
        }
    }
    b.site();
}

void stepped(Builder& b) {
    const int steps = b.count(2, 4);
    double r = b.about(3e-4, 5e-3);
    double at = 0.0;
    const double half = b.between(0.2, 0.3);
    for (int i = 0; i < steps; ++i) {
        const double to = i + 1 == steps ? half : at + b.between(0.2, 0.5) * (half - at);
        if (i == 0) {
            b.feed(b.wire({0.0, -to, 0.0}, {0.0, to, 0.0}, r), 0.5);
        } else {
            b.wire({0.0, at, 0.0}, {0.0, to, 0.0}, r);
            b.wire({0.0, -at, 0.0}, {0.0, -to, 0.0}, r);
        }
        at = to;
        r *= b.between(0.5, 0.9);
    }
    b.site();
}

/// A dipole with a short piece or two at a bend.
void jog(Builder& b) {
    const double r = b.about(1e-5, 1e-3);
    const double small = std::max(b.about(1e-3, 0.03), 6.0 * r);
    std::vector<Vec3> points{{0.0, -0.25, 0.0}, {0.0, 0.0, 0.0}};
    const int pieces = b.count(1, 2);
    Vec3 at = points.back();
    for (int i = 0; i < pieces; ++i) {
        const double turn = b.between(0.4, 2.2) * (b.chance(0.5) ? 1.0 : -1.0);
        at += small * Vec3(std::sin(turn), std::cos(turn), 0.0);
        points.push_back(at);
    }
    points.push_back(at + b.between(0.15, 0.3) * Vec3(0.3, 0.9, 0.2).normalized());
    b.bend(points, r, false);
    b.feed(0, b.between(0.3, 0.7));
    b.site();
}

void yagi(Builder& b) {
    const int n = b.count(2, 6);
    const double r = b.about(3e-4, 6e-3);
    double x = 0.0;
    for (int i = 0; i < n; ++i) {
        const double length = 0.5 - 0.1 * b.between(0.0, 1.0) * (i == 0 ? 0.1 : 1.0);
        b.wire({x, -0.5 * length, 0.0}, {x, 0.5 * length, 0.0}, r);
        x += b.between(0.05, 0.35);
    }
    b.feed(std::min<std::size_t>(1, static_cast<std::size_t>(n) - 1), 0.5);
    b.site();
}

void groundPlane(Builder& b) {
    const int n = b.count(3, 12);
    const double r = b.about(1e-5, 2e-3);
    const double slope = b.between(0.0, 1.0);
    const double radial = b.between(0.15, 0.35);
    b.feed(b.wire(Vec3::Zero(), {0.0, 0.0, b.between(0.15, 0.6)}, r), 0.0);
    for (int i = 0; i < n; ++i) {
        const double turn = 2.0 * kPi * i / n + 0.1;
        b.wire(Vec3::Zero(),
               radial *
                   Vec3(std::cos(slope) * std::cos(turn), std::cos(slope) * std::sin(turn), -std::sin(slope)),
               r);
    }
    b.site();
}

void loop(Builder& b) {
    const int sides = b.count(3, 8);
    const double perimeter = b.between(0.4, 2.1);
    const double r = b.about(3e-5, 8e-3);
    const double stretch = b.between(0.5, 1.0);
    const double tilt = b.chance(0.5) ? 0.0 : 0.5 * kPi;
    std::vector<Vec3> points;
    const double round = perimeter / (2.0 * sides * std::sin(kPi / sides));
    for (int i = 0; i < sides; ++i) {
        const double turn = 2.0 * kPi * i / sides;
        const double u = round * std::cos(turn);
        const double v = stretch * round * std::sin(turn);
        points.emplace_back(u, v * std::cos(tilt), v * std::sin(tilt));
    }
    b.bend(points, r, true);
    b.feed(0, b.chance(0.6) ? 0.5 : b.between(0.2, 0.8));
    b.site();
}

/// A dipole or loop with a stub or hairpin, or with a second conductor: folded.
void stub(Builder& b) {
    const double r = b.about(3e-5, 1.5e-3);
    const double apart = std::max(b.about(2e-3, 0.03), 5.0 * r);
    const double half = b.between(0.2, 0.28);
    if (b.chance(0.5)) {  // folded, the second conductor whole or short
        const double end = b.chance(0.5) ? half : b.between(0.5, 0.9) * half;
        const double s = b.chance(0.6) ? r : b.about(3e-5, 1.5e-3);
        b.feed(b.wire({0.0, -end, 0.0}, {0.0, end, 0.0}, r), 0.5);
        if (end < half) {
            b.wire({0.0, end, 0.0}, {0.0, half, 0.0}, r);
            b.wire({0.0, -end, 0.0}, {0.0, -half, 0.0}, r);
        }
        b.wire({0.0, -end, 0.0}, {apart, -end, 0.0}, r);
        b.wire({apart, -end, 0.0}, {apart, end, 0.0}, s);
        b.wire({apart, end, 0.0}, {0.0, end, 0.0}, r);
    } else {  // hairpin across the middle
        const double length = b.between(0.02, 0.2);
        b.feed(b.wire({0.0, -0.5 * apart, 0.0}, {0.0, 0.5 * apart, 0.0}, r), 0.5);
        for (const double side : {-1.0, 1.0}) {
            b.wire({0.0, side * 0.5 * apart, 0.0}, {0.0, side * half, 0.0}, r);
            b.wire({0.0, side * 0.5 * apart, 0.0}, {length, side * 0.5 * apart, 0.0}, r);
        }
        if (b.chance(0.7)) b.wire({length, -0.5 * apart, 0.0}, {length, 0.5 * apart, 0.0}, r);
    }
    b.site();
}

/// Two elements with their tips bent towards each other.
void bentTips(Builder& b) {
    const double r = b.about(3e-5, 2e-3);
    const double tips = std::max(b.about(1e-3, 0.03), 5.0 * r);
    const double apart = b.between(0.06, 0.16) + tips;
    const double across = b.between(0.12, 0.19);
    const double in = 0.5 * (apart - tips) * b.between(0.6, 1.0);
    for (const double x : {0.0, apart}) {
        const double inward = x == 0.0 ? in : apart - tips - in;
        const double sign = x == 0.0 ? 1.0 : -1.0;
        b.wire({x + sign * inward, -across, 0.0}, {x, -across, 0.0}, r);
        const auto middle = b.wire({x, -across, 0.0}, {x, across, 0.0}, r);
        if (x > 0.0) b.feed(middle, 0.5);
        b.wire({x, across, 0.0}, {x + sign * inward, across, 0.0}, r);
    }
    b.site();
}

/// Two wires that cross without touching, and others at random about them.
void crossing(Builder& b) {
    const double r = b.about(1e-5, 1e-3);
    const double apart = std::max(b.about(1e-3, 0.03), 5.0 * r);
    const double turn = b.between(0.3, 1.57);
    b.feed(b.wire({0.0, -b.between(0.1, 0.3), 0.0}, {0.0, b.between(0.1, 0.3), 0.0}, r), b.between(0.3, 0.7));
    const Vec3 along(std::sin(turn), std::cos(turn), 0.0);
    b.wire(Vec3(0.0, 0.0, apart) - b.between(0.05, 0.3) * along,
           Vec3(0.0, 0.0, apart) + b.between(0.05, 0.3) * along, r);
    b.site();
}

/// A vertical on radials in average soil.
void inGround(Builder& b) {
    b.model.ground = {GroundKind::Real, 13.0, 0.005, 0.0};
    const int n = b.count(2, 5);
    const double r = b.about(2e-5, 2e-4);
    const double depth = b.between(30.0 * r, 0.01);
    b.feed(b.wire(Vec3::Zero(), {0.0, 0.0, b.between(0.15, 0.6)}, r), 0.0);
    b.wire({0.0, 0.0, -depth}, Vec3::Zero(), r);
    const double radial = b.between(0.05, 0.3);
    for (int i = 0; i < n; ++i) {
        const double turn = 2.0 * kPi * i / n + 0.1;
        b.wire({0.0, 0.0, -depth}, {radial * std::cos(turn), radial * std::sin(turn), -depth}, r);
    }
}

const std::vector<std::pair<std::string, void (*)(Builder&)>>& makers() {
    static const std::vector<std::pair<std::string, void (*)(Builder&)>> all = {{"chain", chain},
                                                                                {"near pair", nearPair},
                                                                                {"fan", fan},
                                                                                {"stepped", stepped},
                                                                                {"jog", jog},
                                                                                {"yagi", yagi},
                                                                                {"ground plane", groundPlane},
                                                                                {"loop", loop},
                                                                                {"stub", stub},
                                                                                {"bent tips", bentTips},
                                                                                {"crossing", crossing},
                                                                                {"in ground", inGround}};
    return all;
}

}  // namespace

const std::vector<std::string>& families() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> all;
        for (const auto& [name, make] : makers()) all.push_back(name);
        return all;
    }();
    return names;
}

Trial makeTrial(const std::string& family, unsigned seed) {
    Trial trial;
    trial.family = family;
    trial.seed = seed;
    Builder builder(seed * 7919u + static_cast<unsigned>(family.size()));
    for (const auto& [name, make] : makers())
        if (name == family) make(builder);
    trial.frequencyHz = 14.1e6;
    const double lambda = wavelengthM(trial.frequencyHz);
    trial.model = std::move(builder.model);
    for (auto& wire : trial.model.wires) {
        wire.startM *= lambda;
        wire.endM *= lambda;
        wire.radiusM *= lambda;
    }
    trial.lossless = trial.model.ground.kind != GroundKind::Real;
    return trial;
}

}  // namespace rm::trials
