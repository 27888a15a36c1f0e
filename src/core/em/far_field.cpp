#include "core/em/far_field.h"

#include <algorithm>
#include <cmath>

#include "core/em/kernel_arrays.h"
#include "core/em/quadrature.h"

namespace rm::em {

namespace {

/// Spherical Bessel functions j_0..j_order at x >= 0, by the power series below 2 and upward otherwise (orders
/// stay below 8 and arguments above 2 are rare, so the loss of digits is harmless).
void sphericalBessel(double x, int order, double* j) {
    if (x < 2.0) {
        double lead = 1.0;
        const double y = -0.5 * x * x;
        for (int m = 0; m <= order; ++m) {
            double term = 1.0;
            double sum = 1.0;
            for (int i = 1; i < 14; ++i) {
                term *= y / (i * (2.0 * m + 2.0 * i + 1.0));
                sum += term;
                if (std::abs(term) < 1e-14) break;
            }
            j[m] = lead * sum;
            lead *= x / (2.0 * m + 3.0);
        }
        return;
    }
    j[0] = std::sin(x) / x;
    if (order > 0) j[1] = (j[0] - std::cos(x)) / x;
    for (int m = 2; m <= order; ++m) j[m] = (2.0 * m - 1.0) / x * j[m - 1] - j[m - 2];
}

/// A span with its current as a Legendre series, the factors 2 j^m (L/2) included.
struct RadiatingSpan {
    Vec3 centre;
    Vec3 direction;
    double half;
    double radius;
    int order;
    std::array<Complex, kLanes> series;
};

std::vector<RadiatingSpan> radiatingSpans(const Mesh& mesh, const Eigen::VectorXcd& local) {
    std::vector<RadiatingSpan> spans;
    spans.reserve(mesh.spans.size());
    for (const auto& span : mesh.spans) {
        RadiatingSpan r{span.centreM, span.direction, span.halfM(), span.radiusM, span.order, {}};
        const auto at = [&](int i) { return local(static_cast<Eigen::Index>(span.firstLocal) + i); };
        r.series[0] = 0.5 * (at(0) + at(1));
        r.series[1] = 0.5 * (at(1) - at(0));
        for (int p = 2; p <= span.order; ++p) {
            const Complex c = at(p) / (2.0 * p - 1.0);
            r.series[static_cast<std::size_t>(p)] += c;
            r.series[static_cast<std::size_t>(p - 2)] -= c;
        }
        Complex factor = span.lengthM;
        for (auto& c : r.series) {
            c *= factor;
            factor *= Complex(0.0, 1.0);
        }
        spans.push_back(r);
    }
    return spans;
}

/// int I exp(j k r.r') ds along one span towards the unit vector `toward`.
Complex spanIntegral(const RadiatingSpan& span, const Vec3& toward, double k) {
    const double along = toward.dot(span.direction);
    const double q = k * span.half * along;
    // The tube radiates J0(k a sin) of what a filament on its axis would.
    const double round = 1.0 - 0.25 * k * k * span.radius * span.radius * (1.0 - along * along);
    double bessel[kLanes];
    sphericalBessel(std::abs(q), span.order, bessel);
    Complex sum = 0.0;
    double sign = 1.0;  // j_m(-q) = (-1)^m j_m(q)
    for (int m = 0; m <= span.order; ++m) {
        sum += span.series[static_cast<std::size_t>(m)] * (sign * bessel[m]);
        if (q < 0.0) sign = -sign;
    }
    const double phase = k * toward.dot(span.centre);
    return sum * Complex(round * std::cos(phase), round * std::sin(phase));
}

Eigen::Vector3cd radiationVector(const std::vector<RadiatingSpan>& spans, const Vec3& toward, double k) {
    Eigen::Vector3cd n = Eigen::Vector3cd::Zero();
    for (const auto& span : spans) n += spanIntegral(span, toward, k) * span.direction.cast<Complex>();
    return n;
}

/// Reflection coefficients of the ground for the two polarisations, E_theta and E_phi.
struct Reflection {
    Complex vertical;
    Complex horizontal;
};

Reflection reflection(const model::Ground& ground, double sinPsi, double frequencyHz) {
    if (ground.kind == model::GroundKind::Perfect) return {1.0, -1.0};
    const Complex eps(ground.relativePermittivity,
                      -ground.conductivitySm / (2.0 * kPi * frequencyHz * kEps0));
    const Complex q = std::sqrt(eps - (1.0 - sinPsi * sinPsi));
    return {(eps * sinPsi - q) / (eps * sinPsi + q), (sinPsi - q) / (sinPsi + q)};
}

FarField fieldTowards(const Mesh& mesh, const std::vector<RadiatingSpan>& spans, double frequencyHz,
                      const Direction& direction) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    if (overGround && direction.elevationDeg < 0.0) return {0.0, 0.0};
    const double k = wavenumber(frequencyHz);
    const double psi = direction.elevationDeg * kDegree;
    const double phi = direction.azimuthDeg * kDegree;
    const double sinPsi = std::sin(psi);
    const double cosPsi = std::cos(psi);
    const double sinPhi = std::sin(phi);
    const double cosPhi = std::cos(phi);
    const Complex scale(0.0, -k * kEta0 / (4.0 * kPi));
    const Vec3 toward(cosPsi * cosPhi, cosPsi * sinPhi, sinPsi);
    const Eigen::Vector3cd n = radiationVector(spans, toward, k);
    const Complex radial = n.x() * cosPhi + n.y() * sinPhi;
    // theta points down: sin(psi) rho - cos(psi) z.
    Complex theta = radial * sinPsi - n.z() * cosPsi;
    Complex across = n.y() * cosPhi - n.x() * sinPhi;
    if (overGround) {
        const Reflection r = reflection(mesh.ground, sinPsi, frequencyHz);
        const Vec3 mirrored(toward.x(), toward.y(), -sinPsi);
        const Eigen::Vector3cd m = radiationVector(spans, mirrored, k);
        const Complex radialImage = m.x() * cosPhi + m.y() * sinPhi;
        theta -= r.vertical * (radialImage * sinPsi + m.z() * cosPsi);
        across += r.horizontal * (m.y() * cosPhi - m.x() * sinPhi);
    }
    return {scale * theta, scale * across};
}

}  // namespace

std::vector<FarField> farField(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                               const std::vector<Direction>& directions) {
    const auto spans = radiatingSpans(mesh, local);
    std::vector<FarField> fields;
    fields.reserve(directions.size());
    for (const auto& direction : directions)
        fields.push_back(fieldTowards(mesh, spans, frequencyHz, direction));
    return fields;
}

double gainDbi(const FarField& field, double inputPowerW) {
    const double intensity = (std::norm(field.theta) + std::norm(field.phi)) / (2.0 * kEta0);
    const double ratio = 4.0 * kPi * intensity / inputPowerW;
    return ratio > 1e-99 ? 10.0 * std::log10(ratio) : -999.0;
}

double averageGain(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz, double inputPowerW) {
    // The pattern of an antenna of radius R has about k R harmonics; the rule resolves them with a margin.
    double reach = 0.0;
    for (const auto& span : mesh.spans) reach = std::max(reach, span.centreM.norm() + span.halfM());
    const double kr = wavenumber(frequencyHz) * reach;
    const int azimuths = 2 * (8 + static_cast<int>(std::ceil(1.3 * kr)));
    const int panels = 1 + static_cast<int>(kr / 8.0);
    const auto& rule = gaussRule(16);
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const double bottom = overGround ? 0.0 : -1.0;
    const auto spans = radiatingSpans(mesh, local);
    double power = 0.0;
    for (int panel = 0; panel < panels; ++panel) {
        const double width = (1.0 - bottom) / panels;
        for (int q = 0; q < rule.size; ++q) {
            const double sinPsi = bottom + width * (panel + 0.5 + 0.5 * rule.node[static_cast<std::size_t>(q)]);
            double ring = 0.0;
            for (int i = 0; i < azimuths; ++i) {
                const FarField f = fieldTowards(mesh, spans, frequencyHz,
                                                {std::asin(sinPsi) / kDegree, 360.0 * i / azimuths});
                ring += (std::norm(f.theta) + std::norm(f.phi)) / (2.0 * kEta0);
            }
            power += ring * 2.0 * kPi / azimuths * 0.5 * width * rule.weight[static_cast<std::size_t>(q)];
        }
    }
    return power / inputPowerW;
}

}  // namespace rm::em
