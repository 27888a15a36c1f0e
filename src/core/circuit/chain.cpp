#include "core/circuit/chain.h"

#include <cmath>
#include <limits>

namespace rm::circuit {

namespace {

constexpr Complex kJ(0.0, 1.0);
constexpr double kNeperInDb = 8.685889638065036;

double omegaOf(double frequencyHz) {
    return 2.0 * kPi * frequencyHz;
}

/// cosh and sinh of gamma l.
TwoPort lineTwoPort(const LineKind& line, double lengthM, double frequencyHz) {
    const Complex gl = line.propagation(frequencyHz) * lengthM;
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
        const Complex t = std::tanh(stub.line.propagation(frequencyHz) * stub.lengthM);
        return shuntElement((stub.shorted ? 1.0 / t : t) / stub.line.impedanceOhm);
    }
    TwoPort operator()(const Element& e) const {
        const Complex z = e.impedance(frequencyHz);
        return e.shunt ? shuntElement(1.0 / z) : seriesElement(z);
    }
    TwoPort operator()(const Choke& choke) const {
        const double neper = choke.lossDb / kNeperInDb;
        return {std::cosh(neper), 50.0 * std::sinh(neper), std::sinh(neper) / 50.0, std::cosh(neper)};
    }
};

}  // namespace

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

}  // namespace rm::circuit
