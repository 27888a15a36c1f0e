#include "core/em/far_field.h"

#include <algorithm>
#include <cmath>

#include "core/em/kernel_arrays.h"
#include "core/em/quadrature.h"
#include "core/em/span_basis.h"

namespace rm::em {

namespace {

/// The spans of a mesh with their currents, as arrays that a whole direction is summed over at once.
class Radiator {
  public:
    Radiator(const Mesh& mesh, const Eigen::VectorXcd& local)
        : count_(padded(mesh.spans.size())), data_(count_ * kColumns, 0.0) {
        for (std::size_t i = 0; i < mesh.spans.size(); ++i) {
            const Span& span = mesh.spans[i];
            const double values[kFirstSeries] = {
                span.centreM.x(),   span.centreM.y(),   span.centreM.z(), span.direction.x(),
                span.direction.y(), span.direction.z(), span.halfM(),     span.radiusM * span.radiusM};
            for (std::size_t v = 0; v < kFirstSeries; ++v) column(v)[i] = values[v];
            Complex factor = span.lengthM;
            for (std::size_t order = 0; order < kSpanOrders; ++order) {
                const Complex c = factor * legendreSeries(span, local, order);
                column(kFirstSeries + 2 * order)[i] = c.real();
                column(kFirstSeries + 2 * order + 1)[i] = c.imag();
                factor *= Complex(0.0, 1.0);
            }
        }
        arrays_.count = static_cast<int>(count_);
        // The span of an end function is so short that its higher moments do not reach the far field.
        arrays_.orders = 4;
        for (const Span& span : mesh.spans)
            if (span.kind == SpanKind::Inner) arrays_.orders = std::max(arrays_.orders, span.order + 1);
        arrays_.cx = column(0);
        arrays_.cy = column(1);
        arrays_.cz = column(2);
        arrays_.ux = column(3);
        arrays_.uy = column(4);
        arrays_.uz = column(5);
        arrays_.half = column(6);
        arrays_.radius2 = column(7);
        for (std::size_t order = 0; order < kSpanOrders; ++order) {
            arrays_.seriesRe[order] = column(kFirstSeries + 2 * order);
            arrays_.seriesIm[order] = column(kFirstSeries + 2 * order + 1);
        }
        re_.resize(count_);
        im_.resize(count_);
    }

    /// N = sum over spans of u int I exp(j k r.r') ds towards the unit vector `toward`.
    Eigen::Vector3cd radiationVector(const Vec3& toward, double k) {
        spanIntegrals(arrays_, k * toward.x(), k * toward.y(), k * toward.z(), re_.data(), im_.data());
        double sum[6] = {};
        for (std::size_t i = 0; i < count_; ++i) {
            sum[0] += arrays_.ux[i] * re_[i];
            sum[1] += arrays_.ux[i] * im_[i];
            sum[2] += arrays_.uy[i] * re_[i];
            sum[3] += arrays_.uy[i] * im_[i];
            sum[4] += arrays_.uz[i] * re_[i];
            sum[5] += arrays_.uz[i] * im_[i];
        }
        return {Complex(sum[0], sum[1]), Complex(sum[2], sum[3]), Complex(sum[4], sum[5])};
    }

  private:
    static constexpr std::size_t kFirstSeries = 8;
    static constexpr std::size_t kColumns = kFirstSeries + 2 * kSpanOrders;

    /// Whole registers: the rest is filled with spans that carry nothing.
    static std::size_t padded(std::size_t count) { return (count + kLanes - 1) / kLanes * kLanes; }

    double* column(std::size_t c) { return data_.data() + c * count_; }

    std::size_t count_;
    std::vector<double> data_;
    SpanArrays arrays_;
    std::vector<double> re_;
    std::vector<double> im_;
};

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

FarField fieldTowards(const Mesh& mesh, Radiator& radiator, double frequencyHz, const Direction& direction) {
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
    const Eigen::Vector3cd n = radiator.radiationVector(toward, k);
    const Complex radial = n.x() * cosPhi + n.y() * sinPhi;
    // theta points down: sin(psi) rho - cos(psi) z.
    Complex theta = radial * sinPsi - n.z() * cosPsi;
    Complex across = n.y() * cosPhi - n.x() * sinPhi;
    if (overGround) {
        const Reflection r = reflection(mesh.ground, sinPsi, frequencyHz);
        const Vec3 mirrored(toward.x(), toward.y(), -sinPsi);
        const Eigen::Vector3cd m = radiator.radiationVector(mirrored, k);
        const Complex radialImage = m.x() * cosPhi + m.y() * sinPhi;
        theta -= r.vertical * (radialImage * sinPsi + m.z() * cosPsi);
        across += r.horizontal * (m.y() * cosPhi - m.x() * sinPhi);
    }
    return {scale * theta, scale * across};
}

}  // namespace

std::vector<FarField> farField(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                               const std::vector<Direction>& directions) {
    Radiator radiator(mesh, local);
    std::vector<FarField> fields;
    fields.reserve(directions.size());
    for (const auto& direction : directions)
        fields.push_back(fieldTowards(mesh, radiator, frequencyHz, direction));
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
    Radiator radiator(mesh, local);
    double power = 0.0;
    for (int panel = 0; panel < panels; ++panel) {
        const double width = (1.0 - bottom) / panels;
        for (int q = 0; q < rule.size; ++q) {
            const double sinPsi =
                bottom + width * (panel + 0.5 + 0.5 * rule.node[static_cast<std::size_t>(q)]);
            double ring = 0.0;
            for (int i = 0; i < azimuths; ++i) {
                const FarField f = fieldTowards(mesh, radiator, frequencyHz,
                                                {std::asin(sinPsi) / kDegree, 360.0 * i / azimuths});
                ring += (std::norm(f.theta) + std::norm(f.phi)) / (2.0 * kEta0);
            }
            power += ring * 2.0 * kPi / azimuths * 0.5 * width * rule.weight[static_cast<std::size_t>(q)];
        }
    }
    return power / inputPowerW;
}

}  // namespace rm::em
