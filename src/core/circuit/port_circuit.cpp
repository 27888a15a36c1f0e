#include "core/circuit/port_circuit.h"

#include <cmath>
#include <limits>

#include "core/em/conductor.h"
#include "core/em/span_basis.h"

namespace rm::circuit {

Complex lumpedImpedance(const model::LumpedCircuit& circuit, double frequencyHz) {
    const double omega = 2.0 * kPi * frequencyHz;
    const double reactance = omega * circuit.inductanceH.value_or(0.0);
    const Complex coil(circuit.coilQ ? reactance / *circuit.coilQ : 0.0, reactance);
    if (circuit.kind == model::LoadKind::Series) {
        Complex z = circuit.resistanceOhm.value_or(0.0);
        if (circuit.inductanceH) z += coil;
        if (circuit.capacitanceF) z += 1.0 / Complex(0.0, omega * *circuit.capacitanceF);
        return z;
    }
    Complex y = 0.0;
    if (circuit.resistanceOhm) y += 1.0 / *circuit.resistanceOhm;
    if (circuit.inductanceH) y += 1.0 / coil;
    if (circuit.capacitanceF) y += Complex(0.0, omega * *circuit.capacitanceF);
    if (y == Complex(0.0)) return std::numeric_limits<double>::infinity();
    return 1.0 / y;
}

namespace {

/// Heat in the conductors: 1/2 Re(z) int |I|^2 ds, with the local functions written in Legendre polynomials.
double conductorPower(const em::Mesh& mesh, const Eigen::VectorXcd& local, double frequencyHz) {
    double power = 0.0;
    for (const auto& span : mesh.spans) {
        const em::WireMaterial& material = mesh.wireMaterial[span.wire];
        if (!std::isfinite(material.conductivitySm)) continue;
        const double r = material.impedancePerM(frequencyHz).real();
        if (r == 0.0) continue;
        for (std::size_t m = 0; m <= static_cast<std::size_t>(span.order); ++m)
            power += r * span.halfM() / (2.0 * static_cast<double>(m) + 1.0) *
                     std::norm(em::legendreSeries(span, local, m));
    }
    return power;
}

}  // namespace

Eigen::VectorXcd portVoltages(const model::WireModel& model, const em::MatrixXc& admittance,
                              double frequencyHz) {
    const auto feeds = static_cast<Eigen::Index>(model.feeds.size());
    const auto loads = static_cast<Eigen::Index>(model.loads.size());
    Eigen::VectorXcd voltage = Eigen::VectorXcd::Zero(feeds + loads);
    for (Eigen::Index f = 0; f < feeds; ++f) voltage(f) = model.feeds[static_cast<std::size_t>(f)].voltage;

    if (loads > 0) {
        // V = -Z I at the loads and I = Y V: (1 + Z Yll) Vl = -Z Ylf Vf, each row divided by 1 + |Z| so that
        // an open circuit is no special case.
        const auto& y = admittance;
        Eigen::MatrixXcd system(loads, loads);
        Eigen::VectorXcd rhs(loads);
        for (Eigen::Index i = 0; i < loads; ++i) {
            const Complex z = lumpedImpedance(model.loads[static_cast<std::size_t>(i)].circuit, frequencyHz);
            const bool open = !std::isfinite(std::abs(z));
            const Complex weight = open ? Complex(1.0) : z / (1.0 + std::abs(z));
            const Complex own = open ? Complex(0.0) : Complex(1.0 / (1.0 + std::abs(z)));
            system.row(i) = weight * y.row(feeds + i).tail(loads);
            system(i, i) += own;
            rhs(i) = -weight * (y.row(feeds + i).head(feeds) * voltage.head(feeds))(0);
        }
        // A handful of loads: the big solver's preparations would cost more than the solution.
        const Eigen::PartialPivLU<Eigen::MatrixXcd> factors(system);
        if ((factors.matrixLU().diagonal().array() == Complex(0.0)).any())
            throw Error(
                "The loads and the antenna cancel exactly at this frequency: change one of the loads.");
        voltage.tail(loads) = factors.solve(rhs);
    }
    return voltage;
}

std::vector<Complex> feedImpedances(const model::WireModel& model, const em::MatrixXc& admittance,
                                    double frequencyHz) {
    const Eigen::VectorXcd voltage = portVoltages(model, admittance, frequencyHz);
    const Eigen::VectorXcd current = admittance * voltage;
    std::vector<Complex> impedance;
    for (std::size_t f = 0; f < model.feeds.size(); ++f)
        impedance.push_back(voltage(static_cast<Eigen::Index>(f)) / current(static_cast<Eigen::Index>(f)));
    return impedance;
}

Reading closePorts(const model::WireModel& model, const em::PortSolution& solution) {
    const auto feeds = static_cast<Eigen::Index>(model.feeds.size());
    const auto loads = static_cast<Eigen::Index>(model.loads.size());
    const Eigen::VectorXcd voltage = portVoltages(model, solution.admittance, solution.frequencyHz);
    const Eigen::VectorXcd current = solution.admittance * voltage;

    Reading reading;
    reading.frequencyHz = solution.frequencyHz;
    for (auto* list : {&reading.feedVoltage, &reading.feedCurrent, &reading.feedImpedance})
        list->reserve(model.feeds.size());
    for (Eigen::Index f = 0; f < feeds; ++f) {
        reading.feedVoltage.push_back(voltage(f));
        reading.feedCurrent.push_back(current(f));
        reading.feedImpedance.push_back(voltage(f) / current(f));
        reading.inputPowerW += 0.5 * (voltage(f) * std::conj(current(f))).real();
    }
    for (Eigen::Index l = 0; l < loads; ++l) {
        const Complex z =
            lumpedImpedance(model.loads[static_cast<std::size_t>(l)].circuit, solution.frequencyHz);
        if (std::isfinite(std::abs(z))) reading.loadPowerW += 0.5 * std::norm(current(feeds + l)) * z.real();
    }
    reading.localCurrent = solution.localCurrents * voltage;
    reading.conductorPowerW = conductorPower(*solution.mesh, reading.localCurrent, solution.frequencyHz);
    return reading;
}

}  // namespace rm::circuit
