#include "core/em/ground/ground_table.h"

#include <fmt/format.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <set>

#include "core/em/ground/chebyshev.h"
#include "core/em/ground/once.h"
#include "core/em/ground/sommerfeld.h"
#include "core/em/lanes.h"
#include "core/em/parallel.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Pieces of one octave: soils at antennas' distances take up to a hundred, pure water without loss at 20
/// wavelengths 820. More take minutes.
constexpr int kMostPieces = 1500;

}  // namespace

/// A rectangle with its series, or cut in two.
struct GroundTable::Piece {
    Interval rho;
    Interval zeta;
    alignas(64) double series[kSeriesTerms][kSeriesTerms][kGroundLanes];
    bool cutInRho = false;
    std::unique_ptr<std::array<Piece, 2>> halves;
};

struct GroundTable::Root {
    Once once;
    std::unique_ptr<Piece> piece;
    std::atomic<const Piece*> ready{nullptr};
};

Error changesTooFast(double distanceM) {
    return Error(fmt::format(
        "The field of the ground changes too fast {:.3g} m from its source to be worked out. Bring "
        "the antenna closer together, raise it, or lower the frequency.",
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
      roots_(std::make_unique<Root[]>(kShapes * kOctaves)) {}

GroundTable::~GroundTable() = default;

void GroundTable::build(Piece& piece, int depth, std::atomic<int>& pieces,
                        const std::stop_token& stop) const {
    // Whichever thread this part of the table has come to.
    const StopScope scope(stop);
    endWhere(stop);
    if (++pieces > kMostPieces) throw changesTooFast(std::hypot(piece.rho.to, piece.zeta.to));
    ++series_;
    const ChebyshevTransform& transform = chebyshevTransform();
    GroundGrid grid;
    grid.region = region_;
    for (int i = 0; i < kSeriesTerms; ++i) {
        grid.rhoM.push_back(chebyshevNode(piece.rho, i));
        grid.zetaM.push_back(chebyshevNode(piece.zeta, i));
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
    std::fill_n(&piece.series[0][0][0], kSeriesTerms * kSeriesTerms * kGroundLanes, 0.0);
    for (int a = 0; a < kSeriesTerms; ++a)
        for (int b = 0; b < kSeriesTerms; ++b)
            for (int j = 0; j < kSeriesTerms; ++j)
                for (int c = 0; c < kGroundLanes; ++c)
                    piece.series[a][b][c] += transform.weight[b][j] * half[a][j][c];
    double tailRho = 0.0;
    double tailZeta = 0.0;
    const auto tail = [&](const double* last, const double* before) {
        double sum = 0.0;
        for (int c = 0; c < kGroundLanes; ++c)
            sum += (std::abs(last[c]) + 0.3 * std::abs(before[c])) / (c < kScalarLane ? 1.0 : scalarSize_);
        return sum;
    };
    for (int n = 0; n < kSeriesTerms; ++n) {
        tailRho += tail(piece.series[kSeriesTerms - 1][n], piece.series[kSeriesTerms - 2][n]);
        tailZeta += tail(piece.series[n][kSeriesTerms - 1], piece.series[n][kSeriesTerms - 2]);
    }
    if (std::max(tailRho, tailZeta) < tolerance_ || depth >= kDeepestSplit) return;
    piece.cutInRho = tailRho > tailZeta;
    piece.halves = std::make_unique<std::array<Piece, 2>>();
    parallelFor(std::size_t{0}, std::size_t{2}, [&](std::size_t h) {
        Piece& part = (*piece.halves)[h];
        part.rho = piece.rho;
        part.zeta = piece.zeta;
        Interval& cut = piece.cutInRho ? part.rho : part.zeta;
        (h == 0 ? cut.to : cut.from) = cut.middle();
        build(part, depth + 1, pieces, stop);
    });
}

const GroundTable::Piece& GroundTable::rootPiece(RootKey key) const {
    const int shape = key.shape;
    const int octave = key.octave;
    Root& root = roots_[static_cast<std::size_t>(shape * kOctaves + octave)];
    if (const Piece* ready = root.ready.load(std::memory_order_acquire)) return *ready;
    root.once.run([&] {
        auto piece = std::make_unique<Piece>();
        const double side = std::ldexp(1.0, octave + kFirstOctave);
        piece->rho = shape == 0 ? Interval{0.0, side} : Interval{side, 2.0 * side};
        piece->zeta = shape == 1 ? Interval{0.0, side} : Interval{side, 2.0 * side};
        // Isolated: while it waits, this thread must not take up work that asks for the same piece.
        std::atomic<int> pieces{0};
        tbb::this_task_arena::isolate([&, stop = StopScope::current()] { build(*piece, 0, pieces, stop); });
        root.piece = std::move(piece);
        root.ready.store(root.piece.get(), std::memory_order_release);
    });
    return *root.piece;
}

GroundTable::RootKey GroundTable::rootOf(double rhoM, double zetaM) {
    int exponent = 0;
    std::frexp(std::max(rhoM, zetaM), &exponent);
    const int octave = std::clamp(exponent - 1 - kFirstOctave, 0, kOctaves - 1);
    const double side = std::ldexp(1.0, octave + kFirstOctave);
    return {rhoM < side ? 0 : zetaM < side ? 1 : 2, octave};
}

const GroundTable::Piece& GroundTable::pieceAt(double rhoM, double zetaM) const {
    const Piece* piece = &rootPiece(rootOf(rhoM, zetaM));
    while (piece->halves) {
        const bool second = piece->cutInRho ? rhoM > piece->rho.middle() : zetaM > piece->zeta.middle();
        piece = &(*piece->halves)[second ? 1 : 0];
    }
    return *piece;
}

void GroundTable::at(double rhoM, double zetaM, Lanes& kernels) const {
    const Piece& piece = pieceAt(rhoM, zetaM);
    double inRho[kSeriesTerms];
    double inZeta[kSeriesTerms];
    chebyshevRow(piece.rho.scaled(rhoM), inRho);
    chebyshevRow(piece.zeta.scaled(zetaM), inZeta);
    Lanes sum = {};
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes even = {};
        Lanes odd = {};
        for (int b = 0; b < kSeriesTerms; b += 2) {
            even += inZeta[b] * lanesAt(piece.series[a][b]);
            odd += inZeta[b + 1] * lanesAt(piece.series[a][b + 1]);
        }
        sum += inRho[a] * (even + odd);
    }
    kernels = sum;
}

GroundTable::LevelSeries GroundTable::level(double rhoM, double zetaM) const {
    static_assert(kSeriesTerms == LevelSeries::kNodes);
    const Piece& piece = pieceAt(rhoM, zetaM);
    double inZeta[kSeriesTerms];
    chebyshevRow(piece.zeta.scaled(zetaM), inZeta);
    LevelSeries series;
    series.middleM = piece.rho.middle();
    series.halfM = piece.rho.half();
    for (int a = 0; a < kSeriesTerms; ++a) {
        Lanes sum = {};
        for (int b = 0; b < kSeriesTerms; ++b) sum += inZeta[b] * lanesAt(piece.series[a][b]);
        series.term[static_cast<std::size_t>(a)] = sum;
    }
    return series;
}

void GroundTable::LevelSeries::at(double rhoM, Lanes& kernels) const {
    double inRho[kSeriesTerms];
    chebyshevRow((rhoM - middleM) / halfM, inRho);
    Lanes even = {};
    Lanes odd = {};
    for (std::size_t a = 0; a < kSeriesTerms; a += 2) {
        even += inRho[a] * term[a];
        odd += inRho[a + 1] * term[a + 1];
    }
    kernels = even + odd;
}

const void* GroundTable::pieceKey(double rhoM, double zetaM) const {
    return &pieceAt(rhoM, zetaM);
}

void GroundTable::derivatives(double rhoM, double zetaM, std::array<GroundLanes, 6>& out) const {
    const Piece& piece = pieceAt(rhoM, zetaM);
    double rho[3][kSeriesTerms];
    double zeta[3][kSeriesTerms];
    chebyshevSlopes(piece.rho.scaled(rhoM), rho);
    chebyshevSlopes(piece.zeta.scaled(zetaM), zeta);
    // First all along zeta, in its value and its derivatives, then along rho.
    Lanes alongZeta[3][kSeriesTerms];
    for (int order = 0; order < 3; ++order)
        for (int a = 0; a < kSeriesTerms; ++a) {
            Lanes sum = {};
            for (int b = 0; b < kSeriesTerms; ++b) sum += zeta[order][b] * lanesAt(piece.series[a][b]);
            alongZeta[order][a] = sum;
        }
    constexpr int kOrders[6][2] = {{0, 0}, {1, 0}, {0, 1}, {2, 0}, {1, 1}, {0, 2}};
    const double scaleRho[3] = {1.0, 1.0 / piece.rho.half(), 1.0 / (piece.rho.half() * piece.rho.half())};
    const double scaleZeta[3] = {1.0, 1.0 / piece.zeta.half(), 1.0 / (piece.zeta.half() * piece.zeta.half())};
    for (std::size_t d = 0; d < 6; ++d) {
        const auto [inRho, inZeta] = kOrders[d];
        Lanes sum = {};
        for (int a = 0; a < kSeriesTerms; ++a) sum += rho[inRho][a] * alongZeta[inZeta][a];
        lanesAt(out[d].data()) = sum * (scaleRho[inRho] * scaleZeta[inZeta]);
    }
}

void GroundTable::prepare(const std::vector<TablePoint>& points) const {
    std::set<RootKey> wanted;
    for (const TablePoint& point : points) wanted.insert(rootOf(point.rhoM, point.zetaM));
    const std::vector<RootKey> keys(wanted.begin(), wanted.end());
    parallelFor(std::size_t{0}, keys.size(), [&, stop = StopScope::current()](std::size_t i) {
        const StopScope scope(stop);
        rootPiece(keys[i]);
    });
}

std::size_t GroundTable::bytes() const {
    return builtSeries() * sizeof(Piece);
}

}  // namespace rm::em
