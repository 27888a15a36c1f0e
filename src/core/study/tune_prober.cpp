#include "core/study/tune_prober.h"

#include <algorithm>
#include <cmath>

#include "core/stopped.h"
#include "core/study/field_key.h"
#include "core/study/figures.h"

namespace rm::study {

namespace {

/// Step of the derivatives in scaled dimensions.
constexpr double kStep = 1e-4;
/// Fields that are kept, and the most that they may take.
constexpr std::size_t kKept = 6;
constexpr std::size_t kKeptBytes = std::size_t{400} << 20;

}  // namespace

Prober::Prober(const model::Design& design, const std::vector<model::Band>& bands, int samples,
               const std::map<std::string, double>& resume, std::shared_ptr<TuneControl> control,
               std::stop_token stop)
    : design_(design),
      goals_(design, bands, samples),
      axes_(axesOf(design, resume)),
      limits_(limitsOf(design)),
      control_(std::move(control)),
      stop_(std::move(stop)) {}

std::size_t Prober::Field::bytes() const {
    std::size_t total = 0;
    for (const auto& range : factored)
        for (const auto& one : range) {
            const std::size_t n = one.solution().mesh->localCount;
            total += n * n * sizeof(Complex);
        }
    return total;
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
    // A trial is the same whatever this thread has worked on before.
    em::forgetPairs();
    auto field = std::make_shared<Field>();
    field->key = key;
    for (const auto& range : goals_.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(expansion.model, range.highHz));
        field->factored.emplace_back();
        for (const double hz : range.hz) {
            ++control_->solutions;
            field->factored.back().emplace_back(mesh, hz, stop_);
        }
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
    for (std::size_t i = 0; i < margins_.size(); ++i)
        if (!goals_.layout()[i].most) trial.misses[i] += margins_[i];
    trial.good =
        std::all_of(trial.misses.begin(), trial.misses.end(), [](double v) { return std::isfinite(v); });
    if (!withGradient || !trial.good) return trial;
    // The same derivatives whether the field was solved here or kept from another thread.
    em::forgetPairs();
    trial.gradient = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(trial.misses.size()),
                                           static_cast<Eigen::Index>(axes_.size()));
    for (std::size_t a = 0; a < axes_.size(); ++a) {
        if (axes_[a].discrete()) continue;
        std::vector<double> sides[2];
        differentiate(x, a, expansion.model.wires.size(), trial, *field, sides);
        if (sides[0].empty() || sides[1].empty()) continue;
        for (std::size_t m = 0; m < trial.misses.size(); ++m)
            trial.gradient(static_cast<Eigen::Index>(m), static_cast<Eigen::Index>(a)) =
                (sides[1][m] - sides[0][m]) / (2.0 * kStep);
    }
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

/// The misses a step back and a step further along one axis, from derivatives of the solutions.
void Prober::differentiate(const std::vector<double>& x, std::size_t axis, std::size_t wires,
                           const Trial& trial, const Field& field, std::vector<double> (&sides)[2]) const {
    auto moved = x;
    moved[axis] = x[axis] - kStep;
    const auto backDriven = goals_.expand(at(moved));
    moved[axis] = x[axis] + kStep;
    const auto furtherDriven = goals_.expand(at(moved));
    const model::Expansion& back = backDriven.front();
    const model::Expansion& further = furtherDriven.front();
    if (back.model.wires.size() != wires || further.model.wires.size() != wires) return;
    const bool circuitsOnly = fieldKey(back.model) == field.key && fieldKey(further.model) == field.key;
    Goals::Samples samples[2];
    const auto& ranges = goals_.ranges();
    for (std::size_t r = 0; r < ranges.size(); ++r) {
        std::shared_ptr<const em::Mesh> meshes[2];
        if (!circuitsOnly) {
            meshes[0] = std::make_shared<const em::Mesh>(em::makeMesh(back.model, ranges[r].highHz));
            meshes[1] = std::make_shared<const em::Mesh>(em::makeMesh(further.model, ranges[r].highHz));
        }
        for (auto& side : samples) side.emplace_back();
        for (std::size_t k = 0; k < ranges[r].hz.size(); ++k) {
            const em::FactoredPorts& base = field.factored[r][k];
            const GoalSample* held = &trial.samples[r][k];
            std::optional<em::PortDerivative> d;
            if (!circuitsOnly) d = base.derivative(*meshes[1], *meshes[0], kStep);
            for (int side = 0; side < 2; ++side) {
                const double h = side == 0 ? -kStep : kStep;
                em::PortSolution solution = base.solution();
                if (d) {
                    solution.mesh = meshes[side];
                    solution.admittance += h * d->admittance;
                    solution.localCurrents += h * d->localCurrents;
                } else if (!circuitsOnly) {
                    // Cut otherwise: solved anew.
                    solution = em::solvePorts(meshes[side], ranges[r].hz[k]);
                    ++control_->solutions;
                }
                samples[side].back().push_back(
                    goals_.read(side == 0 ? backDriven : furtherDriven, solution, held));
            }
        }
    }
    sides[0] = allMisses(samples[0], back);
    sides[1] = allMisses(samples[1], further);
}

}  // namespace rm::study
