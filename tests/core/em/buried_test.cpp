// KernelJet with one point or both in the soil, against the fields of elementary dipoles and their laws.
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>

#include "core/em/ground/across_table.h"
#include "core/em/ground/sommerfeld.h"
#include "json_number.h"

using namespace rm;
using em::HalfSpace;
using em::Region;
using nlohmann::json;

namespace {

HalfSpace groundOf(const json& c) {
    return {{model::GroundKind::Real, c["eps_r"], c["sigma"]}, c["f_hz"].get<double>()};
}

/// PotentialFields are second derivatives of the kernels: they want a finer table than the engine.
constexpr double kFineTable = 1e-6;

struct DipoleField {
    Complex rho;
    Complex phi;
    Complex z;
    double norm() const { return std::sqrt(std::norm(rho) + std::norm(phi) + std::norm(z)); }
};

/// The kernels and their derivatives at a distance and at the distances a of the observer and b of the source
/// from the surface: value, rho, a, b, rho rho, rho a, rho b, a b.
struct KernelJet {
    std::array<em::GroundLanes, 8> lanes{};

    static KernelJet inSoil(const em::GroundTable& table, double rho, double a, double b) {
        std::array<em::GroundLanes, 6> d{};
        table.derivatives(rho, a + b, d);
        return {{d[0], d[1], d[2], d[2], d[3], d[4], d[4], d[5]}};
    }
    static KernelJet across(const em::AcrossTable& table, double rho, double a, double b, bool sourceInAir) {
        KernelJet k;
        table.derivatives(rho, sourceInAir ? b : a, sourceInAir ? a : b, k.lanes);
        if (sourceInAir) {
            std::swap(k.lanes[2], k.lanes[3]);
            std::swap(k.lanes[5], k.lanes[6]);
        }
        return k;
    }
};

/// PotentialFields of dipoles of unit moment from the mixed potentials. With C = 1/(4 pi j w eps0), s = dz/da
/// at the observer and t = dz/db at the source, and the kernels A, B, k W and K of docs/theory.md:
///   vertical:   E_rho = -C [k^2 W_rho + t K_rho,b], E_z = C [k^2 (B - s W_a - t W_b) - s t K_a,b]
///   horizontal: E_rho = C cos(phi) [k^2 A + K_rho,rho], E_phi = -C sin(phi) [k^2 A + K_rho/rho],
///               E_z = C cos(phi) [k^2 W_rho + s K_rho,a]
class PotentialFields {
  public:
    PotentialFields(const KernelJet& kernels, double k, double rho, double zeta, double s, double t)
        : lanes_(kernels.lanes), k_(k), rho_(rho), s_(s), t_(t) {
        const double r = std::hypot(rho, zeta);
        const Complex jk(0.0, k);
        const Complex g = std::exp(-jk * r) / r;
        const Complex slope = -(jk + 1.0 / r) * g;
        const Complex bend = g / (r * r) - (jk + 1.0 / r) * slope;
        const double x = rho / r;
        const double y = zeta / r;
        const Complex mixed = (bend - slope / r) * x * y;
        wave_ = {g,
                 slope * x,
                 slope * y,
                 slope * y,
                 bend * x * x + slope * y * y / r,
                 mixed,
                 mixed,
                 bend * y * y + slope * x * x / r};
        c_ = 1.0 / (4.0 * kPi * Complex(0.0, k * kSpeedOfLight * kEps0));
    }

    DipoleField vertical() const {
        return {-c_ * (k_ * first(1, kMixed) + t_ * second(6, 1, 3, kScalar)), 0.0,
                c_ * (k_ * k_ * value(kVertical) - k_ * (s_ * first(2, kMixed) + t_ * first(3, kMixed)) -
                      s_ * t_ * second(7, 2, 3, kScalar))};
    }
    DipoleField horizontal(double phi) const {
        const Complex current = k_ * k_ * value(kHorizontal);
        return {c_ * std::cos(phi) * (current + second(4, 1, 1, kScalar)),
                -c_ * std::sin(phi) * (current + first(1, kScalar) / rho_),
                c_ * std::cos(phi) * (k_ * first(1, kMixed) + s_ * second(5, 1, 2, kScalar))};
    }

  private:
    static constexpr int kHorizontal = 0;
    static constexpr int kVertical = 1;
    static constexpr int kMixed = 2;
    static constexpr int kScalar = 3;
    Complex f(std::size_t derivative, int kernel) const {
        return {lanes_[derivative][static_cast<std::size_t>(2 * kernel)],
                lanes_[derivative][static_cast<std::size_t>(2 * kernel + 1)]};
    }
    Complex value(int c) const { return f(0, c) * wave_[0]; }
    Complex first(std::size_t d, int c) const { return f(d, c) * wave_[0] + f(0, c) * wave_[d]; }
    /// Derivative `d`, by the variables of the first derivatives `p` and `q`.
    Complex second(std::size_t d, std::size_t p, std::size_t q, int c) const {
        return f(d, c) * wave_[0] + f(p, c) * wave_[q] + f(q, c) * wave_[p] + f(0, c) * wave_[d];
    }

    std::array<em::GroundLanes, 8> lanes_;
    double k_;
    double rho_;
    double s_;
    double t_;
    Complex c_;
    std::array<Complex, 8> wave_{};
};

DipoleField dipoleFieldOf(const json& j) {
    return {test::number(j["E_rho"]), test::number(j["E_phi"]), test::number(j["E_z"])};
}

double fieldDifference(const DipoleField& is, const DipoleField& expected, double size) {
    return std::max({std::abs(is.rho - expected.rho), std::abs(is.phi - expected.phi),
                     std::abs(is.z - expected.z)}) /
           size;
}

}  // namespace

TEST_CASE("fields of elementary dipoles with both points in the soil, to 1e-4") {
    json file;
    std::ifstream(RM_SOURCE_DIR "/tests/reference/buried.json") >> file;
    int points = 0;
    for (const auto& c : file["both_in_ground"]) {
        const em::GroundTable table(groundOf(c), kFineTable, Region::Soil);
        const double rho = c["rho_m"];
        const double a = -c["z_obs_m"].get<double>();
        const double b = -c["z_src_m"].get<double>();
        const PotentialFields fields(KernelJet::inSoil(table, rho, a, b), table.halfSpace().k(), rho, a + b,
                                     -1.0, -1.0);
        const auto error = [](const json& expected, const DipoleField& is) {
            const DipoleField part = dipoleFieldOf(expected["E_interface"]);
            const DipoleField total = dipoleFieldOf(expected["E_total"]);
            const DipoleField direct{total.rho - part.rho, total.phi - part.phi, total.z - part.z};
            return fieldDifference(is, part, std::max(total.norm(), direct.norm()));
        };
        INFO(c["id"]);
        CHECK(error(c["vertical"], fields.vertical()) < 1e-4);
        CHECK(error(c["horizontal"], fields.horizontal(c["phi_deg"].get<double>() * kDegree)) < 1e-4);
        ++points;
    }
    CHECK(points == 10);
}

TEST_CASE("fields of elementary dipoles across the surface, to 1e-4") {
    json file;
    std::ifstream(RM_SOURCE_DIR "/tests/reference/buried.json") >> file;
    int points = 0;
    for (const auto& c : file["across_interface"]) {
        const em::AcrossTable table(groundOf(c), kFineTable);
        const double rho = c["rho_m"];
        const double source = c["z_src_m"];
        const double observer = c["z_obs_m"];
        const double a = std::abs(observer);
        const double b = std::abs(source);
        const PotentialFields fields(KernelJet::across(table, rho, a, b, source > 0.0), table.halfSpace().k(),
                                     rho, a + b, observer / a, source / b);
        const auto error = [](const json& expected, const DipoleField& is) {
            const DipoleField total = dipoleFieldOf(expected["E_total"]);
            return fieldDifference(is, total, total.norm());
        };
        INFO(c["id"]);
        CHECK(error(c["vertical"], fields.vertical()) < 1e-4);
        CHECK(error(c["horizontal"], fields.horizontal(c["phi_deg"].get<double>() * kDegree)) < 1e-4);
        ++points;
    }
    CHECK(points == 16);
}

TEST_CASE("the kernels are continuous through the surface") {
    const HalfSpace ground({model::GroundKind::Real, 13.0, 0.005}, 7.1e6);
    const double k = ground.k();
    for (const double rho : {0.02, 0.7, 6.0}) {
        // On the surface the three regions meet; what air and soil have of their own is added back.
        const auto value = [&](Region region, std::vector<double> zeta, std::vector<double> depth) {
            return em::groundKernels(ground, {{rho}, std::move(zeta), region, std::move(depth)}).front();
        };
        const double tiny = 1e-9;
        const auto air = value(Region::Air, {tiny}, {0.0});
        const auto soil = value(Region::Soil, {tiny}, {0.0});
        const auto across = value(Region::Across, {0.5 * tiny}, {0.5 * tiny});
        const Complex inSoil = std::exp(Complex(0.0, -1.0) * (ground.kGround() - k) * rho);
        for (std::size_t c = 0; c < em::kGroundKernels; ++c) {
            const bool direct = c != static_cast<std::size_t>(em::GroundKernel::Mixed);
            const bool charge = c == static_cast<std::size_t>(em::GroundKernel::Scalar);
            INFO("rho " << rho << " kernel " << c);
            CHECK(std::abs(air[c] + (direct ? 1.0 : 0.0) - across[c]) < 3e-6);
            const Complex own = charge ? inSoil / ground.permittivity() : direct ? inSoil : Complex(0.0);
            CHECK(std::abs(soil[c] + own - across[c]) < 3e-6);
        }
    }
}

TEST_CASE("the tables in the soil and across agree with the integrals") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> decade(std::log(0.004), std::log(3.0));
    for (const auto& [permittivity, conductivity] :
         {std::pair{13.0, 0.005}, {81.0, 5.0}, {80.0, 0.003}, {3.0, 1e-4}, {1.0, 0.01}})
        for (const double hz : {1.8e6, 28e6}) {
            const HalfSpace ground({model::GroundKind::Real, permittivity, conductivity}, hz);
            const em::GroundTable soil(ground, em::GroundTable::kTolerance, Region::Soil);
            const em::AcrossTable across(ground);
            // Distances in wavelengths of the soil, where waves there still show; errors against the kernels
            // close to the source.
            const double scale = 2.0 * kPi / std::abs(ground.kGround());
            for (int n = 0; n < 12; ++n) {
                const double rho = scale * std::exp(decade(random));
                const double height = scale * std::exp(decade(random));
                const double depth = scale * std::exp(decade(random));
                INFO("eps " << permittivity << " sigma " << conductivity << " MHz " << hz / 1e6 << " rho "
                            << rho << " height " << height << " depth " << depth);
                const auto check = [&](const em::Lanes& table, const em::KernelValues& direct,
                                       Region region) {
                    for (std::size_t c = 0; c < em::kGroundKernels; ++c) {
                        const bool charge = c == static_cast<std::size_t>(em::GroundKernel::Scalar);
                        const double size = charge ? ground.scalarSize(region) : 1.0;
                        CHECK(std::abs(Complex(table[2 * c], table[2 * c + 1]) - direct[c]) < 3e-5 * size);
                    }
                };
                em::Lanes lanes;
                soil.at(rho, depth, lanes);
                check(lanes, em::groundKernels(ground, {{rho}, {depth}, Region::Soil}).front(), Region::Soil);
                across.at(rho, height, depth, lanes);
                check(lanes, em::groundKernels(ground, {{rho}, {height}, Region::Across, {depth}}).front(),
                      Region::Across);
            }
        }
}
