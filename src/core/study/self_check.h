// How far a solution may be off: what changes on a finer mesh, and how fine a mesh has to be for it not to
// matter.
#pragma once

#include <optional>
#include <stop_token>
#include <string>

#include "core/model/expand.h"
#include "core/study/field_store.h"

namespace rm::study {

/// From here on a figure is worth a finer mesh, and where that does not help it carries its doubt.
inline constexpr double kSettledImpedance = 0.005;  ///< of its size
inline constexpr double kSettledGainDb = 0.043;     ///< 1 %
/// More unknowns than these are not checked: it would take longer than the work itself is worth.
inline constexpr std::size_t kMostChecked = 1500;

/// What the figures of an antenna may be off by on the mesh that suits it. Calibrated with a thousand random
/// antennas against meshes many times finer (the program reedmast-trials): the true error is below in 95 of
/// 100.
struct Doubt {
    int fineness = 0;          ///< of the mesh that suits it (em::meshOptions)
    double impedance = 0.0;    ///< of the size of each feed's impedance
    double gainDb = 0.0;       ///< in any direction within 10 dB of the strongest
    std::size_t unknowns = 0;  ///< of the mesh that it was checked by
    std::string reason;        ///< what is to blame where it is not settled; empty where it is

    bool settled() const { return impedance <= kSettledImpedance && gainDb <= kSettledGainDb; }
    /// For people to read.
    std::string sentence() const;
    double ofOhm(Complex impedanceOhm) const { return impedance * std::abs(impedanceOhm); }
};

/// Solves the antenna on finer meshes and compares. The level that is answered with is 0, 1 or 2; that of
/// `model` counts for hysteresis only: what was refined stays so until it is clearly not needed. Nothing
/// where the antenna is too large or thin-wire theory refuses it. `fields` keeps the solutions. Throws
/// rm::Stopped where it is asked to stop.
std::optional<Doubt> selfCheck(const model::WireModel& model, double frequencyHz,
                               FieldStore* fields = nullptr, const std::stop_token& stop = {});

/// Gives a worked out design the mesh that suits it at this frequency, and answers with what is left of the
/// doubt.
std::optional<Doubt> settle(model::Expansion& expansion, double frequencyHz,
                            const std::stop_token& stop = {});

}  // namespace rm::study
