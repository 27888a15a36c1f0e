#include "core/em/ground/sommerfeld.h"

#include <algorithm>
#include <cmath>

#include "core/em/ground/complex_bessel.h"
#include "core/em/kernel_arrays.h"
#include "core/em/quadrature.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

constexpr Complex kJ(0.0, 1.0);

/// exp(-x) of what is left away.
constexpr double kTail = 16.0;

/// Above this k R cos^2(theta) the plane-wave expansion serves, away from grazing.
constexpr double kFarPhase = 40.0;
constexpr double kFarCosine = 0.2;

/// Up to this |kg| rho the integrals over the two cuts nearly cancel: the split path serves.
constexpr double kSplitReach = 3.0;

/// The square root with its cut along the negative real axis, of numbers whose squares neither overflow nor
/// vanish: the library's guards against these cost four times as much.
Complex principalRoot(Complex z) {
    const double size = std::sqrt(std::norm(z));
    if (z.real() >= 0.0) {
        const double re = std::sqrt(0.5 * (size + z.real()));
        return {re, re > 0.0 ? 0.5 * z.imag() / re : 0.0};
    }
    const double im = std::copysign(std::sqrt(0.5 * (size - z.real())), z.imag());
    return {0.5 * z.imag() / im, im};
}

/// Nodes of a path in the plane of l: the spectra with weight, l, and u in air and in the soil.
struct PathNode {
    KernelValues weighted;
    Complex l;
    Complex u;
    Complex ug;
};

enum class RadialFunction { Bessel, HankelFirst, HankelSecond };

class GridSum {
  public:
    GridSum(const HalfSpace& halfSpace, const GroundGrid& grid)
        : halfSpace_(halfSpace),
          grid_(grid),
          sum_(grid.rhoM.size() * grid.zetaM.size() * grid.depthM.size()) {}

    /// Adds the nodes of a path. The radial function of the waves is J0(l rho) or H0(l rho), each times
    /// exp(j k rho).
    void add(const std::vector<PathNode>& nodes, RadialFunction radial) {
        // Long paths in pieces, so that they can be left.
        for (std::size_t first = 0; first < nodes.size(); first += kPiece) {
            endWhere(StopScope::current());
            const auto from = nodes.begin() + static_cast<std::ptrdiff_t>(first);
            const auto count = std::min(kPiece, nodes.size() - first);
            addPiece({from, from + static_cast<std::ptrdiff_t>(count)}, radial);
        }
    }

    /// The sums times R exp(j k (R - rho)).
    std::vector<KernelValues> normalised() {
        std::size_t at = 0;
        for (const double rho : grid_.rhoM)
            for (const double zeta : grid_.zetaM)
                for (const double depth : grid_.depthM) {
                    const double r = std::hypot(rho, zeta + depth);
                    const Complex factor = std::polar(r, halfSpace_.k() * (r - rho));
                    for (Complex& value : sum_[at]) value *= factor;
                    ++at;
                }
        return std::move(sum_);
    }

  private:
    static constexpr std::size_t kPiece = 4096;

    /// Sums over the nodes of radial wave, fall, depth and spectrum: a product of two matrices, each as
    /// narrow as it can be. Across the surface distance and height stand on one side, depth and spectrum on
    /// the other.
    void addPiece(const std::vector<PathNode>& nodes, RadialFunction radial) {
        const bool across = grid_.region == Region::Across;
        const auto count = static_cast<Eigen::Index>(nodes.size());
        const auto distances = static_cast<Eigen::Index>(grid_.rhoM.size());
        const Eigen::MatrixXcd fall = falling(nodes, grid_.zetaM, grid_.region == Region::Soil);
        const Eigen::MatrixXcd deeper = across ? falling(nodes, grid_.depthM, true) : Eigen::MatrixXcd();
        Eigen::MatrixXcd left(distances, count);
        radialWaves(nodes, radial, left);
        Eigen::MatrixXcd higher;
        if (across) {
            higher.resize(distances * fall.cols(), count);
            for (Eigen::Index q = 0; q < count; ++q)
                for (Eigen::Index j = 0; j < fall.cols(); ++j)
                    higher.col(q).segment(j * distances, distances) = fall(q, j) * left.col(q);
        }
        const Eigen::MatrixXcd& falls = across ? deeper : fall;
        constexpr auto kKernels = static_cast<Eigen::Index>(kGroundKernels);
        Eigen::MatrixXcd right(falls.cols() * kKernels, count);
        for (Eigen::Index q = 0; q < count; ++q) {
            const Eigen::Map<const Eigen::Matrix<Complex, kKernels, 1>> spectrum(
                nodes[static_cast<std::size_t>(q)].weighted.data());
            for (Eigen::Index d = 0; d < falls.cols(); ++d)
                right.col(q).segment<kKernels>(d * kKernels) = falls(q, d) * spectrum;
        }
        const Eigen::MatrixXcd product = (across ? higher : left) * right.transpose();
        const std::size_t columns = grid_.zetaM.size() * grid_.depthM.size();
        for (Eigen::Index i = 0; i < distances; ++i)
            for (std::size_t j = 0; j < columns; ++j) {
                const auto height = static_cast<Eigen::Index>(across ? j / grid_.depthM.size() : 0);
                const auto fallen = static_cast<Eigen::Index>(across ? j % grid_.depthM.size() : j);
                for (Eigen::Index c = 0; c < kKernels; ++c)
                    sum_[static_cast<std::size_t>(i) * columns + j][static_cast<std::size_t>(c)] +=
                        product(height * distances + i, fallen * kKernels + c);
            }
    }

    /// exp(-u z), or with u in the soil, for every node (rows) and distance from the surface (columns).
    Eigen::MatrixXcd falling(const std::vector<PathNode>& nodes, const std::vector<double>& distances,
                             bool inSoil) {
        Eigen::MatrixXcd waves(static_cast<Eigen::Index>(nodes.size()),
                               static_cast<Eigen::Index>(distances.size()));
        re_.resize(nodes.size());
        im_.resize(nodes.size());
        for (std::size_t j = 0; j < distances.size(); ++j) {
            for (std::size_t q = 0; q < nodes.size(); ++q) {
                const Complex u = inSoil ? nodes[q].ug : nodes[q].u;
                re_[q] = -u.real() * distances[j];
                im_[q] = -u.imag() * distances[j];
            }
            complexExp(re_.data(), im_.data(), static_cast<int>(nodes.size()));
            for (std::size_t q = 0; q < nodes.size(); ++q)
                waves(static_cast<Eigen::Index>(q), static_cast<Eigen::Index>(j)) = Complex(re_[q], im_[q]);
        }
        return waves;
    }

    /// Waves at every distance (rows) for every node (columns).
    void radialWaves(const std::vector<PathNode>& nodes, RadialFunction radial, Eigen::MatrixXcd& waves) {
        const std::size_t distances = grid_.rhoM.size();
        const double k = halfSpace_.k();
        const bool hankel = radial != RadialFunction::Bessel;
        // The first kind is the second one mirrored in the real axis.
        const double mirror = radial == RadialFunction::HankelFirst ? -1.0 : 1.0;
        re_.resize(nodes.size() * distances);
        im_.resize(nodes.size() * distances);
        // What was taken out of the Hankel functions, and exp(j k rho).
        for (std::size_t q = 0; q < nodes.size(); ++q)
            for (std::size_t i = 0; i < distances; ++i) {
                const Complex l = nodes[q].l;
                const double rho = grid_.rhoM[i];
                re_[q * distances + i] = hankel ? mirror * l.imag() * rho : 0.0;
                im_[q * distances + i] = (k - (hankel ? mirror * l.real() : 0.0)) * rho;
            }
        complexExp(re_.data(), im_.data(), static_cast<int>(re_.size()));
        for (std::size_t q = 0; q < nodes.size(); ++q)
            for (std::size_t first = 0; first < distances; first += ComplexLanes::kCount) {
                const std::size_t count = std::min<std::size_t>(ComplexLanes::kCount, distances - first);
                ComplexLanes z;
                ComplexLanes value;
                for (std::size_t i = 0; i < ComplexLanes::kCount; ++i) {
                    const double rho = grid_.rhoM[first + std::min(i, count - 1)];
                    z.re[i] = nodes[q].l.real() * rho;
                    z.im[i] = mirror * nodes[q].l.imag() * rho;
                }
                if (hankel)
                    hankelScaled(z, value);
                else
                    besselJ0(z, value);
                for (std::size_t i = 0; i < count; ++i) {
                    const std::size_t at = q * distances + first + i;
                    waves(static_cast<Eigen::Index>(first + i), static_cast<Eigen::Index>(q)) =
                        Complex(re_[at], im_[at]) * Complex(value.re[i], mirror * value.im[i]);
                }
            }
    }

    const HalfSpace& halfSpace_;
    const GroundGrid& grid_;
    std::vector<KernelValues> sum_;
    std::vector<double> re_;
    std::vector<double> im_;
};

// ---------------------------------------------------------------------------------------------------------
// High points: the ray

/// Angle of the ray against the real axis.
constexpr double kRayAngle = 0.23;

std::vector<PathNode> rayNodes(const HalfSpace& halfSpace, Region region, double rhoMax, double zetaMin,
                               double reach) {
    const double k = halfSpace.k();
    // The waves fall off beyond the wavenumber of the medium that they cross.
    const double shoulder = region == Region::Air ? k : std::max(k, std::abs(halfSpace.kGround()));
    const Complex turn = std::polar(1.0, kRayAngle);
    // Steps per factor of two: the sum over equal steps in log l converges as exp(-2 pi angle/step), while on
    // the ray and as far again above it the integrand may grow by exp(k rho sin(2 angle)).
    const double digits = 15.0 + 2.0 * kRayAngle * k * rhoMax;
    const int perOctave = static_cast<int>(std::ceil(std::numbers::ln2 * digits / (2.0 * kPi * kRayAngle)));
    const double step = std::numbers::ln2 / perOctave;
    const double fall = std::cos(kRayAngle) * zetaMin - std::sin(kRayAngle) * rhoMax;
    const double top = (kTail + std::sin(kRayAngle) * std::min(k, 20.0 / rhoMax) * rhoMax) / fall + shoulder;
    const double bottom = 0.03 * std::min(k, 1.0 / reach);
    const int first = static_cast<int>(std::floor(std::log(bottom) / step));
    const int last = static_cast<int>(std::ceil(std::log(top) / step));
    std::vector<PathNode> nodes;
    nodes.reserve(static_cast<std::size_t>(last - first + 1));
    const Complex kg2 = halfSpace.kGround() * halfSpace.kGround();
    for (int i = first; i <= last; ++i) {
        PathNode node;
        node.l = std::exp(step * i) * turn;
        const Complex l2 = node.l * node.l;
        node.u = principalRoot(l2 - k * k);
        node.ug = principalRoot(l2 - kg2);
        node.weighted = halfSpace.spectra(region, node.u, node.ug);
        Complex weight = step * l2;
        // Below the first node the integrand goes as l^2: the geometric series of all steps left away.
        if (i == first) weight /= 1.0 - std::exp(-2.0 * step);
        for (Complex& value : node.weighted) value *= weight;
        nodes.push_back(node);
    }
    return nodes;
}

// ---------------------------------------------------------------------------------------------------------
// Low points near by: the split path

/// A straight piece of path from `from` to `to` with `panels` panels.
void addLine(const HalfSpace& halfSpace, Region region, Complex from, Complex to, int panels, double share,
             std::vector<PathNode>& nodes) {
    const GaussRule& rule = gaussRule(8);
    const double k = halfSpace.k();
    const Complex width = (to - from) / static_cast<double>(panels);
    for (int p = 0; p < panels; ++p)
        for (int q = 0; q < rule.size; ++q) {
            PathNode node;
            node.l = from + width * (p + 0.5 + 0.5 * rule.node[static_cast<std::size_t>(q)]);
            // Beyond the branch points every root is taken where it goes over into l.
            node.u = principalRoot(node.l - k) * principalRoot(node.l + k);
            node.ug =
                principalRoot(node.l - halfSpace.kGround()) * principalRoot(node.l + halfSpace.kGround());
            node.weighted = halfSpace.spectra(region, node.u, node.ug);
            const Complex weight = share * node.l * 0.5 * width * rule.weight[static_cast<std::size_t>(q)];
            for (Complex& value : node.weighted) value *= weight;
            nodes.push_back(node);
        }
}

/// With J0 up a ray past all branch points; from there half with H0^(1) steeply up, half with H0^(2) steeply
/// down. Panels grow with the distance from the origin, and from the bend.
struct SplitPath {
    std::vector<PathNode> whole;
    std::vector<PathNode> up;
    std::vector<PathNode> down;
};

SplitPath splitPath(const HalfSpace& halfSpace, Region region, double rhoMin, double rhoMax, double zetaMax) {
    constexpr double kAngle = 0.35;
    constexpr double kSteep = 75.0 * kDegree;
    SplitPath path;
    const Complex turn = std::polar(1.0, kAngle);
    const double farthest = std::max(halfSpace.k(), std::abs(halfSpace.kGround()));
    const double bend = std::max(2.0 * farthest, 1.0 / rhoMax);
    double t = 0.1 * std::min(halfSpace.k(), bend);
    addLine(halfSpace, region, 0.0, t * turn, 1, 1.0, path.whole);
    while (t < bend) {
        const double next = std::min(bend, 1.7 * t);
        addLine(halfSpace, region, t * turn, next * turn, 1, 1.0, path.whole);
        t = next;
    }
    const double fall = std::sin(kSteep) * rhoMin;
    for (const double side : {1.0, -1.0}) {
        const Complex direction = std::polar(1.0, side * kSteep);
        auto& nodes = side > 0.0 ? path.up : path.down;
        const double end = (kTail + bend * rhoMin) / fall;
        double at = 0.0;
        while (at < end) {
            const double length =
                std::min({0.5 * (bend - farthest + at), 4.5 / (rhoMax + zetaMax), end - at + 1e-9 * end});
            addLine(halfSpace, region, bend * turn + at * direction, bend * turn + (at + length) * direction,
                    1, 0.5, nodes);
            at += length;
        }
    }
    return path;
}

// ---------------------------------------------------------------------------------------------------------
// Low points: two cuts

/// Square root with its cut along the direction exp(-j tilt), positive on the positive axis.
Complex tiltedRoot(Complex z, double tilt) {
    double angle = std::arg(z);
    if (angle < -tilt) angle += 2.0 * kPi;
    return std::polar(std::sqrt(std::abs(z)), 0.5 * angle);
}

/// The two cuts run down in parallel from k and from kg. Between 72 and 90 degrees below the axis, as far as
/// can be from the line that joins the two branch points and from the pole.
double tiltOfCuts(const HalfSpace& halfSpace) {
    const double k = halfSpace.k();
    const Complex eps = halfSpace.permittivity();
    const double toGround = -std::arg(halfSpace.kGround() - k);
    const double toPole = -std::arg(k * std::sqrt(eps / (eps + 1.0)) - k);
    double best = 0.0;
    double tilt = 0.0;
    for (int i = 0; i <= 10; ++i) {
        const double candidate = (72.0 + 1.8 * i) * kDegree;
        const double room = std::min(std::abs(candidate - toGround), std::abs(candidate - toPole));
        if (room > best) {
            best = room;
            tilt = candidate;
        }
    }
    return tilt;
}

struct CutGeometry {
    Region region = Region::Air;
    double tilt = 0.0;
    double rhoMin = 0.0;
    double rhoMax = 0.0;
    double zetaMax = 0.0;
};

/// Nodes on both faces of the cut that starts at `start`: l = start + exp(-j tilt) v^2 with v from minus
/// (left face) to plus (right face); in v the integrand is smooth. Panels shorten towards singular points.
std::vector<PathNode> cutNodes(const HalfSpace& halfSpace, const CutGeometry& geometry, bool ofGround) {
    const double k = halfSpace.k();
    const Complex kg = halfSpace.kGround();
    const Complex start = ofGround ? kg : Complex(k);
    const Complex other = ofGround ? Complex(k) : kg;
    const Complex down = std::polar(1.0, -geometry.tilt);
    const Complex pole = k * std::sqrt(halfSpace.permittivity() / (halfSpace.permittivity() + 1.0));
    std::array<Complex, 10> singular;
    std::size_t count = 0;
    for (const Complex& point : {other, -start, Complex(0.0), pole, -other}) {
        const Complex v = principalRoot((point - start) / down);
        singular[count++] = v;
        singular[count++] = -v;
    }
    const double floor = 1e-3 * std::sqrt(k);
    const auto clearance = [&](double v) {
        double least = 1e300;
        for (const Complex& s : singular) least = std::min(least, std::norm(s - v));
        return std::max(std::sqrt(least), floor);
    };
    // The integrand goes as exp(-fall v^2 + rise |v|), the rise on the left face only.
    const double fall =
        std::sin(geometry.tilt) * geometry.rhoMin - std::cos(geometry.tilt) * geometry.zetaMax;
    const double rise = std::sqrt(2.0 * std::abs(start)) * geometry.zetaMax * std::cos(0.5 * geometry.tilt);
    const double end = (rise + std::sqrt(rise * rise + 4.0 * fall * kTail)) / (2.0 * fall);
    const double longest = std::min(1.6 / std::sqrt(geometry.rhoMax),
                                    4.0 / (std::sqrt(2.0 * std::abs(start)) * geometry.zetaMax + 1e-12));
    // Where the left face rises high before it falls, the two faces cancel: more digits are needed.
    const GaussRule& rule = gaussRule(rise * rise > 8.0 * fall ? 12 : 8);
    std::vector<PathNode> nodes;
    for (const double side : {-1.0, 1.0}) {
        double v = 0.0;
        while (v < end) {
            double length = std::min(longest, 1.5 * clearance(side * v));
            while (length >
                       1.5 * std::min(clearance(side * (v + length)), clearance(side * (v + 0.5 * length))) &&
                   length > floor)
                length *= 0.7;
            if (v + length > end) length = end - v;
            for (int q = 0; q < rule.size; ++q) {
                const double x = side * (v + 0.5 * length * (1.0 + rule.node[static_cast<std::size_t>(q)]));
                PathNode node;
                node.l = start + down * x * x;
                const Complex own = x * principalRoot(down) * principalRoot(2.0 * start + down * x * x);
                const Complex across =
                    tiltedRoot(node.l - other, geometry.tilt) * principalRoot(node.l + other);
                node.u = ofGround ? across : own;
                node.ug = ofGround ? own : across;
                node.weighted = halfSpace.spectra(geometry.region, node.u, node.ug);
                // Half of the whole axis; dl = 2 exp(-j tilt) v dv.
                const Complex weight =
                    down * x * node.l * 0.5 * length * rule.weight[static_cast<std::size_t>(q)];
                for (Complex& value : node.weighted) value *= weight;
                nodes.push_back(node);
            }
            v += length;
        }
    }
    return nodes;
}

// ---------------------------------------------------------------------------------------------------------
// Far points: the plane-wave expansion

/// f0 + f1/R + f2/R^2 + f3/R^3 of exp(-j k R)/R f(R, theta) as Chebyshev series in cos(theta) from 0.2 to 1.
/// The wave equation gives f_{n+1} = -[n (n+1) + d/dx (1 - x^2) d/dx] f_n/(2 j k (n+1)).
class FarExpansion {
  public:
    explicit FarExpansion(const HalfSpace& halfSpace) {
        const double k = halfSpace.k();
        for (std::size_t i = 0; i < kNodes; ++i) {
            const double x = nodeAt(i);
            const Complex u = kJ * k * x;
            const Complex ug = kJ * k * std::sqrt(halfSpace.permittivity() - 1.0 + x * x);
            KernelValues f = halfSpace.spectra(Region::Air, u, ug);
            for (std::size_t c = 0; c < kGroundKernels; ++c) value_[0][c][i] = f[c] * u;
        }
        for (std::size_t n = 0; n + 1 < kTerms; ++n)
            for (std::size_t c = 0; c < kGroundKernels; ++c) {
                const auto slope = derivative(value_[n][c]);
                Values flux;
                for (std::size_t i = 0; i < kNodes; ++i) flux[i] = (1.0 - nodeAt(i) * nodeAt(i)) * slope[i];
                const auto divergence = derivative(flux);
                const double order = static_cast<double>(n);
                for (std::size_t i = 0; i < kNodes; ++i)
                    value_[n + 1][c][i] = -(order * (order + 1.0) * value_[n][c][i] + divergence[i]) /
                                          (2.0 * kJ * k * (order + 1.0));
            }
    }

    KernelValues at(double rM, double cosine) const {
        // Barycentric interpolation on the Chebyshev points.
        std::array<double, kNodes> weight;
        double total = 0.0;
        for (std::size_t i = 0; i < kNodes; ++i) {
            const double gap = cosine - nodeAt(i);
            if (std::abs(gap) < 1e-14) {
                weight.fill(0.0);
                weight[i] = total = 1.0;
                break;
            }
            weight[i] = barycentric(i) / gap;
            total += weight[i];
        }
        KernelValues sum{};
        for (std::size_t c = 0; c < kGroundKernels; ++c)
            for (std::size_t i = 0; i < kNodes; ++i)
                sum[c] += weight[i] / total *
                          (value_[0][c][i] +
                           (value_[1][c][i] +
                            (value_[2][c][i] + (value_[3][c][i] + value_[4][c][i] / rM) / rM) / rM) /
                               rM);
        return sum;
    }

  private:
    static constexpr std::size_t kNodes = 20;
    static constexpr std::size_t kTerms = 5;
    using Values = std::array<Complex, kNodes>;

    static double nodeAt(std::size_t i) {
        return 0.6 + 0.4 * std::cos(kPi * (static_cast<double>(i) + 0.5) / kNodes);
    }
    static double barycentric(std::size_t i) {
        return (i % 2 == 0 ? 1.0 : -1.0) * std::sin(kPi * (static_cast<double>(i) + 0.5) / kNodes);
    }
    static Values derivative(const Values& f) {
        Values slope{};
        for (std::size_t i = 0; i < kNodes; ++i)
            for (std::size_t j = 0; j < kNodes; ++j)
                if (i != j)
                    slope[i] += barycentric(j) / barycentric(i) / (nodeAt(i) - nodeAt(j)) * (f[j] - f[i]);
        return slope;
    }

    std::array<std::array<Values, kGroundKernels>, kTerms> value_{};
};

bool isFar(const HalfSpace& halfSpace, double rho, double zeta) {
    const double r = std::hypot(rho, zeta);
    return halfSpace.k() * zeta * zeta > kFarPhase * r && zeta > kFarCosine * r;
}

}  // namespace

namespace {

/// The integrals along whichever path suits the distances.
std::vector<KernelValues> alongPaths(const HalfSpace& halfSpace, const GroundGrid& grid) {
    const auto [rhoMin, rhoMax] = std::minmax_element(grid.rhoM.begin(), grid.rhoM.end());
    const auto [lowest, highest] = std::minmax_element(grid.zetaM.begin(), grid.zetaM.end());
    const auto [shallow, deep] = std::minmax_element(grid.depthM.begin(), grid.depthM.end());
    const double zetaMin = *lowest + *shallow;
    const double zetaMax = *highest + *deep;
    const Region region = grid.region;
    const double k = halfSpace.k();
    GridSum sum(halfSpace, grid);
    if (zetaMin >= 0.999 * *rhoMax || (zetaMin >= 0.499 * *rhoMax && k * *rhoMax < 60.0)) {
        sum.add(rayNodes(halfSpace, region, *rhoMax, zetaMin, std::max(*rhoMax, zetaMax)),
                RadialFunction::Bessel);
    } else if (std::abs(halfSpace.kGround()) * *rhoMin < kSplitReach) {
        const SplitPath path = splitPath(halfSpace, region, *rhoMin, *rhoMax, zetaMax);
        sum.add(path.whole, RadialFunction::Bessel);
        sum.add(path.up, RadialFunction::HankelFirst);
        sum.add(path.down, RadialFunction::HankelSecond);
    } else {
        const CutGeometry geometry{region, tiltOfCuts(halfSpace), *rhoMin, *rhoMax, zetaMax};
        sum.add(cutNodes(halfSpace, geometry, false), RadialFunction::HankelSecond);
        if (-halfSpace.kGround().imag() * *rhoMin < kTail)
            sum.add(cutNodes(halfSpace, geometry, true), RadialFunction::HankelSecond);
    }
    return sum.normalised();
}

}  // namespace

std::vector<KernelValues> groundKernels(const HalfSpace& halfSpace, const GroundGrid& grid) {
    if (grid.region != Region::Air) return alongPaths(halfSpace, grid);
    const std::size_t heights = grid.zetaM.size();
    std::size_t far = 0;
    // What the plane-wave expansion takes need not limit the paths.
    GroundGrid near{grid.rhoM, {}};
    for (const double zeta : grid.zetaM) {
        bool any = false;
        for (const double rho : grid.rhoM) {
            if (isFar(halfSpace, rho, zeta))
                ++far;
            else
                any = true;
        }
        if (any) near.zetaM.push_back(zeta);
    }
    std::vector<KernelValues> values(grid.rhoM.size() * heights);
    if (!near.zetaM.empty()) {
        const auto some = alongPaths(halfSpace, near);
        std::size_t column = 0;
        for (std::size_t j = 0; j < heights; ++j) {
            if (column >= near.zetaM.size() || near.zetaM[column] != grid.zetaM[j]) continue;
            for (std::size_t i = 0; i < grid.rhoM.size(); ++i)
                values[i * heights + j] = some[i * near.zetaM.size() + column];
            ++column;
        }
    }
    if (far > 0) {
        const FarExpansion expansion(halfSpace);
        for (std::size_t i = 0; i < grid.rhoM.size(); ++i)
            for (std::size_t j = 0; j < heights; ++j) {
                const double rho = grid.rhoM[i];
                const double zeta = grid.zetaM[j];
                if (!isFar(halfSpace, rho, zeta)) continue;
                const double r = std::hypot(rho, zeta);
                values[i * heights + j] = expansion.at(r, zeta / r);
            }
    }
    return values;
}

}  // namespace rm::em
