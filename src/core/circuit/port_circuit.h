// Closes feeds and lumped loads on the port admittances of a field solution.
#pragma once

#include <vector>

#include "core/em/solver.h"

namespace rm::circuit {

/// Impedance in ohm of a lumped circuit. A series circuit with nothing in it is a short, a parallel one an
/// open circuit (infinite).
Complex lumpedImpedance(const model::LumpedCircuit& circuit, double frequencyHz);

/// The state of an antenna with its feeds driven and its loads in place. Phasors are peak values.
struct Reading {
    double frequencyHz = 0.0;
    std::vector<Complex> feedVoltage;    ///< V
    std::vector<Complex> feedCurrent;    ///< A
    std::vector<Complex> feedImpedance;  ///< ohm, as each feed then sees it
    Eigen::VectorXcd localCurrent;       ///< A, per local function of the mesh
    double inputPowerW = 0.0;            ///< real power from all feeds
    double loadPowerW = 0.0;             ///< turned to heat in lumped loads
    double conductorPowerW = 0.0;        ///< turned to heat in the wires
};

/// Voltages (V) at all ports, feeds first, with the feeds driven and the loads in place, from the admittances
/// between the ports (siemens).
Eigen::VectorXcd portVoltages(const model::WireModel& model, const em::MatrixXc& admittance,
                              double frequencyHz);

/// Impedance of every feed in ohm, from the admittances alone.
std::vector<Complex> feedImpedances(const model::WireModel& model, const em::MatrixXc& admittance,
                                    double frequencyHz);

/// Drives the feeds of `model` with their voltages and closes its loads on `solution` (whose ports are the
/// feeds, then the loads). Costs one small linear system; the field is not solved again.
Reading closePorts(const model::WireModel& model, const em::PortSolution& solution);

}  // namespace rm::circuit
