#include "core/em/span_sizes.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/em/span_basis.h"
#include "core/model/geometry.h"

namespace rm::em {

namespace {

constexpr double kRounding = 1e-9;
constexpr double kStraight = 1e-6;           ///< sum of the outward directions of one line
constexpr double kSteep = 0.05;              ///< rise of a wire that counts as coming down to the ground
constexpr double kGroundGrowth = 20.0;       ///< growth from there
constexpr double kGroundSpanHeights = 10.0;  ///< first span there, in heights of its end

class Cutter {
  public:
    Cutter(const model::WireModel& model, const Stretches& laid, const Wavelengths& wavelengths,
           const MeshOptions& options)
        : model_(model), laid_(laid), wavelengths_(wavelengths), options_(options) {}

    SpanSizes cut(const Stretch& stretch) const {
        const double length = stretch.lengthM();
        const double maxSpan = options_.maxSpanWavelengths * wavelengths_.at(stretch.inSoil);
        const auto gapLength = [](const std::vector<EndGap>& gaps) {
            double g = 0.0;
            for (const auto& gap : gaps) g = g == 0.0 ? gap.lengthM : std::min(g, gap.lengthM);
            return g;
        };
        const double radius = kernelRadiusM(model_.wires[stretch.wire]);
        const double endSpan = kEndSpanRadii * radius;
        const auto endFunction = [&](int node) {
            return options_.endFunctions && laid_.isOpen(node) && length > 4.0 * endSpan;
        };
        const bool startFunction = endFunction(stretch.startNode);
        const bool stopFunction = endFunction(stretch.endNode);
        // What stands at an end before the ordinary spans begin: a gap, the span of an end function, or
        // nothing.
        const double startPiece = startFunction ? endSpan : gapLength(stretch.startGaps);
        const double endPiece = stopFunction ? endSpan : gapLength(stretch.endGaps);
        std::vector<double> head;
        std::vector<double> tail;
        if (startPiece > 0.0) head.push_back(startPiece);
        if (endPiece > 0.0) tail.push_back(endPiece);
        double left = length - startPiece - endPiece;
        // Grow from both ends until what is left is no longer than the next growth step allows.
        double nextHead = firstSize(stretch.startNode, startPiece, radius);
        double nextTail = firstSize(stretch.endNode, endPiece, radius);
        const double headGrowth = std::min({shortened(nextHead, groundSize(stretch, false), kGroundGrowth),
                                            shortened(nextHead, stretch.startSizeM, options_.neighbourGrowth),
                                            growthFrom(stretch.startGaps)});
        const double tailGrowth = std::min({shortened(nextTail, groundSize(stretch, true), kGroundGrowth),
                                            shortened(nextTail, stretch.endSizeM, options_.neighbourGrowth),
                                            growthFrom(stretch.endGaps)});
        bool headAhead = false;  // the head has grown by a piece that the tail may take next
        while (true) {
            const bool fromHead = nextHead <= nextTail;
            double& next = fromHead ? nextHead : nextTail;
            const double allowed = std::min(next, maxSpan);
            const double pieces = std::ceil(left / maxSpan - kRounding);
            if (left / std::max(1.0, pieces) <= allowed * 1.3 || next >= maxSpan) break;
            headAhead = fromHead && next == nextTail;
            (fromHead ? head : tail).push_back(next);
            left -= next;
            next *= fromHead ? headGrowth : tailGrowth;
        }
        // Ends alike are cut alike: what the head alone has taken is shared with the middle.
        if (headAhead) {
            left += head.back();
            head.pop_back();
        }
        std::vector<double> sizes = head;
        const int middle = std::max(headAhead ? 2 : 1, static_cast<int>(std::ceil(left / maxSpan - 1e-6)));
        for (int i = 0; i < middle; ++i) sizes.push_back(left / middle);
        sizes.insert(sizes.end(), tail.rbegin(), tail.rend());
        return {std::move(sizes), startFunction, stopFunction};
    }

  private:
    double growthFrom(const std::vector<EndGap>& gaps) const {
        return gaps.empty() ? options_.growth : options_.gapGrowth;
    }

    /// Where wires meet at an angle or more than two of them do.
    bool isBend(int node) const {
        const auto& ends = laid_.endsOf(node);
        if (ends.size() > 2) return true;
        if (ends.size() < 2) return false;
        const auto outward = [&](const StretchEnd& end) {
            const auto& wire = model_.wires[laid_.all[end.stretch].wire];
            const Vec3 along = (wire.endM - wire.startM).normalized();
            return end.atEnd ? Vec3(-along) : along;
        };
        return (outward(ends[0]) + outward(ends[1])).norm() > kStraight;
    }

    /// Most for the first ordinary span at an end that comes down to the ground, or up to it: the image
    /// crowds the charge over a length like the height. A level wire has the same charge all along and needs
    /// none of this.
    double groundSize(const Stretch& stretch, bool atEnd) const {
        const auto& wire = model_.wires[stretch.wire];
        const double away = stretch.inSoil ? -1.0 : 1.0;
        const double rise = away * (wire.endM.z() - wire.startM.z()) / wire.lengthM() * (atEnd ? -1.0 : 1.0);
        const double height = away * pointOn(wire, atEnd ? stretch.toM : stretch.fromM).z();
        const bool standing = height <= model::joinToleranceM(wire.radiusM, wire.radiusM);
        if (model_.ground.kind == model::GroundKind::FreeSpace || rise < kSteep || standing)
            return std::numeric_limits<double>::max();
        return kGroundSpanHeights * height;
    }

    /// Shortens the first span where the ground or a neighbour asks for it, and answers with the growth from
    /// there.
    double shortened(double& first, double most, double growth) const {
        if (most >= first) return options_.growth;
        first = most;
        return std::min(options_.growth, growth);
    }

    /// Length of the first ordinary span at an end: the charge changes fast next to a gap and at an open end.
    double firstSize(int node, double piece, double radius) const {
        if (piece > 0.0) return piece * (laid_.isOpen(node) ? options_.growth : options_.gapGrowth);
        if (laid_.isOpen(node)) return options_.plainEndRadii * radius;
        return options_.bendRadii > 0.0 && isBend(node) ? options_.bendRadii * radius
                                                        : std::numeric_limits<double>::max();
    }

    const model::WireModel& model_;
    const Stretches& laid_;
    const Wavelengths& wavelengths_;
    const MeshOptions& options_;
};

}  // namespace

SpanSizes spanSizes(const model::WireModel& model, const Stretches& laid, const Stretch& stretch,
                    const Wavelengths& wavelengths, const MeshOptions& options) {
    return Cutter(model, laid, wavelengths, options).cut(stretch);
}

}  // namespace rm::em
