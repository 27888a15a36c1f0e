#include "core/study/balance.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/em/quadrature.h"
#include "core/em/span_basis.h"
#include "core/model/without.h"
#include "core/study/currents.h"
#include "core/study/part_effects.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Step of the slope of the reactance, relative.
constexpr double kStep = 1e-3;

/// The current at an end of a wire, positive away from its start.
Complex currentAtEnd(const em::Mesh& mesh, const Eigen::VectorXcd& local, std::size_t wire, bool atEnd) {
    const em::Span* found = nullptr;
    for (const auto& span : mesh.spans)
        if (span.wire == wire && (found == nullptr || (atEnd ? span.startOnWireM > found->startOnWireM
                                                             : span.startOnWireM < found->startOnWireM)))
            found = &span;
    return found == nullptr ? Complex(0.0) : currentOn(*found, local, atEnd ? 1.0 : -1.0);
}

}  // namespace

double FeedBalance::share() const {
    const double wanted = std::abs(differential());
    return wanted > 0.0 ? largest / wanted : 0.0;
}

std::string FeedBalance::sentence(double perA) const {
    const auto ampere = [&](Complex current) { return figure("{:.2f} A", perA * std::abs(current)); };
    if (run.empty())
        return say("{} into one side and back from the other: no cable hangs from {}.", ampere(one), feed);
    return say(
        "{} into one side, {} back from the other: {} run down the outside of {}, at most {} ({:.0f} %).",
        ampere(one), ampere(other), ampere(outside), run, ampere(largest), 100.0 * share());
}

std::vector<FeedBalance> balanceOf(const model::Expansion& design, const Analysis& analysis) {
    std::vector<FeedBalance> all;
    const auto& local = analysis.reading.localCurrent;
    for (const auto& feed : design.model.feeds) {
        if (!feed.driven) continue;
        FeedBalance balance;
        balance.feed = feed.name;
        // Out of the joint into what is on the feed's side.
        const auto outOf = [&](const model::WirePlace& end) {
            const Complex current = currentAtEnd(*analysis.mesh, local, end.wire, end.at > 0.5);
            return end.at > 0.5 ? -current : current;
        };
        const bool inMiddle = feed.place.at > 0.0 && feed.place.at < 1.0;
        for (const auto& run : design.runs)
            if (run.feed == feed.name) balance.run = run.part;
        if (inMiddle) {
            const auto f = static_cast<std::size_t>(&feed - design.model.feeds.data());
            balance.one = balance.other = analysis.reading.feedCurrent[f];
            all.push_back(balance);
            continue;
        }
        std::size_t first = design.model.wires.size();
        for (std::size_t w = design.model.wires.size(); w-- > 0;)
            if (!balance.run.empty() && design.model.wires[w].part == balance.run) first = w;
        bool runIsOwn = false;
        balance.one = outOf(feed.place);
        for (const auto& end : feed.together) {
            if (end.wire == first) {
                runIsOwn = true;
                continue;
            }
            balance.one += outOf(end);
        }
        if (first < design.model.wires.size()) {
            balance.outside = outOf({first, 0.0});
            for (const auto& point : currentAlong(design, analysis, balance.run))
                balance.largest = std::max(balance.largest, std::abs(point.ampere));
        }
        // All that leaves the joint sums to nothing.
        balance.other = balance.one + balance.outside;
        if (runIsOwn) std::swap(balance.one, balance.other);
        if (feed.place.at > 0.5) {
            balance.one = -balance.one;
            balance.other = -balance.other;
        }
        all.push_back(balance);
    }
    return all;
}

std::string LoadHeat::warning() const {
    if (!ratedW || watts <= *ratedW) return {};
    return say("{} gets {:.3g} W, more than the {:.3g} W that it stands.", name, watts, *ratedW);
}

std::vector<LoadHeat> loadHeat(const model::Expansion& design, const Analysis& analysis, double radioW) {
    std::vector<LoadHeat> all;
    const double perW = arrivingW(analysis.figures.joints, radioW) / analysis.reading.inputPowerW;
    for (std::size_t l = 0; l < design.model.loads.size() && l < analysis.reading.eachLoadW.size(); ++l) {
        const auto& load = design.model.loads[l];
        all.push_back({load.name, perW * analysis.reading.eachLoadW[l],
                       circuit::lumpedImpedance(load.circuit, analysis.figures.frequencyHz), load.ratedW});
    }
    return all;
}

std::string CableEffect::sentence() const {
    std::string text = say("{} carries {:.0f} % of the feed current: ", run, 100.0 * share);
    if (std::abs(costDb) < kNoDb)
        text += say("it costs no gain");
    else
        text += say("it {} {:.1f} dB {} {:.0f}°", costDb > 0.0 ? say("takes") : say("brings"),
                    std::abs(costDb), costDb > 0.0 ? say("from") : say("towards"), elevationDeg);
    if (std::abs(shiftHz) >= 500.0) text += say(" and moves resonance by {:+.0f} kHz", shiftHz / 1e3);
    return text + ".";
}

std::vector<CableEffect> cableEffects(const model::Design& design, const model::Expansion& expansion,
                                      const Analysis& analysis, FieldStore* fields,
                                      const std::stop_token& stop) {
    std::vector<CableEffect> all;
    FieldStore own;
    AnalysisOptions options;
    options.fields = fields != nullptr ? fields : &own;
    options.stop = stop;
    const double hz = analysis.figures.frequencyHz;
    for (const auto& balance : balanceOf(expansion, analysis)) {
        if (balance.run.empty()) continue;
        const model::Expansion bare = model::expand(model::withoutPart(design, balance.run));
        if (!bare.usable()) continue;  // the run is what the feed works against
        CableEffect effect;
        effect.run = balance.run;
        effect.share = balance.share();
        options.meshHz = hz * (1.0 + kStep);
        const Analysis without = analyse(bare, hz, options);
        const em::Direction towards = without.figures.peak.direction;
        const auto with = em::farField(*analysis.mesh, analysis.reading.localCurrent, hz, {towards}).front();
        effect.costDb = without.figures.peak.gainDbi - em::gainDbi(with, analysis.reading.inputPowerW);
        effect.elevationDeg = towards.elevationDeg;
        const Complex above = analyse(bare, hz * (1.0 + kStep), options).figures.antennaOhm;
        const double slope = (above.imag() - without.figures.antennaOhm.imag()) / (kStep * hz);
        // Where the reactance hardly moves with frequency it says nothing of a resonance.
        const double moved = analysis.figures.antennaOhm.imag() - without.figures.antennaOhm.imag();
        if (std::abs(slope) * 0.1 * hz > std::abs(moved)) effect.shiftHz = -moved / slope;
        all.push_back(effect);
    }
    return all;
}

}  // namespace rm::study
