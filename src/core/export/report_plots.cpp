#include "core/export/report_plots.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/words/words.h"

namespace rm::io {

namespace {

constexpr double kPolarDb = 40.0;  ///< from the rim to the middle
constexpr double kHighestSwr = 4.0;
constexpr double kThin = 0.12;
constexpr double kCurve = 0.45;

double strongest(const study::Cut& cut) {
    return cut.gainDbi.empty() ? 0.0 : *std::max_element(cut.gainDbi.begin(), cut.gainDbi.end());
}

/// A polar plot about a middle; directions in degrees to the left of what is up on paper... of the right: as
/// angles are counted, from the right and upwards.
class Polar {
  public:
    Polar(Page& page, SheetPoint middle, double radius) : page_(page), middle_(middle), radius_(radius) {}

    SheetPoint at(double degrees, double share) const {
        return {middle_.x + share * radius_ * std::cos(degrees * kDegree),
                middle_.y - share * radius_ * std::sin(degrees * kDegree)};
    }
    void rings(double fromDeg, double toDeg) {
        for (const double db : {0.0, 10.0, 20.0, 30.0}) {
            std::vector<SheetPoint> ring;
            for (double d = fromDeg; d <= toDeg + 1e-9; d += 5.0) ring.push_back(at(d, 1.0 - db / kPolarDb));
            page_.polyline(ring, db > 0.0 ? kThin : 0.25, "frame");
        }
    }
    void spoke(double degrees) { page_.line(middle_, at(degrees, 1.0), kThin, "frame"); }
    void label(double degrees, const std::string& words) {
        const SheetPoint p = at(degrees, 1.0);
        const double c = std::cos(degrees * kDegree);
        const double s = std::sin(degrees * kDegree);
        page_.text({p.x + 2.2 * c, p.y - 2.2 * s +
                                       (s > 0.5    ? 0.0
                                        : s < -0.5 ? 2.0
                                                   : 0.8)},
                   words, "frame",
                   c > 0.3    ? Align::Left
                   : c < -0.3 ? Align::Right
                              : Align::Middle,
                   1.9);
    }

  private:
    Page& page_;
    SheetPoint middle_;
    double radius_;
};

/// `to` turns an angle of the cut into one on paper.
template <typename Turn>
void polarCurve(Page& page, const Polar& polar, const study::Cut& cut, const Turn& to) {
    const double top = strongest(cut);
    std::vector<SheetPoint> line;
    for (std::size_t i = 0; i < cut.angleDeg.size(); ++i)
        line.push_back(
            polar.at(to(cut.angleDeg[i]), std::clamp(1.0 + (cut.gainDbi[i] - top) / kPolarDb, 0.0, 1.0)));
    page.polyline(line, kCurve, "wires");
}

}  // namespace

void plotSwr(Page& page, const PageBox& box, const study::Sweep& sweep, const model::SwrLimits& limits) {
    if (sweep.points.empty()) return;
    const PageBox plot{box.left + 9.0, box.top + 4.0, box.right - 3.0, box.bottom - 9.0};
    const double low = sweep.points.front().frequencyHz;
    const double high = sweep.points.back().frequencyHz;
    const auto at = [&](double hz, double swr) -> SheetPoint {
        return {
            plot.left + (high > low ? (hz - low) / (high - low) : 0.5) * plot.width(),
            plot.bottom - (std::clamp(swr, 1.0, kHighestSwr) - 1.0) / (kHighestSwr - 1.0) * plot.height()};
    };
    for (const double swr : {1.0, 1.5, 2.0, 3.0, 4.0}) {
        page.line(at(low, swr), at(high, swr), swr == 1.0 ? 0.25 : kThin, "frame");
        page.text({plot.left - 1.5, at(low, swr).y + 0.7}, figure("{:g}", swr), "frame", Align::Right, 1.9);
    }
    for (const double limit : limits)
        if (limit < kHighestSwr) page.line(at(low, limit), at(high, limit), 0.25, "dimensions", true);
    for (int i = 0; i <= 2; ++i) {
        const double hz = low + 0.5 * i * (high - low);
        page.line(at(hz, 1.0), at(hz, kHighestSwr), kThin, "frame");
        page.text({at(hz, 1.0).x, plot.bottom + 3.4}, figure("{:.6g}", hz / 1e6), "frame",
                  i == 0   ? Align::Left
                  : i == 2 ? Align::Right
                           : Align::Middle,
                  1.9);
    }
    std::vector<SheetPoint> curve;
    for (const auto& point : sweep.curve()) curve.push_back(at(point.frequencyHz, point.swr));
    page.polyline(curve, kCurve, "wires");
    page.text({0.5 * (plot.left + plot.right), box.bottom - 1.0},
              say("SWR at the radio over MHz: {:.2f} to {:.2f}", sweep.bestSwr(), sweep.worstSwr()), "frame",
              Align::Middle);
}

void plotElevation(Page& page, const PageBox& box, const study::Cut& cut, double headingDeg, bool ground) {
    const double half = 0.5 * box.width() - 9.0;
    const double radius = std::min(half, ground ? box.height() - 16.0 : 0.5 * (box.height() - 18.0));
    const SheetPoint middle{0.5 * (box.left + box.right),
                            ground ? box.bottom - 9.0 : box.bottom - 11.0 - radius};
    Polar polar(page, middle, radius);
    polar.rings(0.0, ground ? 180.0 : 360.0);
    for (const double d : {0.0, 30.0, 60.0, 90.0, 120.0, 150.0, 180.0}) {
        polar.spoke(d);
        polar.label(d, figure("{:g}°", d > 90.0 ? 180.0 - d : d));
    }
    // An elevation cut runs from the horizon at its bearing over the zenith.
    study::Cut above = cut;
    if (ground)
        for (std::size_t i = above.angleDeg.size(); i-- > 0;)
            if (above.angleDeg[i] > 180.0) {
                above.angleDeg.erase(above.angleDeg.begin() + static_cast<std::ptrdiff_t>(i));
                above.gainDbi.erase(above.gainDbi.begin() + static_cast<std::ptrdiff_t>(i));
            }
    polarCurve(page, polar, above, [](double angle) { return angle; });
    const double bearing = std::fmod(headingDeg - cut.fixedAngleDeg + 720.0, 360.0);
    page.text({middle.x, box.bottom - 1.0},
              say("elevation at bearing {:03.0f}°, rim {:.1f} dBi", bearing, strongest(cut)), "frame",
              Align::Middle);
}

void plotAzimuth(Page& page, const PageBox& box, const study::Cut& cut, double headingDeg) {
    const double radius = std::min(0.5 * box.width() - 8.0, 0.5 * (box.height() - 17.0));
    const SheetPoint middle{0.5 * (box.left + box.right), box.top + 6.0 + radius};
    Polar polar(page, middle, radius);
    polar.rings(0.0, 360.0);
    for (const auto& [degrees, name] :
         {std::pair{90.0, say("N")}, {0.0, say("E")}, {-90.0, say("S")}, {180.0, say("W")}}) {
        polar.spoke(degrees);
        polar.label(degrees, name);
    }
    // Azimuths count to the left from the front; on paper north is up.
    polarCurve(page, polar, cut, [&](double azimuth) { return 90.0 - headingDeg + azimuth; });
    page.text({middle.x, box.bottom - 1.0},
              say("azimuth at {:.0f}° up, rim {:.1f} dBi", cut.fixedAngleDeg, strongest(cut)), "frame",
              Align::Middle);
}

void drawAntenna(Page& page, const PageBox& box, const model::Expansion& expansion) {
    constexpr double kAzimuth = 215.0 * kDegree;
    constexpr double kElevation = 18.0 * kDegree;
    const Vec3 eye(std::cos(kElevation) * std::cos(kAzimuth), std::cos(kElevation) * std::sin(kAzimuth),
                   std::sin(kElevation));
    const Vec3 right(-std::sin(kAzimuth), std::cos(kAzimuth), 0.0);
    const Vec3 up = eye.cross(right);
    const bool ground = expansion.model.ground.kind != model::GroundKind::FreeSpace;
    struct Stroke {
        Vec3 from;
        Vec3 to;
        double width;
        const char* layer;
        bool dashed;
    };
    std::vector<Stroke> strokes;
    const model::Bounds all = expansion.model.bounds();
    const Vec3 middle = all.centre();
    const auto foot = [](const Vec3& p) { return Vec3(p.x(), p.y(), 0.0); };
    const bool near = !ground || all.low.z() <= 1.5 * all.diagonal();
    if (ground && near) {
        const double reach = 0.6 * std::max(all.diagonal(), 1.0);
        for (int i = -2; i <= 2; ++i)
            for (const bool across : {false, true}) {
                const double off = 0.5 * i * reach;
                const Vec3 a = across ? Vec3(off, -reach, 0.0) : Vec3(-reach, off, 0.0);
                const Vec3 b = across ? Vec3(off, reach, 0.0) : Vec3(reach, off, 0.0);
                strokes.push_back({foot(middle) + a, foot(middle) + b, kThin, "frame", false});
            }
    }
    for (const auto& support : expansion.supports) {
        strokes.push_back({foot(support.topM), support.topM, 0.5, "frame", false});
        if (!model::isEdge(support.kind)) continue;
        strokes.push_back({support.topM, support.otherM, 0.5, "frame", false});
        strokes.push_back({foot(support.otherM), support.otherM, 0.5, "frame", false});
    }
    for (const auto& hung : expansion.hung)
        for (const auto* rope : {&hung.ropeStartM, &hung.ropeEndM})
            for (std::size_t i = 1; i < rope->size(); ++i)
                strokes.push_back({(*rope)[i - 1], (*rope)[i], 0.18, "dimensions", true});
    for (const auto& wire : expansion.model.wires)
        strokes.push_back(
            {wire.startM, wire.endM, 0.4, "wires", wire.startM.z() + wire.endM.z() < -1e-9 && ground});
    const auto flat = [&](const Vec3& p) { return SheetPoint{p.dot(right), -p.dot(up)}; };
    double left = 1e99, top = 1e99, wide = -1e99, low = -1e99;
    for (const auto& s : strokes)
        for (const SheetPoint p : {flat(s.from), flat(s.to)}) {
            left = std::min(left, p.x);
            wide = std::max(wide, p.x);
            top = std::min(top, p.y);
            low = std::max(low, p.y);
        }
    const double scale = std::min((box.width() - 4.0) / std::max(wide - left, 1e-3),
                                  (box.height() - 4.0) / std::max(low - top, 1e-3));
    const auto at = [&](const Vec3& p) -> SheetPoint {
        const SheetPoint f = flat(p);
        return {0.5 * (box.left + box.right) + scale * (f.x - 0.5 * (left + wide)),
                0.5 * (box.top + box.bottom) + scale * (f.y - 0.5 * (top + low))};
    };
    for (const auto& s : strokes) page.line(at(s.from), at(s.to), s.width, s.layer, s.dashed);
    for (const auto& support : expansion.supports) {
        const SheetPoint tip = at(0.5 * (support.topM + support.otherM));
        const bool room = tip.x + 24.0 < box.right;
        page.text({tip.x + (room ? 1.5 : -1.5), tip.y - 1.2}, support.name, "frame",
                  room ? Align::Left : Align::Right, 1.9);
    }
    for (const auto& feed : expansion.model.feeds) {
        const auto& wire = expansion.model.wires.at(feed.place.wire);
        page.circle(at(wire.startM + feed.place.at * (wire.endM - wire.startM)), 1.1, false);
    }
}

}  // namespace rm::io
