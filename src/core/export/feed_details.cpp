#include "core/export/feed_details.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/export/scales.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using namespace rm::model;

constexpr std::size_t kAcross = 2;
constexpr std::size_t kDown = 3;
/// What is shown round a feed: this far, and more round thick tubes.
constexpr double kAroundM = 0.25;
constexpr double kAroundThick = 6.0;  ///< diameters
/// The gap is drawn so wide whatever its size: a feed of the model has none.
constexpr double kGapMm = 3.0;
constexpr double kWordsRoom = 27.0;

/// A conductor that comes near a feed, on paper from the feed outwards.
struct Near {
    Vec3 from;
    Vec3 to;
    double radiusM = 0.0;
    std::string part;
    bool atFeed = false;
};

class Detail {
  public:
    Detail(const Design& design, const Expansion& expansion, const DrawingOptions& options)
        : design_(design), expansion_(expansion), options_(options) {}

    void put(Page& page, const PageBox& box, std::size_t feed) {
        const PlainFeed& f = expansion_.model.feeds.at(feed);
        const PlainWire& wire = expansion_.model.wires.at(f.place.wire);
        at_ = wire.startM + f.place.at * (wire.endM - wire.startM);
        gather(f, wire);
        chooseView(wire);
        const SheetPoint middle{0.5 * (box.left + box.right), 0.5 * (box.top + box.bottom - kWordsRoom)};
        const double reachMm = 0.5 * std::min(box.width(), box.height() - kWordsRoom) - 2.0;
        scale_ = scaleFor(aroundM_ / reachMm);
        const auto place = [&](const Vec3& p) -> SheetPoint {
            const Vec3 away = 1000.0 / scale_ * (p - at_);
            return {middle.x + away.dot(right_), middle.y - away.dot(up_)};
        };
        for (const Near& near : near_) draw(page, near, place);
        // The two sides of the feed, and the line between them.
        const SheetPoint one = side(1.0, middle);
        const SheetPoint other = side(-1.0, middle);
        for (const SheetPoint& end : {one, other}) page.circle(end, 0.8, true, "wires");
        page.circle(middle, 3.4, false, "dimensions");
        if (beside_) {
            const SheetPoint there = place(*beside_);
            page.line(middle, there, 0.18, "dimensions", true);
            const std::string far = length((*beside_ - at_).norm());
            page.text({std::max(middle.x, there.x) + 1.2, 0.5 * (middle.y + there.y) + 0.4 * kWordsMm}, far,
                      "dimensions");
        }
        words(page, {box.left, box.bottom - kWordsRoom + 5.0, box.right, box.bottom}, feed, wire);
    }

  private:
    std::string length(double metres) const {
        return quantity::formatLength(metres, options_.feetAndInches ? quantity::LengthStyle::FeetInches
                                                                     : quantity::LengthStyle::Metric);
    }

    /// The conductors within reach, cut off there.
    void gather(const PlainFeed& feed, const PlainWire& fed) {
        aroundM_ = std::max(kAroundM, kAroundThick * 2.0 * fed.radiusM);
        near_.clear();
        for (std::size_t w = 0; w < expansion_.model.wires.size(); ++w) {
            const PlainWire& wire = expansion_.model.wires[w];
            const Vec3 along = wire.endM - wire.startM;
            const double length = along.norm();
            if (!(length > 0.0)) continue;
            const Vec3 u = along / length;
            const double foot = (at_ - wire.startM).dot(u);
            const double aside = (wire.startM + foot * u - at_).norm();
            if (aside >= aroundM_) continue;
            const double half = std::sqrt(aroundM_ * aroundM_ - aside * aside);
            const double from = std::max(0.0, foot - half);
            const double to = std::min(length, foot + half);
            if (to - from < 1e-6) continue;
            const bool here = w == feed.place.wire || aside < std::max(wire.radiusM, fed.radiusM);
            near_.push_back({wire.startM + from * u, wire.startM + to * u, wire.radiusM, wire.part, here});
        }
    }

    /// Flat on the plane of the fed wire and of another one that meets it there or runs beside it, or of the
    /// vertical.
    void chooseView(const PlainWire& fed) {
        const Vec3 along = (fed.endM - fed.startM).normalized();
        Vec3 second = std::abs(along.z()) > 0.9 ? Vec3(Vec3::UnitX()) : Vec3(Vec3::UnitZ());
        bool meets = false;
        double nearest = 1e99;
        beside_.reset();
        for (const Near& near : near_) {
            const Vec3 direction = (near.to - near.from).normalized();
            if (near.atFeed && !meets && direction.cross(along).norm() > 0.05) {
                second = direction;
                meets = true;
            }
            const Vec3 foot = near.from + (at_ - near.from).dot(direction) * direction;
            // The other conductor of a folded element before any other element.
            const double far = (foot - at_).norm() + (near.part == fed.part ? 0.0 : aroundM_);
            if (near.atFeed || direction.cross(along).norm() > 0.05 || far >= nearest) continue;
            nearest = far;
            beside_ = foot;
        }
        if (!meets && beside_) second = (*beside_ - at_).normalized();
        second = (second - second.dot(along) * along).normalized();
        const bool rises = std::abs(along.z()) > std::abs(second.z());
        right_ = rises ? second : along;
        up_ = rises ? along : second;
        if (up_.z() < 0.0) up_ = -up_;
        along_ = along;
    }

    SheetPoint side(double sign, const SheetPoint& middle) const {
        const double step = 0.5 * kGapMm * sign;
        return {middle.x + step * along_.dot(right_), middle.y - step * along_.dot(up_)};
    }

    template <typename Place>
    void draw(Page& page, const Near& near, const Place& place) {
        // Where the feed sits on it the conductor is two, with the gap between.
        const Vec3 u = (near.to - near.from).normalized();
        const double foot = (at_ - near.from).dot(u);
        const double length = (near.to - near.from).norm();
        const double gapM = 0.5 * kGapMm * scale_ / 1000.0;
        if (near.atFeed && foot > -1e-9 && foot < length + 1e-9) {
            if (foot > gapM) bar(page, place(near.from), place(near.from + (foot - gapM) * u), near.radiusM);
            if (foot < length - gapM)
                bar(page, place(near.from + (foot + gapM) * u), place(near.to), near.radiusM);
            return;
        }
        bar(page, place(near.from), place(near.to), near.radiusM);
    }

    /// A tube by its two edges, a wire by a line.
    void bar(Page& page, const SheetPoint& from, const SheetPoint& to, double radiusM) const {
        const double half = 1000.0 * radiusM / scale_;
        const double length = std::hypot(to.x - from.x, to.y - from.y);
        if (half < 0.4 || length < 1e-6) return page.line(from, to, std::max(0.35, 2.0 * half), "wires");
        const double x = -(to.y - from.y) / length * half;
        const double y = (to.x - from.x) / length * half;
        const SheetPoint corners[] = {
            {from.x + x, from.y + y}, {to.x + x, to.y + y}, {to.x - x, to.y - y}, {from.x - x, from.y - y}};
        for (std::size_t i = 0; i < 4; ++i) page.line(corners[i], corners[(i + 1) % 4], 0.3, "wires");
    }

    /// What the feed leads to.
    std::string leadsTo(std::size_t feed) const {
        const auto& arms = expansion_.model.harness;
        if (feed < arms.size() && arms[feed].lengthM > 0.0)
            return say("to the harness: {} of {}{}", length(arms[feed].lengthM), design_.harness.line.line,
                       arms[feed].crossed ? say(", crossed") : "");
        if (expansion_.model.feeds.size() > 1) return say("one feed of several");
        for (const auto& block : design_.feedPath)
            if (block.enabled) return say("to the radio through {}", block.name);
        return say("straight to {} ohm", design_.reference);
    }

    void words(Page& page, const PageBox& box, std::size_t feed, const PlainWire& wire) const {
        double y = box.top;
        const auto write = [&](const std::string& text, bool bold = false) {
            page.text({box.left, y}, text, "frame", Align::Left, bold ? 2.9 : kWordsMm, false, bold);
            y += bold ? 4.8 : 4.0;
        };
        std::vector<std::string> others;
        for (const Near& near : near_)
            if (near.atFeed && near.part != wire.part &&
                std::find(others.begin(), others.end(), near.part) == others.end())
                others.push_back(near.part);
        write(figure("{}, 1 : {:g}", expansion_.model.feeds[feed].name, scale_), true);
        write(say("on {}, {:.4g} mm thick{}", wire.part, 2e3 * wire.radiusM,
                  expansion_.model.ground.kind == GroundKind::FreeSpace ? std::string()
                                                                        : say(", {} up", length(at_.z()))));
        if (!others.empty()) write(say("meets {}", fmt::join(others, say(" and "))));
        write(leadsTo(feed));
    }

    const Design& design_;
    const Expansion& expansion_;
    const DrawingOptions& options_;
    Vec3 at_ = Vec3::Zero();
    Vec3 along_ = Vec3::UnitX();
    Vec3 right_ = Vec3::UnitX();
    Vec3 up_ = Vec3::UnitZ();
    std::optional<Vec3> beside_;  ///< the place nearest to the feed on a conductor that runs beside it
    double aroundM_ = kAroundM;
    double scale_ = 10.0;
    std::vector<Near> near_;
};

}  // namespace

std::vector<Page> feedDetails(const Design& design, const Expansion& expansion,
                              const DrawingOptions& options) {
    std::vector<Page> pages;
    Detail detail(design, expansion, options);
    const std::size_t count = std::min(kMostDetails, expansion.model.feeds.size());
    for (std::size_t i = 0; i < count; ++i) {
        const std::size_t cell = i % (kAcross * kDown);
        if (cell == 0) pages.emplace_back(options.paper);
        const PageBox all = pages.back().content();
        const double wide = all.width() / kAcross;
        // Few feeds get more room each.
        const std::size_t here = std::min(count - (i - cell), kAcross * kDown);
        const std::size_t down = (here + kAcross - 1) / kAcross;
        const double tall = all.height() / static_cast<double>(down);
        const double left = all.left + static_cast<double>(cell % kAcross) * wide;
        const double top = all.top + static_cast<double>(cell / kAcross) * tall;
        detail.put(pages.back(), {left + 3.0, top + 2.0, left + wide - 5.0, top + tall - 3.0}, i);
    }
    return pages;
}

}  // namespace rm::io
