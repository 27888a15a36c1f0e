#include "core/study/sweep.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>
#include <optional>

#include "core/model/checks.h"
#include "core/stopped.h"
#include "core/study/rational.h"
#include "core/study/sweep_curve.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Up to this many points each is solved.
constexpr std::size_t kSolvedPoints = 9;
constexpr std::size_t kFirstSamples = 5;
/// On so many points the rational model is checked; more are only evaluated.
constexpr std::size_t kCheckedPoints = 2001;
/// And in steps of no more than this share of the frequency, where fewer are asked for.
constexpr double kCheckedStep = 8e-3;
/// Highest over lowest frequency of what still is one band.
constexpr double kBand = 1.2;
/// Few points that move less than this from one to the next say what lies between them.
constexpr double kSteady = 0.25;
/// Reflection coefficient beside which a narrow resonance could hide between them.
constexpr double kFarOff = 0.8;
/// Parts of a band that is looked at between few points.
constexpr std::size_t kBandParts = 60;
/// Beyond this many solutions the rational model has failed, and every point is solved.
constexpr std::size_t kMostSamples = 60;
/// Change of the reflection coefficient between two models that counts as settled.
constexpr double kSettled = 3e-4;

std::vector<double> equalSteps(double low, double high, int count) {
    std::vector<double> steps;
    steps.reserve(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i) steps.push_back(count == 1 ? low : low + (high - low) * i / (count - 1));
    return steps;
}

/// Equal steps, each in so many parts.
std::vector<double> divided(const std::vector<double>& steps, std::size_t parts) {
    std::vector<double> grid{steps.front()};
    for (std::size_t i = 1; i < steps.size(); ++i) {
        for (std::size_t k = 1; k < parts; ++k)
            grid.push_back(steps[i - 1] +
                           (steps[i] - steps[i - 1]) * static_cast<double>(k) / static_cast<double>(parts));
        grid.push_back(steps[i]);
    }
    return grid;
}

/// In how many parts each step has to be looked at to see what lies between them.
std::size_t partsOf(const std::vector<double>& steps) {
    const double low = steps.front();
    const double high = steps.back();
    if (steps.size() < 2) return 1;
    const std::size_t gaps = steps.size() - 1;
    const double step = (high - low) / static_cast<double>(gaps);
    const auto wanted = static_cast<std::size_t>(std::ceil(step / (kCheckedStep * std::sqrt(low * high))));
    return std::clamp(wanted, std::size_t{1}, std::max(std::size_t{1}, kCheckedPoints / gaps));
}

class Sweeper {
  public:
    Sweeper(const model::Expansion& design, double lowHz, double highHz, int points, std::stop_token stop,
            const Progress& progress, FieldStore& fields)
        : design_(design),
          stop_(std::move(stop)),
          progress_(progress),
          fields_(fields),
          mesh_(fields.mesh(design.model, highHz)) {
        all_ = equalSteps(lowHz, highHz, points);
        // The model settles on a grid of bearable size.
        grid_ = all_.size() > kCheckedPoints ? equalSteps(lowHz, highHz, static_cast<int>(kCheckedPoints))
                                             : divided(all_, partsOf(all_));
    }

    Sweep run() {
        if (!(all_.back() > all_.front())) {
            solve({all_.front()}, 1.0);
            return fromSamples();
        }
        // Few points over one band are meant to be few solutions, where they are near each other.
        if (all_.size() <= kSolvedPoints && all_.back() < kBand * all_.front()) {
            solve(all_, 1.0);
            if (stop_.stop_requested() || steady()) return fromSamples();
            grid_ = divided(all_, std::max(partsOf(all_), kBandParts / (all_.size() - 1)));
        }
        // Chebyshev points with the ends.
        std::vector<double> first;
        for (std::size_t i = 0; i < kFirstSamples; ++i)
            first.push_back(nearestOnGrid(
                0.5 * (grid_.front() + grid_.back()) -
                0.5 * (grid_.back() - grid_.front()) *
                    std::cos(kPi * static_cast<double>(i) / static_cast<double>(kFirstSamples - 1))));
        std::erase_if(first, [this](double hz) { return samples_.count(hz) > 0; });
        solve(first, 0.5);
        std::vector<SweepPoint> before;
        int settled = 0;
        while (!stop_.stop_requested()) {
            const RationalModel rational = fit();
            auto now = closed(rational, grid_);
            std::vector<double> change(grid_.size(), 0.0);
            double largest = before.empty() ? 1.0 : 0.0;
            for (std::size_t i = 0; i < grid_.size() && !before.empty(); ++i) {
                change[i] = distance(now[i], before[i]);
                largest = std::max(largest, change[i]);
            }
            settled = largest < kSettled ? settled + 1 : 0;
            if (settled >= 2)
                return fromModel(rational,
                                 all_.size() == grid_.size() ? std::move(now) : closed(rational, all_));
            if (samples_.size() >= kMostSamples) {
                std::vector<double> left;
                for (const double f : all_)
                    if (samples_.count(f) == 0) left.push_back(f);
                solve(left, 1.0);
                return fromSamples();
            }
            before = std::move(now);
            const auto next = nextSamples(change);
            if (next.empty()) {
                // All of it is solved, and does not settle yet: what lies between them is looked at.
                if (2 * grid_.size() > kCheckedPoints) return fromSamples();
                grid_ = divided(grid_, 2);
                before.clear();
                continue;
            }
            solve(next, 0.5 + 0.5 * static_cast<double>(samples_.size()) / 20.0);
        }
        return fromSamples();
    }

  private:
    /// Solves the frequencies side by side.
    void solve(const std::vector<double>& frequencies, double share) {
        std::vector<em::MatrixXc> admittance(frequencies.size());
        const double begun = progressShare_;
        std::atomic<std::size_t> done{0};
        tbb::parallel_for(std::size_t{0}, frequencies.size(), [&](std::size_t i) {
            unlessStopped(stop_, [&] {
                admittance[i] = fields_.solve(mesh_, frequencies[i], stop_)->admittance;
                const double part = static_cast<double>(++done) / static_cast<double>(frequencies.size());
                if (progress_) progress_(std::min(1.0, begun + (share - begun) * part));
            });
        });
        progressShare_ = std::min(1.0, share);
        for (std::size_t i = 0; i < frequencies.size(); ++i)
            if (admittance[i].size() > 0) samples_[frequencies[i]] = std::move(admittance[i]);
    }

    /// Whether what is solved says what lies between: the reflection coefficients move little from one to the
    /// next, and none is so far off that a narrow resonance could hide.
    bool steady() const {
        std::optional<SweepPoint> before;
        for (const auto& [hz, y] : samples_) {
            SweepPoint here = point(hz, y);
            if (std::abs(reflection(here.radioOhm, design_.referenceOhm)) > kFarOff) return false;
            if (before && distance(here, *before) > kSteady) return false;
            before = std::move(here);
        }
        return true;
    }

    double nearestOnGrid(double hz) const {
        const double step = (grid_.back() - grid_.front()) / static_cast<double>(grid_.size() - 1);
        const auto i = static_cast<std::size_t>(std::lround((hz - grid_.front()) / step));
        return grid_[std::min(i, grid_.size() - 1)];
    }

    /// Frequency between -1 and 1.
    double scaled(double hz) const {
        return (hz - 0.5 * (grid_.back() + grid_.front())) / (0.5 * (grid_.back() - grid_.front()));
    }

    /// The rational model through what is solved so far.
    RationalModel fit() const {
        std::vector<double> x;
        std::vector<Eigen::VectorXcd> values;
        const Eigen::Index ports = samples_.begin()->second.rows();
        for (const auto& [hz, y] : samples_) {
            x.push_back(scaled(hz));
            Eigen::VectorXcd packed(ports * (ports + 1) / 2);
            Eigen::Index at = 0;
            for (Eigen::Index c = 0; c < ports; ++c)
                for (Eigen::Index r = c; r < ports; ++r) packed(at++) = y(r, c);
            values.push_back(packed);
        }
        return {std::move(x), std::move(values)};
    }

    /// Every point of a grid, by the rational model; those up to where it was stopped.
    std::vector<SweepPoint> closed(const RationalModel& rational, const std::vector<double>& grid) const {
        std::vector<SweepPoint> all;
        all.reserve(grid.size());
        for (const double hz : grid) {
            if (grid.size() > grid_.size() && stop_.stop_requested()) break;
            all.push_back(modelled(rational, hz));
        }
        return all;
    }

    SweepPoint modelled(const RationalModel& rational, double hz) const {
        const Eigen::Index ports = samples_.begin()->second.rows();
        em::MatrixXc y(ports, ports);
        const Eigen::VectorXcd packed = rational.at(scaled(hz));
        Eigen::Index at = 0;
        for (Eigen::Index c = 0; c < ports; ++c)
            for (Eigen::Index r = c; r < ports; ++r) y(r, c) = y(c, r) = packed(at++);
        return point(hz, y);
    }

    /// Largest difference of the reflection coefficients of the driven feeds, and at the radio.
    double distance(const SweepPoint& a, const SweepPoint& b) const {
        const double reference = design_.referenceOhm;
        double largest = std::abs(reflection(a.radioOhm, reference) - reflection(b.radioOhm, reference));
        for (std::size_t f = 0; f < a.impedanceOhm.size(); ++f)
            if (design_.model.feeds[f].driven)
                largest = std::max(largest, std::abs(reflection(a.impedanceOhm[f], reference) -
                                                     reflection(b.impedanceOhm[f], reference)));
        return largest;
    }

    /// Two frequencies for two processors: those already solved for this antenna, in their old order; then
    /// where the model has changed most, and the worst far from there; in the widest gaps where nothing has
    /// changed.
    std::vector<double> nextSamples(const std::vector<double>& change) const {
        std::vector<double> next;
        for (const double hz : fields_.solvedHz(mesh_))
            if (next.size() < 2 && samples_.count(hz) == 0 && nearestOnGrid(hz) == hz) next.push_back(hz);
        if (!next.empty()) return next;
        for (int turn = 0; turn < 2; ++turn) {
            double best = 0.0;
            double chosen = 0.0;
            for (std::size_t i = 0; i < grid_.size(); ++i) {
                double gap = grid_.back() - grid_.front();
                for (const auto& [hz, y] : samples_) gap = std::min(gap, std::abs(hz - grid_[i]));
                for (const double hz : next) gap = std::min(gap, std::abs(hz - grid_[i]));
                if (gap == 0.0) continue;
                const double worth = (change[i] + 1e-3 * kSettled) * gap;
                if (worth > best) {
                    best = worth;
                    chosen = grid_[i];
                }
            }
            if (best > 0.0) next.push_back(chosen);
        }
        return next;
    }

    SweepPoint point(double hz, const em::MatrixXc& admittance) const {
        circuit::FeedNetwork network;
        auto drive = circuit::driveFeeds(design_.model, admittance, hz, network);
        SweepPoint p;
        p.frequencyHz = hz;
        p.antennaOhm = drive.antennaOhm;
        p.radioOhm = atRadio(design_, p.antennaOhm, hz);
        p.swr = swr(p.radioOhm, design_.referenceOhm);
        p.harnessLossDb = 10.0 * std::log10(1.0 + drive.harnessPowerW / drive.inputPowerW);
        p.impedanceOhm = std::move(drive.impedance);
        if (p.impedanceOhm.size() > 1 && all_.size() <= kCheckedPoints)
            p.feedAdmittance = std::move(network.admittance);
        return p;
    }

    Sweep begin() const {
        Sweep result;
        result.referenceOhm = design_.referenceOhm;
        result.solutions = static_cast<int>(samples_.size());
        return result;
    }

    /// What has been solved, and nothing else.
    Sweep fromSamples() const {
        Sweep result = begin();
        for (const auto& [hz, y] : samples_) {
            SweepPoint solved = point(hz, y);
            if (std::binary_search(all_.begin(), all_.end(), hz)) result.points.push_back(solved);
            result.refined.push_back(std::move(solved));
        }
        if (result.refined.size() == result.points.size()) result.refined.clear();
        result.complete = result.points.size() == all_.size();
        return result;
    }

    Sweep fromModel(const RationalModel& rational, std::vector<SweepPoint> points) const {
        if (progress_) progress_(1.0);
        Sweep result = begin();
        result.points = std::move(points);
        // More points than the model is checked on are close enough.
        if (all_.size() <= grid_.size())
            result.refined = withBetween(
                result.points, design_.referenceOhm, [&](double hz) { return modelled(rational, hz); },
                stop_);
        result.complete = result.points.size() == all_.size();
        return result;
    }

    const model::Expansion& design_;
    std::stop_token stop_;
    const Progress& progress_;
    FieldStore& fields_;
    std::shared_ptr<const em::Mesh> mesh_;
    std::vector<double> all_;                 ///< what was asked for
    std::vector<double> grid_;                ///< what the model is checked on
    std::map<double, em::MatrixXc> samples_;  ///< admittances by frequency
    double progressShare_ = 0.0;
};

}  // namespace

Sweep sweep(const model::Expansion& design, double lowHz, double highHz, int points, std::stop_token stop,
            const Progress& progress, FieldStore* fields) {
    requireUsable(design);
    if (!(lowHz > 0.0) || !(highHz >= lowHz) || points < 1)
        throw Error(say("A sweep needs a lower and a higher frequency and at least one point."));
    model::requireFrequency(lowHz);
    FieldStore own;
    return Sweeper(design, lowHz, highHz, points, std::move(stop), progress, fields ? *fields : own).run();
}

double Sweep::worstSwr() const {
    double worst = 1.0;
    for (const auto& p : curve()) worst = std::max(worst, p.swr);
    return worst;
}

namespace {

std::vector<SweepPoint>::const_iterator best(const std::vector<SweepPoint>& curve) {
    return std::min_element(curve.begin(), curve.end(),
                            [](const auto& a, const auto& b) { return a.swr < b.swr; });
}

}  // namespace

double Sweep::bestSwr() const {
    return points.empty() ? 1.0 : best(curve())->swr;
}

double Sweep::bestFrequencyHz() const {
    return points.empty() ? 0.0 : best(curve())->frequencyHz;
}

double Sweep::bandwidthHz(double limit) const {
    const auto found = stretch(limit);
    return found ? found->highHz - found->lowHz : 0.0;
}

std::optional<Sweep::Stretch> Sweep::stretch(double limit) const {
    const auto& all = curve();
    if (all.empty() || bestSwr() > limit) return std::nullopt;
    const auto crossing = [&](const SweepPoint& inside, const SweepPoint& outside) {
        if (!std::isfinite(outside.swr)) return inside.frequencyHz;
        const double t = (limit - inside.swr) / (outside.swr - inside.swr);
        return inside.frequencyHz + t * (outside.frequencyHz - inside.frequencyHz);
    };
    Stretch found{all.front().frequencyHz, all.back().frequencyHz};
    for (auto p = best(all); p != all.begin(); --p)
        if ((p - 1)->swr > limit) {
            found.lowHz = crossing(*p, *(p - 1));
            break;
        }
    for (auto p = best(all); p + 1 != all.end(); ++p)
        if ((p + 1)->swr > limit) {
            found.highHz = crossing(*p, *(p + 1));
            break;
        }
    return found;
}

std::vector<double> Sweep::resonancesHz() const {
    std::vector<double> found;
    const auto& all = curve();
    for (std::size_t i = 0; i + 1 < all.size(); ++i) {
        const double a = all[i].antennaOhm.imag();
        const double b = all[i + 1].antennaOhm.imag();
        if (a == 0.0 || (a < 0.0) == (b < 0.0)) continue;
        found.push_back(all[i].frequencyHz + (all[i + 1].frequencyHz - all[i].frequencyHz) * a / (a - b));
    }
    return found;
}

SweepPoint Sweep::at(double frequencyHz) const {
    const auto& all = curve();
    if (all.empty()) throw Error(say("There is no sweep yet."));
    auto above = std::lower_bound(all.begin(), all.end(), frequencyHz,
                                  [](const SweepPoint& p, double f) { return p.frequencyHz < f; });
    if (above == all.end()) --above;
    const auto below = above == all.begin() ? above : above - 1;
    const double width = above->frequencyHz - below->frequencyHz;
    const double t = width > 0.0 ? std::clamp((frequencyHz - below->frequencyHz) / width, 0.0, 1.0) : 0.0;
    SweepPoint p;
    p.frequencyHz = frequencyHz;
    for (std::size_t f = 0; f < below->impedanceOhm.size(); ++f)
        p.impedanceOhm.push_back((1.0 - t) * below->impedanceOhm[f] + t * above->impedanceOhm[f]);
    p.antennaOhm = (1.0 - t) * below->antennaOhm + t * above->antennaOhm;
    p.radioOhm = (1.0 - t) * below->radioOhm + t * above->radioOhm;
    p.swr = study::swr(p.radioOhm, referenceOhm);
    if (below->feedAdmittance.size() > 0)
        p.feedAdmittance = (1.0 - t) * below->feedAdmittance + t * above->feedAdmittance;
    return p;
}

}  // namespace rm::study
