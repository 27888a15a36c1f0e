// Arrays: drive sets by pattern, what each of them does, and how the feeds see each other.
#pragma once

#include <memory>
#include <stop_token>
#include <string>
#include <vector>

#include "core/study/lobes.h"

namespace rm::study {

enum class DrivePattern { AllInPhase, UpperHalfReversed, LeftHalfReversed, EachPair, SingleOnes, Steered };

/// Drive sets made by a pattern from the feeds of a design, by where they are. Steered: one set with equal
/// amplitudes and the phases that add up towards a compass bearing at the horizon. Empty where the design has
/// fewer than two feeds, or the pattern has no meaning for them (no upper half). Source: array factor,
/// Balanis, Antenna Theory (2016), chapter 6.
std::vector<model::DriveSet> driveSetsBy(DrivePattern pattern, const model::Expansion& design,
                                         double frequencyHz, double bearingDeg = 0.0);

/// A drive set at work.
struct DriveRow {
    std::string name;
    int index = -1;       ///< among the drive sets of the design; -1: every feed as it says itself
    std::string problem;  ///< why there are no figures; empty where there are
    std::shared_ptr<const model::Expansion> expansion;
    std::shared_ptr<const Analysis> analysis;  ///< cut at the bearing and elevation asked for
    CutFigures elevation;
    bool known() const { return analysis != nullptr; }
};

/// The feeds as they say themselves, then every drive set. All cuts lie at one azimuth and one elevation, so
/// that like lies on like. One field solution serves them all.
std::vector<DriveRow> studyDrives(const model::Design& design, double frequencyHz, double cutAzimuthDeg,
                                  double cutElevationDeg, FieldStore* fields = nullptr,
                                  std::stop_token stop = {});

/// How feeds see each other.
struct Coupling {
    em::MatrixXc impedanceOhm;   ///< open-circuit impedance matrix, feeds x feeds
    Eigen::MatrixXd couplingDb;  ///< 20 log10 of the scattering parameters at the reference impedance
};

/// From the admittances between the feeds in siemens. Z = 1/Y, S = (Z - R)/(Z + R). Source: Pozar, Microwave
/// Engineering (2011), chapter 4.
Coupling couplingOf(const em::MatrixXc& feedAdmittance, double referenceOhm);

}  // namespace rm::study
