#include "core/export/build_drawing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/export/build_tables.h"
#include "core/export/feed_details.h"
#include "core/export/page.h"
#include "core/export/scales.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/study/figures.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using namespace rm::model;

constexpr double kMargin = kPageMargin;
constexpr double kTitleHeight = kTitleBlockMm;
/// Round a view, for its dimensions.
constexpr double kRoom = 17.0;
constexpr double kLeft = 26.0;  ///< to the left of one, for heights
/// An antenna this much higher than it is large is drawn with the ground broken off.
constexpr double kHigh = 0.4;
/// Paper between an antenna and a ground that is broken off, mm.
constexpr double kBreakMm = 9.0;
constexpr double kTextMm = kWordsMm;
constexpr double kSmallest = 1e-3;

/// A direction of looking: what goes to the right and what goes up on paper.
struct View {
    std::string name;
    Vec3 right;
    Vec3 up;
};

struct Box {
    double left = 1e99;
    double right = -1e99;
    double low = 1e99;
    double high = -1e99;
    void include(double x, double y) {
        left = std::min(left, x);
        right = std::max(right, x);
        low = std::min(low, y);
        high = std::max(high, y);
    }
    double width() const { return right - left; }
    double height() const { return high - low; }
};

/// Places in a row pushed apart to at least `least`, in their order, as near to where they belong as may be.
std::vector<double> apart(std::vector<double> at, double least) {
    for (int round = 0; round < 200; ++round) {
        bool moved = false;
        for (std::size_t i = 0; i + 1 < at.size(); ++i) {
            const double lack = least - (at[i + 1] - at[i]);
            if (lack <= 1e-6) continue;
            at[i] -= 0.5 * lack;
            at[i + 1] += 0.5 * lack;
            moved = true;
        }
        if (!moved) break;
    }
    return at;
}

class Drawer {
  public:
    Drawer(const Design& design, const DrawingOptions& options)
        : design_(design), options_(options), expansion_(expand(design)), page_(options.paper) {
        study::requireUsable(expansion_);
        ground_ = expansion_.model.ground.kind != GroundKind::FreeSpace;
        views_ = {{say("from above"), -Vec3::UnitY(), Vec3::UnitX()},
                  {say("from the right"), Vec3::UnitX(), Vec3::UnitZ()},
                  {say("from the front"), Vec3::UnitY(), Vec3::UnitZ()}};
    }

    DrawnViews run() {
        layOutViews();
        return {page_,
                {design_.name, options_.project,
                 say("for {:.4g} MHz{}", expansion_.designFrequencyHz / 1e6, groundWords()), options_.date,
                 figure("1 : {:g}", scale_)}};
    }

  private:
    std::string length(double metres) const {
        return quantity::formatLength(metres, options_.feetAndInches ? quantity::LengthStyle::FeetInches
                                                                     : quantity::LengthStyle::Metric);
    }
    void line(SheetPoint from, SheetPoint to, double width, const char* layer, bool dashed = false) {
        page_.line(from, to, width, layer, dashed);
    }
    void text(SheetPoint at, const std::string& words, const char* layer, Align align = Align::Left,
              double height = kTextMm, bool upright = false, bool bold = false) {
        page_.text(at, words, layer, align, height, upright, bold);
    }

    Box boxOf(const View& view) const {
        Box box;
        for (const auto& wire : expansion_.model.wires)
            for (const Vec3& end : {wire.startM, wire.endM})
                box.include(end.dot(view.right), end.dot(view.up));
        for (const auto& hung : expansion_.hung)
            for (const Vec3& tied : hung.tiedM) box.include(tied.dot(view.right), tied.dot(view.up));
        // Upright views stand on the ground, where that leaves them a size.
        if (ground_ && view.up.z() > 0.5 && !broken()) box.include(box.left, 0.0);
        return box;
    }

    /// Whether the ground is too far below to be drawn to scale.
    bool broken() const {
        const Bounds box = expansion_.model.bounds();
        return ground_ && box.low.z() > kHigh * box.diagonal();
    }

    /// The three views where they find room: from above at the top left, from the right below it, from the
    /// front beside that.
    void layOutViews() {
        const Box top = boxOf(views_[0]);
        const Box side = boxOf(views_[1]);
        const Box front = boxOf(views_[2]);
        const double wide = page_.sheet().width - 2.0 * kMargin - 2.0 * kLeft - 2.0 * kRoom;
        const double tall = page_.sheet().height - 2.0 * kMargin - kTitleHeight - 4.0 * kRoom;
        const double upperWide = std::max(top.width(), kSmallest);
        const double lowerWide = side.width() + front.width();
        const double needed =
            std::max({std::max(upperWide, lowerWide) / wide,
                      (top.height() + std::max(side.height(), front.height())) / tall, kSmallest / wide});
        scale_ = scaleFor(needed);
        const double x = kMargin + kLeft;
        const double y = kMargin + kRoom;
        view(views_[0], top, {x, y}, true);
        const double below = y + top.height() * mm() + 2.0 * kRoom;
        view(views_[1], side, {x, below + std::max(0.0, front.height() - side.height()) * mm()}, false);
        view(views_[2], front,
             {x + side.width() * mm() + kRoom + kLeft,
              below + std::max(0.0, side.height() - front.height()) * mm()},
             false);
    }

    /// Millimetres on paper of a metre.
    double mm() const { return 1000.0 / scale_; }

    void view(const View& view, const Box& box, SheetPoint corner, bool above) {
        const auto at = [&](const Vec3& p) -> SheetPoint {
            return {corner.x + (p.dot(view.right) - box.left) * mm(),
                    corner.y + (box.high - p.dot(view.up)) * mm()};
        };
        text({corner.x, corner.y - 10.0}, view.name, "frame", Align::Left, 2.6, false, true);
        for (const auto& wire : expansion_.model.wires) {
            const SheetPoint from = at(wire.startM);
            const SheetPoint to = at(wire.endM);
            line(from, to, std::clamp(2.0 * wire.radiusM * mm(), 0.35, 2.0), "wires");
            if (std::hypot(from.x - to.x, from.y - to.y) < 0.3) page_.circle(from, 0.5, true);
        }
        for (const auto& hung : expansion_.hung)
            for (const auto* rope : {&hung.ropeStartM, &hung.ropeEndM})
                for (std::size_t i = 1; i < rope->size(); ++i)
                    line(at((*rope)[i - 1]), at((*rope)[i]), 0.18, "dimensions", true);
        for (const auto& feed : expansion_.model.feeds) {
            const auto& wire = expansion_.model.wires[feed.place.wire];
            page_.circle(at(wire.startM + feed.place.at * (wire.endM - wire.startM)), 1.1, false);
        }
        if (ground_ && !above) {
            const double y = corner.y + (broken() ? box.height() * mm() + kBreakMm : box.high * mm());
            if (broken()) {
                // Two strokes across: what lies between is left out.
                const double x = corner.x + 0.5 * box.width() * mm();
                for (const double up : {5.2, 4.0})
                    line({x - 2.0, y - up + 0.8}, {x + 2.0, y - up - 0.8}, 0.2, "dimensions");
            }
            line({corner.x - 4.0, y}, {corner.x + box.width() * mm() + 4.0, y}, 0.5, "frame");
            for (double x = corner.x - 4.0; x < corner.x + box.width() * mm() + 3.0; x += 3.0)
                line({x, y}, {x - 1.4, y + 1.4}, 0.15, "frame");
        }
        across(box, corner, ground_ && !above && broken() ? kBreakMm : 0.0);
        upwards(box, corner, above);
        if (above) boom(at, box, corner);
    }

    /// The width, below a view.
    void across(const Box& box, SheetPoint corner, double lower) {
        if (box.width() < kSmallest) return;
        const double y = corner.y + box.height() * mm() + lower + 7.0;
        const double left = corner.x;
        const double right = corner.x + box.width() * mm();
        dimension({left, y}, {right, y}, box.width(), {0.0, -6.0});
    }

    /// The depth of a view from above; heights above the ground of the others, at its left.
    void upwards(const Box& box, SheetPoint corner, bool above) {
        const double x = corner.x - 7.0;
        if (above || !ground_) {
            if (box.height() > kSmallest)
                dimension({x, corner.y + box.height() * mm()}, {x, corner.y}, box.height(), {6.0, 0.0});
            return;
        }
        std::vector<double> levels;
        for (const auto& wire : expansion_.model.wires)
            for (const Vec3& end : {wire.startM, wire.endM}) {
                if (expansion_.model.runsThrough(end)) continue;
                const bool known = std::any_of(levels.begin(), levels.end(),
                                               [&](double z) { return std::abs(z - end.z()) < 0.02; });
                if (!known && levels.size() < 8) levels.push_back(end.z());
            }
        std::sort(levels.rbegin(), levels.rend());
        std::vector<double> places;
        for (const double z : levels) places.push_back(corner.y + (box.high - z) * mm());
        const auto written = apart(places, kTextMm + 1.2);
        for (std::size_t i = 0; i < levels.size(); ++i) {
            line({corner.x - 1.0, places[i]}, {corner.x - 3.0, written[i]}, 0.15, "dimensions");
            text({corner.x - 3.6, written[i] + 0.5 * kTextMm}, length(levels[i]), "dimensions", Align::Right);
        }
    }

    /// Where the elements of a row stand on their boom, from its first one.
    template <typename At>
    void boom(const At& at, const Box& box, SheetPoint corner) {
        for (const auto& row : expansion_.rows) {
            if (row.elements.size() < 2) continue;
            struct ViewMark {
                double place;
                double positionM;
            };
            std::vector<ViewMark> marks;
            const std::string first = row.part + ", " + row.elements.front().name;
            const PlainWire* begin = nullptr;
            for (const auto& wire : expansion_.model.wires)
                if (begin == nullptr && wire.part == first) begin = &wire;
            if (begin == nullptr) continue;
            const double start = 0.5 * (at(begin->startM).y + at(begin->endM).y);
            for (const auto& element : row.elements)
                marks.push_back(
                    {start - (element.positionM - row.elements.front().positionM) * mm(), element.positionM});
            std::sort(marks.begin(), marks.end(),
                      [](const ViewMark& a, const ViewMark& b) { return a.place < b.place; });
            std::vector<double> places;
            for (const auto& mark : marks) places.push_back(mark.place);
            const auto written = apart(places, kTextMm + 1.0);
            const double x = corner.x + box.width() * mm() + 3.0;
            for (std::size_t i = 0; i < marks.size(); ++i) {
                line({x - 2.0, marks[i].place}, {x + 2.0, written[i]}, 0.15, "dimensions");
                text({x + 2.6, written[i] + 0.5 * kTextMm}, length(marks[i].positionM), "dimensions");
            }
            return;
        }
    }

    /// A dimension line with its ends, its words in the middle, and lines out to what it measures.
    void dimension(SheetPoint from, SheetPoint to, double metres, SheetPoint out) {
        line(from, to, 0.18, "dimensions");
        for (const SheetPoint& end : {from, to}) {
            line({end.x - 0.9, end.y + 0.9}, {end.x + 0.9, end.y - 0.9}, 0.3, "dimensions");
            line({end.x, end.y}, {end.x + out.x, end.y + out.y}, 0.12, "dimensions");
        }
        const bool upright = std::abs(to.x - from.x) < std::abs(to.y - from.y);
        const SheetPoint middle{0.5 * (from.x + to.x), 0.5 * (from.y + to.y)};
        if (upright)
            text({middle.x - 0.8, middle.y}, length(metres), "dimensions", Align::Middle, kTextMm, true);
        else
            text({middle.x, middle.y + kTextMm + 0.9}, length(metres), "dimensions", Align::Middle);
    }

    std::string groundWords() const {
        return ground_ ? say(", up to {} high", length(expansion_.model.bounds().high.z()))
                       : std::string(say(", in free space"));
    }

    const Design& design_;
    const DrawingOptions& options_;
    Expansion expansion_;
    bool ground_ = false;
    std::vector<View> views_;
    double scale_ = 100.0;
    Page page_;
};

}  // namespace

DrawnViews drawViews(const Design& design, const DrawingOptions& options) {
    return Drawer(design, options).run();
}

std::vector<Sheet> buildDrawing(const Design& design, const DrawingOptions& options) {
    const DrawnViews views = drawViews(design, options);
    std::vector<Page> pages{views.page};
    const auto details = feedDetails(design, expand(design), options);
    pages.insert(pages.end(), details.begin(), details.end());
    const auto tables =
        layTables(buildTables(build::buildSheet(design), options.feetAndInches), options.paper);
    pages.insert(pages.end(), tables.begin(), tables.end());
    return titled(std::move(pages), views.title, false);
}

}  // namespace rm::io
