#include "core/build/trim.h"

#include <fmt/format.h>

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/circuit/chain.h"
#include "core/circuit/reflection.h"
#include "core/edit/shape_fields.h"
#include "core/model/expand.h"
#include "core/model/soils.h"
#include "core/quantity/typed_like.h"
#include "core/stopped.h"
#include "core/study/measured_curve.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"

namespace rm::build {

namespace {

using namespace rm::model;

/// Frequencies at which a measurement is compared with the model.
constexpr int kPoints = 25;
constexpr int kIterations = 12;
/// Of the difference of reflection coefficients: below this nobody measures in a garden.
constexpr double kBestMeter = 0.004;
/// Above this the fit is no explanation.
constexpr double kUnexplained = 0.04;
/// What a cause must bring, in the criterion.
constexpr double kPays = 6.0;
/// Farther than this from what is drawn nobody trims.
constexpr double kReach = 0.18;
constexpr double kLineOhm = 50.0;
/// Of the edges of a band, how far beyond them a measurement still counts.
constexpr double kRoundBand = 0.93;
/// Water, and water with all the salt it takes.
constexpr double kWettest = 81.0;
constexpr double kSaltiestSm = 10.0;

struct Usual {
    Cause cause;
    double size;  ///< what is usual: the width of the ridge
    double step;  ///< for differences
};

constexpr Usual kUsual[] = {{Cause::Length, 0.03, 1e-3}, {Cause::Height, 0.6, 0.02},
                            {Cause::Soil, 0.8, 0.05},    {Cause::Capacitance, 4.0, 0.05},
                            {Cause::Loss, 4.0, 0.05},    {Cause::Line, 0.3, 0.005}};

std::size_t indexOf(Cause cause) {
    return static_cast<std::size_t>(cause);
}

/// A value of each cause.
using Causes = std::array<double, std::size(kUsual)>;

/// What is compared at one frequency: the complex coefficient, or its size where no more was measured.
struct Reading {
    double hz = 0.0;
    Complex reflection;
    bool sizeOnly = false;
};

/// One measurement with the design as it was when it was taken.
struct Taken {
    Design design;
    study::Plane plane = study::Plane::Radio;
    std::vector<Reading> readings;
    double lowHz = 0.0;
    double highHz = 0.0;
};

Complex interpolated(const std::vector<MeasuredPoint>& points, double hz, double reference, bool& sizeOnly) {
    std::size_t i = 1;
    while (i + 1 < points.size() && points[i].frequencyHz < hz) ++i;
    const auto& a = points[i - 1];
    const auto& b = points[i];
    const double t =
        std::clamp((hz - a.frequencyHz) / std::max(1.0, b.frequencyHz - a.frequencyHz), 0.0, 1.0);
    const auto coefficient = [&](const MeasuredPoint& p) -> Complex {
        if (p.impedanceOhm) return circuit::reflection(*p.impedanceOhm, reference);
        return (p.swr - 1.0) / (p.swr + 1.0);
    };
    sizeOnly = !a.impedanceOhm || !b.impedanceOhm;
    if (sizeOnly) return std::abs(coefficient(a)) * (1.0 - t) + std::abs(coefficient(b)) * t;
    return (1.0 - t) * coefficient(a) + t * coefficient(b);
}

/// The antenna with these causes at work, as far as they change its field; the rest is a circuit.
Design withCauses(const Design& design, const std::vector<std::string>& lengths, const Causes& causes) {
    Design built = design;
    const double longer = 1.0 + causes[indexOf(Cause::Length)];
    const auto values = edit::fieldValues(design);
    for (auto& d : built.dimensions)
        if (std::find(lengths.begin(), lengths.end(), d.name) != lengths.end())
            d.text = fmt::format("{:.12g} m", longer * values.scope.values.at(d.name));
    const double raised = causes[indexOf(Cause::Height)];
    if (raised != 0.0) {
        const double height = quantity::evaluate(design.site.height, quantity::Kind::Length, values.scope);
        built.site.height = fmt::format("{:.12g} m", height + raised);
    }
    const double soil = causes[indexOf(Cause::Soil)];
    if (soil != 0.0 && design.site.ground == GroundKind::Real) {
        const Ground ground = expand(design).model.ground;
        built.site.soil = kCustomSoil;
        built.site.permittivity = fmt::format(
            "{:.9g}",
            std::clamp(1.0 + (ground.relativePermittivity - 1.0) * std::exp(0.5 * soil), 1.5, kWettest));
        built.site.conductivity =
            fmt::format("{:.9g}", std::min(ground.conductivitySm * std::exp(soil), kSaltiestSm));
    }
    return built;
}

/// The impedance of the antenna with what sits across and in series with its feed.
Complex atTerminals(Complex antenna, const Causes& causes, double hz) {
    const Complex y =
        1.0 / antenna + Complex(0.0, 2.0 * kPi * hz * 1e-12 * causes[indexOf(Cause::Capacitance)]);
    return 1.0 / y + causes[indexOf(Cause::Loss)];
}

class Trimmer {
  public:
    Trimmer(const Design& design, const TrimRequest& request, std::stop_token stop,
            const std::function<void(double)>& progress)
        : design_(design), request_(request), stop_(std::move(stop)), progress_(progress) {
        lengths_ = trimDimensions(design_);
        if (lengths_.empty())
            throw Error(
                "No length here is a dimension: make dimensions of the wire that is to be cut first.");
        answer_.dimension = request.dimension;
        if (answer_.dimension.empty())
            for (const auto& mover : design_.tune.movers)
                if (answer_.dimension.empty() &&
                    std::find(lengths_.begin(), lengths_.end(), mover.dimension) != lengths_.end())
                    answer_.dimension = mover.dimension;
        if (answer_.dimension.empty()) answer_.dimension = lengths_.front();
        if (std::find(lengths_.begin(), lengths_.end(), answer_.dimension) == lengths_.end())
            throw Error(fmt::format("\"{}\" is no length that can be cut: choose one of {}.",
                                    answer_.dimension, fmt::join(lengths_, ", ")));
        study::requireUsable(expand(design_));
        gather();
    }

    TrimAnswer run() {
        fitCauses();
        chooseCut();
        say();
        return std::move(answer_);
    }

  private:
    void step(double share) {
        endWhere(stop_);
        if (progress_) progress_(share);
    }

    void gather() {
        auto which = request_.measured;
        if (which.empty())
            for (std::size_t i = 0; i < design_.measured.size(); ++i)
                if (design_.measured[i].shown) which.push_back(i);
        const auto expansion = expand(design_);
        for (const std::size_t i : which) {
            const auto& measured = design_.measured.at(i);
            Taken taken;
            taken.design = design_;
            for (const auto& was : measured.takenWith)
                for (auto& d : taken.design.dimensions)
                    if (d.name == was.dimension) d.text = was.value;
            // With impedances at the radio, else where it was taken.
            taken.plane = study::Plane::Radio;
            auto points = study::measuredAt(design_, expansion, i, taken.plane);
            if (points.size() < 3) {
                taken.plane = study::Plane::Antenna;
                points = study::measuredAt(design_, expansion, i, taken.plane);
            }
            nearBand(points);
            if (points.size() < 3) continue;
            taken.lowHz = points.front().frequencyHz;
            taken.highHz = points.back().frequencyHz;
            if (!(taken.highHz > taken.lowHz)) continue;
            for (int k = 0; k < kPoints; ++k) {
                Reading reading;
                reading.hz = taken.lowHz + (taken.highHz - taken.lowHz) * k / (kPoints - 1);
                reading.reflection =
                    interpolated(points, reading.hz, expansion.referenceOhm, reading.sizeOnly);
                taken.readings.push_back(reading);
            }
            noise_ = std::max(noise_, roughness(points, expansion.referenceOhm));
            taken_.push_back(std::move(taken));
        }
        if (taken_.empty())
            throw Error("There is no measurement of this band to trim by: import one of this antenna first.");
    }

    /// Points round the band alone: on other bands a wire is another antenna, and between them nothing was
    /// read.
    void nearBand(std::vector<MeasuredPoint>& points) const {
        if (!(request_.band.highHz > request_.band.lowHz)) return;
        std::erase_if(points, [&](const MeasuredPoint& p) {
            return p.frequencyHz < kRoundBand * request_.band.lowHz ||
                   p.frequencyHz > request_.band.highHz / kRoundBand;
        });
    }

    /// How much the coefficients jump from point to point: what the meter adds by itself.
    static double roughness(const std::vector<MeasuredPoint>& points, double reference) {
        std::vector<Complex> g;
        for (const auto& p : points)
            g.push_back(p.impedanceOhm ? circuit::reflection(*p.impedanceOhm, reference)
                                       : Complex((p.swr - 1.0) / (p.swr + 1.0)));
        double sum = 0.0;
        for (std::size_t i = 1; i + 1 < g.size(); ++i)
            sum += std::norm(g[i - 1] - 2.0 * g[i] + g[i + 1]) / 6.0;
        return std::sqrt(sum / static_cast<double>(g.size() - 2));
    }

    /// Reflection coefficients of the model at the plane of a measurement.
    std::vector<Complex> modelled(const Taken& taken, const Causes& causes) {
        const Design built = withCauses(taken.design, lengths_, causes);
        const auto expansion = expand(built);
        study::requireUsable(expansion);
        const auto swept = study::sweep(expansion, taken.lowHz, taken.highHz, kPoints, stop_, {}, &fields_);
        endWhere(stop_);
        std::vector<Complex> out;
        for (const auto& point : swept.points) {
            Complex z = atTerminals(point.antennaOhm, causes, point.frequencyHz);
            if (taken.plane == study::Plane::Radio && !expansion.feedPath.empty())
                z = circuit::walkChain(expansion.feedPath, z, point.frequencyHz).back().impedanceOhm;
            Complex gamma = circuit::reflection(z, expansion.referenceOhm);
            const double more = causes[indexOf(Cause::Line)];
            if (more != 0.0) {
                // Through a piece of line of 50 ohm, whatever the reference.
                const Complex g50 = circuit::reflection(z, kLineOhm) *
                                    std::polar(1.0, -2.0 * wavenumber(point.frequencyHz) * more);
                gamma = circuit::reflection(kLineOhm * (1.0 + g50) / (1.0 - g50), expansion.referenceOhm);
            }
            out.push_back(gamma);
        }
        return out;
    }

    Eigen::VectorXd residuals(const Causes& causes) {
        std::vector<double> r;
        for (const auto& taken : taken_) {
            const auto model = modelled(taken, causes);
            for (std::size_t k = 0; k < model.size(); ++k) {
                const auto& reading = taken.readings[k];
                if (reading.sizeOnly) {
                    r.push_back(std::abs(model[k]) - std::abs(reading.reflection));
                } else {
                    r.push_back((model[k] - reading.reflection).real());
                    r.push_back((model[k] - reading.reflection).imag());
                }
            }
        }
        return Eigen::Map<Eigen::VectorXd>(r.data(), static_cast<Eigen::Index>(r.size()));
    }

    struct Fit {
        Causes causes{};
        std::vector<Cause> used;
        double sum = 0.0;    ///< of the squares, with the ridge
        double plain = 0.0;  ///< without it
        Eigen::MatrixXd curvature;
        Eigen::Index count = 0;
    };

    /// The ridge weighs as much as a meter's error for a cause of usual size.
    static double ridge(const Causes& causes, const std::vector<Cause>& used) {
        double sum = 0.0;
        for (const Cause cause : used) {
            const double share = causes[indexOf(cause)] / kUsual[indexOf(cause)].size;
            sum += 4.0 * kBestMeter * kBestMeter * share * share;
        }
        return sum;
    }

    Fit fit(const std::vector<Cause>& used, Causes from) {
        Fit f;
        f.used = used;
        f.causes = from;
        Eigen::VectorXd r = residuals(f.causes);
        f.count = r.size();
        f.plain = r.squaredNorm();
        f.sum = f.plain + ridge(f.causes, used);
        double damping = 1e-3;
        const auto n = static_cast<Eigen::Index>(used.size());
        for (int i = 0; i < kIterations; ++i) {
            Eigen::MatrixXd j(r.size(), n);
            for (Eigen::Index c = 0; c < n; ++c) {
                const auto& usual = kUsual[indexOf(used[static_cast<std::size_t>(c)])];
                Causes moved = f.causes;
                moved[indexOf(usual.cause)] += usual.step;
                // In units of what is usual.
                j.col(c) = (residuals(moved) - r) * (usual.size / usual.step);
            }
            f.curvature = j.transpose() * j;
            Eigen::VectorXd slope = j.transpose() * r;
            Eigen::MatrixXd whole = f.curvature;
            for (Eigen::Index c = 0; c < n; ++c) {
                const auto k = indexOf(used[static_cast<std::size_t>(c)]);
                whole(c, c) += 4.0 * kBestMeter * kBestMeter;
                slope[c] += 4.0 * kBestMeter * kBestMeter * f.causes[k] / kUsual[k].size;
            }
            f.curvature = whole;
            bool better = false;
            for (int t = 0; t < 5 && !better; ++t) {
                Eigen::MatrixXd damped = whole;
                damped.diagonal() *= 1.0 + damping;
                const Eigen::VectorXd move = -damped.ldlt().solve(slope);
                Causes next = f.causes;
                for (Eigen::Index c = 0; c < n; ++c) {
                    const auto k = indexOf(used[static_cast<std::size_t>(c)]);
                    next[k] += std::clamp(move[c], -2.0, 2.0) * kUsual[k].size;
                }
                if (!possible(next)) {
                    damping *= 10.0;
                    continue;
                }
                const Eigen::VectorXd left = residuals(next);
                const double sum = left.squaredNorm() + ridge(next, used);
                better = sum < f.sum;
                if (!better) {
                    damping *= 10.0;
                    continue;
                }
                const bool settled = f.sum - sum < 1e-4 * f.sum;
                f.causes = next;
                r = left;
                f.plain = left.squaredNorm();
                f.sum = sum;
                damping = std::max(1e-9, 0.2 * damping);
                if (settled) return f;
            }
            if (!better) break;
        }
        return f;
    }

    bool possible(const Causes& causes) const {
        return std::abs(causes[indexOf(Cause::Length)]) < 0.4 && causes[indexOf(Cause::Loss)] > -3.0 &&
               std::abs(causes[indexOf(Cause::Soil)]) < 5.0 && std::abs(causes[indexOf(Cause::Line)]) < 5.0 &&
               std::abs(causes[indexOf(Cause::Height)]) < 0.5 * std::max(1.0, lowestM_);
    }

    /// Causes that this antenna can have.
    std::vector<Cause> candidates() {
        const auto expansion = expand(design_);
        lowestM_ = 1e9;
        for (const auto& wire : expansion.model.wires)
            lowestM_ = std::min({lowestM_, wire.startM.z(), wire.endM.z()});
        std::vector<Cause> all{Cause::Capacitance, Cause::Loss, Cause::Line};
        if (expansion.model.ground.kind != GroundKind::FreeSpace && lowestM_ > 0.1)
            all.push_back(Cause::Height);
        if (expansion.model.ground.kind == GroundKind::Real) all.push_back(Cause::Soil);
        return all;
    }

    static double criterion(const Fit& f) {
        const auto n = static_cast<double>(f.count);
        // Neighbouring points say nearly the same: half of them count.
        return 0.5 * n * std::log(std::max(f.sum, n * kBestMeter * kBestMeter * 0.25) / n) +
               static_cast<double>(f.used.size()) * std::log(0.5 * n);
    }

    void fitCauses() {
        auto open = candidates();
        const Eigen::VectorXd drawn = residuals({});
        answer_.misfitDrawn = rms(drawn);
        // The length first, from several places: far off there are dips that are not the one.
        Fit best;
        for (const double begin : {0.0, -0.04, 0.04, -0.08, 0.08}) {
            Causes from{};
            from[indexOf(Cause::Length)] = begin;
            const Fit one = fit({Cause::Length}, from);
            if (best.count == 0 || one.sum < best.sum) best = one;
            step(0.05 + 0.05 * (begin + 0.08) / 0.16);
        }
        while (!open.empty()) {
            std::size_t which = open.size();
            Fit better = best;
            double value = criterion(best) - 0.5 * kPays;
            for (std::size_t c = 0; c < open.size(); ++c) {
                auto used = best.used;
                used.push_back(open[c]);
                const Fit one = fit(used, best.causes);
                step(0.3);
                if (criterion(one) >= value) continue;
                value = criterion(one);
                better = one;
                which = c;
            }
            if (which == open.size()) break;
            best = better;
            open.erase(open.begin() + static_cast<std::ptrdiff_t>(which));
        }
        fit_ = best;
        answer_.misfit =
            std::sqrt(best.plain / static_cast<double>(best.count) * (anySizeOnly() ? 1.0 : 2.0));
        answer_.explained = answer_.misfit <= std::max(kUnexplained, 2.0 * noise_);
        // What is left over says how well the meter read.
        const double scatter = std::max(best.plain / std::max(1.0, static_cast<double>(best.count) -
                                                                       static_cast<double>(best.used.size())),
                                        kBestMeter * kBestMeter);
        const Eigen::MatrixXd covariance = scatter * best.curvature.inverse();
        for (std::size_t c = 0; c < best.used.size(); ++c) {
            Found found;
            found.cause = best.used[c];
            const auto k = indexOf(found.cause);
            found.value = best.causes[k];
            const auto d = static_cast<Eigen::Index>(c);
            found.sigma = kUsual[k].size * std::sqrt(std::max(0.0, covariance(d, d)));
            found.words = wordsOf(found);
            answer_.causes.push_back(found);
        }
    }

    bool anySizeOnly() const {
        return std::any_of(taken_.begin(), taken_.end(), [](const Taken& t) {
            return std::any_of(t.readings.begin(), t.readings.end(),
                               [](const Reading& r) { return r.sizeOnly; });
        });
    }

    double rms(const Eigen::VectorXd& r) const {
        return std::sqrt(r.squaredNorm() / static_cast<double>(r.size()) * (anySizeOnly() ? 1.0 : 2.0));
    }

    static std::string wordsOf(const Found& f) {
        switch (f.cause) {
            case Cause::Length:
                return fmt::format("everything acts {:.2f} % {} than drawn (± {:.2f})",
                                   100.0 * std::abs(f.value), f.value < 0.0 ? "shorter" : "longer",
                                   100.0 * f.sigma);
            case Cause::Height:
                return fmt::format("it hangs {:.2f} m {} than drawn (± {:.2f})", std::abs(f.value),
                                   f.value < 0.0 ? "lower" : "higher", f.sigma);
            case Cause::Soil:
                return fmt::format("the soil conducts {:.2g} times as well as said (from {:.2g} to {:.2g})",
                                   std::exp(f.value), std::exp(f.value - f.sigma),
                                   std::exp(f.value + f.sigma));
            case Cause::Capacitance:
                return fmt::format("{:.1f} pF {} across the feed (± {:.1f})", std::abs(f.value),
                                   f.value < 0.0 ? "too few" : "more than drawn", f.sigma);
            case Cause::Loss:
                return fmt::format("{:.1f} ohm {} in series with the feed (± {:.1f})", std::abs(f.value),
                                   f.value < 0.0 ? "less" : "more", f.sigma);
            case Cause::Line:
                return fmt::format("{:.2f} m of line {} than said between analyser and antenna (± {:.2f})",
                                   std::abs(f.value), f.value < 0.0 ? "less" : "more", f.sigma);
        }
        return {};
    }

    // ---- the cut

    /// SWR at the radio over a range, as built, with the dimension changed by this much.
    std::vector<study::SweepPoint> asBuilt(double changeM, double lowHz, double highHz, int points,
                                           std::vector<double>& swr) {
        Design cut = design_;
        for (auto& d : cut.dimensions)
            if (d.name == answer_.dimension) d.text = fmt::format("{:.12g} m", answer_.nowM + changeM);
        const auto expansion = expand(withCauses(cut, lengths_, fit_.causes));
        study::requireUsable(expansion);
        auto swept = study::sweep(expansion, lowHz, highHz, points, stop_, {}, &fields_);
        endWhere(stop_);
        swr.clear();
        for (const auto& point : swept.points) {
            Complex z = atTerminals(point.antennaOhm, fit_.causes, point.frequencyHz);
            if (!expansion.feedPath.empty())
                z = circuit::walkChain(expansion.feedPath, z, point.frequencyHz).back().impedanceOhm;
            swr.push_back(circuit::swr(z, expansion.referenceOhm));
        }
        return std::move(swept.points);
    }

    /// Worst over the band.
    double worstAfter(double changeM) {
        std::vector<double> swr;
        try {
            asBuilt(changeM, request_.band.lowHz, request_.band.highHz, 9, swr);
        } catch (const Error&) {
            return 1e9;  // a length that cannot be: nothing to trim to
        }
        return *std::max_element(swr.begin(), swr.end());
    }

    double bestCut() {
        double best = 0.0;
        double value = 1e18;
        constexpr int kScan = 19;
        const double wide = kReach * answer_.nowM;
        for (int i = 0; i < kScan; ++i) {
            const double at = wide * (2.0 * i / (kScan - 1) - 1.0);
            const double swr = worstAfter(at);
            if (swr >= value) continue;
            value = swr;
            best = at;
        }
        // Golden section between the neighbours of the best.
        constexpr double kGolden = 0.6180339887;
        double low = best - 2.0 * wide / (kScan - 1);
        double high = best + 2.0 * wide / (kScan - 1);
        double a = high - kGolden * (high - low);
        double b = low + kGolden * (high - low);
        double fa = worstAfter(a);
        double fb = worstAfter(b);
        while (high - low > 2e-4 * answer_.nowM) {
            if (fa < fb) {
                high = b;
                b = a;
                fb = fa;
                a = high - kGolden * (high - low);
                fa = worstAfter(a);
            } else {
                low = a;
                a = b;
                fa = fb;
                b = low + kGolden * (high - low);
                fb = worstAfter(b);
            }
        }
        return 0.5 * (low + high);
    }

    void chooseCut() {
        answer_.nowM = edit::fieldValues(design_).scope.values.at(answer_.dimension);
        const double cut = bestCut();
        step(0.7);
        // How the answer moves with what is not known: each cause by its own doubt.
        double variance = 0.0;
        for (const auto& found : answer_.causes) {
            if (found.cause == Cause::Capacitance || found.cause == Cause::Line || found.cause == Cause::Loss)
                continue;
            const Causes kept = fit_.causes;
            fit_.causes[indexOf(found.cause)] += std::max(found.sigma, kUsual[indexOf(found.cause)].step);
            const double moved = bestCut() - cut;
            fit_.causes = kept;
            const double share = found.sigma / std::max(found.sigma, kUsual[indexOf(found.cause)].step);
            variance += share * share * moved * moved;
            step(0.85);
        }
        answer_.changeM = cut;
        answer_.sigmaM = std::sqrt(variance);
        answer_.beforeSwr = worstAfter(0.0);
        answer_.afterSwr = worstAfter(cut);
        curves();
    }

    void curves() {
        // Over what was measured and the band, whichever is wider.
        double low = request_.band.lowHz;
        double high = request_.band.highHz;
        for (const auto& taken : taken_) {
            low = std::min(low, taken.lowHz);
            high = std::max(high, taken.highHz);
        }
        constexpr int kCurve = 81;
        std::vector<double> swr;
        const auto points = asBuilt(answer_.changeM, low, high, kCurve, answer_.curve.cutSwr);
        asBuilt(0.0, low, high, kCurve, answer_.curve.fittedSwr);
        const Causes kept = fit_.causes;
        fit_.causes = {};
        asBuilt(0.0, low, high, kCurve, answer_.curve.drawnSwr);
        fit_.causes = kept;
        for (const auto& point : points) answer_.curve.hz.push_back(point.frequencyHz);
        // Measured last is what is there now.
        const auto& last = taken_.back();
        for (const double hz : answer_.curve.hz) {
            double value = 0.0;  // nothing was measured there
            if (hz >= last.lowHz && hz <= last.highHz) {
                const double place = (hz - last.lowHz) / (last.highHz - last.lowHz) * (kPoints - 1);
                const auto i = std::min<std::size_t>(static_cast<std::size_t>(place), kPoints - 2);
                const double t = place - static_cast<double>(i);
                const double size = (1.0 - t) * std::abs(last.readings[i].reflection) +
                                    t * std::abs(last.readings[i + 1].reflection);
                value = (1.0 + size) / std::max(1e-6, 1.0 - size);
            }
            answer_.curve.measuredSwr.push_back(value);
        }
        const auto bestOf = [&](const std::vector<double>& curve) {
            std::size_t best = 0;
            for (std::size_t i = 1; i < curve.size(); ++i)
                if (curve[i] > 0.0 && (curve[best] <= 0.0 || curve[i] < curve[best])) best = i;
            return answer_.curve.hz[best];
        };
        answer_.beforeHz = bestOf(answer_.curve.measuredSwr);
        answer_.afterHz = bestOf(answer_.curve.cutSwr);
    }

    void say() {
        const double change = std::abs(answer_.changeM);
        const auto length = [](double metres) {
            return metres < 1.0 ? fmt::format("{:.1f} cm", 100.0 * metres) : fmt::format("{:.2f} m", metres);
        };
        std::string note;
        for (const auto& d : design_.dimensions)
            if (d.name == answer_.dimension && !d.note.empty()) {
                note = d.note;
                note[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(note[0])));
                note = " (" + note + ")";
            }
        const bool enough =
            change < std::max(0.001, 0.7 * answer_.sigmaM) || answer_.afterSwr > answer_.beforeSwr - 0.02;
        if (enough)
            answer_.sentence = fmt::format(
                "Leave {}{} as it is: best SWR at {:.3f} MHz, {:.2f} or less over {}.", answer_.dimension,
                note, answer_.beforeHz / 1e6, answer_.beforeSwr, request_.band.name);
        else
            answer_.sentence = fmt::format(
                "{} {}{} by {} (± {}), to {:.3f} m: best SWR from {:.3f} to {:.3f} MHz, worst over {} from "
                "{:.2f} to "
                "{:.2f}.",
                answer_.changeM < 0.0 ? "Shorten" : "Lengthen", answer_.dimension, note, length(change),
                length(answer_.sigmaM), answer_.nowM + answer_.changeM, answer_.beforeHz / 1e6,
                answer_.afterHz / 1e6, request_.band.name, answer_.beforeSwr, answer_.afterSwr);
        if (!answer_.explained)
            answer_.sentence =
                fmt::format(
                    "What was measured does not fit any of these causes (it stays {:.2f} off in the "
                    "reflection coefficient): check the feed line and its reference plane before "
                    "cutting. ",
                    answer_.misfit) +
                answer_.sentence;
    }

    const Design& design_;
    const TrimRequest& request_;
    std::stop_token stop_;
    const std::function<void(double)>& progress_;
    std::vector<std::string> lengths_;
    std::vector<Taken> taken_;
    study::FieldStore fields_;
    double lowestM_ = 1e9;
    double noise_ = 0.0;
    Fit fit_;
    TrimAnswer answer_;
};

}  // namespace

std::vector<std::string> trimDimensions(const Design& design) {
    // What no part hangs on cuts nothing.
    std::set<std::string> used;
    const std::function<void(const std::string&)> follow = [&](const std::string& text) {
        std::vector<std::string> names;
        try {
            names = quantity::namesIn(text);
        } catch (const Error&) {
            return;  // a finding already
        }
        for (const auto& name : names)
            if (used.insert(name).second)
                for (const auto& d : design.dimensions)
                    if (d.name == name) follow(d.text);
    };
    for (Part part : design.parts)
        for (const auto& field : edit::fieldsOf(part)) follow(*field.text);
    std::vector<std::string> names;
    for (const auto& d : design.dimensions)
        if (d.kind == DimensionKind::Length && d.scales && quantity::isPlainNumber(d.text) &&
            used.count(d.name) != 0)
            names.push_back(d.name);
    return names;
}

TrimAnswer trim(const Design& design, const TrimRequest& request, const std::stop_token& stop,
                const std::function<void(double)>& progress) {
    return Trimmer(design, request, stop, progress).run();
}

}  // namespace rm::build
