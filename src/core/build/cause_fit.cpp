#include "core/build/cause_fit.h"

#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/circuit/chain.h"
#include "core/circuit/reflection.h"
#include "core/linear.h"
#include "core/model/expand.h"
#include "core/model/on_ground.h"
#include "core/stopped.h"
#include "core/study/sweep.h"
#include "core/words/words.h"

namespace rm::build {

using namespace rm::model;

namespace {

/// Frequencies at which a measurement is compared with the model.
constexpr int kPoints = 25;
constexpr std::size_t kFewestPoints = 3;
constexpr int kIterations = 12;
constexpr int kAttempts = 5;
/// Of the difference of reflection coefficients: below this nobody measures in a garden.
constexpr double kBestMeter = 0.004;
/// The ridge: a cause of usual size weighs as much as twice what the best meter errs by.
constexpr double kRidge = 4.0 * kBestMeter * kBestMeter;
/// Above this the fit is no explanation.
constexpr double kUnexplained = 0.04;
/// What a cause must bring, in the criterion.
constexpr double kPays = 6.0;
/// Of the edges of a band, how far beyond them a measurement still counts.
constexpr double kRoundBand = 0.93;
/// Where the length is begun with: far off there are dips that are not the one.
constexpr double kBegin[] = {0.0, -0.04, 0.04, -0.08, 0.08};

Complex coefficient(const MeasuredPoint& p, double reference) {
    return p.impedanceOhm ? circuit::reflection(*p.impedanceOhm, reference)
                          : Complex((p.swr - 1.0) / (p.swr + 1.0));
}

/// How much the coefficients jump from point to point: what the meter adds by itself.
double roughness(const std::vector<MeasuredPoint>& points, double reference) {
    double sum = 0.0;
    for (std::size_t i = 1; i + 1 < points.size(); ++i)
        sum += std::norm(coefficient(points[i - 1], reference) - 2.0 * coefficient(points[i], reference) +
                         coefficient(points[i + 1], reference)) /
               6.0;
    return std::sqrt(sum / static_cast<double>(points.size() - 2));
}

/// A cause of usual size as a share of one.
double shareOf(const Causes& causes, Cause cause) {
    return causes[indexOf(cause)] / usual(cause).size;
}

double ridge(const Causes& causes, const std::vector<Cause>& used) {
    double sum = 0.0;
    for (const Cause cause : used) sum += kRidge * shareOf(causes, cause) * shareOf(causes, cause);
    return sum;
}

}  // namespace

CauseFit::CauseFit(const Design& design, const std::vector<std::size_t>& measured, const Band& band,
                   const std::vector<std::string>& lengths, std::stop_token stop)
    : design_(design), lengths_(lengths), stop_(std::move(stop)) {
    lowestM_ = expand(design_).model.bounds().low.z();
    gather(measured, band);
}

CauseFit::Reading CauseFit::readingAt(const std::vector<MeasuredPoint>& points, double hz, double reference) {
    std::size_t i = 1;
    while (i + 1 < points.size() && points[i].frequencyHz < hz) ++i;
    const auto& a = points[i - 1];
    const auto& b = points[i];
    const double t =
        std::clamp((hz - a.frequencyHz) / std::max(1.0, b.frequencyHz - a.frequencyHz), 0.0, 1.0);
    const Complex ga = coefficient(a, reference);
    const Complex gb = coefficient(b, reference);
    if (!a.impedanceOhm || !b.impedanceOhm) return {hz, std::abs(ga) * (1.0 - t) + std::abs(gb) * t, true};
    return {hz, (1.0 - t) * ga + t * gb, false};
}

void CauseFit::gather(const std::vector<std::size_t>& measured, const Band& band) {
    const auto expansion = expand(design_);
    // On other bands a wire is another antenna, and between bands nothing was read.
    const auto elsewhere = [&](const MeasuredPoint& p) {
        return band.highHz > band.lowHz &&
               (p.frequencyHz < kRoundBand * band.lowHz || p.frequencyHz > band.highHz / kRoundBand);
    };
    for (const std::size_t i : measured) {
        Taken taken;
        taken.design = design_;
        for (const auto& was : design_.measured.at(i).takenWith)
            for (auto& d : taken.design.dimensions)
                if (d.name == was.dimension) d.text = was.value;
        // With impedances at the radio, else where it was taken.
        auto points = study::measuredAt(design_, expansion, i, taken.plane);
        if (points.size() < kFewestPoints) {
            taken.plane = study::Plane::Antenna;
            points = study::measuredAt(design_, expansion, i, taken.plane);
        }
        std::erase_if(points, elsewhere);
        if (points.size() < kFewestPoints) continue;
        taken.lowHz = points.front().frequencyHz;
        taken.highHz = points.back().frequencyHz;
        if (!(taken.highHz > taken.lowHz)) continue;
        for (int k = 0; k < kPoints; ++k) {
            const double hz = taken.lowHz + (taken.highHz - taken.lowHz) * k / (kPoints - 1);
            taken.readings.push_back(readingAt(points, hz, expansion.referenceOhm));
            sizesOnly_ = sizesOnly_ || taken.readings.back().sizeOnly;
        }
        noise_ = std::max(noise_, roughness(points, expansion.referenceOhm));
        taken_.push_back(std::move(taken));
    }
    if (taken_.empty())
        throw Error(
            say("There is no measurement of this band to trim by: import one of this antenna first."));
}

/// Reflection coefficients of the model at the plane of a measurement.
std::vector<Complex> CauseFit::modelled(const Taken& taken, const Causes& causes) {
    const auto expansion = expand(withCauses(taken.design, lengths_, causes));
    study::requireUsable(expansion);
    const auto swept = study::sweep(expansion, taken.lowHz, taken.highHz, kPoints, stop_, {}, &fields_);
    endWhere(stop_);
    std::vector<Complex> out;
    for (const auto& point : swept.points) {
        Complex z = atTerminals(point.antennaOhm, causes, point.frequencyHz);
        if (taken.plane == study::Plane::Radio && !expansion.feedPath.empty())
            z = circuit::walkChain(expansion.feedPath, z, point.frequencyHz).back().impedanceOhm;
        out.push_back(circuit::reflection(throughLine(z, causes, point.frequencyHz), expansion.referenceOhm));
    }
    return out;
}

/// Nothing where the antenna cannot be so: a wire in the ground, or farther from the drawing than anybody
/// errs.
std::optional<Eigen::VectorXd> CauseFit::residuals(const Causes& causes) {
    const auto within = [&](Cause cause, double low, double high) {
        return causes[indexOf(cause)] > low && causes[indexOf(cause)] < high;
    };
    const double highest = 0.5 * std::max(1.0, lowestM_);
    if (!within(Cause::Length, -0.4, 0.4) || !within(Cause::Soil, -5.0, 5.0) ||
        !within(Cause::Line, -5.0, 5.0) || !within(Cause::Loss, -3.0, 1e3) ||
        !within(Cause::Height, -highest, highest))
        return std::nullopt;
    std::vector<double> r;
    for (const auto& taken : taken_) {
        std::vector<Complex> model;
        try {
            model = modelled(taken, causes);
        } catch (const Error&) {
            return std::nullopt;
        }
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

CauseFit::Fit CauseFit::begin(const std::vector<Cause>& used, const Causes& from,
                              const Eigen::VectorXd& at) const {
    Fit f;
    f.used = used;
    f.causes = from;
    f.residuals = at;
    f.sum = at.squaredNorm() + ridge(from, used);
    return f;
}

/// Of the residuals by the causes in use, each in units of what is usual.
Eigen::MatrixXd CauseFit::slopes(const Fit& fit) {
    Eigen::MatrixXd j =
        Eigen::MatrixXd::Zero(fit.residuals.size(), static_cast<Eigen::Index>(fit.used.size()));
    for (std::size_t c = 0; c < fit.used.size(); ++c) {
        const Usual& u = usual(fit.used[c]);
        // To the other side where the antenna cannot be so; where it can be neither, the cause stays.
        for (const double step : {u.step, -u.step}) {
            Causes moved = fit.causes;
            moved[indexOf(u.cause)] += step;
            const auto there = residuals(moved);
            if (!there) continue;
            j.col(static_cast<Eigen::Index>(c)) = (*there - fit.residuals) * (u.size / step);
            break;
        }
    }
    return j;
}

/// One step; false where none helps, or what it brings is not worth another.
bool CauseFit::improve(Fit& f, double& damping) {
    const Eigen::MatrixXd j = slopes(f);
    Eigen::MatrixXd curvature = j.transpose() * j;
    Eigen::VectorXd slope = j.transpose() * f.residuals;
    for (std::size_t c = 0; c < f.used.size(); ++c) {
        const auto d = static_cast<Eigen::Index>(c);
        curvature(d, d) += kRidge;
        slope[d] += kRidge * shareOf(f.causes, f.used[c]);
    }
    f.curvature = curvature;
    for (int attempt = 0; attempt < kAttempts; ++attempt, damping *= 10.0) {
        Eigen::MatrixXd damped = curvature;
        damped.diagonal() *= 1.0 + damping;
        const Eigen::VectorXd move = -solveSymmetric(damped, slope);
        Causes next = f.causes;
        for (std::size_t c = 0; c < f.used.size(); ++c)
            next[indexOf(f.used[c])] +=
                std::clamp(move[static_cast<Eigen::Index>(c)], -2.0, 2.0) * usual(f.used[c]).size;
        const auto left = residuals(next);
        if (!left) continue;
        const double sum = left->squaredNorm() + ridge(next, f.used);
        if (!(sum < f.sum)) continue;
        const bool goOn = f.sum - sum > 1e-4 * f.sum;
        f.causes = next;
        f.residuals = *left;
        f.sum = sum;
        damping = std::max(1e-9, 0.2 * damping);
        return goOn;
    }
    return false;
}

CauseFit::Fit CauseFit::fit(const std::vector<Cause>& used, const Causes& from) {
    const auto at = residuals(from);
    if (!at) {
        Fit none;
        none.sum = std::numeric_limits<double>::max();
        return none;
    }
    Fit f = begin(used, from, *at);
    double damping = 1e-3;
    for (int i = 0; i < kIterations && improve(f, damping); ++i) {
    }
    return f;
}

/// Causes that this antenna can have beside its length.
std::vector<Cause> CauseFit::candidates() const {
    const GroundKind ground = expand(design_).model.ground.kind;
    std::vector<Cause> all{Cause::Capacitance, Cause::Loss, Cause::Line};
    // Whatever of it is at the ground stays there when the rest hangs higher, and would have to be told
    // apart.
    if (ground != GroundKind::FreeSpace && lowestM_ > kRestsM) all.push_back(Cause::Height);
    if (ground == GroundKind::Real) all.push_back(Cause::Soil);
    return all;
}

double CauseFit::criterion(const Fit& f) {
    if (f.residuals.size() == 0) return std::numeric_limits<double>::max();
    const auto n = static_cast<double>(f.residuals.size());
    // Neighbouring points say nearly the same: half of them count.
    return n * std::log(std::max(f.sum, n * kBestMeter * kBestMeter * 0.25) / n) +
           2.0 * static_cast<double>(f.used.size()) * std::log(0.5 * n);
}

void CauseFit::run(const std::function<void(double)>& progress) {
    const auto drawn = residuals({});
    if (!drawn) throw Error(say("This design cannot be worked out round the band."));
    misfitDrawn_ = rms(*drawn);
    best_ = {};
    best_.sum = std::numeric_limits<double>::max();
    for (std::size_t i = 0; i < std::size(kBegin); ++i) {
        Causes from{};
        from[indexOf(Cause::Length)] = kBegin[i];
        Fit one = fit({Cause::Length}, from);
        if (one.sum < best_.sum) best_ = std::move(one);
        progress(0.3 * static_cast<double>(i + 1) / std::size(kBegin));
    }
    auto open = candidates();
    const auto rounds = static_cast<double>(open.size());
    while (!open.empty()) {
        std::size_t which = open.size();
        Fit better;
        double value = criterion(best_) - kPays;
        for (std::size_t c = 0; c < open.size(); ++c) {
            auto used = best_.used;
            used.push_back(open[c]);
            Fit one = fit(used, best_.causes);
            if (criterion(one) >= value) continue;
            value = criterion(one);
            better = std::move(one);
            which = c;
        }
        progress(1.0 - 0.7 * static_cast<double>(open.size() - 1) / rounds);
        if (which == open.size()) break;
        best_ = std::move(better);
        open.erase(open.begin() + static_cast<std::ptrdiff_t>(which));
    }
    judge();
}

/// Doubts: what is left over says how well the meter read.
void CauseFit::judge() {
    misfit_ = rms(best_.residuals);
    const auto n = static_cast<double>(best_.residuals.size());
    const auto k = static_cast<double>(best_.used.size());
    const double scatter =
        std::max(best_.residuals.squaredNorm() / std::max(1.0, n - k), kBestMeter * kBestMeter);
    const Eigen::MatrixXd covariance = scatter * inverseOfSymmetric(best_.curvature);
    for (std::size_t c = 0; c < best_.used.size(); ++c) {
        const auto d = static_cast<Eigen::Index>(c);
        Found found;
        found.cause = best_.used[c];
        found.value = best_.causes[indexOf(found.cause)];
        found.sigma = usual(found.cause).size * std::sqrt(std::max(0.0, covariance(d, d)));
        found.words = wordsOf(found);
        found_.push_back(found);
    }
}

/// Of complex coefficients two residuals make one.
double CauseFit::rms(const Eigen::VectorXd& r) const {
    return std::sqrt(r.squaredNorm() / static_cast<double>(r.size()) * (sizesOnly_ ? 1.0 : 2.0));
}

bool CauseFit::explained() const {
    return misfit_ <= std::max(kUnexplained, 2.0 * noise_);
}

double CauseFit::lowHz() const {
    return std::min_element(taken_.begin(), taken_.end(),
                            [](const Taken& a, const Taken& b) { return a.lowHz < b.lowHz; })
        ->lowHz;
}

double CauseFit::highHz() const {
    return std::max_element(taken_.begin(), taken_.end(),
                            [](const Taken& a, const Taken& b) { return a.highHz < b.highHz; })
        ->highHz;
}

double CauseFit::measuredSwr(double hz) const {
    const Taken& last = taken_.back();
    if (hz < last.lowHz || hz > last.highHz) return 0.0;
    const double place = (hz - last.lowHz) / (last.highHz - last.lowHz) * (kPoints - 1);
    const auto i = std::min<std::size_t>(static_cast<std::size_t>(place), kPoints - 2);
    const double t = place - static_cast<double>(i);
    const double size =
        (1.0 - t) * std::abs(last.readings[i].reflection) + t * std::abs(last.readings[i + 1].reflection);
    return (1.0 + size) / std::max(1e-6, 1.0 - size);
}

}  // namespace rm::build
