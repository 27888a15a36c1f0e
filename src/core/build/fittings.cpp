#include "core/build/fittings.h"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "core/model/expand_circuit.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

using namespace rm::model;

/// Turns that a small core takes.
constexpr int kMostTurns = 21;
constexpr double kLongestArmM = 5.0;
/// Where cable makes a trap that can be wound.
constexpr double kLowestTrapHz = 1e6;
constexpr double kHighestTrapHz = 60e6;

class Fitter {
  public:
    Fitter(const Design& design, const Expansion& expansion)
        : design_(design), hz_(expansion.designFrequencyHz), expansion_(expansion) {}

    Fittings run() {
        feedPath();
        spreaders();
        const auto ports = expansion_.model.places();
        for (const auto& line : expansion_.model.lines)
            addLine(line.name, kindOf(line.name), say("between two points"), line.line, line.lengthM);
        for (std::size_t i = 0; i < expansion_.model.harness.size() && i < ports.size(); ++i) {
            const auto& arm = expansion_.model.harness[i];
            addLine(say("Harness"), design_.harness.line.line,
                    say("to {}{}", ports[i].name, arm.crossed ? say(", crossed") : ""), arm.line,
                    arm.lengthM);
        }
        for (const auto& load : expansion_.model.loads) {
            if (load.circuit.inductanceH && *load.circuit.inductanceH > 0.0)
                addCoil(load.name, *load.circuit.inductanceH);
            if (load.circuit.capacitanceF && *load.circuit.capacitanceF > 0.0)
                addCapacitor(load.name, *load.circuit.capacitanceF);
            if (load.circuit.kind == LoadKind::Parallel && load.circuit.inductanceH &&
                load.circuit.capacitanceF)
                addTrap(load.name, *load.circuit.inductanceH * *load.circuit.capacitanceF);
        }
        return std::move(out_);
    }

  private:
    void addLine(const std::string& name, const std::string& kind, const std::string& use,
                 const LineKind& line, double lengthM) {
        if (!(lengthM > 0.0)) return;
        const double degrees = 360.0 * lengthM / (line.velocityFactor * wavelengthM(hz_));
        out_.lines.push_back({name, kind, use, lengthM, degrees});
    }
    void addCoil(const std::string& name, double henry) {
        out_.coils.push_back({name, windingFor(henry, hz_)});
    }
    void addCapacitor(const std::string& name, double farad) {
        out_.capacitors.push_back({name, 1e12 * farad, nearestE24(1e12 * farad)});
    }
    /// Loops that arms can hold, in every copy; what is larger hangs from ropes.
    void spreaders() {
        for (const auto& part : design_.parts) {
            std::map<std::string, std::vector<Vec3>> corners;  // by copy
            for (const auto& wire : expansion_.model.wires)
                if (wire.origin() == part.name) corners[wire.part].push_back(wire.startM);
            if (corners.empty()) continue;
            if (const RowSizes* row = expansion_.row(part.name)) {
                for (const auto& element : row->elements) {
                    if (element.form != ElementForm::LoopUpright) continue;
                    int copies = 0;
                    for (const auto& [name, at] : corners)
                        copies += name.ends_with(", " + element.name) ? 1 : 0;
                    addSpreaders(part.name + ", " + element.name, 4 * copies,
                                 0.5 * std::hypot(element.lengthM, element.secondM));
                }
            } else if (std::holds_alternative<RegularLoop>(part.shape)) {
                const auto& first = corners.begin()->second;
                Vec3 middle = Vec3::Zero();
                for (const Vec3& corner : first) middle += corner / static_cast<double>(first.size());
                addSpreaders(part.name, static_cast<int>(first.size() * corners.size()),
                             (first.front() - middle).norm());
            }
        }
    }
    void addSpreaders(const std::string& name, int count, double armM) {
        if (armM <= kLongestArmM) out_.spreaders.push_back({name, count, armM});
    }
    void addTrap(const std::string& name, double henryFarad) {
        if (!(henryFarad > 0.0)) return;
        const double hz = 1.0 / (2.0 * kPi * std::sqrt(henryFarad));
        if (hz > kLowestTrapHz && hz < kHighestTrapHz) out_.traps.push_back({name, coaxTrapFor(hz)});
    }
    std::string kindOf(const std::string& lineName) const {
        for (const auto& line : design_.lines)
            if (lineName.rfind(line.name, 0) == 0) return line.line;
        return {};
    }
    void addElement(const std::string& name, const Element& element) {
        if (element.kind == ElementKind::Inductor) addCoil(name, element.value);
        if (element.kind == ElementKind::Capacitor) addCapacitor(name, element.value);
    }
    void addTransformer(const FeedBlock& block, double impedanceRatio) {
        TransformerRow row{block.name, block.ratio, 1, 1, 1.0};
        double nearest = 1e99;
        for (int radio = 1; radio <= kMostTurns; ++radio)
            for (int antenna = 1; antenna <= kMostTurns; ++antenna) {
                const double made = static_cast<double>(antenna * antenna) / (radio * radio);
                // Of equal ones the fewest turns; a hundredth more is not worth a turn.
                const double off = std::abs(std::log(made / impedanceRatio)) + 0.002 * (radio + antenna);
                if (off >= nearest) continue;
                nearest = off;
                row.antennaTurns = antenna;
                row.radioTurns = radio;
                row.ratioMade = made;
            }
        out_.transformers.push_back(row);
    }
    void feedPath() {
        std::size_t next = 0;
        for (const auto& block : design_.feedPath) {
            if (!block.enabled || next >= expansion_.feedPath.size()) continue;
            const Block& plain = expansion_.feedPath[next++];
            if (const auto* cable = std::get_if<Cable>(&plain))
                addLine(block.name, block.line,
                        block.kind == BlockKind::QuarterWave ? say("quarter wave") : say("cable"),
                        cable->line, cable->lengthM);
            if (const auto* stub = std::get_if<Stub>(&plain))
                addLine(block.name, block.line, stub->shorted ? say("stub, shorted") : say("stub, open"),
                        stub->line, stub->lengthM);
            if (const auto* element = std::get_if<Element>(&plain)) addElement(block.name, *element);
            if (const auto* network = std::get_if<Network>(&plain))
                for (std::size_t i = 0; i < network->elements.size(); ++i)
                    addElement(say("{}, element {}", block.name, i + 1), network->elements[i]);
            if (const auto* transformer = std::get_if<Transformer>(&plain))
                addTransformer(block, transformer->impedanceRatio);
            if (const auto* choke = std::get_if<Choke>(&plain))
                out_.chokes.push_back({block.name, block.choking, choke->lossDb});
        }
    }

    const Design& design_;
    double hz_;
    const Expansion& expansion_;
    Fittings out_;
};

}  // namespace

Fittings fittingsOf(const Design& design, const Expansion& expansion) {
    return Fitter(design, expansion).run();
}

}  // namespace rm::build
