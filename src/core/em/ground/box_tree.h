// Boxes in the space of two or three distances, graded towards the point where all of them vanish: where the
// tables of the ground keep their series. A box is built where it is first asked for, or cut in two: wires
// lie at few heights and depths, and most of what a box would have beside them is never needed.
#pragma once

#include <algorithm>
#include <array>
#include <atomic>
#include <bit>
#include <cstdint>
#include <functional>
#include <memory>
#include <set>
#include <vector>

#include "core/em/ground/chebyshev.h"
#include "core/em/ground/once.h"
#include "core/em/parallel.h"
#include "core/stopped.h"

namespace rm::em {

/// Distances times the larger of the wavenumbers of both media below which the kernels change so little that
/// boxes reach four times as far as they begin.
constexpr double kWideBoxes = 0.02;

template <int kAxes, class Series>
class BoxTree {
  public:
    using Point = std::array<double, kAxes>;

    struct Box;
    /// Where a box belongs.
    struct Place {
        Once once;
        std::unique_ptr<Box> box;
        std::atomic<const Box*> ready{nullptr};
    };
    struct Box {
        std::array<Interval, kAxes> side;
        int depth = 0;                         ///< cuts above it
        std::shared_ptr<const Series> series;  ///< none where it is cut in two
        int cutAxis = 0;
        Place* like = nullptr;  ///< whose series it has
        mutable Place halves[2];
    };
    /// Gives a box its series, or the axis across which it is cut. May throw: the box is asked for again.
    using Build = std::function<void(Box&)>;

    /// Boxes that lie closer than `likeBelowM` to the point where all vanish are the likes of the outermost
    /// of them (for kernels of statics, which depend on directions alone). Those closer than `wideBelowM`,
    /// which is farther, reach out four times as far as they begin instead of twice.
    BoxTree(Build build, double likeBelowM, double wideBelowM)
        : build_(std::move(build)),
          wide_(octaveOf(wideBelowM) & ~1),
          roots_(std::make_unique<Place[]>(kShapes * kOctaves)) {
        // It ends, four times as far out as it begins, within that distance.
        const int least = firstOf(std::max(0, octaveOf(likeBelowM) - 2));
        for (int shape = 0; shape < kShapes; ++shape)
            for (int octave = 0; octave < kOctaves; ++octave) {
                if (firstOf(octave) != octave) continue;
                const double side = sideOf(octave);
                const double reach = octave < wide_ ? 4.0 * side : 2.0 * side;
                auto box = std::make_unique<Box>();
                // The bits of the shape say on which axes it lies beyond the nearer cube.
                for (int axis = 0; axis < kAxes; ++axis)
                    box->side[static_cast<std::size_t>(axis)] =
                        ((shape + 1) >> axis & 1) == 0 ? Interval{0.0, side} : Interval{side, reach};
                if (octave < least) box->like = root(shape, least);
                root(shape, octave)->box = std::move(box);
            }
    }

    /// The box with a series that serves at this point, not all of whose distances vanish.
    const Box& boxAt(const Point& point) const {
        for (;;) {
            const Way way = towards(point);
            if (way.box != nullptr) return *way.box;
            built(*way.missing);
        }
    }

    /// Builds the boxes that these points fall into, on all processors.
    void prepare(std::vector<Point> points) const {
        for (;;) {
            std::set<Place*> missing;
            std::erase_if(points, [&](const Point& point) {
                const Way way = towards(point);
                if (way.missing != nullptr) missing.insert(way.missing);
                return way.box != nullptr;
            });
            if (missing.empty()) return;
            const std::vector<Place*> places(missing.begin(), missing.end());
            parallelFor(std::size_t{0}, places.size(), [&, stop = StopScope::current()](std::size_t i) {
                const StopScope scope(stop);
                built(*places[i]);
            });
        }
    }

    /// Number of series built so far.
    std::size_t series() const { return series_; }

  private:
    static constexpr int kOctaves = 40;
    static constexpr int kFirstOctave = -20;          ///< of metres: 1 micrometre to 500 km
    static constexpr int kShapes = (1 << kAxes) - 1;  ///< of the boxes round a cube that is nearer

    /// By the exponent of an IEEE 754 double, which the library takes several times as long to tell.
    static int octaveOf(double m) {
        const int exponent = static_cast<int>(std::bit_cast<std::uint64_t>(m) >> 52 & 0x7ff) - 1023;
        return std::clamp(exponent - kFirstOctave, 0, kOctaves - 1);
    }
    static constexpr std::array<double, kOctaves> kSides = [] {
        std::array<double, kOctaves> sides{};
        double side = 1.0;
        for (int octave = 0; octave > kFirstOctave; --octave) side *= 0.5;
        for (double& one : sides) {
            one = side;
            side *= 2.0;
        }
        return sides;
    }();
    static double sideOf(int octave) { return kSides[static_cast<std::size_t>(octave)]; }
    /// The octave that a root begins with.
    int firstOf(int octave) const { return octave < wide_ ? octave & ~1 : octave; }
    Place* root(int shape, int octave) const {
        return &roots_[static_cast<std::size_t>(shape * kOctaves + octave)];
    }

    /// On the way to a point: the box with its series, or the place of one that is not built yet.
    struct Way {
        const Box* box = nullptr;
        Place* missing = nullptr;
    };
    Way towards(const Point& point) const {
        const int octave = firstOf(octaveOf(*std::max_element(point.begin(), point.end())));
        const double side = sideOf(octave);
        int shape = 0;
        for (std::size_t axis = 0; axis < kAxes; ++axis)
            if (point[axis] >= side) shape |= 1 << axis;
        Place* place = root(std::max(0, shape - 1), octave);
        for (;;) {
            const Box* box = place->ready.load(std::memory_order_acquire);
            if (box == nullptr) return {nullptr, place};
            if (box->series) return {box, nullptr};
            const auto axis = static_cast<std::size_t>(box->cutAxis);
            place = &box->halves[point[axis] > box->side[axis].middle() ? 1 : 0];
        }
    }

    const Box& built(Place& place) const {
        place.once.run([&] {
            Box& box = *place.box;
            endWhere(StopScope::current());
            if (box.like != nullptr) {
                const Box& like = built(*box.like);
                box.series = like.series;
                box.cutAxis = like.cutAxis;
            } else {
                build_(box);
                if (box.series) ++series_;
            }
            if (!box.series) cut(box);
            place.ready.store(place.box.get(), std::memory_order_release);
        });
        return *place.box;
    }

    static void cut(Box& box) {
        const auto axis = static_cast<std::size_t>(box.cutAxis);
        for (const std::size_t h : {std::size_t{0}, std::size_t{1}}) {
            auto part = std::make_unique<Box>();
            part->side = box.side;
            part->depth = box.depth + 1;
            if (box.like != nullptr) part->like = &box.like->box->halves[h];
            (h == 0 ? part->side[axis].to : part->side[axis].from) = box.side[axis].middle();
            box.halves[h].box = std::move(part);
        }
    }

    Build build_;
    int wide_;  ///< octaves, an even number, of which two have one root
    std::unique_ptr<Place[]> roots_;
    mutable std::atomic<std::size_t> series_{0};
};

}  // namespace rm::em
