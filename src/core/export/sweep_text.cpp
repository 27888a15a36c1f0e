#include "core/export/sweep_text.h"

#include <fmt/format.h>

#include "core/project/touchstone.h"

namespace rm::io {

namespace {

Complex impedanceAt(const study::SweepPoint& p, study::Plane plane) {
    return plane == study::Plane::Radio ? p.radioOhm : p.antennaOhm;
}

}  // namespace

std::string sweepCsv(const model::Expansion& design, const study::Sweep& sweep, study::Plane plane) {
    std::string text = "frequency_MHz,R_ohm,X_ohm,SWR,return_loss_dB,feed_path_loss_dB\n";
    for (const auto& p : sweep.points) {
        const Complex z = impedanceAt(p, plane);
        const auto joints = study::feedPathJoints(design, p.antennaOhm, p.frequencyHz, p.harnessLossDb);
        text += fmt::format("{:.6f},{:.4f},{:.4f},{:.4f},{:.3f},{:.4f}\n", p.frequencyHz / 1e6, z.real(),
                            z.imag(), study::swr(z, sweep.referenceOhm),
                            study::returnLossDb(z, sweep.referenceOhm), joints.back().totalLossDb);
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
