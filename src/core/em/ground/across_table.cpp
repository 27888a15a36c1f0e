#include "core/em/ground/across_table.h"

#include <fmt/format.h>
#include <algorithm>
#include <cmath>
#include <functional>
#include <iterator>
#include <list>
#include <mutex>

#include "core/em/ground/sommerfeld.h"

namespace rm::em {

namespace {

/// Boxes of one table, of 33 kB each where they have a series. Soils at antennas' distances take a hundred.
constexpr int kMostAcrossBoxes = 2500;
constexpr std::size_t kAxes = 3;  ///< distance, height, depth
/// Distances times the larger of the wavenumbers below which the kernels are those of statics.
constexpr double kStatic = 1e-4;
/// Series in rho that a thread keeps, of 2 kB: a number that boxes, heights and depths spread over.
constexpr std::size_t kKeptLines = 61;

}  // namespace

/// [depth][distance][height]
struct AcrossTable::Series {
    alignas(64) double term[kSeriesTerms][kSeriesTerms][kSeriesTerms][kGroundLanes];
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

/// Where waves no longer show, the kernels times the distance depend on the directions alone.
AcrossTable::AcrossTable(const HalfSpace& halfSpace, double tolerance)
    : halfSpace_(halfSpace),
      tolerance_(tolerance),
      scalarSize_(halfSpace.scalarSize(Region::Across)),
      tree_([this](Tree::Box& box) { build(box); }, kStatic / halfSpace.largestWavenumber(),
            kWideBoxes / halfSpace.largestWavenumber()) {}

AcrossTable::~AcrossTable() = default;

void AcrossTable::build(Tree::Box& box) const {
    if (spansTooMuchSoil(halfSpace_, box.side[2], box.depth)) {
        box.cutAxis = 2;
        return;
    }
    if (++boxes_ > kMostAcrossBoxes) throw changesTooFast(box.side[0].to);
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
    auto series = std::make_shared<Series>();
    auto& term = series->term;
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
    if (tail[worst] < tolerance_ || box.depth >= kDeepestSplit)
        box.series = std::move(series);
    else
        box.cutAxis = static_cast<int>(worst);
}

void AcrossTable::prepare(const std::vector<AcrossPoint>& points) const {
    std::vector<Tree::Point> all;
    for (const auto& point : points) all.push_back({point.rhoM, point.heightM, point.depthM});
    tree_.prepare(std::move(all));
}

const void* AcrossTable::boxKey(double rhoM, double heightM, double depthM) const {
    return &tree_.boxAt({rhoM, heightM, depthM});
}

void AcrossTable::slice(double rhoM, double heightM, double depthM, DepthSeries& series) const {
    const Tree::Box& box = tree_.boxAt({rhoM, heightM, depthM});
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

/// The Chebyshev series in rho of a box at one height and depth.
struct AcrossTable::Lines::Line {
    /// Of the kernels, of their slopes with the height and with the depth, and with both.
    enum Slope : std::size_t { None, Height, Depth, Both };

    const Tree::Box* box = nullptr;
    double heightM = 0.0;
    double depthM = 0.0;
    Lanes term[4][kSeriesTerms];
};

AcrossTable::Lines::Lines() = default;

AcrossTable::Lines::~Lines() = default;

void AcrossTable::fill(const Tree::Box& box, double heightM, double depthM, Lines::Line& line) {
    line.box = &box;
    line.heightM = heightM;
    line.depthM = depthM;
    double inHeight[3][kSeriesTerms];
    double inDepth[3][kSeriesTerms];
    chebyshevSlopes(box.side[1].scaled(heightM), inHeight);
    chebyshevSlopes(box.side[2].scaled(depthM), inDepth);
    const double perHeight = 1.0 / box.side[1].half();
    const double perDepth = 1.0 / box.side[2].half();
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes sum[4] = {};
        for (int b = 0; b < kSeriesTerms; ++b) {
            Lanes value = {};
            Lanes slope = {};
            for (int n = 0; n < kSeriesTerms; ++n) {
                const Lanes term = lanesAt(box.series->term[n][a][b]);
                value += inDepth[0][n] * term;
                slope += inDepth[1][n] * term;
            }
            sum[Lines::Line::None] += inHeight[0][b] * value;
            sum[Lines::Line::Height] += inHeight[1][b] * value;
            sum[Lines::Line::Depth] += inHeight[0][b] * slope;
            sum[Lines::Line::Both] += inHeight[1][b] * slope;
        }
        line.term[Lines::Line::None][a] = sum[Lines::Line::None];
        line.term[Lines::Line::Height][a] = sum[Lines::Line::Height] * perHeight;
        line.term[Lines::Line::Depth][a] = sum[Lines::Line::Depth] * perDepth;
        line.term[Lines::Line::Both][a] = sum[Lines::Line::Both] * (perHeight * perDepth);
    }
}

void AcrossTable::derivatives(double rhoM, double heightM, double depthM, Lines& lines,
                              std::array<GroundLanes, 8>& out) const {
    using Line = Lines::Line;
    const Tree::Box& box = tree_.boxAt({rhoM, heightM, depthM});
    const std::size_t key = std::hash<const void*>()(&box) / sizeof(Tree::Box) +
                            std::hash<double>()(heightM) * 31 + std::hash<double>()(depthM) * 17;
    if (!lines.lines_) lines.lines_ = std::make_unique_for_overwrite<Line[]>(kKeptLines);
    Line& line = lines.lines_[key % kKeptLines];
    if (line.box != &box || line.heightM != heightM || line.depthM != depthM)
        fill(box, heightM, depthM, line);
    double inRho[3][kSeriesTerms];
    chebyshevSlopes(box.side[0].scaled(rhoM), inRho);
    const double perRho = 1.0 / box.side[0].half();
    struct Order {
        std::size_t rho;
        Line::Slope slope;
        double scale;
    };
    const Order orders[] = {{0, Line::None, 1.0},
                            {1, Line::None, perRho},
                            {0, Line::Height, 1.0},
                            {0, Line::Depth, 1.0},
                            {2, Line::None, perRho * perRho},
                            {1, Line::Height, perRho},
                            {1, Line::Depth, perRho},
                            {0, Line::Both, 1.0}};
    for (std::size_t d = 0; d < std::size(orders); ++d) {
        Lanes sum = {};
        for (int a = 0; a < kSeriesTerms; ++a) sum += inRho[orders[d].rho][a] * line.term[orders[d].slope][a];
        lanesAt(out[d].data()) = sum * orders[d].scale;
    }
}

std::size_t AcrossTable::bytes() const {
    return builtSeries() * sizeof(Series);
}

std::shared_ptr<const GroundTables> groundTables(const model::Ground& ground, double frequencyHz,
                                                 double tolerance) {
    // A memory of a pure function: it can only save time.
    struct Kept {
        model::Ground ground;
        double frequencyHz;
        double tolerance;
        std::shared_ptr<const GroundTables> tables;
    };
    constexpr std::size_t kMost = 160;
    constexpr std::size_t kMostBytes = 100 << 20;
    static std::mutex mutex;
    // Never taken down: work that was let go may still ask while the program ends.
    static auto& kept = *new std::list<Kept>;
    const std::lock_guard lock(mutex);
    const auto found = std::find_if(kept.begin(), kept.end(), [&](const Kept& k) {
        return k.frequencyHz == frequencyHz && k.tolerance == tolerance &&
               k.ground.relativePermittivity == ground.relativePermittivity &&
               k.ground.conductivitySm == ground.conductivitySm &&
               k.ground.relaxationHz == ground.relaxationHz;
    });
    if (found != kept.end()) {
        kept.splice(kept.begin(), kept, found);
        return kept.front().tables;
    }
    const HalfSpace halfSpace(ground, frequencyHz);
    auto tables = std::make_shared<const GroundTables>(
        GroundTables{std::make_shared<const GroundTable>(halfSpace, tolerance),
                     std::make_shared<const GroundTable>(halfSpace, tolerance, Region::Soil),
                     std::make_shared<const AcrossTable>(halfSpace, tolerance)});
    kept.push_front({ground, frequencyHz, tolerance, std::move(tables)});
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
