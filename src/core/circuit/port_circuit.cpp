#include "core/circuit/port_circuit.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/circuit/chain.h"
#include "core/em/conductor.h"
#include "core/em/span_basis.h"
#include "core/linear.h"
#include "core/words/words.h"

namespace rm::circuit {

namespace {

/// Between the points of a table by straight lines in its real and imaginary part over the logarithm of the
/// frequency; beyond its ends as at them.
Complex tabulated(const std::vector<model::ImpedancePoint>& table, double frequencyHz) {
    const auto above = std::upper_bound(
        table.begin(), table.end(), frequencyHz,
        [](double hz, const model::ImpedancePoint& point) { return hz < point.frequencyHz; });
    if (above == table.begin()) return table.front().ohm;
    if (above == table.end()) return table.back().ohm;
    const auto& low = *(above - 1);
    const double span = std::log(above->frequencyHz / low.frequencyHz);
    const double share = span > 0.0 ? std::log(frequencyHz / low.frequencyHz) / span : 0.0;
    return low.ohm + share * (above->ohm - low.ohm);
}

/// j w mu0 mu h N^2/(2 pi) ln(D/d): the flux of a winding through a ring of rectangular section.
Complex ringImpedance(const model::FerriteRing& ring, double frequencyHz) {
    const Complex mu = 1.0 + (ring.permeability - 1.0) / Complex(1.0, frequencyHz / ring.relaxationHz);
    return Complex(0.0, frequencyHz * kMu0) * mu * ring.heightM * ring.turns * ring.turns *
           std::log(ring.outerM / ring.innerM);
}

}  // namespace

Complex lumpedImpedance(const model::LumpedCircuit& circuit, double frequencyHz) {
    if (!circuit.table.empty()) return tabulated(circuit.table, frequencyHz);
    const double omega = 2.0 * kPi * frequencyHz;
    const double reactance = omega * circuit.inductanceH.value_or(0.0);
    const Complex coil(circuit.coilQ ? reactance / *circuit.coilQ : 0.0, reactance);
    if (circuit.kind == model::LoadKind::Series && !circuit.ring) {
        Complex z = circuit.resistanceOhm.value_or(0.0);
        if (circuit.inductanceH) z += coil;
        if (circuit.capacitanceF) z += 1.0 / Complex(0.0, omega * *circuit.capacitanceF);
        return z;
    }
    Complex y = 0.0;
    if (circuit.resistanceOhm) y += 1.0 / *circuit.resistanceOhm;
    if (circuit.inductanceH) y += 1.0 / coil;
    if (circuit.ring) y += 1.0 / ringImpedance(*circuit.ring, frequencyHz);
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
    using Right = Eigen::Matrix<Complex, Eigen::Dynamic, Eigen::Dynamic, Eigen::ColMajor, Most, Most>;

  public:
    Connections(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz)
        : model_(model),
          y_(admittance),
          frequencyHz_(frequencyHz),
          feeds_(static_cast<Index>(model.feeds.size())),
          open_(y_.rows() - feeds_),
          lines_(static_cast<Index>(model.lines.size())) {}

    FeedNetwork solve() {
        FeedNetwork out;
        const Index ports = y_.rows();
        out.voltage = em::MatrixXc::Zero(ports, feeds_);
        out.voltage.topRows(feeds_).setIdentity();
        if (lines_ > 0) out.lineCurrent = em::MatrixXc::Zero(ports, feeds_);
        const Index size = open_ + 2 * lines_;
        if (size > 0) {
            system_ = System::Zero(size, size);
            rhs_ = Right::Zero(size, feeds_);
            for (Index i = 0; i < open_; ++i) kirchhoff(i);
            for (Index l = 0; l < lines_; ++l) line(l);
            const Right x = solved();
            out.voltage.bottomRows(open_) = x.topRows(open_);
            for (Index l = 0; l < lines_; ++l) {
                const auto& line = model_.lines[static_cast<std::size_t>(l)];
                for (const auto& [port, at] : {std::pair{line.fromPort, 0}, {line.toPort, 1}})
                    out.lineCurrent.row(static_cast<Index>(port)) +=
                        x.row(open_ + 2 * l + at) / line.line.impedanceOhm;
            }
        }
        out.admittance.noalias() = y_.topRows(feeds_).lazyProduct(out.voltage);
        if (lines_ > 0) out.admittance += out.lineCurrent.topRows(feeds_);
        return out;
    }

  private:
    Right solved() const {
        if constexpr (Most == Eigen::Dynamic) {
            if (auto x = solveSquare(system_, rhs_)) return std::move(*x);
        } else {
            // A handful of equations, column by column: the preparations of anything better would cost more.
            const Eigen::PartialPivLU<System> factors(system_);
            if ((factors.matrixLU().diagonal().array() != Complex(0.0)).all()) {
                Right x(system_.rows(), feeds_);
                for (Index f = 0; f < feeds_; ++f) x.col(f) = factors.solve(rhs_.col(f));
                return x;
            }
        }
        throw Error(
            say("The loads, the lines and the antenna cancel exactly at this frequency: change one of the "
                "loads."));
    }

    /// At an undriven port the wires, the load and the lines take no current together: V + Z (Y V + lines) =
    /// 0, divided by 1 + |Z| so that an open circuit (a tap) is no special case.
    void kirchhoff(Index i) {
        const auto load = static_cast<std::size_t>(i);
        const Complex z = load < model_.loads.size()
                              ? lumpedImpedance(model_.loads[load].circuit, frequencyHz_)
                              : Complex(std::numeric_limits<double>::infinity());
        const bool open = !std::isfinite(std::abs(z));
        const Complex weight = open ? Complex(1.0) : z / (1.0 + std::abs(z));
        const Index port = feeds_ + i;
        system_.row(i).head(open_) = weight * y_.row(port).tail(open_);
        system_(i, i) += open ? Complex(0.0) : Complex(1.0 / (1.0 + std::abs(z)));
        rhs_.row(i) = -weight * y_.row(port).head(feeds_);
        for (Index l = 0; l < lines_; ++l) {
            const auto& line = model_.lines[static_cast<std::size_t>(l)];
            const Complex share = weight / line.line.impedanceOhm;
            if (static_cast<Index>(line.fromPort) == port) system_(i, open_ + 2 * l) += share;
            if (static_cast<Index>(line.toPort) == port) system_(i, open_ + 2 * l + 1) += share;
        }
    }

    /// V1 = cosh V2 - sinh J2 and J1 = sinh V2 - cosh J2 with J = Z0 I into the line at either end, V2 and J2
    /// turned round where the line is crossed; both divided by the growth of the hyperbolic functions.
    void line(Index l) {
        const auto& line = model_.lines[static_cast<std::size_t>(l)];
        const Complex through = circuit::through(line.line, frequencyHz_, line.lengthM);
        const double scale = std::exp(-through.real());
        const double turn = line.crossed ? -1.0 : 1.0;
        const Complex cosh = turn * scale * std::cosh(through);
        const Complex sinh = turn * scale * std::sinh(through);
        const Index row = open_ + 2 * l;
        const auto voltage = [&](Index equation, std::size_t port, Complex factor) {
            const Index p = static_cast<Index>(port);
            if (p < feeds_)
                rhs_(equation, p) -= factor;
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
    Right rhs_;
};

/// Drives the feeds on what they see of each other.
class FeedDriver {
  public:
    FeedDriver(const model::WireModel& model, const em::MatrixXc& y, double frequencyHz)
        : model_(model), y_(y), omega_(2.0 * kPi * frequencyHz), hz_(frequencyHz) {}

    Drive run() {
        const auto n = static_cast<Index>(model_.feeds.size());
        Drive drive;
        drive.voltage = Eigen::VectorXcd(n);
        bool given = model_.harness.empty();
        for (Index f = 0; f < n; ++f) {
            const auto& feed = feedAt(f);
            given = given && feed.driven;
            drive.voltage(f) = feed.voltage;
            if (feed.delayM != 0.0)
                drive.voltage(f) *= std::polar(1.0, -omega_ / kSpeedOfLight * feed.delayM);
        }
        if (!given) drive.voltage = unknownVoltages(drive.voltage);
        drive.current.noalias() = y_.lazyProduct(drive.voltage);
        drive.impedance.reserve(static_cast<std::size_t>(n));
        for (Index f = 0; f < n; ++f) {
            const auto& feed = feedAt(f);
            const double power = 0.5 * (drive.voltage(f) * std::conj(drive.current(f))).real();
            drive.impedance.push_back(feed.driven ? drive.voltage(f) / drive.current(f) : Complex(0.0));
            if (feed.driven)
                drive.inputPowerW += power;
            else
                drive.terminationPowerW -= power;
        }
        antennaEnd(drive);
        return drive;
    }

  private:
    const model::PlainFeed& feedAt(Index f) const { return model_.feeds[static_cast<std::size_t>(f)]; }

    /// V at the common end = cosh V + Z0 sinh I of the feed, and I there = sinh/Z0 V + cosh I.
    struct Chain {
        Complex a, b, c;
    };
    Chain chainOf(const model::PlainArm& arm) const {
        const Complex through =
            circuit::through(arm.line, hz_, arm.lengthM) + Complex(0.0, omega_ / kSpeedOfLight * arm.delayM);
        const double turn = arm.crossed ? -1.0 : 1.0;
        return {turn * std::cosh(through), turn * arm.line.impedanceOhm * std::sinh(through),
                turn * std::sinh(through) / arm.line.impedanceOhm};
    }

    /// One equation per feed: its voltage is given, or the common point's is, or what lies across it says.
    Eigen::VectorXcd unknownVoltages(const Eigen::VectorXcd& given) const {
        const Index n = y_.rows();
        em::MatrixXc system = em::MatrixXc::Zero(n, n);
        Eigen::VectorXcd rhs = Eigen::VectorXcd::Zero(n);
        for (Index f = 0; f < n; ++f) {
            const auto& feed = feedAt(f);
            if (!feed.driven) {
                const bool open = !feed.idleOhm;
                const double scale = open ? 1.0 : *feed.idleOhm / (1.0 + *feed.idleOhm);
                system.row(f) = scale * y_.row(f);
                if (!open) system(f, f) += 1.0 / (1.0 + *feed.idleOhm);
            } else if (model_.harness.empty()) {
                system(f, f) = 1.0;
                rhs(f) = given(f);
            } else {
                const Chain chain = chainOf(model_.harness[static_cast<std::size_t>(f)]);
                system.row(f) = chain.b * y_.row(f);
                system(f, f) += chain.a;
                rhs(f) = 1.0;
            }
        }
        return solveRegular(system, rhs);
    }

    void antennaEnd(Drive& drive) const {
        if (model_.harness.empty()) {
            for (std::size_t f = 0; f < model_.feeds.size(); ++f)
                if (model_.feeds[f].driven) {
                    drive.antennaOhm = drive.impedance[f];
                    return;
                }
            return;
        }
        Complex current = 0.0;
        for (Index f = 0; f < y_.rows(); ++f) {
            if (!feedAt(f).driven) continue;
            const Chain chain = chainOf(model_.harness[static_cast<std::size_t>(f)]);
            current += chain.c * drive.voltage(f) + chain.a * drive.current(f);
        }
        drive.antennaOhm = 1.0 / current;
        drive.harnessPowerW = 0.5 * current.real() - drive.inputPowerW;
    }

    const model::WireModel& model_;
    const em::MatrixXc& y_;
    double omega_;
    double hz_;
};

}  // namespace

FeedNetwork reduceToFeeds(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz) {
    const std::size_t feeds = model.feeds.size();
    const auto unknowns = static_cast<std::size_t>(admittance.rows()) - feeds + 2 * model.lines.size();
    if (unknowns <= 4 && feeds <= 4) return Connections<4>(model, admittance, frequencyHz).solve();
    return Connections<Eigen::Dynamic>(model, admittance, frequencyHz).solve();
}

Drive driveFeeds(const model::WireModel& model, const em::MatrixXc& y, double frequencyHz) {
    return FeedDriver(model, y, frequencyHz).run();
}

Drive driveFeeds(const model::WireModel& model, const em::MatrixXc& admittance, double frequencyHz,
                 FeedNetwork& network) {
    network = reduceToFeeds(model, admittance, frequencyHz);
    return driveFeeds(model, network.admittance, frequencyHz);
}

Reading closePorts(const model::WireModel& model, const em::PortSolution& solution) {
    const auto feeds = static_cast<Index>(model.feeds.size());
    FeedNetwork network;
    Drive drive = driveFeeds(model, solution.admittance, solution.frequencyHz, network);
    const Eigen::VectorXcd voltage = network.voltage.lazyProduct(drive.voltage);
    const bool lines = !model.lines.empty();
    Eigen::VectorXcd lineCurrent;
    if (lines) lineCurrent = network.lineCurrent * drive.voltage;

    Reading reading;
    reading.frequencyHz = solution.frequencyHz;
    reading.feedVoltage.assign(drive.voltage.begin(), drive.voltage.end());
    reading.feedCurrent.assign(drive.current.begin(), drive.current.end());
    reading.feedImpedance = std::move(drive.impedance);
    reading.antennaOhm = drive.antennaOhm;
    reading.inputPowerW = drive.inputPowerW;
    reading.harnessPowerW = drive.harnessPowerW;
    reading.loadPowerW = drive.terminationPowerW;
    reading.eachLoadW.reserve(model.loads.size());
    for (std::size_t l = 0; l < model.loads.size(); ++l) {
        const Complex z = lumpedImpedance(model.loads[l].circuit, solution.frequencyHz);
        const Index port = feeds + static_cast<Index>(l);
        Complex current = lines ? lineCurrent(port) : Complex(0.0);
        for (Index p = 0; p < voltage.size(); ++p) current += solution.admittance(port, p) * voltage(p);
        const double lost = std::isfinite(std::abs(z)) ? 0.5 * std::norm(current) * z.real() : 0.0;
        reading.eachLoadW.push_back(lost);
        reading.loadPowerW += lost;
    }
    // What goes into the lines at all their ends together stays there.
    if (lines) reading.linePowerW = 0.5 * (lineCurrent.conjugate().cwiseProduct(voltage)).sum().real();
    // Few ports: a sum of columns, without the preparations of a product.
    reading.localCurrent = solution.localCurrents.col(0) * voltage(0);
    for (Index p = 1; p < voltage.size(); ++p)
        reading.localCurrent += solution.localCurrents.col(p) * voltage(p);
    reading.conductorPowerW = conductorPower(*solution.mesh, reading.localCurrent, solution.frequencyHz);
    return reading;
}

}  // namespace rm::circuit
