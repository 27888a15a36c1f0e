// Closes feeds, lumped loads and lines on the port admittances of a field solution.
#pragma once

#include <vector>

#include "core/em/solver.h"

namespace rm::circuit {

/// Impedance in ohm of a lumped circuit. A series circuit with nothing in it is a short, a parallel one an
/// open circuit (infinite).
Complex lumpedImpedance(const model::LumpedCircuit& circuit, double frequencyHz);

/// The state of an antenna with its feeds driven and its loads and lines in place. Phasors are peak values.
struct Reading {
    double frequencyHz = 0.0;
    std::vector<Complex> feedVoltage;    ///< V
    std::vector<Complex> feedCurrent;    ///< A, into the wires and the lines that end at the feed
    std::vector<Complex> feedImpedance;  ///< ohm, as each feed then sees it
    Eigen::VectorXcd localCurrent;       ///< A, per local function of the mesh
    double inputPowerW = 0.0;            ///< real power from all feeds
    double loadPowerW = 0.0;             ///< turned to heat in lumped loads
    double linePowerW = 0.0;             ///< turned to heat in lines between points of the antenna
    double conductorPowerW = 0.0;        ///< turned to heat in the wires

    double lostPowerW() const { return loadPowerW + linePowerW + conductorPowerW; }
};

/// Voltages and currents at all ports (WireModel::places). `current` flows into the wires, `lineCurrent` into
/// the lines that end there; both in A, voltages in V.
struct PortState {
    Eigen::VectorXcd voltage;
    Eigen::VectorXcd current;
    Eigen::VectorXcd lineCurrent;
};

/// Drives the feeds and closes loads and lines on the admittances between the ports (siemens). One small
/// linear system in the voltages of the other ports and the currents of the lines, in chain form, so that no
/// length of line is a special case. Source: Kirchhoff's laws, telegrapher's equations with a real Z0.
PortState closeCircuit(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz);

/// Impedance of every feed in ohm, from the admittances alone.
std::vector<Complex> feedImpedances(const model::WireModel& model, const em::MatrixXc& admittance,
                                    double frequencyHz);

/// Drives the feeds of `model` with their voltages and closes its loads and lines on `solution`. The field is
/// not solved again.
Reading closePorts(const model::WireModel& model, const em::PortSolution& solution);

}  // namespace rm::circuit
