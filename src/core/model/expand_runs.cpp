#include "core/model/expand_runs.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

/// A choke of the feed path that belongs at or beyond the end of a run stands here on its last wire: at the
/// very end of an open one nothing flows.
constexpr double kNearTheEnd = 0.98;

}  // namespace

const FeedBlock* CableRuns::firstCable() const {
    for (const auto& block : design_.feedPath)
        if (block.enabled && block.kind == BlockKind::Cable) return &block;
    return nullptr;
}

/// A feed by its name, or the first; nothing where there is none. Without a point where its place cannot be
/// found, of which it is said when it is placed.
std::optional<CableRuns::FoundFeed> CableRuns::findFeed(const std::string& name) const {
    for (const auto& feed : design_.feeds)
        for (const Unit& unit : units_) {
            if (unit.base != feed.part && unit.name() != feed.part) continue;
            const auto copies = std::count_if(units_.begin(), units_.end(),
                                              [&](const Unit& u) { return u.base == unit.base; });
            FoundFeed found{Places::withLabel(feed.name, unit, copies > 1 && unit.base == feed.part), {}};
            if (!name.empty() && name != found.name && name != feed.name) continue;
            const std::size_t said = values_.findings.size();
            WirePlace place;
            if (places_.locate(feed.name, unit, feed.place, place)) found.pointM = places_.pointOf(place);
            values_.findings.resize(said);
            return found;
        }
    return std::nullopt;
}

void CableRuns::lay(const PartScene& scene) {
    for (const auto& part : design_.parts)
        if (part.enabled && std::holds_alternative<CableRun>(part.shape)) layOne(part, scene);
}

void CableRuns::layOne(const Part& part, const PartScene& scene) {
    const auto& run = std::get<CableRun>(part.shape);
    const auto unit = std::find_if(units_.begin(), units_.end(),
                                   [&](const Unit& u) { return u.base == part.name && u.wires.empty(); });
    const auto made = like_.find(part.name);
    // Of what cannot be made it has been said.
    if (unit == units_.end() || made == like_.end() || !(made->second.radiusM > 0.0)) return;
    const auto feed = findFeed(run.feed);
    if (!feed) {
        const bool none = design_.feeds.empty();
        return values_.problem(part.name,
                               say("{} hangs from {}, which is not there.", part.name,
                                   run.feed.empty() ? say("a feed") : "\"" + run.feed + "\""),
                               none ? say("Add a feed.") : say("Choose one of the feeds."));
    }
    if (!feed->pointM) return;
    PlainWire like = made->second;
    const FeedBlock* cable = firstCable();
    const LineType* line = cable != nullptr ? findLine(cable->line) : nullptr;
    if (line != nullptr && run.sized) {
        like.radiusM = 0.5 * line->diameterM;
        like.coatM = line->jacketM;
    }
    Laid laid{part.name, feed->name, out_.model.wires.size(), {}, run.shield};
    laid.wires = runFrom(values_, run, part.name, *feed->pointM, like, out_.model.ground, scene.supports);
    if (laid.wires.wires.empty()) return;
    const auto& wires = laid.wires.wires;
    unit->firstWire = laid.first;
    unit->wires = wires;
    unit->paths = {{"", 0, laid.wires.cable, false}};
    out_.model.wires.insert(out_.model.wires.end(), wires.begin(), wires.end());
    out_.units.push_back(unit->name());
    out_.runs.push_back({part.name, feed->name, laid.wires.lengthM,
                         run.measures && cable != nullptr ? cable->name : std::string()});
    laid_.push_back(std::move(laid));
}

void CableRuns::measure(const std::string& block, Block& plain) const {
    auto* cable = std::get_if<Cable>(&plain);
    for (const auto& run : out_.runs)
        if (cable != nullptr && !run.block.empty() && run.block == block) cable->lengthM = run.lengthM;
}

void CableRuns::choke() {
    std::vector<const FeedBlock*> blocks;
    for (const auto& block : design_.feedPath)
        if (block.enabled) blocks.push_back(&block);
    for (const Laid& run : laid_) {
        double along = 0.0;
        // A path with problems has fewer blocks, and nothing is worked out with it.
        for (std::size_t b = 0; b < blocks.size() && blocks.size() == out_.feedPath.size(); ++b) {
            const FeedBlock& block = *blocks[b];
            if (const auto* cable = std::get_if<Cable>(&out_.feedPath[b])) along += cable->lengthM;
            const bool chokes = block.kind == BlockKind::Choke || block.kind == BlockKind::Transformer;
            if (!chokes || block.choking.empty()) continue;
            values_.failed = false;
            const double ohm =
                values_.within(block.choking, Kind::Number, 0.0, 1e9, block.name, say("what it chokes"));
            if (!values_.failed) addChoke(run, block.name, ohm, along);
        }
        if (run.wires.earthOhm) addEarth(run);
    }
}

void CableRuns::addChoke(const Laid& run, const std::string& name, double ohm, double alongM) {
    std::size_t wire = run.first;
    const auto length = [&] { return out_.model.wires[wire].lengthM(); };
    for (; wire + 1 < run.first + run.wires.cable && alongM > length() * (1.0 - 1e-9); ++wire)
        alongM -= length();
    PlainLoad choke;
    choke.name = name;
    choke.circuit.resistanceOhm = ohm;
    choke.place = {wire, std::clamp(alongM / length(), 0.0, kNearTheEnd)};
    out_.model.loads.push_back(choke);
}

/// Where the cable ends: at the lead down to the ground where there is one, otherwise at its own end.
void CableRuns::addEarth(const Laid& run) {
    const auto& wires = run.wires.wires;
    const bool lead = wires.size() > run.wires.cable && wires[run.wires.cable].startM.z() > 0.0;
    PlainLoad earth;
    earth.name = earthOf(run.part);
    earth.circuit.resistanceOhm = run.wires.earthOhm;
    earth.place =
        lead ? WirePlace{run.first + run.wires.cable, 0.0} : WirePlace{run.first + run.wires.cable - 1, 1.0};
    out_.model.loads.push_back(earth);
}

void CableRuns::hang() {
    std::vector<Hanging> hanging;
    for (const auto& run : laid_)
        for (std::size_t f = 0; f < out_.model.feeds.size(); ++f)
            if (out_.model.feeds[f].name == run.feed) hanging.push_back({f, run.first, run.shield});
    joinShields(out_.model, std::move(hanging));
}

}  // namespace rm::model
