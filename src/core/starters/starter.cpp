#include "core/starters/starter.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/expand.h"
#include "core/starters/sketcher.h"
#include "core/stopped.h"
#include "core/study/figures.h"
#include "core/study/match.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"
#include "core/study/tuning/tune.h"
#include "core/words/words.h"

namespace rm::starters {

namespace {

using namespace rm::model;

/// Rounds through several dimensions that pull at each other, until they hold still.
constexpr int kRounds = 3;
constexpr int kBandPoints = 5;
/// Enough to bring a sketch to its goals, in a moment: the rest is for the Tune mode. Where many lengths move
/// the sketch is near already, and every trial costs more.
constexpr long kEvaluations = 8000;
constexpr long kEvaluationsOfMany = 2200;
constexpr std::size_t kMany = 6;
constexpr double kTuneSeconds = 20.0;

const std::vector<Recipe>& recipes() {
    static const std::vector<Recipe> all = [] {
        std::vector<Recipe> list;
        for (auto part : {wireRecipes(), loopRecipes(), verticalRecipes(), rowRecipes()})
            list.insert(list.end(), part.begin(), part.end());
        return list;
    }();
    return all;
}

const Recipe& recipeOf(const std::string& id) {
    for (const auto& recipe : recipes())
        if (recipe.kind.id == id) return recipe;
    throw Error(say("There is no starter \"{}\".", id));
}

Complex impedanceAt(const Design& design, double hz, const std::stop_token& stop) {
    study::AnalysisOptions options;
    options.stop = stop;
    return study::analyse(expand(design), hz, options).figures.antennaOhm;
}

Dimension& dimensionOf(Design& design, const std::string& name) {
    for (auto& d : design.dimensions)
        if (d.name == name) return d;
    throw Error(say("There is no dimension {}.", name));
}

class Finisher {
  public:
    Finisher(Sketched sketched, const Order& order, std::stop_token stop)
        : s_(std::move(sketched)), order_(order), stop_(std::move(stop)) {}

    Design run() {
        if (!s_.loopCapacitor.empty()) bringLoopToResonance();
        const int rounds = s_.resonate.size() > 1 ? kRounds : 1;
        for (int i = 0; i < rounds; ++i)
            for (const auto& one : s_.resonate) resonate(one);
        if (s_.reactance) takeReactanceAway();
        if (s_.transform) chooseRatio();
        if (s_.match) putNetwork();
        if (s_.tune) tuneForGoals();
        return std::move(s_.design);
    }

  private:
    double hzOf(std::size_t band) const {
        return order_.bands[std::min(band, order_.bands.size() - 1)].centreHz();
    }

    void resonate(const Resonate& what) {
        const auto kind = dimensionOf(s_.design, what.dimensions.front()).kind;
        if (kind == DimensionKind::Number) return resonateNumber(what.dimensions.front(), hzOf(what.band));
        try {
            s_.design = study::scaleToFrequency(s_.design, what.dimensions, hzOf(what.band), stop_).design;
        } catch (const Error&) {
            // Where the reactance has no zero, as with some end-fed wires, the best match is what is meant.
            scanForMatch(what.dimensions.front(), hzOf(what.band));
        }
        // Sliders go round what it came to, on a tape to the centimetre.
        for (const auto& name : what.dimensions) {
            Dimension& d = dimensionOf(s_.design, name);
            const double value = expand(s_.design).dimensionValue.at(name);
            d.text = Sketcher::metres(value);
            d.low = Sketcher::metres(0.8 * value);
            d.high = Sketcher::metres(1.2 * value);
        }
    }

    /// The value of a length, within a fifth, with the largest resistance against its reactance.
    void scanForMatch(const std::string& name, double hz) {
        Dimension& d = dimensionOf(s_.design, name);
        const double begin = expand(s_.design).dimensionValue.at(name);
        double best = 1e9;
        double value = begin;
        for (int i = -20; i <= 20; ++i) {
            d.text = Sketcher::metres(begin * (1.0 + 0.01 * i));
            const Complex z = impedanceAt(s_.design, hz, stop_);
            const double off = std::abs(z.imag()) / std::max(1e-9, z.real());
            if (off >= best) continue;
            best = off;
            value = begin * (1.0 + 0.01 * i);
        }
        d.text = Sketcher::metres(value);
    }

    /// A coil in the antenna: the value at which X is zero, by the secant method.
    void resonateNumber(const std::string& name, double hz) {
        Dimension& d = dimensionOf(s_.design, name);
        double at = std::stod(d.text);
        const auto reactance = [&](double value) {
            d.text = fmt::format("{:.9g}", value);
            return impedanceAt(s_.design, hz, stop_).imag();
        };
        double before = at;
        double xBefore = reactance(at);
        at *= xBefore < 0.0 ? 1.2 : 0.8;
        for (int i = 0; i < 20; ++i) {
            const double x = reactance(at);
            if (std::abs(x) < 0.05) break;
            const double slope = (x - xBefore) / (at - before);
            if (!(std::abs(slope) > 0.0)) break;
            before = at;
            xBefore = x;
            at = std::clamp(at - x / slope, 0.2 * at, 3.0 * at);
        }
        d.text = fmt::format("{:.4g}", at);
        d.low = fmt::format("{:.3g}", 0.7 * at);
        d.high = fmt::format("{:.3g}", 1.3 * at);
    }

    /// Fed where its capacitor sits, a small loop is a coil: that says which capacitor it needs.
    void bringLoopToResonance() {
        Design probe = s_.design;
        const Load load = probe.loads.front();
        probe.loads.clear();
        probe.feeds.front().part = load.part;
        probe.feeds.front().place = load.place;
        const double hz = hzOf(0);
        const double x = impedanceAt(probe, hz, stop_).imag();
        if (!(x > 0.0)) throw Error(say("This loop is too large to be tuned with a capacitor on this band."));
        const double picofarad = 1e12 / (2.0 * kPi * hz * x);
        coupleLoop(picofarad, hz);
        Dimension& d = dimensionOf(s_.design, s_.loopCapacitor);
        const double value = std::stod(d.text);
        d.low = fmt::format("{:.6g}", 0.97 * value);
        d.high = fmt::format("{:.6g}", 1.03 * value);
    }

    /// The size of the small loop and the capacitor that go together: the resonance is narrow, and moves with
    /// the coupling.
    void coupleLoop(double picofarad, double hz) {
        study::FieldStore fields;
        study::AnalysisOptions options;
        options.stop = stop_;
        options.fields = &fields;
        const double begin = expand(s_.design).dimensionValue.at(s_.loopCoupling);
        double best = 1e18;
        std::string capacitor;
        std::string coupling;
        const auto swrWith = [&](double value) {
            dimensionOf(s_.design, s_.loopCapacitor).text = fmt::format("{:.7g}", value);
            return study::analyse(expand(s_.design), hz, options).figures.swr;
        };
        for (const double factor : {0.6, 0.7, 0.8, 0.9, 1.0, 1.1, 1.2, 1.35, 1.5, 1.7}) {
            dimensionOf(s_.design, s_.loopCoupling).text = Sketcher::metres(factor * begin);
            // Coarse over two percent, then finer about the best.
            double at = picofarad;
            double wide = 0.02 * picofarad;
            for (int round = 0; round < 4; ++round) {
                double least = 1e18;
                double here = at;
                for (int i = -10; i <= 10; ++i) {
                    const double value = at + 0.1 * i * wide;
                    const double swr = swrWith(value);
                    if (swr >= least) continue;
                    least = swr;
                    here = value;
                }
                at = here;
                wide *= 0.15;
            }
            const double swr = swrWith(at);
            if (swr >= best) continue;
            best = swr;
            capacitor = fmt::format("{:.7g}", at);
            coupling = dimensionOf(s_.design, s_.loopCoupling).text;
        }
        dimensionOf(s_.design, s_.loopCapacitor).text = capacitor;
        dimensionOf(s_.design, s_.loopCoupling).text = coupling;
    }

    void takeReactanceAway() {
        for (auto& block : s_.design.feedPath) {
            if (block.kind != BlockKind::Element) continue;
            const double hz = hzOf(0);
            const double x = impedanceAt(s_.design, hz, stop_).imag();
            const double omega = 2.0 * kPi * hz;
            if (x < 0.0) {
                block.element = ElementKind::Inductor;
                block.value = fmt::format("{:.3g}", -1e6 * x / omega);
            } else {
                block.element = ElementKind::Capacitor;
                block.value = fmt::format("{:.3g}", 1e12 / (omega * x));
                block.q = "1000";
            }
            return;
        }
    }

    /// The usual ratio with the best SWR where it is resonant: at the edges of a band that is too wide for it
    /// no ratio helps, and the one that looks best there spoils the middle.
    void chooseRatio() {
        const auto transformer = std::find_if(s_.design.feedPath.begin(), s_.design.feedPath.end(),
                                              [](const auto& b) { return b.kind == BlockKind::Transformer; });
        if (transformer == s_.design.feedPath.end()) return;
        const auto expansion = expand(s_.design);
        const auto swept = sweep(expansion, hzOf(0), hzOf(0), 1);
        transformer->ratio = study::transformerRatios(expansion, {&swept}).front().ratio;
        if (transformer->ratio == "1:1") s_.design.feedPath.erase(transformer);
    }

    study::Sweep sweep(const Expansion& expansion, double lowHz, double highHz, int points) const {
        study::requireUsable(expansion);
        auto swept = study::sweep(expansion, lowHz, highHz, points, stop_);
        endWhere(stop_);
        return swept;
    }

    void putNetwork() {
        const auto expansion = expand(s_.design);
        const auto& band = order_.bands.front();
        const auto swept = sweep(expansion, band.lowHz, band.highHz, kBandPoints);
        const auto curve = study::atJoint(expansion, swept, expansion.feedPath.size());
        study::MatchRequest request;
        request.frequencyHz = hzOf(0);
        const auto options = study::matchOptions(curve, request);
        for (const auto& option : options) {
            if (option.family != study::MatchFamily::L) continue;
            s_.design.feedPath.insert(s_.design.feedPath.end(), option.blocks.begin(), option.blocks.end());
            return;
        }
    }

    void tuneForGoals() {
        study::TuneOptions options;
        const bool many = s_.design.tune.movers.size() > kMany;
        options.maxEvaluations = many ? kEvaluationsOfMany : kEvaluations;
        options.maxSeconds = kTuneSeconds;
        options.starts = many ? 1 : 2;
        options.samples = 3;
        options.stop = stop_;
        const Id id = s_.design.id;
        s_.design = study::tune(s_.design, order_.bands, options).proposal;
        s_.design.id = id;
        if (stop_.stop_requested()) throw Stopped();
    }

    Sketched s_;
    const Order& order_;
    std::stop_token stop_;
};

}  // namespace

const std::vector<Kind>& kinds() {
    static const std::vector<Kind> all = [] {
        std::vector<Kind> list;
        for (const auto& recipe : recipes()) list.push_back(recipe.kind);
        return list;
    }();
    return all;
}

const Kind* findKind(const std::string& id) {
    for (const auto& kind : kinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

Design sketch(const std::string& kind, const Order& order) {
    return recipeOf(kind).sketch(order).design;
}

Design make(const std::string& kind, const Order& order, const std::stop_token& stop) {
    return Finisher(recipeOf(kind).sketch(order), order, stop).run();
}

}  // namespace rm::starters
