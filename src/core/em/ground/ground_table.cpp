#include "core/em/ground/ground_table.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/em/ground/sommerfeld.h"
#include "core/em/lanes.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

/// Boxes of one table: soils at antennas' distances take a hundred or two, pure water without loss at 20
/// wavelengths 820. More take minutes.
constexpr int kMostGroundBoxes = 3000;
/// Width along the depth, times the wavenumber of the soil, that a series follows to the tolerance at best.
constexpr double kMostSoil = 2.0;

}  // namespace

/// [distance][height sum]
struct GroundTable::Series {
    alignas(64) double term[kSeriesTerms][kSeriesTerms][kGroundLanes];
};

bool spansTooMuchSoil(const HalfSpace& halfSpace, const Interval& side, int cuts) {
    return cuts < kDeepestSplit && (side.to - side.from) * std::abs(halfSpace.kGround()) > kMostSoil;
}

Error changesTooFast(double distanceM) {
    return Error(
        say("The field of the ground changes too fast {:.3g} m from its source to be worked out. Bring "
            "the antenna closer together, raise it, lower the frequency, or look at points nearer to it.",
            distanceM));
}

std::uint64_t nextTableSerial() {
    static std::atomic<std::uint64_t> last{0};
    return ++last;
}

GroundTable::GroundTable(const HalfSpace& halfSpace, double tolerance, Region region)
    : halfSpace_(halfSpace),
      region_(region),
      tolerance_(tolerance),
      scalarSize_(halfSpace.scalarSize(region)),
      serial_(nextTableSerial()),
      tree_([this](Tree::Box& box) { build(box); }, 0.0, kWideBoxes / halfSpace.largestWavenumber()) {}

GroundTable::~GroundTable() = default;

void GroundTable::build(Tree::Box& box) const {
    const auto& [rho, zeta] = box.side;
    if (region_ == Region::Soil && spansTooMuchSoil(halfSpace_, zeta, box.depth)) {
        box.cutAxis = 1;
        return;
    }
    if (++boxes_ > kMostGroundBoxes) throw changesTooFast(std::hypot(rho.to, zeta.to));
    const ChebyshevTransform& transform = chebyshevTransform();
    GroundGrid grid;
    grid.region = region_;
    for (int i = 0; i < kSeriesTerms; ++i) {
        grid.rhoM.push_back(chebyshevNode(rho, i));
        grid.zetaM.push_back(chebyshevNode(zeta, i));
    }
    const auto values = groundKernels(halfSpace_, grid);
    double half[kSeriesTerms][kSeriesTerms][kGroundLanes] = {};
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int i = 0; i < kSeriesTerms; ++i)
            for (int j = 0; j < kSeriesTerms; ++j) {
                const auto* lanes = reinterpret_cast<const double*>(
                    values[static_cast<std::size_t>(i * kSeriesTerms + j)].data());
                for (int c = 0; c < kGroundLanes; ++c) half[a][j][c] += transform.weight[a][i] * lanes[c];
            }
    auto series = std::make_shared<Series>();
    auto& term = series->term;
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int b = 0; b < kSeriesTerms; ++b)
            for (int j = 0; j < kSeriesTerms; ++j)
                for (int c = 0; c < kGroundLanes; ++c)
                    term[a][b][c] += transform.weight[b][j] * half[a][j][c];
    double tailRho = 0.0;
    double tailZeta = 0.0;
    const auto tail = [&](const double* last, const double* before) {
        double sum = 0.0;
        for (int c = 0; c < kGroundLanes; ++c)
            sum += (std::abs(last[c]) + 0.3 * std::abs(before[c])) / (c < kScalarLane ? 1.0 : scalarSize_);
        return sum;
    };
    for (int n = 0; n < kSeriesTerms; ++n) {
        tailRho += tail(term[kSeriesTerms - 1][n], term[kSeriesTerms - 2][n]);
        tailZeta += tail(term[n][kSeriesTerms - 1], term[n][kSeriesTerms - 2]);
    }
    if (std::max(tailRho, tailZeta) < tolerance_ || box.depth >= kDeepestSplit)
        box.series = std::move(series);
    else
        box.cutAxis = tailRho > tailZeta ? 0 : 1;
}

void GroundTable::at(double rhoM, double zetaM, Lanes& kernels) const {
    const Tree::Box& box = tree_.boxAt({rhoM, zetaM});
    const auto& [rho, zeta] = box.side;
    double inRho[kSeriesTerms];
    double inZeta[kSeriesTerms];
    chebyshevRow(rho.scaled(rhoM), inRho);
    chebyshevRow(zeta.scaled(zetaM), inZeta);
    Lanes sum = {};
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes even = {};
        Lanes odd = {};
        for (int b = 0; b < kSeriesTerms; b += 2) {
            even += inZeta[b] * lanesAt(box.series->term[a][b]);
            odd += inZeta[b + 1] * lanesAt(box.series->term[a][b + 1]);
        }
        sum += inRho[a] * (even + odd);
    }
    kernels = sum;
}

GroundTable::LevelSeries GroundTable::level(double rhoM, double zetaM) const {
    const Tree::Box& box = tree_.boxAt({rhoM, zetaM});
    const auto& [rho, zeta] = box.side;
    double inZeta[kSeriesTerms];
    chebyshevRow(zeta.scaled(zetaM), inZeta);
    LevelSeries series;
    series.middleM = rho.middle();
    series.halfM = rho.half();
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes sum = {};
        for (int b = 0; b < kSeriesTerms; ++b) sum += inZeta[b] * lanesAt(box.series->term[a][b]);
        series.term[static_cast<std::size_t>(a)] = sum;
    }
    return series;
}

const void* GroundTable::pieceKey(double rhoM, double zetaM) const {
    return &tree_.boxAt({rhoM, zetaM});
}

void GroundTable::derivatives(double rhoM, double zetaM, std::array<GroundLanes, 6>& out) const {
    const Tree::Box& box = tree_.boxAt({rhoM, zetaM});
    double inRho[3][kSeriesTerms];
    double inZeta[3][kSeriesTerms];
    chebyshevSlopes(box.side[0].scaled(rhoM), inRho);
    chebyshevSlopes(box.side[1].scaled(zetaM), inZeta);
    // First all along zeta, in its value and its derivatives, then along rho.
    Lanes alongZeta[3][kSeriesTerms];
    for (int order = 0; order < 3; ++order)
        for (int a = 0; a < kSeriesTerms; ++a) {
            Lanes sum = {};
            for (int b = 0; b < kSeriesTerms; ++b) sum += inZeta[order][b] * lanesAt(box.series->term[a][b]);
            alongZeta[order][a] = sum;
        }
    constexpr int kOrders[6][2] = {{0, 0}, {1, 0}, {0, 1}, {2, 0}, {1, 1}, {0, 2}};
    double scale[2][3];
    for (std::size_t axis = 0; axis < 2; ++axis) {
        const double perHalf = 1.0 / box.side[axis].half();
        scale[axis][0] = 1.0;
        scale[axis][1] = perHalf;
        scale[axis][2] = perHalf * perHalf;
    }
    for (std::size_t d = 0; d < 6; ++d) {
        const auto [byRho, byZeta] = kOrders[d];
        Lanes sum = {};
        for (int a = 0; a < kSeriesTerms; ++a) sum += inRho[byRho][a] * alongZeta[byZeta][a];
        lanesAt(out[d].data()) = sum * (scale[0][byRho] * scale[1][byZeta]);
    }
}

void GroundTable::prepare(const std::vector<TablePoint>& points) const {
    std::vector<Tree::Point> all;
    for (const auto& point : points) all.push_back({point.rhoM, point.zetaM});
    tree_.prepare(std::move(all));
}

std::size_t GroundTable::bytes() const {
    return builtSeries() * sizeof(Series);
}

}  // namespace rm::em
