#include "core/edit/snaps.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;

/// Of points: twice as far as guides, as they are what is meant most often.
constexpr double kPointsReach = 1.6;
constexpr double kSameM = 1e-4;

bool knows(const std::vector<SnapPoint>& points, const Vec3& at) {
    return std::any_of(points.begin(), points.end(),
                       [&](const SnapPoint& p) { return (p.atM - at).norm() < kSameM; });
}

/// A correction of the raw point, in the plane of the hand.
struct Guide {
    Vec3 atM;
    std::string name;
    double pixels = 0.0;
    bool alongRay = false;  ///< keeps the direction from the anchor when the length changes
};

class Snapper {
  public:
    Snapper(const SnapScene& scene, const Vec3& raw, const Vec3& u, const Vec3& v, const OnScreen& onScreen,
            double pixels)
        : scene_(scene), raw_(raw), u_(u.normalized()), onScreen_(onScreen), pixels_(pixels) {
        v_ = (v - v.dot(u_) * u_).normalized();
        normal_ = u_.cross(v_);
    }

    Snapped run() {
        const SnapPoint* nearest = nullptr;
        double least = kPointsReach * pixels_;
        for (const auto& point : scene_.points) {
            const double d = distance(point.atM, raw_);
            if (d < least) {
                least = d;
                nearest = &point;
            }
        }
        if (nearest != nullptr) return {nearest->atM, nearest->name};
        directions();
        const auto best = std::min_element(guides_.begin(), guides_.end(),
                                           [](const auto& a, const auto& b) { return a.pixels < b.pixels; });
        Snapped out{raw_, {}};
        bool ray = true;
        if (best != guides_.end()) {
            out = {best->atM, best->name};
            ray = best->alongRay;
        }
        length(out, ray);
        return out;
    }

  private:
    double distance(const Vec3& a, const Vec3& b) const { return (onScreen_(a) - onScreen_(b)).norm(); }

    void offer(const Vec3& at, const std::string& name, bool alongRay) {
        // In the plane of the hand only.
        if (std::abs((at - raw_).dot(normal_)) > kSameM) return;
        const double d = distance(at, raw_);
        if (d <= pixels_) guides_.push_back({at, name, d, alongRay});
    }

    /// The raw point moved within the plane so that `axis` has this value.
    void offerLevel(double z, const std::string& name) {
        // The steepest direction of the plane.
        Vec3 up = Vec3::UnitZ() - normal_.z() * normal_;
        if (up.norm() < 0.3) return;
        up.normalize();
        offer(raw_ + (z - raw_.z()) / up.z() * up, name, false);
    }

    void directions() {
        if (scene_.overGround) offerLevel(0.0, say("on the ground"));
        std::vector<double> levels;
        for (const auto& point : scene_.points) {
            const double z = point.atM.z();
            const bool known = std::any_of(levels.begin(), levels.end(),
                                           [&](double other) { return std::abs(other - z) < kSameM; });
            if (known || (scene_.overGround && std::abs(z) < kSameM)) continue;
            levels.push_back(z);
            offerLevel(z, say("level with ") + point.name);
        }
        for (const auto& point : scene_.points) {
            // Above or below it, as far as the plane goes there.
            const Vec3 over(point.atM.x(), point.atM.y(), raw_.z());
            offer(over, (raw_.z() >= point.atM.z() ? say("plumb above ") : say("plumb below ")) + point.name,
                  false);
        }
        if (!scene_.anchorM) return;
        const Vec3& a = *scene_.anchorM;
        offerLevel(a.z(), say("level"));
        offer({a.x(), a.y(), raw_.z()}, say("plumb"), true);
        if (scene_.beforeAnchorM) {
            const Vec3 before = (a - *scene_.beforeAnchorM).normalized();
            const Vec3 d = raw_ - a;
            offer(a + d - d.dot(before) * before, say("at a right angle"), true);
            offer(a + d.dot(before) * before, say("straight on"), true);
        }
    }

    void length(Snapped& out, bool ray) const {
        if (!scene_.anchorM) return;
        const Vec3& a = *scene_.anchorM;
        const Vec3 d = out.atM - a;
        const double now = d.norm();
        if (now < kSameM) return;
        const SnapLength* nearest = nullptr;
        Vec3 at;
        double least = pixels_;
        for (const auto& one : scene_.lengths) {
            Vec3 to = a + one.lengthM / now * d;
            if (!ray) {
                // Level with something: only what is left of the length may change.
                const double rest = one.lengthM * one.lengthM - d.z() * d.z();
                const double flat = std::hypot(d.x(), d.y());
                if (rest <= 0.0 || flat < kSameM) continue;
                const double s = std::sqrt(rest) / flat;
                to = a + Vec3(s * d.x(), s * d.y(), d.z());
            }
            if (std::abs((to - raw_).dot(normal_)) > kSameM) continue;
            const double miss = distance(to, out.atM);
            if (miss > least) continue;
            least = miss;
            nearest = &one;
            at = to;
        }
        if (nearest == nullptr) return;
        out.atM = at;
        out.name += (out.name.empty() ? "" : ", ") + nearest->name;
    }

    const SnapScene& scene_;
    Vec3 raw_;
    Vec3 u_;
    Vec3 v_;
    Vec3 normal_;
    const OnScreen& onScreen_;
    double pixels_;
    std::vector<Guide> guides_;
};

}  // namespace

double coatVelocityFactor(const PlainWire& wire, double lambdaM) {
    if (wire.coatM <= 0.0 || lambdaM <= 0.0) return 1.0;
    const double coat = (1.0 - 1.0 / wire.coatPermittivity) * std::log1p(wire.coatM / wire.radiusM);
    const double own = std::log(0.5 * lambdaM / wire.radiusM) - 1.0;
    return own > 1.0 ? 1.0 / std::sqrt(1.0 + coat / own) : 1.0;
}

std::vector<SnapLength> waveLengths(const PlainWire& like, double lambdaM) {
    if (lambdaM <= 0.0) return {};
    const double wave = coatVelocityFactor(like, lambdaM) * lambdaM;
    return {{0.25 * wave, say("a quarter wave")},
            {0.5 * wave, say("half a wave")},
            {0.625 * wave, say("five eighths of a wave")},
            {wave, say("a whole wave")}};
}

SnapScene snapScene(const Expansion& expansion, const std::vector<std::string>& leaveOut) {
    SnapScene scene;
    scene.overGround = expansion.model.ground.kind != GroundKind::FreeSpace;
    for (const auto& wire : expansion.model.wires) {
        if (std::find(leaveOut.begin(), leaveOut.end(), wire.origin()) != leaveOut.end()) continue;
        const auto offer = [&](const Vec3& at, const std::string& what) {
            if (!knows(scene.points, at)) scene.points.push_back({at, what + wire.part});
        };
        offer(wire.startM, say("end of "));
        offer(wire.endM, say("end of "));
        const double length = wire.lengthM();
        const bool known = std::any_of(scene.lengths.begin(), scene.lengths.end(), [&](const SnapLength& l) {
            return std::abs(l.lengthM - length) < kSameM;
        });
        if (!known) scene.lengths.push_back({length, say("as long as ") + wire.part});
    }
    for (const auto& wire : expansion.model.wires) {
        if (std::find(leaveOut.begin(), leaveOut.end(), wire.origin()) != leaveOut.end()) continue;
        const Vec3 middle = 0.5 * (wire.startM + wire.endM);
        if (!knows(scene.points, middle)) scene.points.push_back({middle, say("middle of ") + wire.part});
    }
    for (const auto& support : expansion.supports) {
        const auto offer = [&](const Vec3& at, const std::string& what) {
            if (!knows(scene.points, at)) scene.points.push_back({at, what + support.name});
        };
        offer(support.topM, support.kind == SupportKind::Peg ? "" : say("top of "));
        if (isEdge(support.kind)) offer(support.otherM, say("other end of "));
        if (scene.overGround) offer({support.topM.x(), support.topM.y(), 0.0}, say("foot of "));
    }
    return scene;
}

Snapped snapped(const SnapScene& scene, const Vec3& rawM, const Vec3& planeU, const Vec3& planeV,
                const OnScreen& onScreen, double pixels) {
    return Snapper(scene, rawM, planeU, planeV, onScreen, pixels).run();
}

}  // namespace rm::edit
