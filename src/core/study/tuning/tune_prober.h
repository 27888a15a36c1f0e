// Works out one trial of the tuner: its goals as numbers, and how they change with every dimension.
#pragma once

#include <Eigen/Dense>
#include <memory>
#include <mutex>
#include <vector>

#include "core/em/sensitivity.h"
#include "core/study/tuning/goal_values.h"
#include "core/study/tuning/tune_axes.h"
#include "core/study/tuning/tune_control.h"

namespace rm::study {

struct Trial {
    bool good = false;
    Goals::Samples samples;
    std::vector<double> misses;  ///< of the goals, then of the limits; at most zero: met
    Eigen::MatrixXd gradient;    ///< misses x axes, by scaled dimensions
};

/// Shared by the searches of all threads.
class Prober {
  public:
    /// Throws rm::Error where the plan cannot be read.
    Prober(const model::Design& design, const std::vector<model::Band>& bands, int samples,
           const std::map<std::string, double>& resume, std::shared_ptr<TuneControl> control,
           std::stop_token stop);

    const std::vector<Axis>& axes() const { return axes_; }
    Goals& goals() { return goals_; }
    const Goals& goals() const { return goals_; }
    std::size_t limitCount() const { return limits_.size(); }
    TuneControl& control() const { return *control_; }

    std::map<std::string, double> valuesAt(const std::vector<double>& x) const;
    model::Design at(const std::vector<double>& x) const { return withValues(design_, valuesAt(x)); }

    /// A trial that is asked to stop is none that is good.
    Trial probe(const std::vector<double>& x, bool withGradient) const;

    /// The misses of a design that need not be one of the tuner's, without margins. Throws rm::Error,
    /// rm::Stopped.
    std::vector<double> missesOf(const model::Design& design) const;

    /// What is added to the misses of goals with limits from now on, one per entry of the layout; none:
    /// nothing.
    void setMargins(std::vector<double> margins) { margins_ = std::move(margins); }

    /// The field solutions that are kept belong to the frequencies of before.
    void frequenciesChanged() { kept_.clear(); }

  private:
    /// The field of one set of wires at all frequencies of the goals.
    struct Field {
        std::string key;
        std::vector<std::vector<em::FactoredPorts>> factored;  ///< range, frequency
        std::size_t bytes() const;
    };
    using FieldPtr = std::shared_ptr<const Field>;

    template <typename Body>
    void forEach(std::size_t count, const Body& body) const;
    FieldPtr fieldOf(const model::Expansion& expansion) const;
    std::vector<double> allMisses(const Goals::Samples& samples, const model::Expansion& expansion) const;
    std::vector<double> moved(const std::vector<double>& x, std::size_t axis, double step, std::size_t wires,
                              const Trial& trial, const Field& field) const;

    const model::Design& design_;
    Goals goals_;
    std::vector<Axis> axes_;
    std::vector<PlainLimit> limits_;
    std::vector<double> margins_;
    std::shared_ptr<TuneControl> control_;
    std::stop_token stop_;
    mutable std::mutex mutex_;
    mutable std::vector<FieldPtr> kept_;  ///< the newest last: circuits are tuned without solving again
};

}  // namespace rm::study
