// Kernels with one point or both in the soil, against the fields of elementary dipoles and their laws.
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>

#include "core/em/ground/across_table.h"
#include "core/em/ground/sommerfeld.h"
#include "dipole_fields.h"

using namespace rm;
using em::HalfSpace;
using em::Region;
using nlohmann::json;
using namespace rm::test;

namespace {

HalfSpace groundOf(const json& c) {
    return {{model::GroundKind::Real, c["eps_r"], c["sigma"]}, c["f_hz"].get<double>()};
}

/// Fields are second derivatives of the kernels: they want a finer table than the engine.
constexpr double kFineTable = 1e-6;

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
        const PotentialFields fields(KernelJet::together(table, rho, a, b), table.halfSpace().k(), rho, a + b,
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
        em::AcrossTable::Lines lines;
        const PotentialFields fields(KernelJet::across(table, rho, a, b, source > 0.0, lines),
                                     table.halfSpace().k(), rho, a + b, observer / a, source / b);
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

TEST_CASE("what is kept of the kernels across the surface is what they are anew") {
    const em::AcrossTable table(HalfSpace({model::GroundKind::Real, 13.0, 0.005}, 7.1e6));
    em::AcrossTable::Lines kept;
    // More heights, depths and boxes than are kept, each coming again and again.
    int points = 0;
    for (int round = 0; round < 3; ++round)
        for (const double height : {0.02, 0.5, 1.8, 4.0, 11.0})
            for (const double depth : {0.03, 0.1, 0.4})
                for (const double rho : {0.0, 0.01, 0.3, 0.9, 2.5, 7.0, 19.0, 60.0}) {
                    std::array<em::GroundLanes, 8> again;
                    std::array<em::GroundLanes, 8> anew;
                    table.derivatives(rho + 1e-3 * round, height, depth, kept, again);
                    em::AcrossTable::Lines none;
                    table.derivatives(rho + 1e-3 * round, height, depth, none, anew);
                    CHECK(again == anew);
                    ++points;
                }
    CHECK(points == 360);
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

TEST_CASE("closer than waves show, the table across the surface is that of statics, and right") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> decade(std::log(2e-5), std::log(4e-4));
    for (const auto& [permittivity, conductivity] :
         {std::pair{13.0, 0.005}, {81.0, 5.0}, {80.0, 0.003}, {3.0, 1e-4}})
        for (const double hz : {1.8e6, 28e6}) {
            const HalfSpace ground({model::GroundKind::Real, permittivity, conductivity}, hz);
            const em::AcrossTable across(ground);
            const double waves = 1.0 / std::abs(ground.kGround());
            for (int n = 0; n < 20; ++n) {
                const double rho = waves * std::exp(decade(random));
                const double height = waves * std::exp(decade(random));
                const double depth = waves * std::exp(decade(random));
                INFO("eps " << permittivity << " sigma " << conductivity << " MHz " << hz / 1e6 << " rho "
                            << rho << " height " << height << " depth " << depth);
                em::Lanes lanes;
                across.at(rho, height, depth, lanes);
                const auto direct =
                    em::groundKernels(ground, {{rho}, {height}, Region::Across, {depth}}).front();
                for (std::size_t c = 0; c < em::kGroundKernels; ++c) {
                    const bool charge = c == static_cast<std::size_t>(em::GroundKernel::Scalar);
                    const double size = charge ? ground.scalarSize(Region::Across) : 1.0;
                    CHECK(std::abs(Complex(lanes[2 * c], lanes[2 * c + 1]) - direct[c]) < 1e-4 * size);
                }
            }
        }
}

TEST_CASE("tables built ahead are those that grow where they are read") {
    const HalfSpace ground({model::GroundKind::Real, 13.0, 0.005}, 7.1e6);
    std::vector<em::TablePoint> points;
    std::vector<em::AcrossPoint> across;
    for (const double rho : {1e-5, 3e-4, 0.02, 0.9, 7.0, 13.0})
        for (const double height : {0.0, 1e-4, 0.05, 3.0}) {
            points.push_back({rho, height + 0.1});
            across.push_back({rho, height, 0.05});
            across.push_back({rho, height, 2.0});
        }
    for (const Region region : {Region::Air, Region::Soil}) {
        const em::GroundTable grown(ground, em::GroundTable::kTolerance, region);
        const em::GroundTable built(ground, em::GroundTable::kTolerance, region);
        built.prepare(points);
        const std::size_t series = built.builtSeries();
        CHECK(series > 0);
        for (const auto& p : points) {
            em::Lanes a;
            em::Lanes b;
            grown.at(p.rhoM, p.zetaM, a);
            built.at(p.rhoM, p.zetaM, b);
            for (int c = 0; c < em::kGroundLanes; ++c) CHECK(a[c] == b[c]);
        }
        CHECK(built.builtSeries() == series);
        CHECK(grown.builtSeries() == series);
    }
    const em::AcrossTable grown(ground);
    const em::AcrossTable built(ground);
    built.prepare(across);
    const std::size_t series = built.builtSeries();
    for (const auto& p : across) {
        em::Lanes a;
        em::Lanes b;
        grown.at(p.rhoM, p.heightM, p.depthM, a);
        built.at(p.rhoM, p.heightM, p.depthM, b);
        for (int c = 0; c < em::kGroundLanes; ++c) CHECK(a[c] == b[c]);
    }
    CHECK(built.builtSeries() == series);
    CHECK(grown.builtSeries() == series);
}
