#include "core/study/choke_study.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/model/expand_cable.h"
#include "core/model/without.h"
#include "core/stopped.h"
#include "core/study/balance.h"
#include "core/study/currents.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kPlaces = 25;
/// The last place is not at the very end, where an open run carries nothing.
constexpr double kLastPlace = 0.97;
constexpr int kSizes = 31;
constexpr double kLeastOhm = 10.0;
constexpr double kMostOhm = 10000.0;
/// A little: of the current on the run over the wanted one, and of gain in dB.
constexpr double kLittleShare = 0.02;
constexpr double kLittleDb = 0.1;

class ChokeStudier {
  public:
    ChokeStudier(const model::Design& design, double frequencyHz, double radioW, std::stop_token stop)
        : design_(design), hz_(frequencyHz), radioW_(radioW), stop_(std::move(stop)) {}

    ChokeStudy run(const Progress& progress) {
        expansion_ = model::expand(design_);
        requireUsable(expansion_);
        study_.run = cableRunOf(expansion_);
        study_.frequencyHz = hz_;
        if (study_.run.empty())
            throw Error(say("There is no cable run: add one from the feed to see what a choke on it does."));
        findRun();
        lookWithout();
        addPorts();
        solution_ =
            em::solvePorts(std::make_shared<const em::Mesh>(em::makeMesh(expansion_.model, hz_)), hz_, stop_);
        if (progress) progress(0.5);
        const double where = chokeAlongM_;
        study_.now = read(own_ ? *own_ : nearest(where), chokeCircuit_, where, !own_);
        study_.none = read(0, resistor(0.0), 0.0, true);
        for (std::size_t p = 0; p < places_.size(); ++p)
            study_.places.push_back(read(firstPort_ + p, chokeCircuit_, places_[p], true));
        if (own_) {
            // It stands between two of the places.
            study_.places.push_back(study_.now);
            std::sort(study_.places.begin(), study_.places.end(),
                      [](const auto& a, const auto& b) { return a.alongM < b.alongM; });
        }
        const std::size_t fixed = own_ ? *own_ : firstPort_;
        for (int i = 0; i < kSizes; ++i) {
            const double ohm =
                kLeastOhm * std::pow(kMostOhm / kLeastOhm, static_cast<double>(i) / (kSizes - 1));
            study_.sizes.push_back(read(fixed, resistor(ohm), own_ ? where : 0.0, !own_));
        }
        study_.complete = true;
        return std::move(study_);
    }

  private:
    static model::LumpedCircuit resistor(double ohm) {
        model::LumpedCircuit circuit;
        circuit.resistanceOhm = ohm;
        return circuit;
    }

    void findRun() {
        for (const auto& run : expansion_.runs)
            if (run.part == study_.run) {
                study_.lengthM = run.lengthM;
                feed_ = run.feed;
            }
        double along = 0.0;
        for (std::size_t w = 0; w < expansion_.model.wires.size(); ++w) {
            const auto& wire = expansion_.model.wires[w];
            if (wire.part != study_.run || along >= study_.lengthM - 1e-9) continue;
            wires_.push_back(w);
            starts_.push_back(along);
            along += wire.lengthM();
        }
        // The first load on it is the choke, whether it is typed there or belongs to the feed path.
        chokeCircuit_ = resistor(kTriedOhm);
        for (std::size_t l = 0; l < expansion_.model.loads.size(); ++l) {
            const auto& load = expansion_.model.loads[l];
            const auto on = std::find(wires_.begin(), wires_.end(), load.place.wire);
            if (on == wires_.end() || load.name == model::earthOf(study_.run)) continue;
            own_ = l;
            study_.choke = load.name;
            chokeCircuit_ = load.circuit;
            chokeAlongM_ = starts_[static_cast<std::size_t>(on - wires_.begin())] +
                           load.place.at * expansion_.model.wires[load.place.wire].lengthM();
            break;
        }
    }

    void lookWithout() {
        AnalysisOptions options;
        options.stop = stop_;
        const model::Expansion bare = model::expand(model::withoutPart(design_, study_.run));
        study_.swrWithout = 0.0;
        if (bare.usable()) {
            const Analysis without = analyse(bare, hz_, options);
            towards_ = without.figures.peak.direction;
            gainDbi_ = without.figures.peak.gainDbi;
            study_.swrWithout = without.figures.swr;
            return;
        }
        const Analysis with = analyse(expansion_, hz_, options);
        towards_ = with.figures.peak.direction;
        gainDbi_ = with.figures.peak.gainDbi;
    }

    void addPorts() {
        auto& model = expansion_.model;
        firstPort_ = model.loads.size();
        for (int i = 0; i < kPlaces; ++i) {
            const double at = study_.lengthM * kLastPlace * i / (kPlaces - 1);
            std::size_t wire = 0;
            while (wire + 1 < wires_.size() && starts_[wire + 1] <= at) ++wire;
            model::PlainLoad port;
            port.name = "place";
            port.circuit = resistor(0.0);
            port.place = {wires_[wire], (at - starts_[wire]) / model.wires[wires_[wire]].lengthM()};
            // Two ports do not share a place: the choke stands for the nearest one itself.
            if (own_ && std::abs(at - chokeAlongM_) < 0.3 * study_.lengthM / kPlaces) continue;
            model.loads.push_back(port);
            places_.push_back(at);
        }
    }

    std::size_t nearest(double alongM) const {
        std::size_t best = 0;
        for (std::size_t p = 0; p < places_.size(); ++p)
            if (std::abs(places_[p] - alongM) < std::abs(places_[best] - alongM)) best = p;
        return firstPort_ + best;
    }

    /// With this circuit in one of the loads and, where the choke itself is to be elsewhere, none in it.
    ChokePoint read(std::size_t load, const model::LumpedCircuit& circuit, double alongM, bool without) {
        endWhere(stop_);
        model::WireModel model = expansion_.model;
        if (own_ && without) model.loads[*own_].circuit = resistor(0.0);
        model.loads[load].circuit = circuit;
        Analysis a;
        a.mesh = solution_.mesh;
        a.reading = circuit::closePorts(model, solution_);
        a.figures.frequencyHz = hz_;
        a.figures.antennaOhm = a.reading.antennaOhm;
        a.figures.joints = feedPathJoints(expansion_, a.reading.antennaOhm, hz_);
        ChokePoint point;
        point.alongM = alongM;
        point.ohm = std::abs(circuit::lumpedImpedance(circuit, hz_));
        point.swr = swr(a.figures.joints.back().impedanceOhm, expansion_.referenceOhm);
        for (const auto& balance : balanceOf(expansion_, a))
            if (balance.run == study_.run) point.share = balance.share();
        const auto field = em::farField(*a.mesh, a.reading.localCurrent, hz_, {towards_}).front();
        point.lostDb = gainDbi_ - em::gainDbi(field, a.reading.inputPowerW);
        point.watts =
            arrivingW(a.figures.joints, radioW_) * a.reading.eachLoadW[load] / a.reading.inputPowerW;
        return point;
    }

    const model::Design& design_;
    double hz_;
    double radioW_;
    std::stop_token stop_;
    model::Expansion expansion_;
    ChokeStudy study_;
    std::string feed_;
    std::vector<std::size_t> wires_;
    std::vector<double> starts_;
    std::vector<double> places_;
    std::optional<std::size_t> own_;
    model::LumpedCircuit chokeCircuit_;
    double chokeAlongM_ = 0.0;
    std::size_t firstPort_ = 0;
    em::PortSolution solution_;
    em::Direction towards_;
    double gainDbi_ = 0.0;
};

}  // namespace

std::string cableRunOf(const model::Expansion& expansion) {
    return expansion.runs.empty() ? std::string() : expansion.runs.front().part;
}

const ChokePoint& ChokeStudy::best() const {
    return *std::min_element(places.begin(), places.end(),
                             [](const auto& a, const auto& b) { return a.share < b.share; });
}

const ChokePoint* ChokeStudy::enough() const {
    if (sizes.empty()) return nullptr;
    const ChokePoint& most = sizes.back();
    for (std::size_t i = 0; i + 1 < sizes.size(); ++i)
        if (sizes[i].share <= most.share + kLittleShare &&
            std::abs(sizes[i].lostDb - most.lostDb) <= kLittleDb)
            return &sizes[i];
    return nullptr;
}

std::string ChokeStudy::advice(quantity::LengthStyle lengths) const {
    if (places.empty()) return {};
    const ChokePoint& place = best();
    std::string text =
        say("Best {} from the feed: {:.0f} % of the feed current on {} instead of {:.0f} %",
            quantity::formatRough(place.alongM, 1, lengths), 100.0 * place.share, run, 100.0 * none.share);
    text += say(", SWR {:.2f} for {:.2f}.", place.swr, none.swr);
    if (const ChokePoint* size = enough())
        text += say(" {} {:.0f} ohm are enough: more takes no more than {:.0f} % and {:g} dB off.",
                    choke.empty() ? say("At the feed") : say("Where it is now"), size->ohm,
                    100.0 * kLittleShare, kLittleDb);
    else
        text += say(" More than 10 000 ohm would still take more off.");
    return text;
}

ChokeStudy studyChoke(const model::Design& design, double frequencyHz, double radioW, std::stop_token stop,
                      const Progress& progress) {
    return ChokeStudier(design, frequencyHz, radioW, std::move(stop)).run(progress);
}

}  // namespace rm::study
