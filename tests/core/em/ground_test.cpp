// The ground: its kernels against elementary dipoles, its limits, and antennas over it.
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>

#include "antennas.h"
#include "core/em/ground/complex_bessel.h"
#include "core/em/ground/ground_table.h"
#include "core/em/ground/sommerfeld.h"
#include "core/em/ground_moments.h"
#include "dipole_fields.h"

using namespace rm;
using namespace rm::test;
using em::HalfSpace;
using nlohmann::json;

namespace {

model::Ground realGround(double permittivity, double conductivity) {
    return {model::GroundKind::Real, permittivity, conductivity};
}

const model::Ground kAverage = realGround(13.0, 0.005);

/// Fields are second derivatives of the kernels: they want a finer table than the engine.
constexpr double kFine = 4e-6;

json reference(const char* name) {
    json j;
    std::ifstream(std::string(RM_SOURCE_DIR "/tests/reference/") + name) >> j;
    return j;
}

Complex besselJ0(Complex z) {
    em::ComplexLanes in;
    em::ComplexLanes out;
    std::fill_n(in.re, em::ComplexLanes::kCount, z.real());
    std::fill_n(in.im, em::ComplexLanes::kCount, z.imag());
    em::besselJ0(in, out);
    return {out.re[0], out.im[0]};
}

/// The spectral integral on a flat ray with very many steps: slow, and another path than the engine's.
em::KernelValues bruteForce(const HalfSpace& h, double rho, double zeta) {
    const double angle = std::min({0.2, 0.5 * zeta / rho, 10.0 / (h.k() * rho)});
    constexpr double kStep = 0.004;
    const double r = std::hypot(rho, zeta);
    const double top = 40.0 / (std::cos(angle) * zeta - std::sin(angle) * rho) + 3.0 * h.k();
    em::KernelValues sum{};
    for (double y = std::log(1e-5 * std::min(h.k(), 1.0 / r)); y < std::log(top); y += kStep) {
        const Complex l = std::polar(std::exp(y), angle);
        const Complex u = std::sqrt(l * l - h.k() * h.k());
        const Complex ug = std::sqrt(l * l - h.kGround() * h.kGround());
        const auto f = h.spectra(em::Region::Air, u, ug);
        const Complex weight = kStep * l * l * besselJ0(l * rho) * std::exp(-u * zeta);
        for (std::size_t c = 0; c < em::kGroundKernels; ++c) sum[c] += weight * f[c];
    }
    for (auto& value : sum) value *= std::polar(r, h.k() * r);
    return sum;
}

/// What the ground adds to the fields of dipoles in air.
PotentialFields fieldsInAir(const em::GroundTable& table, double rho, double observerM, double sourceM) {
    return {KernelJet::together(table, rho, observerM, sourceM),
            table.halfSpace().k(),
            rho,
            observerM + sourceM,
            1.0,
            1.0};
}

/// Largest error of a component against the larger of the total and the direct field.
double fieldError(const json& expected, const DipoleField& ground) {
    const DipoleField e = dipoleFieldOf(expected["E_ground"]);
    const DipoleField total = dipoleFieldOf(expected["E_total"]);
    const DipoleField direct{total.rho - e.rho, total.phi - e.phi, total.z - e.z};
    return std::max({std::abs(ground.rho - e.rho), std::abs(ground.phi - e.phi), std::abs(ground.z - e.z)}) /
           std::max(total.norm(), direct.norm());
}

/// A half-wave dipole along y at a height.
model::WireModel dipoleOver(const model::Ground& ground, double frequencyHz, double heightM) {
    const double lambda = wavelengthM(frequencyHz);
    auto m = dipole(0.48 * lambda, 2e-5 * lambda, {0.0, 0.0, heightM});
    m.ground = ground;
    return m;
}

}  // namespace

TEST_CASE("fields of elementary dipoles over ground, to 1e-4") {
    int points = 0;
    const json file = reference("hertz_dipole_over_ground.json");
    for (const auto& c : file["fields"]) {
        const em::GroundTable table(HalfSpace(realGround(c["eps_r"], c["sigma"]), c["f_hz"].get<double>()),
                                    kFine);
        const auto fields = fieldsInAir(table, c["rho_m"], c["z_obs_m"], c["z_src_m"]);
        INFO(c["id"]);
        CHECK(fieldError(c["vertical"], fields.vertical()) < 1e-4);
        CHECK(fieldError(c["horizontal"], fields.horizontal(c["phi_deg"].get<double>() * kDegree)) < 1e-4);
        ++points;
    }
    CHECK(points == 32);
}

TEST_CASE("resistance of elementary dipoles against height") {
    int points = 0;
    const json file = reference("hertz_dipole_over_ground.json");
    for (const auto& c : file["impedance"]) {
        const em::GroundTable table(HalfSpace(realGround(c["eps_r"], c["sigma"]), c["f_hz"].get<double>()),
                                    kFine);
        const auto fields = fieldsInAir(table, 0.0, c["height_m"], c["height_m"]);
        const double scale = c["R_freespace_ohm_per_m2"];
        INFO(c["id"]);
        const auto compare = [&](const json& expected, Complex field) {
            const Complex e(expected["R_over_Rfs"].get<double>() - 1.0, expected["dX_over_Rfs"]);
            CHECK(std::abs(-field / scale - e) < 1e-4 * std::max(1.0, std::abs(e)));
        };
        compare(c["vertical"], fields.vertical().z);
        compare(c["horizontal"], fields.horizontal(0.0).rho);
        ++points;
    }
    CHECK(points == 60);
}

TEST_CASE("the table agrees with the integrals, and these with another path") {
    std::mt19937 random(7);
    for (const auto& [permittivity, conductivity] :
         {std::pair{13.0, 0.005}, {81.0, 10.0}, {81.0, 0.0}, {3.0, 1e-4}, {1.0, 0.01}})
        for (const double frequency : {1.8e6, 28e6, 450e6}) {
            const em::GroundTable table(HalfSpace(realGround(permittivity, conductivity), frequency));
            const double lambda = wavelengthM(frequency);
            std::uniform_real_distribution<double> decade(std::log(0.004), std::log(4.0));
            for (int n = 0; n < 12; ++n) {
                const double zeta = lambda * std::exp(decade(random));
                const double rho = lambda * std::exp(decade(random));
                em::Lanes lanes;
                table.at(rho, zeta, lanes);
                const auto direct = em::groundKernels(table.halfSpace(), {{rho}, {zeta}}).front();
                INFO("eps " << permittivity << " sigma " << conductivity << " MHz " << frequency / 1e6
                            << " rho " << rho / lambda << " zeta " << zeta / lambda);
                for (std::size_t c = 0; c < em::kGroundKernels; ++c)
                    CHECK(std::abs(Complex(lanes[2 * c], lanes[2 * c + 1]) - direct[c]) < 2e-5);
                if (zeta < 0.25 * rho) continue;
                const auto slow = bruteForce(table.halfSpace(), rho, zeta);
                for (std::size_t c = 0; c < em::kGroundKernels; ++c)
                    CHECK(std::abs(direct[c] - slow[c]) < 1e-5);
            }
        }
}

TEST_CASE("ground moments of a pair of spans against brute force, and the same seen from the other span") {
    const double frequency = 14.1e6;
    const auto tables = em::groundTables(kAverage, frequency);
    const auto& table = tables->air;
    const auto makeSpan = [](const Vec3& from, const Vec3& to) {
        em::Span s;
        s.centreM = 0.5 * (from + to);
        s.lengthM = (to - from).norm();
        s.direction = (to - from) / s.lengthM;
        s.radiusM = 0.001;
        s.order = 4;
        return s;
    };
    const std::array<std::pair<em::Span, em::Span>, 5> pairs = {{
        {makeSpan({0, 0, 6}, {4, 0, 6}), makeSpan({1, 3, 6}, {1, 7, 6})},          // high and level
        {makeSpan({0, 0, 0.5}, {4, 0, 0.5}), makeSpan({0, 0, 0.5}, {4, 0, 0.5})},  // low, with itself
        {makeSpan({0, 0, 0.4}, {3, 0, 0.4}), makeSpan({0, 0, 0.4}, {0, 3, 0.4})},  // low radials
        {makeSpan({0, 0, 0.3}, {0, 0, 3}), makeSpan({0, 0, 0.3}, {3, 1, 0.3})},    // upright and level
        {makeSpan({0, 0, 0.6}, {2, 1, 3}), makeSpan({3, 0, 2.5}, {2, 2, 0.5})},    // slopes
    }};
    for (const auto& [a, b] : pairs) {
        em::PairCache images(10);
        em::LevelRows rows;
        em::GroundMoments moments;
        em::GroundMoments turned;
        em::groundMoments(*tables, a, b, images, rows, moments);
        em::groundMoments(*tables, b, a, images, rows, turned);
        // 40 panels of 4 points on each span resolve the least height.
        const auto& rule = em::gaussRule(4);
        constexpr int kPanels = 40;
        Complex vector[3][3] = {};
        Complex scalar[3][3] = {};
        Complex mixed[3][3] = {};
        const double k = table->halfSpace().k();
        for (int i = 0; i < kPanels * 4; ++i)
            for (int j = 0; j < kPanels * 4; ++j) {
                const auto node = [&](int at) {
                    return -1.0 +
                           (2.0 * (at / 4) + 1.0 + rule.node[static_cast<std::size_t>(at % 4)]) / kPanels;
                };
                const double s = node(i);
                const double t = node(j);
                const Vec3 p = a.centreM + s * a.halfM() * a.direction;
                const Vec3 q = b.centreM + t * b.halfM() * b.direction;
                const double rho = std::hypot(p.x() - q.x(), p.y() - q.y());
                const double zeta = p.z() + q.z();
                em::Lanes f;
                table->at(rho, zeta, f);
                const double r = std::hypot(rho, zeta);
                const Complex wave =
                    std::polar(rule.weight[static_cast<std::size_t>(i % 4)] *
                                   rule.weight[static_cast<std::size_t>(j % 4)] / (kPanels * kPanels * r),
                               -k * r);
                const double along = a.direction.x() * b.direction.x() + a.direction.y() * b.direction.y();
                const double upright = a.direction.z() * b.direction.z();
                const double pm[3] = {1.0, s, 1.5 * s * s - 0.5};
                const double pn[3] = {1.0, t, 1.5 * t * t - 0.5};
                for (int m = 0; m < 3; ++m)
                    for (int n = 0; n < 3; ++n) {
                        const Complex w = wave * pm[m] * pn[n];
                        vector[m][n] += w * (along * Complex(f[0], f[1]) + upright * Complex(f[2], f[3]));
                        mixed[m][n] += w * Complex(f[4], f[5]);
                        scalar[m][n] += w * Complex(f[6], f[7]);
                    }
            }
        const bool level = std::abs(a.direction.z()) + std::abs(b.direction.z()) < 1e-9;
        const double size = std::abs(scalar[0][0]);
        for (std::size_t m = 0; m < 3; ++m)
            for (std::size_t n = 0; n < 3; ++n) {
                INFO("m " << m << " n " << n << " from " << a.centreM.transpose());
                const auto near = [&](const em::PairMoments& got, const em::PairMoments& back,
                                      Complex expected) {
                    const Complex value(got.re[m][n], got.im[m][n]);
                    CHECK(std::abs(value - expected) < 3e-4 * size);
                    CHECK(std::abs(value - Complex(back.re[n][m], back.im[n][m])) < 3e-4 * size);
                };
                near(moments.vector, turned.vector, vector[m][n]);
                near(moments.scalar, turned.scalar, scalar[m][n]);
                if (!level) near(moments.mixed, turned.mixed, mixed[m][n]);
            }
    }
}

TEST_CASE("a very good conductor is perfect ground, and ground like air is none") {
    const double frequency = 14.1e6;
    auto m = dipoleOver(realGround(10.0, 1e9), frequency, 3.0);
    m.wires.push_back(wire({4, 0, 1}, {5, 2, 9}, 0.001));
    const Complex good = solve(m, frequency).z();
    m.ground.kind = model::GroundKind::Perfect;
    CHECK(std::abs(good - solve(m, frequency).z()) < 0.02);
    m.ground = realGround(1.0 + 1e-6, 0.0);
    const Complex thin = solve(m, frequency).z();
    m.ground.kind = model::GroundKind::FreeSpace;
    CHECK(std::abs(thin - solve(m, frequency).z()) < 0.01);
    CHECK(std::abs(thin - good) > 10.0);
}

TEST_CASE("two antennas over ground hear each other equally well") {
    // A low level wire and a slope, each fed; which is drawn first decides which triangle of the matrix is
    // filled.
    const auto transfer = [](bool slopeFirst) {
        model::WireModel m;
        m.ground = kAverage;
        const auto level = wire({0, -10, 0.3}, {0, 10, 0.3}, 0.001);
        const auto slope = wire({8, 0, 0.5}, {15, 9, 14}, 0.004);
        m.wires = slopeFirst ? std::vector{slope, level} : std::vector{level, slope};
        addFeed(m, 0, 0.4);
        addFeed(m, 1, 0.7);
        if (slopeFirst) std::swap(m.feeds[0].place.at, m.feeds[1].place.at);
        return solve(m, 7.1e6).solution.admittance;
    };
    const auto a = transfer(false);
    const auto b = transfer(true);
    CHECK(std::abs(a(0, 1)) > 1e-6);
    CHECK(std::abs(a(0, 1) - a(1, 0)) < 1e-9 * std::abs(a(0, 1)));
    CHECK(std::abs(a(0, 1) - b(0, 1)) < 1e-4 * std::abs(a(0, 1)));
    CHECK(std::abs(a(0, 0) - b(1, 1)) < 1e-4 * std::abs(a(0, 0)));
}

TEST_CASE("turning an antenna about the vertical changes nothing") {
    const double frequency = 3.75e6;
    Complex first = 0.0;
    for (const double degrees : {0.0, 37.0, 90.0, 211.0}) {
        const auto turned = [&](double x, double y, double z) {
            const double c = std::cos(degrees * kDegree);
            const double s = std::sin(degrees * kDegree);
            return Vec3(c * x - s * y, s * x + c * y, z);
        };
        model::WireModel m;
        m.ground = kAverage;
        m.wires.push_back(wire(turned(0, 0, 16.8), turned(15.8, 0, 5.7), 0.001));
        m.wires.push_back(wire(turned(0, 0, 16.8), turned(-12.0, 6.0, 0.4), 0.001));
        m.wires.push_back(wire(turned(3, 2, 0.2), turned(3, 2, 18.0), 0.02));
        addFeed(m, 0, 0.0);
        const Complex z = solve(m, frequency).z();
        if (degrees == 0.0) first = z;
        INFO(degrees);
        CHECK(std::abs(z - first) < 1e-5 * std::abs(first));
    }
}

TEST_CASE("impedance is smooth in height, at any ground and frequency") {
    for (const auto& [permittivity, conductivity] :
         {std::pair{13.0, 0.005}, {1.0, 0.0001}, {81.0, 10.0}, {81.0, 0.0}, {5.0, 0.0}})
        for (const double frequency : {1.8e6, 14.1e6, 450e6}) {
            const double lambda = wavelengthM(frequency);
            const auto ground = realGround(permittivity, conductivity);
            const auto z = [&](double height) {
                return solve(dipoleOver(ground, frequency, height), frequency).z();
            };
            INFO("eps " << permittivity << " sigma " << conductivity << " MHz " << frequency / 1e6);
            // The height sum of the dipole with itself crosses the edges of the table at powers of two.
            for (double edge = std::exp2(std::ceil(std::log2(0.004 * lambda))); edge < 4.0 * lambda;
                 edge *= 2.0) {
                const double height = 0.5 * edge;
                const Complex below = z(height * (1.0 - 1e-9));
                const Complex above = z(height * (1.0 + 1e-9));
                INFO("height " << height / lambda << " wavelengths");
                CHECK(std::abs(above - below) < 2e-4 * std::abs(above));
            }
            // Between: a cubic through neighbours meets the value in the middle.
            for (double height = 0.002 * lambda; height < 1.9 * lambda; height *= 2.3) {
                const double step = std::min(0.06 * height, 0.02 * lambda);
                const Complex cubic = (9.0 * (z(height - step) + z(height + step)) - z(height - 3.0 * step) -
                                       z(height + 3.0 * step)) /
                                      16.0;
                INFO("height " << height / lambda << " wavelengths");
                CHECK(std::abs(cubic - z(height)) < 2e-3 * std::abs(cubic));
            }
        }
}

TEST_CASE("the ground takes what neither sky nor conductor gets") {
    // A low dipole heats poor ground; the higher, the less; never less than nothing.
    double last = 1.0;
    for (const double height : {0.5, 2.0, 5.0, 10.0, 20.0}) {
        auto m = dipoleOver(kAverage, 14.1e6, height);
        m.wires[0].conductivitySm = 5.8e7;
        const double loss = -solve(m, 14.1e6).powerBalance();
        INFO(height);
        CHECK(loss > 0.1);
        CHECK(loss < last);
        last = loss;
    }
    auto m = dipoleOver(realGround(81.0, 10.0), 14.1e6, 10.0);
    CHECK(-solve(m, 14.1e6).powerBalance() < 0.03);
}

TEST_CASE("patterns and absorbed power of short dipoles") {
    int directions = 0;
    const json file = reference("far_field.json");
    for (const auto& c : file["cases"]) {
        const double frequency = c["f_hz"];
        const double height = c["height_m"];
        const double half = 0.02 * height;
        for (const bool upright : {false, true}) {
            const char* kind = upright ? "vertical" : "horizontal";
            const Vec3 along = upright ? Vec3::UnitZ() : Vec3::UnitX();
            const Vec3 centre(0.0, 0.0, height);
            model::WireModel m;
            m.ground = realGround(c["eps_r"], c["sigma"]);
            m.wires.push_back(wire(centre - half * along, centre + half * along, 0.002 * half));
            addFeed(m, 0, 0.5);
            const auto s = solve(m, frequency);
            INFO(c["id"] << " " << kind);
            CHECK(s.average() == Approx(c["radiated_over_input"][kind].get<double>()).epsilon(0.005));
            for (const auto& look : c["pattern"]) {
                if (!look.contains(kind) || look[kind]["gain_dBi"].is_null()) continue;
                const double expected = look[kind]["gain_dBi"];
                if (expected < -40.0) continue;
                CHECK(s.gain(look["elevation_deg"], look["azimuth_deg"]) == Approx(expected).margin(0.03));
                ++directions;
            }
        }
    }
    CHECK(directions > 100);
}

TEST_CASE("a ground that would take minutes to tabulate is refused in seconds") {
    const em::GroundTable table(HalfSpace(realGround(13.0, 0.005), 3e9));
    em::Lanes kernels;
    CHECK_NOTHROW(table.at(0.5, 0.1, kernels));
    // One place far away is looked up; all of them, where the kernels turn hundreds of times, are too many.
    CHECK_NOTHROW(table.at(200.0, 0.1, kernels));
    em::TablePoint last;
    const auto everywhere = [&] {
        for (double zeta = 0.1; zeta < 300.0; zeta += 0.5)
            for (double rho = 100.0; rho < 300.0; rho += 0.5) {
                last = {rho, zeta};
                table.at(rho, zeta, kernels);
            }
    };
    CHECK_THROWS_WITH(everywhere(), Catch::Contains("changes too fast"));
    // And is refused again, not taken for built.
    CHECK_THROWS_AS(table.at(last.rhoM, last.zetaM, kernels), Error);
    CHECK_NOTHROW(table.at(100.0, 0.1, kernels));
}
