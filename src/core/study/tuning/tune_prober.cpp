#include "core/study/tuning/tune_prober.h"

#include <tbb/task_arena.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/em/parallel.h"
#include "core/stopped.h"
#include "core/study/field_key.h"
#include "core/study/figures.h"

namespace rm::study {

namespace {

/// Step of the derivatives in scaled dimensions.
constexpr double kStep = 1e-5;
/// Frequencies of a narrow range: its ends and its middle. What is missed between them is added at the end.
constexpr int kNarrowSamples = 3;
/// Fields that are kept, and the most that they may take.
constexpr std::size_t kKept = 6;
constexpr std::size_t kKeptBytes = std::size_t{400} << 20;

}  // namespace

Prober::Prober(const model::Design& design, const std::vector<model::Band>& bands, int samples,
               const std::map<std::string, double>& resume, std::shared_ptr<TuneControl> control,
               std::stop_token stop)
    : design_(design),
      goals_(design, bands, samples, std::min(samples, kNarrowSamples)),
      axes_(axesOf(design, resume)),
      limits_(limitsOf(design)),
      control_(std::move(control)),
      stop_(std::move(stop)) {}

std::size_t Prober::Field::bytes() const {
    std::size_t total = 0;
    for (const auto& range : factored)
        for (const auto& one : range) total += one.bytes();
    return total;
}

/// `body` for each, on the processors that have nothing else to do. A trial is the same whatever its threads
/// have worked on before, and they begin no other trial in the middle of this one.
template <typename Body>
void Prober::forEach(std::size_t count, const Body& body) const {
    tbb::this_task_arena::isolate([&] {
        em::parallelFor(std::size_t{0}, count, [&](std::size_t i) {
            control_->rest(stop_);
            em::forgetPairs();
            body(i);
        });
    });
}

std::map<std::string, double> Prober::valuesAt(const std::vector<double>& x) const {
    std::map<std::string, double> values;
    for (std::size_t i = 0; i < axes_.size(); ++i) values[axes_[i].name] = axes_[i].at(x[i]);
    return values;
}

Prober::FieldPtr Prober::fieldOf(const model::Expansion& expansion) const {
    const std::string key = fieldKey(expansion.model);
    {
        const std::scoped_lock lock(mutex_);
        for (auto it = kept_.rbegin(); it != kept_.rend(); ++it)
            if ((*it)->key == key) return *it;
    }
    auto field = std::make_shared<Field>();
    field->key = key;
    for (const auto& range : goals_.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(expansion.model, range.highHz));
        std::vector<std::optional<em::FactoredPorts>> factored(range.hz.size());
        forEach(range.hz.size(), [&](std::size_t k) { factored[k].emplace(mesh, range.hz[k], stop_); });
        control_->solutions += static_cast<long>(range.hz.size());
        field->factored.emplace_back();
        for (auto& one : factored) field->factored.back().push_back(std::move(*one));
    }
    const std::scoped_lock lock(mutex_);
    kept_.push_back(field);
    std::size_t bytes = 0;
    for (const auto& kept : kept_) bytes += kept->bytes();
    while (kept_.size() > kKept || (kept_.size() > 1 && bytes > kKeptBytes)) {
        bytes -= kept_.front()->bytes();
        kept_.erase(kept_.begin());
    }
    return field;
}

Trial Prober::probe(const std::vector<double>& x, bool withGradient) const {
    Trial trial;
    const auto drives = goals_.expand(at(x));
    if (!std::all_of(drives.begin(), drives.end(), [](const auto& e) { return e.usable(); })) return trial;
    const model::Expansion& expansion = drives.front();
    FieldPtr field;
    try {
        field = fieldOf(expansion);
        for (const auto& range : field->factored) {
            trial.samples.emplace_back();
            for (const auto& one : range) {
                ++control_->evaluations;
                trial.samples.back().push_back(goals_.read(drives, one.solution()));
            }
        }
    } catch (const Error&) {
        return trial;
    } catch (const Stopped&) {
        return trial;
    }
    trial.misses = allMisses(trial.samples, expansion);
    const std::vector<double> plain = trial.misses;
    for (std::size_t i = 0; i < margins_.size(); ++i)
        if (!goals_.layout()[i].most) trial.misses[i] += margins_[i];
    trial.good =
        std::all_of(trial.misses.begin(), trial.misses.end(), [](double v) { return std::isfinite(v); });
    if (!withGradient || !trial.good) return trial;
    trial.gradient = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(trial.misses.size()),
                                           static_cast<Eigen::Index>(axes_.size()));
    forEach(axes_.size(), [&](std::size_t a) {
        if (axes_[a].discrete()) return;
        // Where a step further changes the mesh, a step back may not.
        for (const double step : {kStep, -kStep}) {
            std::vector<double> misses;
            try {
                misses = moved(x, a, step, expansion.model.wires.size(), trial, *field);
            } catch (const Error&) {
                continue;  // nothing that can be built
            }
            for (std::size_t m = 0; m < misses.size(); ++m)
                trial.gradient(static_cast<Eigen::Index>(m), static_cast<Eigen::Index>(a)) =
                    (misses[m] - plain[m]) / step;
            if (!misses.empty()) break;
        }
    });
    return trial;
}

std::vector<double> Prober::missesOf(const model::Design& design) const {
    const auto drives = goals_.expand(design);
    for (const auto& expansion : drives) requireUsable(expansion);
    // The same whatever this thread has worked on before.
    em::forgetPairs();
    Goals::Samples samples;
    for (const auto& range : goals_.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(drives.front().model, range.highHz));
        samples.emplace_back();
        for (const double hz : range.hz) {
            ++control_->evaluations;
            ++control_->solutions;
            samples.back().push_back(goals_.read(drives, em::solvePorts(mesh, hz, stop_)));
        }
    }
    return allMisses(samples, drives.front());
}

std::vector<double> Prober::allMisses(const Goals::Samples& samples,
                                      const model::Expansion& expansion) const {
    auto all = goals_.misses(samples);
    // A tenth of the limit is a miss worth minding.
    for (const auto& limit : limits_)
        all.push_back(limit.overM(expansion) / (0.1 * std::max(0.1, std::abs(limit.limitM))));
    return all;
}

/// The misses a step further along one axis, from derivatives of the solutions; none where the antenna is cut
/// otherwise there.
std::vector<double> Prober::moved(const std::vector<double>& x, std::size_t axis, double step,
                                  std::size_t wires, const Trial& trial, const Field& field) const {
    auto further = x;
    further[axis] += step;
    const auto driven = goals_.expand(at(further));
    const auto& model = driven.front().model;
    if (model.wires.size() != wires) return {};
    const bool circuitsOnly = fieldKey(model) == field.key;
    Goals::Samples samples;
    const auto& ranges = goals_.ranges();
    for (std::size_t r = 0; r < ranges.size(); ++r) {
        std::shared_ptr<const em::Mesh> mesh;
        std::vector<em::PortDerivative> derivatives;
        if (!circuitsOnly) {
            mesh = std::make_shared<const em::Mesh>(em::makeMesh(model, ranges[r].highHz));
            auto all = em::portDerivatives(field.factored[r], *mesh, step);
            if (!all) return {};
            derivatives = std::move(*all);
        }
        samples.emplace_back();
        for (std::size_t k = 0; k < ranges[r].hz.size(); ++k) {
            em::PortSolution solution = field.factored[r][k].solution();
            if (!circuitsOnly) {
                solution.mesh = mesh;
                solution.admittance += step * derivatives[k].admittance;
                solution.localCurrents += step * derivatives[k].localCurrents;
            }
            samples.back().push_back(goals_.read(driven, solution, &trial.samples[r][k]));
        }
    }
    return allMisses(samples, driven.front());
}

}  // namespace rm::study
