// The near field: elementary dipoles, statics, Maxwell's equations in differences, and the power that flows.
#include "core/em/near_field.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "antennas.h"
#include "core/em/span_basis.h"
#include "core/stopped.h"
#include "dipole_fields.h"

using namespace rm;
using namespace rm::test;
using em::NearField;
using em::PointField;
using nlohmann::json;

namespace {

const model::Ground kFree;
const model::Ground kPerfectGround{model::GroundKind::Perfect};
const model::Ground kLoam{model::GroundKind::Real, 13.0, 0.005};

NearField fieldOf(const Solved& s) {
    return {s.mesh, s.reading.localCurrent, s.reading.frequencyHz};
}

/// Two spans with a current that rises to `peakA` between them: a dipole with a moment of peakA times half of
/// its length.
std::shared_ptr<const em::Mesh> shortDipole(const Vec3& centre, const Vec3& direction, double lengthM,
                                            const model::Ground& ground) {
    auto mesh = std::make_shared<em::Mesh>();
    mesh->ground = ground;
    for (const double side : {-1.0, 1.0}) {
        em::Span span;
        span.direction = direction;
        span.centreM = centre + 0.25 * side * lengthM * direction;
        span.lengthM = 0.5 * lengthM;
        span.radiusM = 1e-4 * lengthM;
        span.order = 1;
        span.inSoil = centre.z() < 0.0 && ground.kind == model::GroundKind::Real;
        span.firstLocal = mesh->localCount;
        mesh->localCount += 2;
        mesh->spans.push_back(span);
    }
    return mesh;
}

NearField dipoleField(const Vec3& centre, const Vec3& direction, double lengthM, const model::Ground& ground,
                      double hz) {
    // The first span rises, the second falls.
    Eigen::VectorXcd local = Eigen::VectorXcd::Zero(4);
    local(1) = local(2) = 2.0 / lengthM;
    return {shortDipole(centre, direction, lengthM, ground), local, hz};
}

/// Largest error of a component against the larger of the total field and that without the surface.
double worst(const json& expected, const Eigen::Vector3cd& e, double phi) {
    const DipoleField total = dipoleFieldOf(expected["E_total"]);
    double size = total.norm();
    for (const char* name : {"E_ground", "E_interface"})
        if (expected.contains(name)) {
            const DipoleField part = dipoleFieldOf(expected[name]);
            size = std::max(size,
                            DipoleField{total.rho - part.rho, total.phi - part.phi, total.z - part.z}.norm());
        }
    const Complex rho = e.x() * std::cos(phi) + e.y() * std::sin(phi);
    const Complex round = -e.x() * std::sin(phi) + e.y() * std::cos(phi);
    return std::max({std::abs(rho - total.rho), std::abs(round - total.phi), std::abs(e.z() - total.z)}) /
           size;
}

struct Case {
    const char* file;
    const char* list;
    int count;
};

/// A wire of everything: bent, off the axis, in air and in soil where there is any.
model::WireModel crooked(const model::Ground& ground, bool foot) {
    model::WireModel m;
    m.ground = ground;
    m.wires.push_back(wire({0.3, -2.0, 4.0}, {0.0, 0.0, 6.0}, 0.001));
    m.wires.push_back(wire({0.0, 0.0, 6.0}, {1.5, 2.2, 5.0}, 0.001));
    if (foot) {
        m.wires.push_back(wire({0.3, -2.0, 4.0}, {0.3, -2.0, 0.0}, 0.001));
        m.wires.push_back(wire({0.3, -2.0, 0.0}, {0.3, -2.0, -0.3}, 0.001));
        m.wires.push_back(wire({0.3, -2.0, -0.3}, {2.3, -2.5, -0.3}, 0.001));
    }
    addFeed(m, 0, 0.6);
    return m;
}

/// d(component b)/d(axis a) by differences of fourth order.
Complex slope(const NearField& field, const Vec3& at, int axis, int component, double step) {
    const auto e = [&](double n) {
        Vec3 p = at;
        p(axis) += n * step;
        return field.at(p).electricVm(component);
    };
    return (8.0 * (e(1.0) - e(-1.0)) - (e(2.0) - e(-2.0))) / (12.0 * step);
}

/// Power out of a box, W: Gauss points on its faces.
double outwardPowerW(const NearField& field, const Vec3& low, const Vec3& high, int parts) {
    const em::GaussRule& rule = em::gaussRule(10);
    std::vector<Vec3> points;
    std::vector<Vec3> areas;
    for (int axis = 0; axis < 3; ++axis)
        for (const double side : {-1.0, 1.0}) {
            const int u = (axis + 1) % 3;
            const int v = (axis + 2) % 3;
            for (int i = 0; i < parts; ++i)
                for (int j = 0; j < parts; ++j)
                    for (std::size_t a = 0; a < 10; ++a)
                        for (std::size_t b = 0; b < 10; ++b) {
                            Vec3 p;
                            p(axis) = side < 0.0 ? low(axis) : high(axis);
                            p(u) = low(u) + (high(u) - low(u)) * (i + 0.5 + 0.5 * rule.node[a]) / parts;
                            p(v) = low(v) + (high(v) - low(v)) * (j + 0.5 + 0.5 * rule.node[b]) / parts;
                            points.push_back(p);
                            areas.push_back(side * Vec3::Unit(axis) * (high(u) - low(u)) *
                                            (high(v) - low(v)) * rule.weight[a] * rule.weight[b] /
                                            (4.0 * parts * parts));
                        }
        }
    const auto fields = field.at(points);
    double sum = 0.0;
    for (std::size_t i = 0; i < points.size(); ++i) sum += fields[i].powerFlow().dot(areas[i]);
    return sum;
}

}  // namespace

TEST_CASE("the near field of elementary dipoles over and in the ground") {
    int points = 0;
    for (const auto& [name, list, count] : {Case{"hertz_dipole_over_ground", "fields", 32},
                                            {"buried", "both_in_ground", 10},
                                            {"buried", "across_interface", 16}}) {
        json file;
        std::ifstream(std::string(RM_SOURCE_DIR "/tests/reference/") + name + ".json") >> file;
        int here = 0;
        for (const auto& c : file[list]) {
            const double phi = c["phi_deg"].get<double>() * kDegree;
            const double rho = c["rho_m"];
            const double z = c["z_obs_m"];
            const double source = c["z_src_m"];
            const Vec3 at(rho * std::cos(phi), rho * std::sin(phi), z);
            const model::Ground ground{model::GroundKind::Real, c["eps_r"], c["sigma"]};
            // Short against all that the field changes by, and not so short that the two charges of the
            // dipole cancel beyond what the table resolves.
            const double distance = std::hypot(rho, z - source);
            const double soil = std::abs(em::HalfSpace(ground, c["f_hz"].get<double>()).kGround());
            const double length = source > 0.0
                                      ? 0.02 * std::min(distance, source)
                                      : std::min({0.02 * distance, 0.3 * std::abs(source), 0.1 / soil});
            INFO(name << " " << c["id"]);
            for (const auto& [which, direction] :
                 {std::pair{"vertical", Vec3(Vec3::UnitZ())}, {"horizontal", Vec3(Vec3::UnitX())}}) {
                const NearField field =
                    dipoleField({0.0, 0.0, source}, direction, length, ground, c["f_hz"].get<double>());
                CHECK(worst(c[which], field.at(at).electricVm, phi) < 1e-3);
            }
            ++here;
        }
        CHECK(here == count);
        points += here;
    }
    CHECK(points == 58);
}

TEST_CASE("far away the near field is the far field") {
    for (const auto& ground : {kFree, kPerfectGround}) {
        const auto s = solve(crooked(ground, false), 28e6);
        const NearField field = fieldOf(s);
        const double k = wavenumber(28e6);
        for (const em::Direction d : {em::Direction{20.0, 30.0}, {70.0, 200.0}}) {
            const double c = std::cos(d.elevationDeg * kDegree);
            const double up = std::sin(d.elevationDeg * kDegree);
            const Vec3 phi(-std::sin(d.azimuthDeg * kDegree), std::cos(d.azimuthDeg * kDegree), 0.0);
            const Vec3 r(c * phi.y(), -c * phi.x(), up);
            const Vec3 theta(up * phi.y(), -up * phi.x(), -c);
            const auto far = em::farField(*s.mesh, s.reading.localCurrent, 28e6, {d}).front();
            constexpr double kDistance = 1e5;
            const PointField near = field.at(kDistance * r);
            const Complex turn = std::polar(kDistance, k * kDistance);
            const auto along = [&](const Vec3& axis, const Eigen::Vector3cd& f) {
                return f.x() * axis.x() + f.y() * axis.y() + f.z() * axis.z();
            };
            const double size = std::abs(far.theta) + std::abs(far.phi);
            CHECK(std::abs(along(theta, near.electricVm) * turn - far.theta) < 1e-3 * size);
            CHECK(std::abs(along(phi, near.electricVm) * turn - far.phi) < 1e-3 * size);
            // A plane wave: H = r x E/eta, W/m2 = |E|^2/(2 eta).
            const double h = near.magneticAm.norm();
            CHECK(std::abs(along(phi, near.magneticAm) - along(theta, near.electricVm) / kEta0) < 1e-4 * h);
            CHECK(std::abs(along(theta, near.magneticAm) + along(phi, near.electricVm) / kEta0) < 1e-4 * h);
            CHECK(near.powerFlow().norm() ==
                  Approx(near.electricVm.squaredNorm() / (2.0 * kEta0)).epsilon(1e-3));
        }
    }
}

TEST_CASE("close to a long wire: Ampere's and Gauss's laws") {
    const auto s = solve(dipole(10.0, 0.001), 7e6);
    const NearField field = fieldOf(s);
    // At 2 m from the middle, from 3 to 100 radii away.
    const auto quantities = [&](double rho) {
        const PointField f = field.at({rho, 2.0, 0.0});
        // Round the wire, which runs along y: at +x the field H of a current along +y points to -z.
        return std::pair{-f.magneticAm.z() * 2.0 * kPi * rho, f.electricVm.x() * 2.0 * kPi * rho * kEps0};
    };
    const auto [current, charge] = quantities(0.003);
    for (const double rho : {0.0101, 0.03, 0.1}) {
        const auto [i, q] = quantities(rho);
        CHECK(std::abs(i - current) < 0.01 * std::abs(current));
        CHECK(std::abs(q - charge) < 0.02 * std::abs(charge));
    }
    // Continuity: dI/dy = -j w q.
    const auto currentAt = [&](double y) {
        return -field.at({0.003, y, 0.0}).magneticAm.z() * 2.0 * kPi * 0.003;
    };
    const Complex gradient = (currentAt(2.1) - currentAt(1.9)) / 0.2;
    CHECK(std::abs(gradient + Complex(0.0, 2.0 * kPi * 7e6) * charge) < 0.02 * std::abs(gradient));
    // Inside of the wire nothing grows without bound.
    CHECK(std::isfinite(field.at({0.0, 2.0, 0.0}).electricVm.norm()));
    CHECK(field.at({0.0, 2.0, 0.0}).magneticAm.norm() < 1.01 * field.at({0.001, 2.0, 0.0}).magneticAm.norm());
}

TEST_CASE("the near field obeys Maxwell's equations in differences") {
    constexpr double kHz = 21e6;
    for (const auto& ground : {kFree, kPerfectGround, kLoam}) {
        const auto s = solve(crooked(ground, ground.kind == model::GroundKind::Real), kHz);
        const NearField field = fieldOf(s);
        for (const Vec3& at : {Vec3(1.0, 0.5, 3.0), Vec3(-2.0, 1.0, 0.8), Vec3(0.9, -2.4, -0.7)}) {
            if (at.z() < 0.0 && ground.kind == model::GroundKind::Perfect) continue;
            const double step = 0.05;
            const PointField here = field.at(at);
            const auto d = [&](int axis, int component) { return slope(field, at, axis, component, step); };
            const Eigen::Vector3cd curl(d(1, 2) - d(2, 1), d(2, 0) - d(0, 2), d(0, 1) - d(1, 0));
            const Eigen::Vector3cd h = Complex(0.0, 2.0 * kPi * kHz * kMu0) * here.magneticAm;
            const double size = std::abs(d(0, 0)) + std::abs(d(1, 1)) + std::abs(d(2, 2)) + h.norm();
            INFO("ground " << static_cast<int>(ground.kind) << " z " << at.z());
            CHECK((curl + h).norm() < 4e-3 * size);
            CHECK(std::abs(d(0, 0) + d(1, 1) + d(2, 2)) < 4e-3 * size);
        }
    }
}

TEST_CASE("what goes in flows out of every surface round the antenna") {
    for (const auto& ground : {kFree, kPerfectGround, kLoam}) {
        const auto s = solve(crooked(ground, false), 28e6);
        const NearField field = fieldOf(s);
        const double floor = ground.kind == model::GroundKind::FreeSpace ? 1.0 : 0.0;
        INFO("ground " << static_cast<int>(ground.kind));
        CHECK(outwardPowerW(field, {-2.0, -4.0, floor}, {4.0, 4.0, 8.0}, 3) ==
              Approx(s.reading.inputPowerW).epsilon(0.003));
    }
    // In the soil what flows into a box without wires heats what is in it.
    const NearField field = fieldOf(solve(crooked(kLoam, true), 14e6));
    const Vec3 low(0.6, -1.8, -0.9);
    const Vec3 size(0.8, 0.7, 0.5);
    const double lost = -2.0 * kPi * 14e6 * kEps0 * em::HalfSpace(kLoam, 14e6).permittivity().imag();
    const em::GaussRule& rule = em::gaussRule(8);
    double heatW = 0.0;
    for (std::size_t a = 0; a < 8; ++a)
        for (std::size_t b = 0; b < 8; ++b)
            for (std::size_t c = 0; c < 8; ++c) {
                const Vec3 at(rule.node[a], rule.node[b], rule.node[c]);
                const Vec3 point = low + (0.5 * (at + Vec3::Ones())).cwiseProduct(size);
                heatW += 0.5 * lost * field.at(point).electricVm.squaredNorm() * rule.weight[a] *
                         rule.weight[b] * rule.weight[c] * size.prod() / 8.0;
            }
    CHECK(-outwardPowerW(field, low, low + size, 1) == Approx(heatW).epsilon(0.01));
}

TEST_CASE("fields pass the surface as they must") {
    const auto s = solve(crooked(kLoam, true), 7e6);
    const NearField field = fieldOf(s);
    const Complex eps = em::HalfSpace(kLoam, 7e6).permittivity();
    for (const auto& [x, y] : {std::pair{1.0, 0.5}, {-3.0, -2.0}, {0.3, -0.5}}) {
        const PointField above = field.at({x, y, 1e-6});
        const PointField below = field.at({x, y, -1e-6});
        const double e = above.electricVm.norm();
        const double h = above.magneticAm.norm();
        CHECK((above.electricVm - below.electricVm).head<2>().norm() < 3e-3 * e);
        CHECK(std::abs(above.electricVm.z() - eps * below.electricVm.z()) < 3e-3 * e);
        CHECK((above.magneticAm - below.magneticAm).norm() < 3e-3 * h);
    }
    // On perfect ground the field stands upright, the magnetic one lies.
    const NearField mirror = fieldOf(solve(crooked(kPerfectGround, false), 7e6));
    const PointField on = mirror.at({1.0, 0.5, 0.0});
    CHECK(on.electricVm.head<2>().norm() < 1e-9 * on.electricVm.norm());
    CHECK(std::abs(on.magneticAm.z()) < 1e-9 * on.magneticAm.norm());
    CHECK(mirror.at({1.0, 0.5, -0.1}).electricVm.norm() == 0.0);
}

TEST_CASE("the rules for spans hold what they promise, from next to the wire to far away") {
    const auto s = solve(crooked(kFree, false), 28e6);
    const NearField field = fieldOf(s);
    const double k = wavenumber(28e6);
    const double w = k * kSpeedOfLight;
    // The same sums with every span in 4000 pieces.
    const auto dense = [&](const Vec3& at) {
        PointField f;
        for (const auto& span : s.mesh->spans) {
            std::array<Complex, em::kLanes> current{};
            std::array<Complex, em::kLanes> charge{};
            const em::SpanBasis& basis = em::basisOf(span);
            for (std::size_t n = 0; n < em::kLanes; ++n) {
                current[n] = em::legendreSeries(span, s.reading.localCurrent, n);
                for (std::size_t one = 0; one < static_cast<std::size_t>(basis.count); ++one)
                    charge[n] += basis.charge[one][n] *
                                 s.reading.localCurrent(static_cast<Eigen::Index>(span.firstLocal + one));
            }
            constexpr int kPieces = 4000;
            constexpr double kStep = 2.0 / kPieces;
            for (int i = 0; i < kPieces; ++i) {
                const double t = -1.0 + (i + 0.5) * kStep;
                double row[em::kLanes];
                em::legendreRow(t, row);
                Complex amps = 0.0;
                Complex slope = 0.0;
                for (std::size_t n = 0; n < em::kLanes; ++n) {
                    amps += current[n] * row[n];
                    slope += charge[n] * row[n];
                }
                const Vec3 d = at - (span.centreM + t * span.halfM() * span.direction);
                const double r = d.norm();
                const Complex g = std::polar(1.0 / r, -k * r);
                const Complex fall = -(Complex(0.0, k) + 1.0 / r) * g / r;
                f.electricVm += Complex(0.0, -w * kMu0 / (4.0 * kPi)) * amps * g * span.halfM() * kStep *
                                span.direction.cast<Complex>();
                f.electricVm +=
                    slope * kStep / Complex(0.0, 4.0 * kPi * w * kEps0) * fall * d.cast<Complex>();
                f.magneticAm += amps * span.halfM() * kStep / (4.0 * kPi) * fall *
                                Vec3(d.cross(span.direction)).cast<Complex>();
            }
        }
        return f;
    };
    for (const double away : {0.005, 0.02, 0.1, 0.6, 3.0, 20.0}) {
        const Vec3 at = Vec3(0.15, -1.0, 5.0) + away * Vec3(0.9, 0.1, 0.3).normalized();
        const PointField is = field.at(at);
        const PointField must = dense(at);
        INFO(away << " m away");
        CHECK((is.electricVm - must.electricVm).norm() < 1e-4 * must.electricVm.norm());
        CHECK((is.magneticAm - must.magneticAm).norm() < 1e-4 * must.magneticAm.norm());
    }
}

TEST_CASE("a plane of points is the points") {
    // Of the field there, E and H.
    const auto worstOf = [](const NearField& field, const em::PointPlane& plane) {
        const auto all = field.on(plane);
        REQUIRE(all.size() == plane.count());
        double error = 0.0;
        for (int row = 0; row < plane.rows; row += 7)
            for (int column = 0; column < plane.columns; column += 7) {
                const auto& is = all[static_cast<std::size_t>(row * plane.columns + column)];
                const PointField must = field.at(plane.at(column, row));
                REQUIRE(is.electricVm.allFinite());
                REQUIRE(is.magneticAm.allFinite());
                error = std::max(
                    {error, (is.electricVm - must.electricVm).norm() / (must.electricVm.norm() + 1e-9),
                     (is.magneticAm - must.magneticAm).norm() / (must.magneticAm.norm() + 1e-12)});
            }
        return error;
    };
    for (const auto& ground : {kFree, kPerfectGround, kLoam}) {
        const NearField field = fieldOf(solve(crooked(ground, ground.kind == model::GroundKind::Real), 14e6));
        CHECK(worstOf(field, {{-8.0, -8.0, 1.8}, {0.2, 0.0, 0.0}, {0.0, 0.2, 0.0}, 80, 80}) < 2e-3);
        CHECK(worstOf(field, {{-8.0, 0.1, -1.05}, {0.2, 0.0, 0.0}, {0.0, 0.0, 0.2}, 80, 60}) < 2e-3);
        // A single row of points, and one that is cut out of a plane.
        CHECK(worstOf(field, {{-8.0, 3.0, 1.8}, {0.05, 0.0, 0.0}, {0.0, 0.2, 0.0}, 320, 1}) < 2e-3);
        CHECK(worstOf(field, {{-8.0, 3.0, 1.8}, {0.01, 0.0, 0.0}, {0.0, 9.0, 0.0}, 320, 2}) < 2e-3);
        // One that passes through the antenna, and a column.
        CHECK(worstOf(field, {{-1.6, -1.0, 5.0}, {0.01, 0.0, 0.0}, {0.0, 9.0, 0.0}, 320, 2}) < 2e-3);
        CHECK(worstOf(field, {{0.15, -1.0, 0.1}, {9.0, 0.0, 0.0}, {0.0, 0.0, 0.02}, 2, 320}) < 2e-3);
    }
    SECTION("over radials in the soil, and among them") {
        model::WireModel m;
        m.ground = kLoam;
        const Vec3 hub(0.0, 0.0, -0.05);
        m.wires.push_back(wire(Vec3::Zero(), {0.0, 0.0, 5.0}, 0.001));
        m.wires.push_back(wire(Vec3::Zero(), hub, 0.001));
        for (int i = 0; i < 8; ++i)
            m.wires.push_back(
                wire(hub, hub + 5.0 * Vec3(std::cos(0.25 * kPi * i), std::sin(0.25 * kPi * i), 0.0), 0.001));
        addFeed(m, 0, 0.0);
        const NearField field = fieldOf(solve(m, 14e6));
        CHECK(worstOf(field, {{-8.0, -8.0, 1.8}, {0.2, 0.0, 0.0}, {0.0, 0.2, 0.0}, 80, 80}) < 2e-3);
        CHECK(worstOf(field, {{-2.0, -3.0, 0.1}, {0.1, 0.0, 0.0}, {0.0, 0.1, 0.0}, 60, 60}) < 2e-3);
        CHECK(worstOf(field, {{-6.0, 0.4, -0.85}, {0.15, 0.0, 0.0}, {0.0, 0.0, 0.1}, 80, 70}) < 2e-3);
    }
    std::stop_source stop;
    stop.request_stop();
    const NearField field = fieldOf(solve(crooked(kFree, false), 14e6));
    CHECK_THROWS_AS(field.on({{}, Vec3::UnitX(), Vec3::UnitY(), 50, 50}, stop.get_token()), Stopped);
}
