#include "core/study/match.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/circuit/matching.h"
#include "core/quantity/component.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

using model::Block;
using model::BlockKind;
using model::Element;
using model::ElementKind;
using model::FeedBlock;

/// Four figures, or five where a step of four is more than 0.05 %.
std::string figure(double v) {
    return fmt::format("{:.5g}", v);
}

double unitOf(ElementKind kind) {
    return kind == ElementKind::Inductor ? 1e6 : kind == ElementKind::Capacitor ? 1e12 : 1.0;
}

std::string describe(const Element& e) {
    const double v = e.value * unitOf(e.kind);
    const std::string what = e.kind == ElementKind::Inductor
                                 ? say("coil ") + quantity::formatInductance(v)
                                 : say("capacitor ") + quantity::formatCapacitance(v);
    return e.shunt ? what + say(" across") : what + say(" in series");
}

class Matcher {
  public:
    Matcher(const ImpedanceCurve& curve, const MatchRequest& request) : curve_(curve), request_(request) {
        if (curve.hz.empty()) throw Error(say("There is no impedance to match yet."));
        if (!(request.targetOhm > 0.0)) throw Error(say("The impedance to match to has to be above zero."));
        if (request.coilQ < 0.0 || request.capacitorQ < 0.0 || !(request.loadedQ > 0.0))
            throw Error(say("A Q has to be above zero."));
        const model::LineType* line = model::findLine(request.line);
        if (line == nullptr) throw Error(say("\"{}\" is not a known line.", request.line));
        line_ = *line;
        load_ = interpolate(request.frequencyHz);
        if (!(load_.real() > 0.0)) throw Error(say("Only an impedance with some resistance can be matched."));
    }

    std::vector<MatchOption> run() {
        for (const auto& match : circuit::lNetworks(load_, request_.targetOhm, request_.frequencyHz))
            addNetwork(MatchFamily::L, match.elements, say("L match"));
        using circuit::ThreeElements;
        for (const auto kind : {ThreeElements::PiLowPass, ThreeElements::PiHighPass, ThreeElements::TLowPass,
                                ThreeElements::THighPass}) {
            const bool pi = kind == ThreeElements::PiLowPass || kind == ThreeElements::PiHighPass;
            try {
                addNetwork(pi ? MatchFamily::Pi : MatchFamily::T,
                           circuit::threeElementNetwork(kind, load_, request_.targetOhm, request_.loadedQ,
                                                        request_.frequencyHz)
                               .elements,
                           pi ? say("Pi match") : say("T match"));
            } catch (const Error&) {
                // The Q is too small for this ratio of resistances.
            }
        }
        addStubs();
        addQuarterWaves();
        std::stable_sort(options_.begin(), options_.end(), [](const auto& a, const auto& b) {
            return a.family != b.family ? a.family < b.family : a.worstSwr < b.worstSwr;
        });
        return std::move(options_);
    }

  private:
    Complex interpolate(double hz) const {
        const auto above = std::lower_bound(curve_.hz.begin(), curve_.hz.end(), hz);
        if (above == curve_.hz.begin()) return curve_.ohm.front();
        if (above == curve_.hz.end()) return curve_.ohm.back();
        const auto i = static_cast<std::size_t>(above - curve_.hz.begin());
        const double t = (hz - curve_.hz[i - 1]) / (curve_.hz[i] - curve_.hz[i - 1]);
        return (1.0 - t) * curve_.ohm[i - 1] + t * curve_.ohm[i];
    }

    Element buildable(Element e) const {
        const double q = e.kind == ElementKind::Inductor ? request_.coilQ : request_.capacitorQ;
        if (q > 0.0) e.q = q;
        if (request_.values != Values::Exact)
            e.value = circuit::standardValue(e.value * unitOf(e.kind),
                                             request_.values == Values::Steps12 ? 12 : 24) /
                      unitOf(e.kind);
        return e;
    }

    void add(MatchOption option, const std::vector<Block>& plain) {
        const auto joints = circuit::walkChain(plain, load_, request_.frequencyHz);
        option.swr = swr(joints.back().impedanceOhm, request_.targetOhm);
        option.lossDb = joints.back().totalLossDb;
        for (std::size_t i = 0; i < curve_.hz.size(); ++i) {
            const auto there = circuit::walkChain(plain, curve_.ohm[i], curve_.hz[i]);
            option.bandSwr.push_back(swr(there.back().impedanceOhm, request_.targetOhm));
            option.worstSwr = std::max(option.worstSwr, option.bandSwr.back());
        }
        options_.push_back(std::move(option));
    }

    void addNetwork(MatchFamily family, const std::vector<Element>& exact, const std::string& name) {
        MatchOption option;
        option.family = family;
        FeedBlock block;
        block.kind = BlockKind::Network;
        block.name = name;
        model::Network plain;
        for (const Element& e : exact) {
            const Element real = buildable(e);
            plain.elements.push_back(real);
            block.arms.push_back({real.kind, real.shunt, figure(real.value * unitOf(real.kind)),
                                  real.q ? figure(*real.q) : std::string()});
            if (!option.title.empty()) option.title += ", ";
            option.title += describe(real);
        }
        if (plain.elements.empty()) return;
        option.blocks.push_back(block);
        add(std::move(option), {plain});
    }

    double metres(double wavelengths) const {
        return wavelengths * line_.kind.velocityFactor * wavelengthM(request_.frequencyHz);
    }

    FeedBlock lineBlock(BlockKind kind, const std::string& name, double lengthM) const {
        FeedBlock block;
        block.kind = kind;
        block.name = name;
        block.line = line_.id;
        block.length = fmt::format("{:.3f} m", lengthM);
        return block;
    }

    /// Shorter than this a piece of line is left out.
    static constexpr double kShortest = 1e-4;

    void addStubs() {
        if (std::abs(line_.kind.impedanceOhm - request_.targetOhm) > 0.01 * request_.targetOhm) return;
        for (const auto& match : circuit::singleStubs(load_, line_.kind.impedanceOhm))
            for (const bool shorted : {false, true}) {
                MatchOption option;
                option.family = MatchFamily::Stub;
                std::vector<Block> plain;
                const double before = metres(match.distance);
                const double length = metres(shorted ? match.shortedLength : match.openLength);
                if (match.distance > kShortest) {
                    option.blocks.push_back(lineBlock(BlockKind::Cable, say("Cable to the stub"), before));
                    plain.push_back(model::Cable{line_.kind, before});
                }
                option.blocks.push_back(lineBlock(BlockKind::Stub, say("Stub"), length));
                option.blocks.back().shorted = shorted;
                plain.push_back(model::Stub{line_.kind, length, shorted});
                option.title = say("{} stub {}, after {} of cable", shorted ? say("shorted") : say("open"),
                                   quantity::said(length, 3), quantity::said(before, 3));
                add(std::move(option), plain);
            }
    }

    void addQuarterWaves() {
        const double z0 = line_.kind.impedanceOhm;
        for (const auto& match : circuit::quarterWaves(load_, z0)) {
            MatchOption option;
            option.family = MatchFamily::QuarterWave;
            std::vector<Block> plain;
            const double before = metres(match.distance);
            if (match.distance > kShortest) {
                option.blocks.push_back(lineBlock(BlockKind::Cable, say("Cable to the section"), before));
                plain.push_back(model::Cable{line_.kind, before});
            }
            FeedBlock section = lineBlock(BlockKind::QuarterWave, say("Quarter-wave section"), 1.0);
            model::LineKind line = line_.kind;
            line.impedanceOhm = std::sqrt(match.resistanceOhm * request_.targetOhm);
            section.line = model::kCustomLine;
            section.lineOhm = figure(line.impedanceOhm);
            section.velocityFactor = figure(line.velocityFactor);
            section.lossRoot = figure(line.lossRootDb);
            section.lossLinear = figure(line.lossLinearDb);
            section.tuned = fmt::format("{:.6g} MHz", request_.frequencyHz / 1e6);
            option.blocks.push_back(section);
            plain.push_back(model::Cable{line, metres(0.25)});
            option.title = say("λ/4 of {:.3g} Ω, {}, after {} of cable", line.impedanceOhm,
                               quantity::said(metres(0.25), 3), quantity::said(before, 3));
            add(std::move(option), plain);
        }
    }

    const ImpedanceCurve& curve_;
    const MatchRequest& request_;
    model::LineType line_;
    Complex load_;
    std::vector<MatchOption> options_;
};

/// Ratios that can be wound with whole turns: n:m with up to nine turns on the larger winding.
const std::vector<std::pair<const char*, double>> kRatios = {
    {"1:4", 0.25},    {"1:2.25", 1.0 / 2.25}, {"1:2", 0.5},     {"1:1.5", 1.0 / 1.5}, {"1:1", 1.0},
    {"1.5:1", 1.5},   {"2:1", 2.0},           {"2.25:1", 2.25}, {"3:1", 3.0},         {"4:1", 4.0},
    {"6.25:1", 6.25}, {"9:1", 9.0},           {"12:1", 12.0},   {"16:1", 16.0},       {"20:1", 20.0},
    {"25:1", 25.0},   {"30:1", 30.0},         {"36:1", 36.0},   {"49:1", 49.0},       {"56:1", 56.0},
    {"64:1", 64.0},   {"81:1", 81.0}};

}  // namespace

ImpedanceCurve atJoint(const model::Expansion& design, const Sweep& sweep, std::size_t joint) {
    ImpedanceCurve curve;
    for (const auto& p : sweep.points) {
        const auto joints = feedPathJoints(design, p.antennaOhm, p.frequencyHz, p.harnessLossDb);
        curve.hz.push_back(p.frequencyHz);
        curve.ohm.push_back(joints.at(std::min(joint, joints.size() - 1)).impedanceOhm);
    }
    return curve;
}

std::vector<MatchOption> matchOptions(const ImpedanceCurve& curve, const MatchRequest& request) {
    return Matcher(curve, request).run();
}

std::vector<RatioOption> transformerRatios(const model::Expansion& design,
                                           const std::vector<const Sweep*>& bands) {
    std::vector<Block> path = design.feedPath;
    auto place = std::find_if(path.begin(), path.end(),
                              [](const Block& b) { return std::holds_alternative<model::Transformer>(b); });
    if (place == path.end()) place = path.insert(path.begin(), model::Transformer{});
    std::vector<RatioOption> options;
    for (const auto& [name, ratio] : kRatios) {
        std::get<model::Transformer>(*place).impedanceRatio = ratio;
        RatioOption option;
        option.ratio = name;
        for (const Sweep* band : bands) {
            double worst = 1.0;
            for (const auto& p : band->points) {
                const auto joints = circuit::walkChain(path, p.antennaOhm, p.frequencyHz);
                worst = std::max(worst, swr(joints.back().impedanceOhm, design.referenceOhm));
            }
            option.worstSwr.push_back(worst);
            option.worst = std::max(option.worst, worst);
        }
        options.push_back(std::move(option));
    }
    std::stable_sort(options.begin(), options.end(),
                     [](const auto& a, const auto& b) { return a.worst < b.worst; });
    return options;
}

std::size_t placeInPath(const model::Design& design, std::size_t joint) {
    std::size_t at = 0;
    for (std::size_t seen = 0; at < design.feedPath.size() && seen < joint; ++at)
        if (design.feedPath[at].enabled) ++seen;
    return at;
}

}  // namespace rm::study
