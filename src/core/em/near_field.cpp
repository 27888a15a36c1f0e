#include "core/em/near_field.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/em/ground/kernel_jet.h"
#include "core/em/near_field_nodes.h"
#include "core/em/parallel.h"
#include "core/em/quadrature.h"
#include "core/model/geometry.h"
#include "core/stopped.h"

namespace rm::em {

namespace {

/// Farther than this many half lengths of a span the shortest rule serves, farther than that the middle one.
constexpr double kFar = 6.0;
constexpr double kMiddle = 2.5;
/// Points of the rules for far ones: this many, and so many more for a radian over half of the span. The
/// kernel is as good as a polynomial there, so that of the current only the orders below the number of points
/// count; they are integrated exactly. What is left out goes like (2 d)^-n at d half lengths.
constexpr double kFarPoints = 3.4;
constexpr double kMiddlePoints = 6.4;
constexpr double kPointsPerRadian = 2.8;
/// Of the rule for near ones above half of the degree of the current: a kernel that is singular d half
/// lengths away leaves an error of (d + sqrt(1 + d^2))^-2n.
constexpr int kNearPoints = 8;
/// Parts of a span are halved until they are no longer than this much of the distance, which counts as at
/// least half of the radius.
constexpr double kPartPerDistance = 1.0;
/// Of the tables of the ground: fields are their derivatives and want finer ones than the engine.
constexpr double kTableTolerance = 1e-5;
/// Heights above the surface count as at least this, where source and observer meet, m.
constexpr double kClosestM = 1e-5;

Eigen::Vector3cd vectorOf(const double* sums) {
    return {Complex(sums[0], sums[1]), Complex(sums[2], sums[3]), Complex(sums[4], sums[5])};
}

}  // namespace

/// The nodes of a span for points at two distances.
struct NearField::Rule {
    Nodes far;
    Nodes middle;
};

NearField::~NearField() = default;

NearField::NearField(std::shared_ptr<const Mesh> mesh, const Eigen::VectorXcd& local, double frequencyHz)
    : mesh_(std::move(mesh)), frequencyHz_(frequencyHz), k_(wavenumber(frequencyHz)) {
    if (mesh_->ground.kind == model::GroundKind::Real)
        tables_ = groundTables(mesh_->ground, frequencyHz, kTableTolerance);
    every_.resize(mesh_->spans.size());
    std::iota(every_.begin(), every_.end(), std::size_t{0});
    for (const Span& span : mesh_->spans) {
        (span.inSoil ? anyInSoil_ : anyInAir_) = true;
        std::array<Complex, kLanes> current{};
        std::array<Complex, kLanes> charge{};
        const SpanBasis& basis = basisOf(span);
        for (std::size_t n = 0; n < kLanes; ++n) {
            current[n] = legendreSeries(span, local, n);
            for (std::size_t f = 0; f < static_cast<std::size_t>(basis.count); ++f)
                charge[n] += basis.charge[f][n] * local(static_cast<Eigen::Index>(span.firstLocal + f));
        }
        Rule rule;
        const double k =
            span.inSoil && tables_ ? std::abs(tables_->halfSpace().kGround()) : wavenumber(frequencyHz);
        for (auto [nodes, least] : {std::pair{&rule.far, kFarPoints}, {&rule.middle, kMiddlePoints}}) {
            const auto points = static_cast<std::size_t>(
                std::ceil(std::min(least + kPointsPerRadian * k * span.halfM(), kMaxGauss - 1.0)));
            auto low = current;
            auto lowCharge = charge;
            for (std::size_t n = points; n < kLanes; ++n) low[n] = lowCharge[n] = 0.0;
            const GaussRule& gauss = gaussRule(static_cast<int>(points));
            for (std::size_t g = 0; g < points; ++g)
                nodes->add(span, low, lowCharge, gauss.node[g], gauss.weight[g], 0.0);
        }
        current_.push_back(current);
        charge_.push_back(charge);
        rules_.push_back(std::move(rule));
    }
}

void NearField::gatherPart(std::size_t index, const Vec3& point, double from, double to, Nodes& nodes) const {
    const Span& span = mesh_->spans[index];
    const Vec3 start = span.centreM + from * span.halfM() * span.direction;
    const Vec3 end = span.centreM + to * span.halfM() * span.direction;
    const double half = 0.5 * (to - from) * span.halfM();
    const double distance = std::max(model::pointToSegment(point, start, end), 0.5 * span.radiusM);
    if (half > kPartPerDistance * distance) {
        const double middle = 0.5 * (from + to);
        gatherPart(index, point, from, middle, nodes);
        gatherPart(index, point, middle, to, nodes);
        return;
    }
    // Inside of the wire its field falls off towards the axis.
    const Vec3 away = point - span.centreM;
    const double off2 = std::max(away.squaredNorm() - std::pow(away.dot(span.direction), 2), 0.0);
    const double more2 = std::max(span.radiusM * span.radiusM - off2, 0.0);
    const GaussRule& gauss = gaussRule(span.order / 2 + 1 + kNearPoints);
    for (std::size_t g = 0; g < static_cast<std::size_t>(gauss.size); ++g)
        nodes.add(span, current_[index], charge_[index],
                  0.5 * (from + to) + 0.5 * (to - from) * gauss.node[g], 0.5 * (to - from) * gauss.weight[g],
                  more2);
}

void NearField::gather(const Spans& spans, const Vec3& point, bool fromSoil, Nodes& nodes) const {
    nodes.clear();
    for (const std::size_t s : spans) {
        const Span& span = mesh_->spans[s];
        if (span.inSoil != fromSoil) continue;
        const double half = span.halfM();
        // The distance from the middle is enough where it is large.
        const double fromCentre = (point - span.centreM).norm() - half;
        const double distance =
            fromCentre > kFar * half ? fromCentre : model::pointToSegment(point, span.startM(), span.endM());
        if (distance > kFar * half)
            nodes.append(rules_[s].far);
        else if (distance > kMiddle * half)
            nodes.append(rules_[s].middle);
        else
            gatherPart(s, point, -1.0, 1.0, nodes);
    }
}

void NearField::addDirect(const Nodes& nodes, const Vec3& point, bool inSoil, PointField& field) const {
    const Complex eps = inSoil ? tables_->halfSpace().permittivity() : Complex(1.0);
    const Wavenumber k = inSoil ? Wavenumber(tables_->halfSpace().kGround()) : Wavenumber(k_);
    FieldSums sums;
    fieldSums(nodes.arrays(), point.x(), point.y(), point.z(), k, sums);
    const double w = k_ * kSpeedOfLight;
    field.electricVm += Complex(0.0, -w * kMu0 / (4.0 * kPi)) * vectorOf(sums.vector) +
                        1.0 / (Complex(0.0, 4.0 * kPi * w * kEps0) * eps) * vectorOf(sums.gradient);
    field.magneticAm += vectorOf(sums.curl) / (4.0 * kPi);
}

void NearField::addGround(Scratch& scratch, const Vec3& point, bool fromSoil, PointField& field) const {
    using Jet = KernelSlopes;
    using Kernel = GroundKernel;
    const bool inSoil = point.z() < 0.0;
    const double s = inSoil ? -1.0 : 1.0;
    const double t = fromSoil ? -1.0 : 1.0;
    Eigen::Vector3cd potential = Eigen::Vector3cd::Zero();
    Eigen::Vector3cd gradient = Eigen::Vector3cd::Zero();
    Eigen::Vector3cd curl = Eigen::Vector3cd::Zero();
    const CurrentNodes n = scratch.nodes.arrays();
    for (std::size_t i = 0; i < scratch.nodes.count(); ++i) {
        const double dx = point.x() - n.x[i];
        const double dy = point.y() - n.y[i];
        const double rho = std::sqrt(dx * dx + dy * dy);
        double a = std::abs(point.z());
        const double b = std::abs(n.z[i]);
        if (rho < kClosestM && a + b < kClosestM) a = kClosestM - b;
        const KernelJet jet = inSoil != fromSoil
                                  ? KernelJet::across(*tables_->across, rho, a, b, !fromSoil, scratch.lines)
                                  : KernelJet::together(fromSoil ? *tables_->soil : *tables_->air, rho, a, b);
        const KernelSlopes kernel(jet, k_, rho, a + b);
        const double cosine = rho > 0.0 ? dx / rho : 1.0;
        const double sine = rho > 0.0 ? dy / rho : 0.0;
        const double ux = n.ux[i];
        const double uy = n.uy[i];
        const double uz = n.uz[i];
        const double along = ux * cosine + uy * sine;  // level part of the current away from the source
        const double cross = uy * cosine - ux * sine;
        const Complex current(n.currentRe[i], n.currentIm[i]);
        const Complex charge(n.chargeRe[i], n.chargeIm[i]);

        const Complex level = kernel.value(Kernel::Horizontal);
        const Complex wRho = kernel.first(Jet::Rho, Kernel::Mixed) / k_;
        const Complex upright =
            kernel.value(Kernel::Vertical) -
            (s * kernel.first(Jet::A, Kernel::Mixed) + t * kernel.first(Jet::B, Kernel::Mixed)) / k_;
        potential += current * Eigen::Vector3cd(level * ux - wRho * cosine * uz,
                                                level * uy - wRho * sine * uz, upright * uz + wRho * along);
        const Complex kRho = kernel.first(Jet::Rho, Kernel::Scalar);
        gradient +=
            charge * Eigen::Vector3cd(kRho * cosine, kRho * sine, s * kernel.first(Jet::A, Kernel::Scalar));

        // curl F. Of W_rho: by x and y, its part along rho and that across it.
        const Complex wBend = kernel.second(Jet::RhoRho, Jet::Rho, Jet::Rho, Kernel::Mixed) / k_;
        const Complex wTurn = rho > 0.0 ? wRho / rho : wBend;
        const Complex byX = wBend * along * cosine - wTurn * cross * sine;
        const Complex byY = wBend * along * sine + wTurn * cross * cosine;
        const Complex levelA = s * kernel.first(Jet::A, Kernel::Horizontal);
        const Complex levelRho = kernel.first(Jet::Rho, Kernel::Horizontal);
        const Complex round = uz * (kernel.first(Jet::Rho, Kernel::Vertical) -
                                    t * kernel.second(Jet::RhoB, Jet::Rho, Jet::B, Kernel::Mixed) / k_);
        curl += current * Eigen::Vector3cd(byY - levelA * uy + round * sine,
                                           -byX + levelA * ux - round * cosine, levelRho * cross);
    }
    const double w = k_ * kSpeedOfLight;
    field.electricVm += Complex(0.0, -w * kMu0 / (4.0 * kPi)) * potential +
                        1.0 / Complex(0.0, 4.0 * kPi * w * kEps0) * gradient;
    field.magneticAm += curl / (4.0 * kPi);
}

void NearField::addShare(Share share, const Spans& spans, const Vec3& point, Scratch& scratch,
                         PointField& field) const {
    Nodes& nodes = scratch.nodes;
    const model::GroundKind ground = mesh_->ground.kind;
    const bool below = point.z() < 0.0 && ground != model::GroundKind::FreeSpace;
    if (below && ground == model::GroundKind::Perfect) return;
    const Vec3 mirrored(point.x(), point.y(), -point.z());
    for (const bool fromSoil : {false, true}) {
        if (!(fromSoil ? anyInSoil_ : anyInAir_)) continue;
        if (share == Share::Ground) {
            gather(spans, below == fromSoil ? mirrored : point, fromSoil, nodes);
            addGround(scratch, point, fromSoil, field);
            continue;
        }
        if (below != fromSoil) continue;
        gather(spans, point, fromSoil, nodes);
        addDirect(nodes, point, fromSoil, field);
        if (ground != model::GroundKind::Perfect) continue;
        // The field of the image currents is the mirror image of the field at the mirrored point, reversed.
        PointField image;
        gather(spans, mirrored, false, nodes);
        addDirect(nodes, mirrored, false, image);
        field.electricVm +=
            Eigen::Vector3cd(-image.electricVm.x(), -image.electricVm.y(), image.electricVm.z());
        field.magneticAm +=
            Eigen::Vector3cd(image.magneticAm.x(), image.magneticAm.y(), -image.magneticAm.z());
    }
}

PointField NearField::at(const Vec3& pointM) const {
    Scratch scratch;
    PointField field;
    for (const Share share : shares()) addShare(share, every_, pointM, scratch, field);
    return field;
}

std::vector<PointField> NearField::at(const std::vector<Vec3>& pointsM, const std::stop_token& stop) const {
    std::vector<PointField> fields(pointsM.size());
    parallelRanges(pointsM.size(), 16, [&](const auto& range) {
        const StopScope scope(stop);
        Scratch scratch;
        for (std::size_t i = range.begin(); i != range.end(); ++i) {
            endWhere(stop);
            for (const Share share : shares()) addShare(share, every_, pointsM[i], scratch, fields[i]);
        }
    });
    return fields;
}

std::vector<NearField::Share> NearField::shares() const {
    if (mesh_->ground.kind == model::GroundKind::Real) return {Share::Direct, Share::Ground};
    return {Share::Direct};
}

}  // namespace rm::em
