#include "core/em/far_field.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/em/kernel_arrays.h"
#include "core/em/lanes.h"
#include "core/em/parallel.h"
#include "core/em/quadrature.h"
#include "core/em/span_basis.h"
#include "core/model/limits.h"
#include "core/model/soils.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

/// Phase of the fields over a panel of the rule over the sky, rad. What is integrated is their product, with
/// as much on each side of the middle: sixteen nodes resolve 14 rad there to 4e-8, J_32(14).
constexpr double kPanelPhase = 14.0;
/// Directions times spans from which on threads pay.
constexpr double kParallelTerms = 2e4;
/// Directions that one thread takes at once.
constexpr std::size_t kDirectionsTogether = 64;

/// The currents of the spans in the soil as points with weights, those of a span side by side.
class SoilRadiator {
  public:
    SoilRadiator(const Mesh& mesh, const Eigen::VectorXcd& local) {
        const GaussRule& rule = gaussRule(kLanes);
        for (const Span& span : mesh.spans) {
            if (!span.inSoil) continue;
            std::array<Complex, kLanes> series;
            for (std::size_t n = 0; n < kLanes; ++n) series[n] = legendreSeries(span, local, n);
            direction_.push_back(span.direction);
            for (std::size_t g = 0; g < kLanes; ++g) {
                double row[kLanes];
                legendreRow(rule.node[g], row);
                Complex current = 0.0;
                for (std::size_t n = 0; n < kLanes; ++n) current += series[n] * row[n];
                const Complex moment = current * rule.weight[g] * span.halfM();
                place_.push_back(span.centreM + rule.node[g] * span.halfM() * span.direction);
                momentRe_.push_back(moment.real());
                momentIm_.push_back(moment.imag());
            }
        }
    }

    bool empty() const { return place_.empty(); }

    /// What a thread writes on.
    struct Sheet {
        std::vector<double> re;
        std::vector<double> im;
    };

    /// Sum of u int I exp(j k r') ds for a wave vector with a complex upright part: waves that come up to the
    /// surface fall off on their way.
    Eigen::Vector3cd radiationVector(double kx, double ky, Complex kz, Sheet& sheet) const {
        sheet.re.resize(place_.size());
        sheet.im.resize(place_.size());
        for (std::size_t i = 0; i < place_.size(); ++i) {
            sheet.re[i] = -kz.imag() * place_[i].z();
            sheet.im[i] = kx * place_[i].x() + ky * place_[i].y() + kz.real() * place_[i].z();
        }
        complexExp(sheet.re.data(), sheet.im.data(), static_cast<int>(place_.size()));
        Lanes re[3] = {};
        Lanes im[3] = {};
        for (std::size_t span = 0; span < direction_.size(); ++span) {
            const std::size_t at = span * kLanes;
            const Lanes waveRe = lanesAt(&sheet.re[at]);
            const Lanes waveIm = lanesAt(&sheet.im[at]);
            const Lanes currentRe = lanesAt(&momentRe_[at]);
            const Lanes currentIm = lanesAt(&momentIm_[at]);
            const Lanes sumRe = waveRe * currentRe - waveIm * currentIm;
            const Lanes sumIm = waveRe * currentIm + waveIm * currentRe;
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const double u = direction_[span](static_cast<Eigen::Index>(axis));
                re[axis] += u * sumRe;
                im[axis] += u * sumIm;
            }
        }
        Eigen::Vector3cd sum;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            Complex total = 0.0;
            for (std::size_t g = 0; g < kLanes; ++g) total += Complex(re[axis][g], im[axis][g]);
            sum(static_cast<Eigen::Index>(axis)) = total;
        }
        return sum;
    }

  private:
    /// A span in the soil is at most half a wavelength there: eight points are exact to 1e-7.
    std::vector<Vec3> place_;
    std::vector<double> momentRe_;
    std::vector<double> momentIm_;
    std::vector<Vec3> direction_;  ///< of each span
};

/// The spans of a mesh in air with their currents as arrays, summed up for many directions at once.
class Radiator {
  public:
    Radiator(const Mesh& mesh, const Eigen::VectorXcd& local, double k)
        : count_(static_cast<std::size_t>(std::count_if(mesh.spans.begin(), mesh.spans.end(),
                                                        [](const Span& span) { return !span.inSoil; }))),
          data_(count_ * kColumns, 0.0),
          soil_(mesh, local) {
        std::size_t i = 0;
        for (const Span& span : mesh.spans) {
            if (span.inSoil) continue;
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
            ++i;
        }
        arrays_.count = static_cast<int>(count_);
        // Degree n radiates as (k L/2)^n/(2n+1)!!: short spans need few.
        for (const Span& span : mesh.spans) {
            if (span.inSoil) continue;
            double lead = 1.0;
            int count = 0;
            while (count <= span.order && lead > kNegligible) {
                ++count;
                lead *= k * span.halfM() / (2.0 * count + 1.0);
            }
            orders_.push_back(count);
        }
        arrays_.orders = orders_.data();
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
    }

    using Vectors = std::vector<Eigen::Vector3cd>;

    const SoilRadiator& soil() const { return soil_; }

    /// N = sum over spans of u int I exp(j k r.r') ds towards unit vectors, and towards their mirror images
    /// in the ground where `image` is not null.
    Vectors radiationVectors(const std::vector<Vec3>& toward, double k, Vectors* image) const {
        const std::size_t n = toward.size();
        // Filled up to whole registers: what is left over would be worked out one by one.
        const std::size_t padded = (n + kLanes - 1) / kLanes * kLanes;
        std::vector<double> data(15 * padded);
        double* parts[15];
        for (std::size_t p = 0; p < 15; ++p) parts[p] = data.data() + p * padded;
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                parts[12 + axis][i] = k * toward[i](static_cast<Eigen::Index>(axis));
        radiationSums(arrays_, parts[12], parts[13], parts[14], static_cast<int>(padded), parts,
                      image != nullptr ? parts + 6 : nullptr);
        const auto collect = [&](double* const* p) {
            Vectors vectors(n);
            for (std::size_t i = 0; i < n; ++i)
                vectors[i] = {Complex(p[0][i], p[1][i]), Complex(p[2][i], p[3][i]),
                              Complex(p[4][i], p[5][i])};
            return vectors;
        };
        if (image != nullptr) *image = collect(parts + 6);
        return collect(parts);
    }

  private:
    static constexpr std::size_t kFirstSeries = 8;
    static constexpr double kNegligible = 1e-7;
    static constexpr std::size_t kColumns = kFirstSeries + 2 * kSpanOrders;

    double* column(std::size_t c) { return data_.data() + c * count_; }

    std::size_t count_;
    std::vector<double> data_;
    std::vector<int> orders_;
    SpanArrays arrays_;
    SoilRadiator soil_;
};

/// Reflection coefficients of the ground for the two polarisations, E_theta and E_phi.
struct Reflection {
    Complex vertical;
    Complex horizontal;
};

Reflection reflection(const model::Ground& ground, double sinPsi, double frequencyHz) {
    if (ground.kind == model::GroundKind::Perfect) return {1.0, -1.0};
    const Complex eps = model::permittivityAt(ground, frequencyHz);
    const Complex q = std::sqrt(eps - (1.0 - sinPsi * sinPsi));
    return {(eps * sinPsi - q) / (eps * sinPsi + q), (sinPsi - q) / (sinPsi + q)};
}

/// Of each direction `kept`, where it is given, receives what the ground keeps of the wave that comes down
/// there, as |E|^2 in V^2.
std::vector<FarField> fieldsTowards(const Mesh& mesh, const Radiator& radiator, double frequencyHz,
                                    const std::vector<Direction>& directions,
                                    std::vector<double>* kept = nullptr) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const double k = wavenumber(frequencyHz);
    const Complex scale(0.0, -k * kEta0 / (4.0 * kPi));
    const std::size_t n = directions.size();
    std::vector<double> angle(2 * n);
    std::vector<double> cosine(2 * n);
    std::vector<double> sine(2 * n);
    for (std::size_t i = 0; i < n; ++i) {
        angle[i] = directions[i].elevationDeg * kDegree;
        angle[n + i] = directions[i].azimuthDeg * kDegree;
    }
    sinCos(angle.data(), static_cast<int>(2 * n), cosine.data(), sine.data());
    std::vector<Vec3> toward(n);
    for (std::size_t i = 0; i < n; ++i)
        toward[i] = {cosine[i] * cosine[n + i], cosine[i] * sine[n + i], sine[i]};
    Radiator::Vectors image;
    const auto direct = radiator.radiationVectors(toward, k, overGround ? &image : nullptr);
    std::vector<FarField> fields(n, FarField{0.0, 0.0});
    Reflection r{};
    double reflectedAt = -1.0;
    const bool fromSoil = !radiator.soil().empty();
    SoilRadiator::Sheet sheet;
    const Complex eps = fromSoil ? model::permittivityAt(mesh.ground, frequencyHz) : Complex(1.0);
    for (std::size_t i = 0; i < n; ++i) {
        if (overGround && directions[i].elevationDeg < 0.0) continue;
        const double sinPsi = sine[i];
        const double cosPsi = cosine[i];
        const double sinPhi = sine[n + i];
        const double cosPhi = cosine[n + i];
        const auto& v = direct[i];
        // theta points down: sin(psi) rho - cos(psi) z.
        Complex theta = (v.x() * cosPhi + v.y() * sinPhi) * sinPsi - v.z() * cosPsi;
        Complex across = v.y() * cosPhi - v.x() * sinPhi;
        if (overGround) {
            if (sinPsi != reflectedAt) r = reflection(mesh.ground, sinPsi, frequencyHz);
            reflectedAt = sinPsi;
            const auto& m = image[i];
            theta -= r.vertical * ((m.x() * cosPhi + m.y() * sinPhi) * sinPsi + m.z() * cosPsi);
            across += r.horizontal * (m.y() * cosPhi - m.x() * sinPhi);
            if (kept != nullptr)
                (*kept)[i] = std::norm(scale) *
                             (std::norm((m.x() * cosPhi + m.y() * sinPhi) * sinPsi + m.z() * cosPsi) *
                                  (1.0 - std::norm(r.vertical)) +
                              std::norm(m.y() * cosPhi - m.x() * sinPhi) * (1.0 - std::norm(r.horizontal)));
        }
        if (fromSoil) {
            // By reciprocity: what a plane wave from there leaves of itself below the surface.
            const Complex upright = k * std::sqrt(eps - cosPsi * cosPsi);
            const auto s =
                radiator.soil().radiationVector(k * toward[i].x(), k * toward[i].y(), upright, sheet);
            theta += (1.0 - r.vertical) * sinPsi * (s.x() * cosPhi + s.y() * sinPhi) -
                     (1.0 + r.vertical) / eps * cosPsi * s.z();
            across += (1.0 + r.horizontal) * (s.y() * cosPhi - s.x() * sinPhi);
        }
        fields[i] = {scale * theta, scale * across};
    }
    return fields;
}

}  // namespace

struct FarFieldReader::Sums {
    Radiator radiator;
};

FarFieldReader::FarFieldReader(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz)
    : mesh_(mesh),
      frequencyHz_(frequencyHz),
      sums_(new Sums{Radiator(mesh, local, wavenumber(frequencyHz))}) {}

FarFieldReader::~FarFieldReader() = default;

std::vector<FarField> FarFieldReader::towards(const std::vector<Direction>& directions) const {
    const Radiator& radiator = sums_->radiator;
    const auto terms = static_cast<double>(directions.size()) * static_cast<double>(mesh_.spans.size());
    if (terms < kParallelTerms) return fieldsTowards(mesh_, radiator, frequencyHz_, directions);
    std::vector<FarField> fields(directions.size());
    parallelRanges(directions.size(), kDirectionsTogether, [&](const auto& range) {
        const std::vector<Direction> some(directions.data() + range.begin(), directions.data() + range.end());
        const auto towards = fieldsTowards(mesh_, radiator, frequencyHz_, some);
        for (std::size_t i = 0; i < some.size(); ++i) fields[range.begin() + i] = towards[i];
    });
    return fields;
}

std::vector<FarField> farField(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz,
                               const std::vector<Direction>& directions) {
    return FarFieldReader(mesh, local, frequencyHz).towards(directions);
}

double gainDbi(const FarField& field, double inputPowerW) {
    const double intensity = (std::norm(field.theta) + std::norm(field.phi)) / (2.0 * kEta0);
    const double ratio = 4.0 * kPi * intensity / inputPowerW;
    return ratio > 1e-99 ? 10.0 * std::log10(ratio) : -999.0;
}

double averageGain(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz, double inputPowerW,
                   const std::stop_token& stop) {
    return skyPower(mesh, local, frequencyHz, inputPowerW, stop).radiated;
}

SkyPower skyPower(const Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz, double inputPowerW,
                  const std::stop_token& stop, SkyRings* read) {
    // The pattern of an antenna of radius R has about k R harmonics; the rule resolves them with a margin.
    // Round the compass it is the radius about the middle of the plan that counts, whatever the height.
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const auto [low, high] = mesh.bounds();
    const Vec3 half = 0.5 * (high - low);
    const double plan = half.head<2>().norm();
    const double k = wavenumber(frequencyHz);
    // Before they are counted: numbers beyond all measure have no integer.
    if (!(k * (plan + std::abs(low.z()) + std::abs(high.z())) < model::kMostPhase))
        throw Error(say(
            "The antenna reaches {:.3g} m at {:.6g} MHz: that is more wavelengths than can be worked out.",
            plan + std::abs(high.z()), frequencyHz / 1e6));
    const int azimuths = 2 * (8 + static_cast<int>(std::ceil(1.3 * k * plan)));
    // The image mirrors the height; from the nadir to the zenith it is twice as far as from the horizon.
    const double turns = k * std::hypot(plan, overGround ? high.z() : half.z()) * (overGround ? 1.0 : 2.0);
    const int panels = 1 + static_cast<int>(turns / kPanelPhase);
    const auto& rule = gaussRule(16);
    const double terms =
        static_cast<double>(azimuths) * panels * rule.size * static_cast<double>(mesh.spans.size());
    if (!(terms < model::kMostFieldTerms))
        throw Error(
            say("The antenna is {:.3g} m across and up to {:.3g} m from the ground at {:.6g} MHz: "
                "its pattern has too many lobes "
                "to be summed up. Bring it closer together or lower.",
                2.0 * plan, std::max(std::abs(low.z()), std::abs(high.z())), frequencyHz / 1e6));
    const double bottom = overGround ? 0.0 : -1.0;
    const Radiator radiator(mesh, local, k);
    const bool real = mesh.ground.kind == model::GroundKind::Real;
    const double width = (1.0 - bottom) / panels;
    const auto nodes = static_cast<std::size_t>(rule.size);
    // One ring round the compass each; summed up in order, so that threads do not change the last digits.
    std::vector<SkyPower> rings(static_cast<std::size_t>(panels) * nodes);
    if (read != nullptr)
        *read = {std::vector<double>(rings.size()), std::vector<std::vector<FarField>>(rings.size())};
    const auto ringAt = [&](std::size_t at) {
        endWhere(stop);
        const std::size_t q = at % nodes;
        const double sinPsi = bottom + width * (static_cast<double>(at / nodes) + 0.5 + 0.5 * rule.node[q]);
        std::vector<Direction> ring(static_cast<std::size_t>(azimuths));
        const double elevationDeg = std::asin(sinPsi) / kDegree;
        for (int i = 0; i < azimuths; ++i)
            ring[static_cast<std::size_t>(i)] = {elevationDeg, 360.0 * i / azimuths};
        std::vector<double> kept(ring.size());
        auto fields = fieldsTowards(mesh, radiator, frequencyHz, ring, real ? &kept : nullptr);
        double sum = 0.0;
        for (const FarField& f : fields) sum += std::norm(f.theta) + std::norm(f.phi);
        if (read != nullptr) {
            read->elevationDeg[at] = elevationDeg;
            read->fields[at] = std::move(fields);
        }
        const double weight =
            2.0 * kPi / azimuths * 0.5 * width * rule.weight[q] / (2.0 * kEta0 * inputPowerW);
        rings[at] = {sum * weight, std::accumulate(kept.begin(), kept.end(), 0.0) * weight};
    };
    if (terms < kParallelTerms)
        for (std::size_t at = 0; at < rings.size(); ++at) ringAt(at);
    else
        parallelFor(std::size_t{0}, rings.size(), ringAt);
    SkyPower power;
    for (const SkyPower& ring : rings) {
        power.radiated += ring.radiated;
        if (real) power.lostInReflection += ring.lostInReflection;
    }
    return power;
}

}  // namespace rm::em
