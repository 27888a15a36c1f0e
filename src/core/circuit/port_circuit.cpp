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

namespace {

using Index = Eigen::Index;

/// The equations of everything that is connected to the ports. Unknown: the voltages of the ports that are
/// not driven, then for every line the currents into its two ends times its impedance. Systems of up to
/// `Most` unknowns stay off the heap.
template <int Most>
class Connections {
    using System = Eigen::Matrix<Complex, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, Most, Most>;
    using Column = Eigen::Matrix<Complex, Eigen::Dynamic, 1, Eigen::ColMajor, Most, 1>;

  public:
    Connections(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz)
        : model_(model),
          y_(admittance),
          frequencyHz_(frequencyHz),
          feeds_(static_cast<Index>(model.feeds.size())),
          open_(y_.rows() - feeds_),
          lines_(static_cast<Index>(model.lines.size())) {}

    PortState solve() {
        PortState state;
        state.voltage = Eigen::VectorXcd::Zero(y_.rows());
        state.lineCurrent = Eigen::VectorXcd::Zero(y_.rows());
        for (Index f = 0; f < feeds_; ++f)
            state.voltage(f) = model_.feeds[static_cast<std::size_t>(f)].voltage;
        const Index size = open_ + 2 * lines_;
        if (size > 0) {
            system_ = System::Zero(size, size);
            rhs_ = Column::Zero(size);
            for (Index i = 0; i < open_; ++i) kirchhoff(i, state.voltage);
            for (Index l = 0; l < lines_; ++l) line(l, state.voltage);
            // A handful of equations: the big solver's preparations would cost more than the solution.
            const Eigen::PartialPivLU<System> factors(system_);
            if ((factors.matrixLU().diagonal().array() == Complex(0.0)).any())
                throw Error(
                    "The loads, the lines and the antenna cancel exactly at this frequency: change one of "
                    "the "
                    "loads.");
            const Column x = factors.solve(rhs_);
            state.voltage.tail(open_) = x.head(open_);
            for (Index l = 0; l < lines_; ++l) {
                const auto& line = model_.lines[static_cast<std::size_t>(l)];
                for (const auto& [port, at] : {std::pair{line.fromPort, 0}, {line.toPort, 1}})
                    state.lineCurrent(static_cast<Index>(port)) +=
                        x(open_ + 2 * l + at) / line.line.impedanceOhm;
            }
        }
        state.current = y_ * state.voltage;
        return state;
    }

  private:
    /// At an undriven port the wires, the load and the lines take no current together: V + Z (Y V + lines) =
    /// 0, divided by 1 + |Z| so that an open circuit (a tap) is no special case.
    void kirchhoff(Index i, const Eigen::VectorXcd& driven) {
        const auto load = static_cast<std::size_t>(i);
        const Complex z = load < model_.loads.size()
                              ? lumpedImpedance(model_.loads[load].circuit, frequencyHz_)
                              : Complex(std::numeric_limits<double>::infinity());
        const bool open = !std::isfinite(std::abs(z));
        const Complex weight = open ? Complex(1.0) : z / (1.0 + std::abs(z));
        const Index port = feeds_ + i;
        system_.row(i).head(open_) = weight * y_.row(port).tail(open_);
        system_(i, i) += open ? Complex(0.0) : Complex(1.0 / (1.0 + std::abs(z)));
        rhs_(i) = -weight * (y_.row(port).head(feeds_) * driven.head(feeds_))(0);
        for (Index l = 0; l < lines_; ++l) {
            const auto& line = model_.lines[static_cast<std::size_t>(l)];
            const Complex share = weight / line.line.impedanceOhm;
            if (static_cast<Index>(line.fromPort) == port) system_(i, open_ + 2 * l) += share;
            if (static_cast<Index>(line.toPort) == port) system_(i, open_ + 2 * l + 1) += share;
        }
    }

    /// V1 = cosh V2 - sinh J2 and J1 = sinh V2 - cosh J2 with J = Z0 I into the line at either end, V2 and J2
    /// turned round where the line is crossed; both divided by the growth of the hyperbolic functions.
    void line(Index l, const Eigen::VectorXcd& driven) {
        const auto& line = model_.lines[static_cast<std::size_t>(l)];
        const Complex through = line.line.propagation(frequencyHz_) * line.lengthM;
        const double scale = std::exp(-through.real());
        const double turn = line.crossed ? -1.0 : 1.0;
        const Complex cosh = turn * scale * std::cosh(through);
        const Complex sinh = turn * scale * std::sinh(through);
        const Index row = open_ + 2 * l;
        const auto voltage = [&](Index equation, std::size_t port, Complex factor) {
            const Index p = static_cast<Index>(port);
            if (p < feeds_)
                rhs_(equation) -= factor * driven(p);
            else
                system_(equation, p - feeds_) += factor;
        };
        voltage(row, line.fromPort, scale);
        voltage(row, line.toPort, -cosh);
        system_(row, row + 1) += sinh;
        system_(row + 1, row) += scale;
        voltage(row + 1, line.toPort, -sinh);
        system_(row + 1, row + 1) += cosh;
    }

    const model::WireModel& model_;
    const em::MatrixXc& y_;
    double frequencyHz_;
    Index feeds_;
    Index open_;
    Index lines_;
    System system_;
    Column rhs_;
};

}  // namespace

PortState closeCircuit(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz) {
    const auto unknowns =
        static_cast<std::size_t>(admittance.rows()) - model.feeds.size() + 2 * model.lines.size();
    if (unknowns <= 4) return Connections<4>(model, admittance, frequencyHz).solve();
    return Connections<Eigen::Dynamic>(model, admittance, frequencyHz).solve();
}

std::vector<Complex> feedImpedances(const model::WireModel& model, const em::MatrixXc& admittance,
                                    double frequencyHz) {
    const PortState state = closeCircuit(model, admittance, frequencyHz);
    std::vector<Complex> impedance;
    for (Index f = 0; f < static_cast<Index>(model.feeds.size()); ++f)
        impedance.push_back(state.voltage(f) / (state.current(f) + state.lineCurrent(f)));
    return impedance;
}

Reading closePorts(const model::WireModel& model, const em::PortSolution& solution) {
    const auto feeds = static_cast<Index>(model.feeds.size());
    const PortState state = closeCircuit(model, solution.admittance, solution.frequencyHz);

    Reading reading;
    reading.frequencyHz = solution.frequencyHz;
    for (auto* list : {&reading.feedVoltage, &reading.feedCurrent, &reading.feedImpedance})
        list->reserve(model.feeds.size());
    for (Index f = 0; f < feeds; ++f) {
        const Complex voltage = state.voltage(f);
        const Complex current = state.current(f) + state.lineCurrent(f);
        reading.feedVoltage.push_back(voltage);
        reading.feedCurrent.push_back(current);
        reading.feedImpedance.push_back(voltage / current);
        reading.inputPowerW += 0.5 * (voltage * std::conj(current)).real();
    }
    for (std::size_t l = 0; l < model.loads.size(); ++l) {
        const Complex z = lumpedImpedance(model.loads[l].circuit, solution.frequencyHz);
        const Index port = feeds + static_cast<Index>(l);
        const Complex current = state.current(port) + state.lineCurrent(port);
        if (std::isfinite(std::abs(z))) reading.loadPowerW += 0.5 * std::norm(current) * z.real();
    }
    // What goes into the lines at all their ends together stays there.
    reading.linePowerW = 0.5 * (state.lineCurrent.conjugate().cwiseProduct(state.voltage)).sum().real();
    reading.localCurrent = solution.localCurrents * state.voltage;
    reading.conductorPowerW = conductorPower(*solution.mesh, reading.localCurrent, solution.frequencyHz);
    return reading;
}

}  // namespace rm::circuit
