#include "core/study/self_check.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/circuit/port_circuit.h"
#include "core/em/far_field.h"
#include "core/study/figures.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

// What the true error is at most in 95 antennas of 100, over the change to the mesh it is checked by.
constexpr double kOverChange = 1.3;
constexpr double kOverChangeFine = 2.5;
constexpr double kOverGainChange = 1.7;
/// What no mesh shows.
constexpr double kLeastImpedance = 2e-4;
constexpr double kLeastGainDb = 2e-4;
/// What was refined is refined again until it need not be by this much.
constexpr double kHysteresis = 0.6;
/// Directions weaker than the strongest by more do not count.
constexpr double kWithinDb = 10.0;
/// A balance of power that is off by more is worth a finer mesh, whatever the change of the gains says.
constexpr double kSettledBalance = 0.002;

// What is to blame.
constexpr double kThickWavelengths = 0.003;
constexpr double kShortRadii = 25.0;

struct Solved {
    std::shared_ptr<const em::Mesh> mesh;
    circuit::Reading reading;
    std::vector<double> gainDbi;
};

std::vector<em::Direction> directionsOver(model::GroundKind ground) {
    std::vector<em::Direction> all;
    for (int e = ground == model::GroundKind::FreeSpace ? -81 : 3; e < 90; e += 12)
        for (int a = 0; a < 360; a += 30) all.push_back({static_cast<double>(e), static_cast<double>(a)});
    return all;
}

class Checker {
  public:
    Checker(const model::WireModel& model, double frequencyHz, FieldStore& fields,
            const std::stop_token& stop)
        : model_(model), frequencyHz_(frequencyHz), fields_(fields), stop_(stop) {}

    /// Nothing where it is too large.
    std::optional<Solved> solve(int fineness) {
        model_.fineness = fineness;
        Solved s;
        s.mesh = fields_.mesh(model_, frequencyHz_);
        if (s.mesh->functions.size() > kMostChecked) return std::nullopt;
        s.reading = circuit::closePorts(model_, *fields_.solve(s.mesh, frequencyHz_, stop_));
        for (const auto& field :
             em::farField(*s.mesh, s.reading.localCurrent, frequencyHz_, directionsOver(model_.ground.kind)))
            s.gainDbi.push_back(em::gainDbi(field, s.reading.inputPowerW));
        return s;
    }

    /// What goes in and neither comes out nor turns to heat, as a share; nothing over real ground, which
    /// takes the rest.
    double imbalance(const Solved& s) const {
        if (model_.ground.kind == model::GroundKind::Real) return 0.0;
        return em::averageGain(*s.mesh, s.reading.localCurrent, frequencyHz_, s.reading.inputPowerW, stop_) +
               s.reading.lostPowerW() / s.reading.inputPowerW - 1.0;
    }

  private:
    model::WireModel model_;
    double frequencyHz_;
    FieldStore& fields_;
    std::stop_token stop_;
};

double impedanceChange(const Solved& a, const Solved& b) {
    double most = 0.0;
    for (std::size_t f = 0; f < a.reading.feedImpedance.size(); ++f) {
        const Complex z = b.reading.feedImpedance[f];
        if (std::abs(z) > 0.0) most = std::max(most, std::abs(a.reading.feedImpedance[f] - z) / std::abs(z));
    }
    return most;
}

double gainChangeDb(const Solved& a, const Solved& b) {
    const double peak = *std::max_element(b.gainDbi.begin(), b.gainDbi.end());
    double most = 0.0;
    for (std::size_t i = 0; i < b.gainDbi.size(); ++i)
        if (b.gainDbi[i] > peak - kWithinDb) most = std::max(most, std::abs(a.gainDbi[i] - b.gainDbi[i]));
    return most;
}

Doubt doubtOf(const Checker& checker, const Solved& here, const Solved& finer, int fineness) {
    Doubt d;
    d.fineness = fineness;
    d.impedance = kLeastImpedance +
                  (fineness >= em::kFineMesh ? kOverChangeFine : kOverChange) * impedanceChange(here, finer);
    d.gainDb = std::max(kLeastGainDb + kOverGainChange * gainChangeDb(here, finer),
                        kSettledGainDb * std::abs(checker.imbalance(here)) / kSettledBalance);
    d.unknowns = finer.mesh->functions.size();
    return d;
}

/// The part that thin-wire theory suits least.
std::string reasonOf(const model::WireModel& model, double frequencyHz) {
    const double lambda = wavelengthM(frequencyHz);
    const model::PlainWire* thickest = nullptr;
    const model::PlainWire* shortest = nullptr;
    for (const auto& wire : model.wires) {
        if (thickest == nullptr || wire.radiusM > thickest->radiusM) thickest = &wire;
        if (shortest == nullptr || wire.lengthM() / wire.radiusM < shortest->lengthM() / shortest->radiusM)
            shortest = &wire;
    }
    if (thickest == nullptr) return {};
    if (thickest->radiusM > kThickWavelengths * lambda)
        return say("{} is thick for this frequency, {:.2g} wavelengths", thickest->origin(),
                   2.0 * thickest->radiusM / lambda);
    if (shortest->lengthM() < kShortRadii * shortest->radiusM)
        return say("a piece of {} is short against its thickness, {:.2g} times its diameter",
                   shortest->origin(), 0.5 * shortest->lengthM() / shortest->radiusM);
    return say("wires come close to each other, or many meet at the feed");
}

}  // namespace

std::string Doubt::sentence() const {
    if (settled())
        return say(
            "Right within {:.2f} % of the impedance and {:.2f} dB of gain, as a mesh of {} unknowns shows.",
            100.0 * impedance, std::max(0.01, gainDb), unknowns);
    return say("The impedance may be off by {:.1f} %, gains by {:.2f} dB: {}.", 100.0 * impedance, gainDb,
               reason);
}

std::optional<Doubt> selfCheck(const model::WireModel& model, double frequencyHz, FieldStore* fields,
                               const std::stop_token& stop) {
    FieldStore own;
    Checker checker(model, frequencyHz, fields != nullptr ? *fields : own, stop);
    try {
        const auto fine = checker.solve(em::kFineMesh);
        if (!fine) return std::nullopt;
        for (int level = 0; level < em::kFineMesh; ++level) {
            const Doubt doubt = doubtOf(checker, *checker.solve(level), *fine, level);
            const double limit = model.fineness > level ? kHysteresis : 1.0;
            if (doubt.impedance <= limit * kSettledImpedance && doubt.gainDb <= limit * kSettledGainDb)
                return doubt;
        }
        const auto finest = checker.solve(em::kFinest);
        if (!finest) return std::nullopt;
        Doubt doubt = doubtOf(checker, *fine, *finest, em::kFineMesh);
        if (!doubt.settled()) doubt.reason = reasonOf(model, frequencyHz);
        return doubt;
    } catch (const Error&) {
        return std::nullopt;
    }
}

std::optional<Doubt> settle(model::Expansion& expansion, double frequencyHz, const std::stop_token& stop) {
    if (!expansion.usable()) return std::nullopt;
    const auto doubt = selfCheck(expansion.model, frequencyHz, nullptr, stop);
    if (doubt) expansion.model.fineness = doubt->fineness;
    return doubt;
}

}  // namespace rm::study
