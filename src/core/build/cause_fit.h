// Fits the causes that a built antenna may differ by to what was measured on it.
//
// The reflection coefficients of the model are fitted to those measured by a damped Gauss-Newton method
// (K. Levenberg 1944, D. Marquardt 1963; J. Nocedal and S. Wright, Numerical Optimization, 2006,
// section 10.3) over causes with a usual size each (a ridge: A. Hoerl and R. Kennard, Technometrics 12,
// 1970). A cause is taken in only where it pays for itself by the Bayesian information criterion (G. Schwarz,
// Annals of Statistics 6, 1978); the uncertainty of each follows from the curvature at the end.
#pragma once

#include <Eigen/Core>
#include <functional>
#include <optional>
#include <stop_token>
#include <vector>

#include "core/build/causes.h"
#include "core/study/field_store.h"
#include "core/study/measured_curve.h"

namespace rm::build {

class CauseFit {
  public:
    /// `measured` are places among the design's measurements, of which points round `band` count; `lengths`
    /// the dimensions that scale. Throws rm::Error where nothing is left to fit to.
    CauseFit(const model::Design& design, const std::vector<std::size_t>& measured, const model::Band& band,
             const std::vector<std::string>& lengths, std::stop_token stop);

    /// `progress` gets the share that is done, 0 to 1. Throws rm::Stopped where it is told to stop.
    void run(const std::function<void(double)>& progress);

    const Causes& causes() const { return best_.causes; }
    /// Those that were taken in, with their doubts; the length first.
    const std::vector<Found>& found() const { return found_; }
    /// Root mean square of the difference of the reflection coefficients, and the same of the model as drawn.
    double misfit() const { return misfit_; }
    double misfitDrawn() const { return misfitDrawn_; }
    /// The fit lies on the measurement, as far as that is smooth.
    bool explained() const;

    double lowHz() const;
    double highHz() const;
    /// As measured last; 0 where nothing was.
    double measuredSwr(double hz) const;
    study::FieldStore& fields() { return fields_; }

  private:
    /// What is compared at one frequency: the complex coefficient, or its size where no more was measured.
    struct Reading {
        double hz = 0.0;
        Complex reflection;
        bool sizeOnly = false;
    };
    /// One measurement with the design as it was when it was taken.
    struct Taken {
        model::Design design;
        study::Plane plane = study::Plane::Radio;
        std::vector<Reading> readings;
        double lowHz = 0.0;
        double highHz = 0.0;
    };
    struct Fit {
        Causes causes{};
        std::vector<Cause> used;
        Eigen::VectorXd residuals;
        double sum = 0.0;  ///< of the squares, with the ridge
        Eigen::MatrixXd curvature;
    };

    void gather(const std::vector<std::size_t>& measured, const model::Band& band);
    static Reading readingAt(const std::vector<model::MeasuredPoint>& points, double hz, double reference);
    std::vector<Complex> modelled(const Taken& taken, const Causes& causes);
    std::optional<Eigen::VectorXd> residuals(const Causes& causes);
    Fit begin(const std::vector<Cause>& used, const Causes& from, const Eigen::VectorXd& at) const;
    bool improve(Fit& fit, double& damping);
    Eigen::MatrixXd slopes(const Fit& fit);
    Fit fit(const std::vector<Cause>& used, const Causes& from);
    std::vector<Cause> candidates() const;
    static double criterion(const Fit& fit);
    double rms(const Eigen::VectorXd& residuals) const;
    void judge();

    const model::Design& design_;
    std::vector<std::string> lengths_;
    std::stop_token stop_;
    std::vector<Taken> taken_;
    study::FieldStore fields_;
    double lowestM_ = 0.0;  ///< of the antenna
    double noise_ = 0.0;    ///< of the meter
    bool sizesOnly_ = false;
    Fit best_;
    std::vector<Found> found_;
    double misfit_ = 0.0;
    double misfitDrawn_ = 0.0;
};

}  // namespace rm::build
