// Closes feeds, lumped loads and lines on the port admittances of a field solution.
#pragma once

#include <vector>

#include "core/em/solver.h"

namespace rm::circuit {

/// Impedance in ohm of a lumped circuit, of a winding on a ferrite ring, or from a table. A series circuit
/// with nothing in it is a short, a parallel one an open circuit (infinite).
Complex lumpedImpedance(const model::LumpedCircuit& circuit, double frequencyHz);

/// The state of an antenna with its feeds driven and its loads and lines in place. Phasors are peak values.
struct Reading {
    double frequencyHz = 0.0;
    std::vector<Complex> feedVoltage;    ///< V
    std::vector<Complex> feedCurrent;    ///< A, into the wires and the lines that end at the feed
    std::vector<Complex> feedImpedance;  ///< ohm, as each feed then sees it; 0 at an idle one
    Complex antennaOhm;                  ///< where the feed path begins: Drive::antennaOhm
    Eigen::VectorXcd localCurrent;       ///< A, per local function of the mesh
    double inputPowerW = 0.0;            ///< real power from all feeds into the antenna
    double harnessPowerW = 0.0;          ///< turned to heat in the cables of the harness
    double loadPowerW = 0.0;             ///< turned to heat in lumped loads and terminated feeds
    std::vector<double> eachLoadW;       ///< of that, in each lumped load, in their order
    double linePowerW = 0.0;             ///< turned to heat in lines between points of the antenna
    double conductorPowerW = 0.0;        ///< turned to heat in the wires

    double lostPowerW() const { return loadPowerW + linePowerW + conductorPowerW; }
};

/// What the feeds see of each other with loads and lines in place: all that a choice of driven feeds, their
/// voltages and a harness need.
struct FeedNetwork {
    em::MatrixXc admittance;   ///< siemens, feeds x feeds, the lines that end at feeds included
    em::MatrixXc voltage;      ///< at every port (WireModel::places) per volt at each feed
    em::MatrixXc lineCurrent;  ///< into the lines at every port, A per volt at each feed; empty without
};

/// Closes loads and lines on the admittances between the ports (siemens). One small linear system in the
/// voltages of the other ports and the currents of the lines, in chain form, so that no length of line is a
/// special case. Source: Kirchhoff's laws, telegrapher's equations with a real Z0.
FeedNetwork reduceToFeeds(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz);

/// The feeds as they are driven.
struct Drive {
    Eigen::VectorXcd voltage;        ///< V
    Eigen::VectorXcd current;        ///< A, into the antenna
    std::vector<Complex> impedance;  ///< ohm; 0 at an idle feed
    Complex antennaOhm;              ///< at the common point of the harness; else of the first driven feed
    double inputPowerW = 0.0;        ///< into the antenna
    double harnessPowerW = 0.0;      ///< lost on the way there
    double terminationPowerW = 0.0;  ///< into the terminations of idle feeds, taken from the antenna
};

/// Drives the feeds of `model` as they say: with their voltages and delays or, through a harness, from 1 V at
/// its common point; idle ones open, shorted or terminated. Source: Kirchhoff's laws; chain matrix of a line.
Drive driveFeeds(const model::WireModel& model, const em::MatrixXc& feedAdmittance, double frequencyHz);

/// The same from the admittances between all ports.
Drive driveFeeds(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz,
                 FeedNetwork& network);

/// Drives the feeds of `model` with their voltages and closes its loads and lines on `solution`. The field is
/// not solved again.
Reading closePorts(const model::WireModel& model, const em::PortSolution& solution);

}  // namespace rm::circuit
