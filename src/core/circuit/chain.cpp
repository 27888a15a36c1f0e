#include "core/circuit/chain.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

namespace rm::circuit {

namespace {

constexpr Complex kJ(0.0, 1.0);
constexpr double kNeperInDb = 8.685889638065036;
constexpr double kDeadNeper = 30.0;  ///< loss of a line from whose far end nothing comes back

double omegaOf(double frequencyHz) {
    return 2.0 * kPi * frequencyHz;
}

/// cosh and sinh of gamma l.
TwoPort lineTwoPort(const LineKind& line, double lengthM, double frequencyHz) {
    const Complex gl = through(line, frequencyHz, lengthM);
    const Complex c = std::cosh(gl);
    const Complex s = std::sinh(gl);
    return {c, line.impedanceOhm * s, s / line.impedanceOhm, c};
}

struct ToTwoPort {
    double frequencyHz;

    TwoPort operator()(const Transformer& t) const {
        const double w = omegaOf(frequencyHz);
        TwoPort chain;
        if (t.compensationF) chain = chain.then(shuntElement(kJ * w * *t.compensationF));
        if (t.leakageH) chain = chain.then(seriesElement(kJ * w * *t.leakageH));
        if (t.magnetisingH) chain = chain.then(shuntElement(1.0 / (kJ * w * *t.magnetisingH)));
        if (t.coreLossOhm) chain = chain.then(shuntElement(1.0 / *t.coreLossOhm));
        const double n = std::sqrt(t.impedanceRatio);
        return chain.then({1.0 / n, 0.0, 0.0, n});
    }
    TwoPort operator()(const Cable& cable) const {
        return lineTwoPort(cable.line, cable.lengthM, frequencyHz);
    }
    TwoPort operator()(const Stub& stub) const {
        const Complex t = std::tanh(through(stub.line, frequencyHz, stub.lengthM));
        return shuntElement((stub.shorted ? 1.0 / t : t) / stub.line.impedanceOhm);
    }
    TwoPort operator()(const Element& e) const {
        const Complex z = e.impedance(frequencyHz);
        return e.shunt ? shuntElement(1.0 / z) : seriesElement(z);
    }
    TwoPort operator()(const Choke& choke) const {
        const double neper = std::min(choke.lossDb / kNeperInDb, kDeadNeper);
        return {std::cosh(neper), 50.0 * std::sinh(neper), std::sinh(neper) / 50.0, std::cosh(neper)};
    }
    TwoPort operator()(const Network& network) const {
        TwoPort chain;
        for (auto e = network.elements.rbegin(); e != network.elements.rend(); ++e)
            chain = chain.then((*this)(*e));
        return chain;
    }
};

/// A block taken apart into simple steps from the antenna to the radio, each a two-port that grows from
/// nothing (0) to the whole step (1).
using Step = std::function<TwoPort(double)>;

struct ToSteps {
    double frequencyHz;

    static Step across(Complex admittance) {
        return [admittance](double t) { return shuntElement(t * admittance); };
    }
    static Step inSeries(Complex impedance) {
        return [impedance](double t) { return seriesElement(t * impedance); };
    }

    std::vector<Step> operator()(const Transformer& t) const {
        const double w = omegaOf(frequencyHz);
        std::vector<Step> steps{[ratio = t.impedanceRatio](double share) {
            const double n = std::pow(ratio, 0.5 * share);
            return TwoPort{1.0 / n, 0.0, 0.0, n};
        }};
        if (t.coreLossOhm) steps.push_back(across(1.0 / *t.coreLossOhm));
        if (t.magnetisingH) steps.push_back(across(1.0 / (kJ * w * *t.magnetisingH)));
        if (t.leakageH) steps.push_back(inSeries(kJ * w * *t.leakageH));
        if (t.compensationF) steps.push_back(across(kJ * w * *t.compensationF));
        return steps;
    }
    std::vector<Step> operator()(const Cable& cable) const {
        return {[cable, f = frequencyHz](double t) { return lineTwoPort(cable.line, t * cable.lengthM, f); }};
    }
    std::vector<Step> operator()(const Stub& stub) const { return {across(ToTwoPort{frequencyHz}(stub).c)}; }
    std::vector<Step> operator()(const Element& e) const {
        const Complex z = e.impedance(frequencyHz);
        return {e.shunt ? across(1.0 / z) : inSeries(z)};
    }
    std::vector<Step> operator()(const Choke& choke) const {
        return {[choke, f = frequencyHz](double t) { return ToTwoPort{f}(Choke{t * choke.lossDb}); }};
    }
    std::vector<Step> operator()(const Network& network) const {
        std::vector<Step> steps;
        for (const auto& e : network.elements)
            for (const auto& step : (*this)(e)) steps.push_back(step);
        return steps;
    }
};

}  // namespace

Complex through(const LineKind& line, double frequencyHz, double lengthM) {
    const Complex gl = line.propagation(frequencyHz) * lengthM;
    return {std::min(gl.real(), kDeadNeper), gl.imag()};
}

TwoPort TwoPort::then(const TwoPort& next) const {
    return {a * next.a + b * next.c, a * next.b + b * next.d, c * next.a + d * next.c,
            c * next.b + d * next.d};
}

Complex TwoPort::impedanceInto(Complex load) const {
    const bool open = !std::isfinite(std::abs(load));
    const Complex over = open ? a : a * load + b;
    const Complex under = open ? c : c * load + d;
    if (under == Complex(0.0)) return std::numeric_limits<double>::infinity();
    return over / under;
}

double TwoPort::lossDb(Complex load) const {
    if (!std::isfinite(std::abs(load)) || load.real() <= 0.0) return 0.0;
    // For one ampere in the load.
    const Complex current = c * load + d;
    const Complex voltage = a * load + b;
    return 10.0 * std::log10((voltage * std::conj(current)).real() / load.real());
}

TwoPort seriesElement(Complex impedanceOhm) {
    return {1.0, impedanceOhm, 0.0, 1.0};
}

TwoPort shuntElement(Complex admittanceS) {
    return {1.0, 0.0, admittanceS, 1.0};
}

TwoPort twoPort(const Block& block, double frequencyHz) {
    return std::visit(ToTwoPort{frequencyHz}, block);
}

std::vector<Joint> walkChain(const std::vector<Block>& blocks, Complex antennaOhm, double frequencyHz) {
    std::vector<Joint> joints{{antennaOhm, 0.0, 0.0}};
    for (const auto& block : blocks) {
        const TwoPort port = twoPort(block, frequencyHz);
        const Joint& before = joints.back();
        const double loss = port.lossDb(before.impedanceOhm);
        joints.push_back({port.impedanceInto(before.impedanceOhm), loss, before.totalLossDb + loss});
    }
    return joints;
}

std::vector<Complex> walkBlock(const Block& block, Complex load, double frequencyHz, int stepPoints) {
    std::vector<Complex> path{load};
    for (const Step& step : std::visit(ToSteps{frequencyHz}, block)) {
        const Complex from = path.back();
        for (int i = 1; i <= stepPoints; ++i)
            path.push_back(step(static_cast<double>(i) / stepPoints).impedanceInto(from));
    }
    return path;
}

Complex beforeBlock(const Block& block, Complex seenOhm, double frequencyHz) {
    const TwoPort p = twoPort(block, frequencyHz);
    const Complex under = p.a - seenOhm * p.c;
    if (under == Complex(0.0)) return std::numeric_limits<double>::infinity();
    return (seenOhm * p.d - p.b) / under;
}

}  // namespace rm::circuit
