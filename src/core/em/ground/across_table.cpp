#include "core/em/ground/across_table.h"

#include <fmt/format.h>
#include <algorithm>
#include <cmath>
#include <list>

#include "core/em/ground/sommerfeld.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Boxes of one table, of 33 kB each where they have a series. Soils at antennas' distances take a hundred.
constexpr int kMostBoxes = 2500;
constexpr int kAxes = 3;  ///< distance, height, depth

}  // namespace

/// A box with its series, or cut in two. The halves are built where they are asked for: wires lie at few
/// depths, and most of what a box would have below them is never needed.
struct AcrossTable::Box {
    struct Half {
        std::once_flag once;
        std::unique_ptr<Box> box;
        std::atomic<const Box*> ready{nullptr};
    };
    /// [depth][distance][height]
    struct Series {
        alignas(64) double term[kSeriesTerms][kSeriesTerms][kSeriesTerms][kGroundLanes];
    };

    Interval side[kAxes];
    int depth = 0;  ///< cuts above it
    std::unique_ptr<Series> series;
    int cutAxis = 0;
    mutable Half halves[2];
};

struct AcrossTable::Root {
    std::once_flag once;
    std::unique_ptr<Box> box;
    std::atomic<const Box*> ready{nullptr};
};

void DepthSeries::at(double rhoM, double heightM, Lanes& kernels) const {
    double inRho[kSeriesTerms];
    double inHeight[kSeriesTerms];
    chebyshevRow(rho.scaled(rhoM), inRho);
    chebyshevRow(height.scaled(heightM), inHeight);
    Lanes sum = {};
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes even = {};
        Lanes odd = {};
        for (int b = 0; b < kSeriesTerms; b += 2) {
            even += inHeight[b] * term[a][b];
            odd += inHeight[b + 1] * term[a][b + 1];
        }
        sum += inRho[a] * (even + odd);
    }
    kernels = sum;
}

AcrossTable::AcrossTable(const HalfSpace& halfSpace, double tolerance)
    : halfSpace_(halfSpace),
      tolerance_(tolerance),
      scalarSize_(halfSpace.scalarSize(Region::Across)),
      roots_(std::make_unique<Root[]>(kShapes * kOctaves)) {}

AcrossTable::~AcrossTable() = default;

void AcrossTable::build(Box& box) const {
    endWhere(StopScope::current());
    if (++boxes_ > kMostBoxes) throw changesTooFast(box.side[0].to);
    const ChebyshevTransform& transform = chebyshevTransform();
    GroundGrid grid;
    grid.region = Region::Across;
    grid.depthM.clear();
    for (int i = 0; i < kSeriesTerms; ++i) {
        grid.rhoM.push_back(chebyshevNode(box.side[0], i));
        grid.zetaM.push_back(chebyshevNode(box.side[1], i));
        grid.depthM.push_back(chebyshevNode(box.side[2], i));
    }
    const auto values = groundKernels(halfSpace_, grid);
    const auto* value = reinterpret_cast<const double*>(values.data());
    // One axis after the other: [distance][height][depth] to [depth][distance][height] of coefficients.
    static_assert(sizeof(KernelValues) == kGroundLanes * sizeof(double));
    constexpr int kAll = kSeriesTerms * kSeriesTerms * kSeriesTerms;
    std::vector<double> first(static_cast<std::size_t>(kAll * kGroundLanes), 0.0);
    std::vector<double> second(first.size(), 0.0);
    const auto cell = [](int a, int b, int c) {
        return ((a * kSeriesTerms + b) * kSeriesTerms + c) * kGroundLanes;
    };
    for (int n = 0; n < kSeriesTerms; ++n)
        for (int i = 0; i < kSeriesTerms; ++i)
            for (int at = 0; at < kSeriesTerms * kSeriesTerms * kGroundLanes; ++at)
                first[static_cast<std::size_t>(cell(n, 0, 0) + at)] +=
                    transform.weight[n][i] * value[cell(i, 0, 0) + at];
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int n = 0; n < kSeriesTerms; ++n)
            for (int j = 0; j < kSeriesTerms; ++j)
                for (int at = 0; at < kSeriesTerms * kGroundLanes; ++at)
                    second[static_cast<std::size_t>(cell(a, n, 0) + at)] +=
                        transform.weight[n][j] * first[static_cast<std::size_t>(cell(a, j, 0) + at)];
    auto built = std::make_unique<Box::Series>();
    auto& term = built->term;
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int b = 0; b < kSeriesTerms; ++b)
            for (int n = 0; n < kSeriesTerms; ++n)
                for (int l = 0; l < kSeriesTerms; ++l)
                    for (int c = 0; c < kGroundLanes; ++c)
                        term[n][a][b][c] +=
                            transform.weight[n][l] * second[static_cast<std::size_t>(cell(a, b, l) + c)];
    double tail[kAxes] = {};
    const auto add = [&](double& sum, const double* last, const double* before) {
        for (int c = 0; c < kGroundLanes; ++c)
            sum += (std::abs(last[c]) + 0.3 * std::abs(before[c])) / (c < kScalarLane ? 1.0 : scalarSize_);
    };
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int b = 0; b < kSeriesTerms; ++b) {
            add(tail[0], term[a][kSeriesTerms - 1][b], term[a][kSeriesTerms - 2][b]);
            add(tail[1], term[a][b][kSeriesTerms - 1], term[a][b][kSeriesTerms - 2]);
            add(tail[2], term[kSeriesTerms - 1][a][b], term[kSeriesTerms - 2][a][b]);
        }
    const auto worst = std::max_element(tail, tail + kAxes) - tail;
    if (tail[worst] < tolerance_ || box.depth >= kDeepestSplit) {
        ++series_;
        box.series = std::move(built);
        return;
    }
    box.cutAxis = static_cast<int>(worst);
    for (int h = 0; h < 2; ++h) {
        auto part = std::make_unique<Box>();
        std::copy_n(box.side, kAxes, part->side);
        part->depth = box.depth + 1;
        Interval& cut = part->side[box.cutAxis];
        (h == 0 ? cut.to : cut.from) = cut.middle();
        box.halves[h].box = std::move(part);
    }
}

const AcrossTable::Box& AcrossTable::rootBox(int shape, int octave) const {
    Root& root = roots_[static_cast<std::size_t>(shape * kOctaves + octave)];
    if (const Box* ready = root.ready.load(std::memory_order_acquire)) return *ready;
    std::call_once(root.once, [&] {
        auto box = std::make_unique<Box>();
        const double side = std::ldexp(1.0, octave + kFirstOctave);
        // The bits of the shape say on which axes it lies beyond the nearer cube.
        for (int axis = 0; axis < kAxes; ++axis)
            box->side[axis] =
                ((shape + 1) >> axis & 1) == 0 ? Interval{0.0, side} : Interval{side, 2.0 * side};
        build(*box);
        root.box = std::move(box);
        root.ready.store(root.box.get(), std::memory_order_release);
    });
    return *root.box;
}

const AcrossTable::Box& AcrossTable::boxAt(double rhoM, double heightM, double depthM) const {
    const double point[kAxes] = {rhoM, heightM, depthM};
    int exponent = 0;
    std::frexp(std::max({rhoM, heightM, depthM}), &exponent);
    const int octave = std::clamp(exponent - 1 - kFirstOctave, 0, kOctaves - 1);
    const double side = std::ldexp(1.0, octave + kFirstOctave);
    int shape = 0;
    for (int axis = 0; axis < kAxes; ++axis)
        if (point[axis] >= side) shape |= 1 << axis;
    const Box* box = &rootBox(std::max(0, shape - 1), octave);
    while (!box->series) {
        Box::Half& half = box->halves[point[box->cutAxis] > box->side[box->cutAxis].middle() ? 1 : 0];
        const Box* ready = half.ready.load(std::memory_order_acquire);
        if (ready == nullptr) {
            std::call_once(half.once, [&] {
                build(*half.box);
                half.ready.store(half.box.get(), std::memory_order_release);
            });
            ready = half.box.get();
        }
        box = ready;
    }
    return *box;
}

const void* AcrossTable::boxKey(double rhoM, double heightM, double depthM) const {
    return &boxAt(rhoM, heightM, depthM);
}

void AcrossTable::slice(double rhoM, double heightM, double depthM, DepthSeries& series) const {
    const Box& box = boxAt(rhoM, heightM, depthM);
    double inDepth[kSeriesTerms];
    chebyshevRow(box.side[2].scaled(depthM), inDepth);
    series.rho = box.side[0];
    series.height = box.side[1];
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int b = 0; b < kSeriesTerms; ++b) {
            Lanes sum = {};
            for (int n = 0; n < kSeriesTerms; ++n) sum += inDepth[n] * lanesAt(box.series->term[n][a][b]);
            series.term[a][b] = sum;
        }
}

void AcrossTable::at(double rhoM, double heightM, double depthM, Lanes& kernels) const {
    DepthSeries series;
    slice(rhoM, heightM, depthM, series);
    series.at(rhoM, heightM, kernels);
}

void AcrossTable::derivatives(double rhoM, double heightM, double depthM,
                              std::array<GroundLanes, 8>& out) const {
    const Box& box = boxAt(rhoM, heightM, depthM);
    const double point[kAxes] = {rhoM, heightM, depthM};
    double rows[kAxes][3][kSeriesTerms];
    for (int axis = 0; axis < kAxes; ++axis) chebyshevSlopes(box.side[axis].scaled(point[axis]), rows[axis]);
    constexpr int kOrders[8][kAxes] = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {0, 0, 1},
                                       {2, 0, 0}, {1, 1, 0}, {1, 0, 1}, {0, 1, 1}};
    for (std::size_t d = 0; d < 8; ++d) {
        out[d].fill(0.0);
        const int* order = kOrders[d];
        double scale = 1.0;
        for (int axis = 0; axis < kAxes; ++axis) scale *= std::pow(box.side[axis].half(), -order[axis]);
        for (int n = 0; n < kSeriesTerms; ++n)
            for (int a = 0; a < kSeriesTerms; ++a)
                for (int b = 0; b < kSeriesTerms; ++b) {
                    const double factor =
                        scale * rows[0][order[0]][a] * rows[1][order[1]][b] * rows[2][order[2]][n];
                    for (int c = 0; c < kGroundLanes; ++c)
                        out[d][static_cast<std::size_t>(c)] += factor * box.series->term[n][a][b][c];
                }
    }
}

std::size_t AcrossTable::bytes() const {
    return builtSeries() * sizeof(Box::Series);
}

std::shared_ptr<const GroundTables> groundTables(const model::Ground& ground, double frequencyHz) {
    // A memory of a pure function: it can only save time.
    struct Kept {
        model::Ground ground;
        double frequencyHz;
        std::shared_ptr<const GroundTables> tables;
    };
    constexpr std::size_t kMost = 160;
    constexpr std::size_t kMostBytes = 100 << 20;
    static std::mutex mutex;
    // Never taken down: work that was let go may still ask while the program ends.
    static auto& kept = *new std::list<Kept>;
    const std::lock_guard lock(mutex);
    const auto found = std::find_if(kept.begin(), kept.end(), [&](const Kept& k) {
        return k.frequencyHz == frequencyHz && k.ground.relativePermittivity == ground.relativePermittivity &&
               k.ground.conductivitySm == ground.conductivitySm &&
               k.ground.relaxationHz == ground.relaxationHz;
    });
    if (found != kept.end()) {
        kept.splice(kept.begin(), kept, found);
        return kept.front().tables;
    }
    const HalfSpace halfSpace(ground, frequencyHz);
    auto tables = std::make_shared<const GroundTables>(
        GroundTables{std::make_shared<const GroundTable>(halfSpace),
                     std::make_shared<const GroundTable>(halfSpace, GroundTable::kTolerance, Region::Soil),
                     std::make_shared<const AcrossTable>(halfSpace)});
    kept.push_front({ground, frequencyHz, std::move(tables)});
    if (kept.size() > kMost) kept.pop_back();
    std::size_t bytes = 0;
    const auto bytesOf = [](const GroundTables& t) {
        return t.air->bytes() + t.soil->bytes() + t.across->bytes();
    };
    for (auto k = kept.begin(); k != kept.end(); ++k) {
        bytes += bytesOf(*k->tables);
        if (bytes <= kMostBytes || k == kept.begin()) continue;
        kept.erase(k, kept.end());
        break;
    }
    return kept.front().tables;
}

}  // namespace rm::em
