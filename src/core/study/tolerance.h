// What matters: how much each dimension changes the figures, what random errors of building do, and scans of
// one or two dimensions.
#pragma once

#include <map>
#include <stop_token>
#include <string>
#include <vector>

#include "core/study/goal_values.h"
#include "core/study/sweep.h"

namespace rm::study {

/// The step of a length; angles step by one degree and plain numbers by one percent, whatever it is.
enum class SensitivityStep { Millimetre, Centimetre, Percent };

/// Change of the figures when one dimension grows by `step`.
struct Sensitivity {
    std::string dimension;
    model::DimensionKind kind = model::DimensionKind::Length;
    double step = 0.0;  ///< in m, degrees or plain
    double swr = 0.0;
    double resonanceHz =
        0.0;  ///< of the frequency where X = 0, nearest to the working one; 0 where there is none
    double gainDb = 0.0;
    double frontToRearDb = 0.0;
};

/// One row per dimension that has a plain number, the one that moves the SWR most first. Throws rm::Error for
/// a design with errors.
std::vector<Sensitivity> studySensitivity(const model::Design& design, double frequencyHz,
                                          SensitivityStep step = SensitivityStep::Millimetre,
                                          std::stop_token stop = {});

/// Random errors of building: standard deviations; zero leaves a thing as it is.
struct BuildErrors {
    double lengthM = 0.002;       ///< on every length that is named
    double angleDeg = 0.5;        ///< on every angle that is named
    double diameterShare = 0.02;  ///< of every conductor
    double heightM = 0.1;         ///< of the site
    double groundShare = 0.3;  ///< of the conductivity of real ground, the permittivity by its root with it
    std::vector<std::string> only;  ///< dimensions that err; empty: all
};

/// Errors as typed: lengths with their units, shares with a percent sign.
struct ErrorTexts {
    std::string length = "3 mm";
    std::string angle = "0.5 deg";
    std::string diameter = "2 %";
    std::string height = "0.1 m";
    std::string ground = "30 %";
};
/// Throws rm::Error naming the error that cannot be read.
BuildErrors readErrors(const ErrorTexts& texts);

/// Many builds of a design.
struct Tolerance {
    std::vector<double> hz;
    std::vector<double> lowSwr;     ///< 5 % of the builds are below, per frequency
    std::vector<double> middleSwr;  ///< the median
    std::vector<double> highSwr;    ///< 5 % are above
    std::vector<double> drawnSwr;   ///< of the design without errors
    double mostOfNine = 0.0;        ///< nine builds of ten stay below this SWR over the whole range
    int builds = 0;
    /// Goals in words, and how many of the builds meet each.
    std::vector<std::pair<std::string, int>> each;
    int meeting = 0;  ///< builds that meet every goal with a limit; -1 where the design has no goals
};

/// `builds` antennas with normally distributed errors; the same seed draws the same errors. Stops early when
/// asked and returns what it has.
Tolerance studyTolerance(const model::Design& design, const std::vector<model::Band>& bands, double lowHz,
                         double highHz, int builds, const BuildErrors& errors, unsigned seed = 1,
                         std::stop_token stop = {}, const Progress& progress = {});

/// One dimension of a scan.
struct ScanAxis {
    std::string dimension;
    double from = 0.0;
    double to = 1.0;
    int count = 11;
    double at(int i) const { return count == 1 ? from : from + (to - from) * i / (count - 1); }
};

enum class ScanFigure {
    Swr,
    Gain,
    FrontToRear,
    FrontToBack,
    Takeoff,
    Resistance,
    Reactance,
    Efficiency,   ///< percent
    GroundShare,  ///< percent of the input power
    Beamwidth,    ///< degrees, in azimuth
    SideLobe,     ///< of the elevation cut, dB relative to its maximum; not a number where there is none
    GainAt        ///< dBi at an elevation, towards the strongest lobe
};

struct ScanQuantity {
    ScanFigure figure = ScanFigure::Swr;
    double angleDeg = 10.0;  ///< of GainAt

    ScanQuantity(ScanFigure which, double angle = 10.0) : figure(which), angleDeg(angle) {}
};

/// Values of a figure over one dimension, or over two: `value[j * x.count + i]`; not a number where the
/// antenna cannot be worked out.
struct Scan {
    ScanAxis x;
    ScanAxis y;  ///< count 1 where only one dimension is scanned
    std::vector<double> value;
    bool complete = false;
};

Scan scanFigure(const model::Design& design, double frequencyHz, ScanQuantity quantity, const ScanAxis& x,
                const ScanAxis& y = {"", 0.0, 0.0, 1}, std::stop_token stop = {},
                const Progress& progress = {});

/// The design with a dimension set to a value in m, degrees or plain. Throws rm::Error where there is none of
/// that name.
model::Design withDimension(const model::Design& design, const std::string& name, double value);

}  // namespace rm::study
