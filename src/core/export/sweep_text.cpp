#include "core/export/sweep_text.h"

#include <fmt/format.h>

#include <cmath>

#include "core/project/touchstone.h"

namespace rm::io {

namespace {

Complex impedanceAt(const study::SweepPoint& p, study::Plane plane) {
    return plane == study::Plane::Radio ? p.radioOhm : p.antennaOhm;
}

/// A field of a table: what has no number, like the SWR of total reflection, stays empty.
std::string field(double value, int decimals) {
    return std::isfinite(value) ? fmt::format("{:.{}f}", value, decimals) : std::string();
}

}  // namespace

std::string sweepCsv(const model::Expansion& design, const study::Sweep& sweep, study::Plane plane) {
    std::string text = "frequency_MHz,R_ohm,X_ohm,SWR,return_loss_dB,feed_path_loss_dB\n";
    for (const auto& p : sweep.points) {
        const Complex z = impedanceAt(p, plane);
        const auto joints = study::feedPathJoints(design, p.antennaOhm, p.frequencyHz, p.harnessLossDb);
        text += fmt::format("{:.6f},{},{},{},{},{}\n", p.frequencyHz / 1e6, field(z.real(), 4),
                            field(z.imag(), 4), field(study::swr(z, sweep.referenceOhm), 4),
                            field(study::returnLossDb(z, sweep.referenceOhm), 3),
                            field(joints.back().totalLossDb, 4));
    }
    return text;
}

std::string sweepTouchstone(const std::string& designName, const study::Sweep& sweep, study::Plane plane) {
    std::vector<ImpedancePoint> points;
    for (const auto& p : sweep.points) points.push_back({p.frequencyHz, impedanceAt(p, plane)});
    return touchstoneText(points, sweep.referenceOhm,
                          fmt::format("Modelled: {}, at the {}", designName,
                                      plane == study::Plane::Radio ? "radio" : "antenna"));
}

}  // namespace rm::io
