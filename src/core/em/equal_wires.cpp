#include "core/em/equal_wires.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <map>
#include <tuple>

#include "core/em/pair_cache.h"
#include "core/em/parallel.h"
#include "core/em/span_basis.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Places that differ by less than this many radians of phase, and directions by less than this, are equal.
/// Rounding of the coordinates is far below: shifted copies are seldom taken for different.
constexpr double kEqualQuantum = 1e-11;

/// Spans of one wire that one thread takes at once.
constexpr std::size_t kRowsTogether = 8;

/// Whether a number of quanta says nothing about its sign.
bool nothing(std::int64_t quanta) {
    return std::abs(quanta) <= kSameQuanta;
}

}  // namespace

EqualWires::EqualWires(const Mesh& mesh, double wavenumber, const std::stop_token& stop)
    : mesh_(mesh), quantaPerM_(wavenumber / kEqualQuantum) {
    cutIntoWires();
    sortIntoKinds();
    findEqual(stop);
}

void EqualWires::cutIntoWires() {
    const auto& spans = mesh_.spans;
    for (std::size_t i = 0; i < spans.size(); ++i) {
        if (i == 0 || spans[i].wire != spans[i - 1].wire) {
            Cut cut;
            cut.firstSpan = i;
            cut.firstLocal = static_cast<Eigen::Index>(spans[i].firstLocal);
            cut.direction = spans[i].direction;
            wires_.push_back(cut);
        }
        ++wires_.back().spans;
    }
    for (Cut& cut : wires_)
        cut.centreM = 0.5 * (spans[cut.firstSpan].startM() + spans[cut.firstSpan + cut.spans - 1].endM());
}

std::vector<EqualWires::Rows> EqualWires::rows() const {
    std::vector<Rows> all;
    for (std::size_t wire = 0; wire < wires_.size(); ++wire) {
        const std::size_t end = wires_[wire].firstSpan + wires_[wire].spans;
        for (std::size_t first = wires_[wire].firstSpan; first < end; first += kRowsTogether)
            all.push_back({wire, first, std::min(end, first + kRowsTogether)});
    }
    return all;
}

EqualWires::Shape EqualWires::shapeOf(const Cut& cut, bool backwards) const {
    Shape shape;
    for (std::size_t i = 0; i < cut.spans; ++i) {
        const Span& span = mesh_.spans[cut.firstSpan + (backwards ? cut.spans - 1 - i : i)];
        const double sign = backwards ? -1.0 : 1.0;
        SpanKind kind = span.kind;
        if (backwards && kind != SpanKind::Inner)
            kind = kind == SpanKind::OpenStart ? SpanKind::OpenEnd : SpanKind::OpenStart;
        for (const std::int64_t part :
             {roundedWhole(quantaPerM_ * sign * (span.centreM - cut.centreM).dot(cut.direction)),
              roundedWhole(quantaPerM_ * span.lengthM), roundedWhole(quantaPerM_ * span.radiusM),
              static_cast<std::int64_t>(span.order),
              static_cast<std::int64_t>(kind) * 2 + (span.inSoil ? 1 : 0)})
            shape.push_back(part);
    }
    return shape;
}

/// Run through backwards, the two functions of the ends change places, and even ones change their sign: the
/// positive current flows the other way.
EqualWires::Sense EqualWires::functionsOf(const Cut& cut, bool backwards) const {
    Sense sense;
    for (std::size_t i = 0; i < cut.spans; ++i) {
        const Span& span = mesh_.spans[cut.firstSpan + (backwards ? cut.spans - 1 - i : i)];
        const auto first = static_cast<Eigen::Index>(span.firstLocal) - cut.firstLocal;
        const int count = basisOf(span).count;
        for (int f = 0; f < count; ++f) {
            const bool end = span.kind != SpanKind::Inner || f < 2;
            const int same = backwards && span.kind == SpanKind::Inner && f < 2 ? 1 - f : f;
            sense.local.push_back(first + same);
            sense.sign.push_back(backwards && (end || f % 2 == 0) ? -1.0 : 1.0);
        }
    }
    return sense;
}

void EqualWires::sortIntoKinds() {
    std::map<Shape, std::size_t> known;
    for (Cut& cut : wires_) {
        Shape shape = shapeOf(cut, false);
        Shape back = shapeOf(cut, true);
        const bool even = std::equal(shape.begin(), shape.end(), back.begin(),
                                     [](std::int64_t a, std::int64_t b) { return nothing(a - b); });
        cut.turned = !even && back < shape;
        const auto place =
            known.emplace(cut.turned ? std::move(back) : std::move(shape), kinds_.size()).first;
        cut.kind = place->second;
        if (cut.kind == kinds_.size()) kinds_.push_back({{}, even});
        auto& senses = kinds_[cut.kind].sense[cut.turned ? 1 : 0];
        if (senses[0].local.empty())
            for (const bool against : {false, true})
                senses[against ? 1 : 0] = functionsOf(cut, cut.turned != against);
    }
}

EqualWires::View EqualWires::viewOf(std::size_t a, std::size_t b, Key& key) const {
    // Only over the ground does the height count by itself.
    const bool grounded = mesh_.ground.kind != model::GroundKind::FreeSpace;
    const double level = grounded ? 0.0 : wires_[a].centreM.z();
    View view;
    const Cut* wire[2] = {&wires_[a], &wires_[b]};
    const Vec3 apart = wire[1]->centreM - wire[0]->centreM;
    Vec3 direction[2];
    std::int64_t along[2];
    std::int64_t height[2];
    for (int i = 0; i < 2; ++i) {
        direction[i] = wire[i]->turned ? Vec3(-wire[i]->direction) : wire[i]->direction;
        along[i] = roundedWhole(quantaPerM_ * direction[i].head<2>().dot(apart.head<2>()));
        height[i] = roundedWhole(quantaPerM_ * (wire[i]->centreM.z() - level));
    }
    const auto rank = [&](int i) { return std::make_tuple(wire[i]->kind, height[i], std::abs(along[i])); };
    if (rank(1) < rank(0)) {
        view.exchanged = true;
        std::swap(wire[0], wire[1]);
        std::swap(direction[0], direction[1]);
        std::swap(height[0], height[1]);
        std::swap(along[0], along[1]);
        along[0] = -along[0];
        along[1] = -along[1];
    }
    const auto turn = [&](int i) {
        view.backwards[i] = !view.backwards[i];
        direction[i] = -direction[i];
        along[i] = -along[i];
    };
    // A wire that is the same both ways runs towards the other one, or else along it.
    const bool even[2] = {kinds_[wire[0]->kind].even, kinds_[wire[1]->kind].even};
    for (int i = 0; i < 2; ++i)
        if (even[i] && along[i] < 0 && !nothing(along[i])) turn(i);
    const auto between = [&] { return direction[0].head<2>().dot(direction[1].head<2>()); };
    if (even[1] && nothing(along[1]) && between() < -kEqualQuantum)
        turn(1);
    else if (even[0] && nothing(along[0]) && between() < -kEqualQuantum)
        turn(0);
    for (int i = 0; i < 2; ++i)
        if (even[i] && nothing(along[i]) && std::abs(between()) <= kEqualQuantum && direction[i].z() < 0.0)
            turn(i);
    key = {static_cast<std::int64_t>(wire[0]->kind),
           static_cast<std::int64_t>(wire[1]->kind),
           along[0],
           along[1],
           height[0],
           height[1],
           roundedWhole(quantaPerM_ * apart.head<2>().norm()),
           roundedWhole(between() / kEqualQuantum),
           roundedWhole(direction[0].z() / kEqualQuantum),
           roundedWhole(direction[1].z() / kEqualQuantum)};
    return view;
}

void EqualWires::findEqual(const std::stop_token& stop) {
    const std::size_t count = wires_.size();
    const std::size_t pairs = count * (count + 1) / 2;
    sameAs_.assign(pairs, {});
    different_ = count;
    // By hash: the pair, whose key is made again where the marks agree. Keys would take more than the matrix.
    struct Slot {
        std::uint32_t mark = 0;
        Pair pair;
    };
    std::vector<Slot> slots(std::bit_ceil(2 * pairs));
    const std::size_t mask = slots.size() - 1;
    const auto sameKey = [&](const Pair& pair, const Key& key) {
        Key other;
        viewOf(pair.a, pair.b, other);
        return other == key;
    };
    // A wire with itself is left out: what it is made of stands there, too.
    for (std::size_t a = 0; a < count; ++a) {
        endWhere(stop);
        for (std::size_t b = a + 1; b < count; ++b) {
            Key key;
            viewOf(a, b, key);
            const std::uint64_t hash = hashOf(key);
            const auto mark = static_cast<std::uint32_t>(hash >> 32U);
            std::size_t at = hash & mask;
            while (slots[at].pair.a != kNone && !(slots[at].mark == mark && sameKey(slots[at].pair, key)))
                at = (at + 1) & mask;
            if (slots[at].pair.a != kNone) {
                sameAs_[index(a, b)] = slots[at].pair;
                continue;
            }
            slots[at] = {mark, {static_cast<std::uint32_t>(a), static_cast<std::uint32_t>(b)}};
            ++different_;
        }
    }
}

void EqualWires::copyEqual(MatrixXc& local, const std::stop_token& stop) const {
    parallelRanges(wires_.size(), 1, [&](const auto& range) {
        for (std::size_t a = range.begin(); a < range.end(); ++a)
            for (std::size_t b = a + 1; b < wires_.size(); ++b) {
                endWhere(stop);
                const Pair& from = sameAs_[index(a, b)];
                if (from.a != kNone)
                    copy(from, {static_cast<std::uint32_t>(a), static_cast<std::uint32_t>(b)}, local);
            }
    });
}

void EqualWires::copy(const Pair& from, const Pair& to, MatrixXc& local) const {
    /// The local functions of one wire of a pair in the view of the pair, and the place of the wire.
    struct Side {
        const Sense* sense;
        Eigen::Index first;
    };
    const auto sides = [&](const Pair& pair) {
        Key key;
        const View view = viewOf(pair.a, pair.b, key);
        const Cut& one = wires_[view.exchanged ? pair.b : pair.a];
        const Cut& other = wires_[view.exchanged ? pair.a : pair.b];
        return std::array<Side, 2>{Side{&senseOf(one, view, 0), one.firstLocal},
                                   Side{&senseOf(other, view, 1), other.firstLocal}};
    };
    const auto source = sides(from);
    const auto target = sides(to);
    const auto at = [&](const std::array<Side, 2>& pair, std::size_t i, std::size_t j) -> Complex& {
        const Eigen::Index row = pair[0].first + pair[0].sense->local[i];
        const Eigen::Index column = pair[1].first + pair[1].sense->local[j];
        return local(std::max(row, column), std::min(row, column));
    };
    const auto sign = [](const std::array<Side, 2>& pair, std::size_t i, std::size_t j) {
        return pair[0].sense->sign[i] * pair[1].sense->sign[j];
    };
    for (std::size_t i = 0; i < target[0].sense->local.size(); ++i)
        for (std::size_t j = 0; j < target[1].sense->local.size(); ++j)
            at(target, i, j) = sign(source, i, j) * sign(target, i, j) * at(source, i, j);
}

}  // namespace rm::em
