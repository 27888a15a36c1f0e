#include "core/model/expand_circuit.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/words/words.h"

namespace rm::model {

using quantity::Kind;

namespace {

double ratioOf(FieldValues& values, const FeedBlock& block) {
    const auto colon = block.ratio.find(':');
    if (colon == std::string::npos)
        return values.positive(block.ratio, Kind::Number, block.name, say("the ratio"));
    const double a =
        values.positive(block.ratio.substr(0, colon), Kind::Number, block.name, say("the ratio"));
    const double b =
        values.positive(block.ratio.substr(colon + 1), Kind::Number, block.name, say("the ratio"));
    return values.failed ? 1.0 : a / b;
}

Element elementOf(FieldValues& values, ElementKind kind, bool shunt, const std::string& value,
                  const std::string& q, const std::string& name) {
    const double unit = kind == ElementKind::Inductor ? 1e-6 : kind == ElementKind::Capacitor ? 1e-12 : 1.0;
    return {kind, values.positive(value, Kind::Number, name, say("the value")) * unit, shunt,
            values.maybe(q, name, say("the Q"), 1.0)};
}

}  // namespace

LineKind lineOf(FieldValues& values, const LineText& text, const std::string& name) {
    if (text.line != kCustomLine) {
        if (const LineType* line = findLine(text.line)) return line->kind;
        values.problem(name, say("{}: \"{}\" is not a known line.", name, text.line),
                       say("Choose one from the list, or own figures."));
        return {};
    }
    LineKind line;
    line.impedanceOhm =
        values.within(text.lineOhm, Kind::Number, 1.0, 5000.0, name, say("the impedance of the line"));
    line.velocityFactor =
        values.positive(text.velocityFactor, Kind::Number, name, say("the velocity factor"));
    if (!values.failed && line.velocityFactor > 1.0)
        values.problem(name, say("{}: the velocity factor is {:g}.", name, line.velocityFactor),
                       say("Use a number up to 1; 0.66 for solid coax, 0.95 for open wire."));
    // dB in 100 m at 1 MHz.
    line.lossRootDb =
        values.within(text.lossRoot, Kind::Number, 0.0, 1000.0, name, say("the loss by root of frequency"));
    line.lossLinearDb =
        values.within(text.lossLinear, Kind::Number, 0.0, 1000.0, name, say("the loss by frequency"));
    return line;
}

Block blockOf(FieldValues& values, const FeedBlock& block, double designFrequencyHz) {
    const std::string& name = block.name;
    switch (block.kind) {
        case BlockKind::Transformer:
            return Transformer{
                ratioOf(values, block),
                values.maybe(block.magnetising, name, say("the magnetising inductance"), 1e-6),
                values.maybe(block.coreLoss, name, say("the core loss"), 1.0),
                values.maybe(block.leakage, name, say("the leakage inductance"), 1e-6),
                values.maybe(block.compensation, name, say("the compensation capacitor"), 1e-12)};
        case BlockKind::Cable:
            return Cable{lineOf(values, block, name),
                         values.positive(block.length, Kind::Length, name, say("the length"))};
        case BlockKind::QuarterWave: {
            Cable section{lineOf(values, block, name), 0.0};
            const double f = block.tuned.empty() ? designFrequencyHz
                                                 : values.positive(block.tuned, Kind::Frequency, name,
                                                                   say("the frequency it is cut for"));
            section.lengthM = 0.25 * section.line.velocityFactor * wavelengthM(f);
            return section;
        }
        case BlockKind::Stub:
            return Stub{lineOf(values, block, name),
                        values.positive(block.length, Kind::Length, name, say("the length")), block.shorted};
        case BlockKind::Element:
            return elementOf(values, block.element, block.shunt, block.value, block.q, name);
        case BlockKind::Network: {
            Network network;
            for (const auto& arm : block.arms)
                network.elements.push_back(elementOf(values, arm.element, arm.shunt, arm.value, arm.q, name));
            if (network.elements.empty())
                values.problem(name, say("{} has no elements.", name), say("Add it anew, or remove it."));
            return network;
        }
        default: {
            const double loss = values.value(block.loss, Kind::Number, name, say("the loss"));
            if (!values.failed && loss < 0.0)
                values.problem(name, say("{}: the loss is below zero.", name),
                               say("Use a loss in dB of zero or more."));
            return Choke{loss};
        }
    }
}

namespace {

FerriteRing ringOf(FieldValues& values, const Load& load) {
    FerriteRing ring;
    ring.turns = values.within(load.turns, Kind::Number, 0.5, 500.0, load.name, say("the number of turns"));
    ring.outerM = values.positive(load.ringOuter, Kind::Length, load.name, say("the outer diameter"));
    ring.innerM = values.positive(load.ringInner, Kind::Length, load.name, say("the inner diameter"));
    ring.heightM = values.positive(load.ringHeight, Kind::Length, load.name, say("the height of the ring"));
    ring.permeability =
        values.within(load.permeability, Kind::Number, 1.0, 1e5, load.name, say("the permeability"));
    if (!values.failed && ring.innerM >= ring.outerM)
        values.problem(load.name, say("{}: the hole of the ring is larger than the ring.", load.name),
                       say("Type the outer diameter first."));
    if (load.relaxation.empty())
        ring.relaxationHz = snoekRelaxationHz(ring.permeability);
    else
        ring.relaxationHz = values.positive(load.relaxation, Kind::Frequency, load.name,
                                            say("the frequency it falls off at"));
    return ring;
}

}  // namespace

LumpedCircuit circuitOf(FieldValues& values, const Load& load) {
    LumpedCircuit circuit;
    circuit.kind = load.form == LoadForm::Series ? LoadKind::Series : LoadKind::Parallel;
    if (load.form == LoadForm::Table) {
        circuit.table = load.table;
        std::sort(circuit.table.begin(), circuit.table.end(),
                  [](const auto& a, const auto& b) { return a.frequencyHz < b.frequencyHz; });
        if (circuit.table.empty())
            values.problem(load.name, say("{} has no table of its impedance.", load.name),
                           say("Read one from a file, or choose other elements."));
        return circuit;
    }
    if (load.form == LoadForm::Ring) {
        circuit.ring = ringOf(values, load);
        if (const auto stray = values.maybe(load.stray, load.name, say("the stray capacitance"), 1e-12))
            circuit.capacitanceF = stray;
        return circuit;
    }
    const auto element = [&](const std::string& text, const std::string& field,
                             double unit) -> std::optional<double> {
        if (text.empty()) return std::nullopt;
        const double v = values.value(text, Kind::Number, load.name, field);
        if (!values.failed && v < 0.0)
            values.problem(load.name, say("{}: {} is below zero.", load.name, field),
                           say("Use a positive value."));
        return v * unit;
    };
    if (load.form == LoadForm::Trap) {
        const double f =
            values.value(load.trapFrequency, Kind::Frequency, load.name, say("the frequency of the trap"));
        const double x = values.value(load.trapReactance, Kind::Number, load.name, say("the reactance"));
        if (!values.failed && !(f > 0.0 && x > 0.0))
            values.problem(
                load.name, say("{}: a trap needs a frequency and a reactance above zero.", load.name),
                say("Type the frequency it blocks and the reactance of its coil there, often 150 to 300 "
                    "ohm."));
        circuit.inductanceH = x / (2.0 * kPi * f);
        circuit.capacitanceF = 1.0 / (2.0 * kPi * f * x);
    } else {
        circuit.resistanceOhm = element(load.resistance, say("the resistance"), 1.0);
        circuit.inductanceH = element(load.inductance, say("the inductance"), 1e-6);
        circuit.capacitanceF = element(load.capacitance, say("the capacitance"), 1e-12);
    }
    circuit.coilQ = element(load.coilQ, say("the Q of the coil"), 1.0);
    if (!values.failed && circuit.coilQ && *circuit.coilQ <= 0.0)
        values.problem(load.name, say("{}: the Q of the coil is zero.", load.name),
                       say("Use a number above zero, or leave it empty for a coil without loss."));
    return circuit;
}

}  // namespace rm::model
