#include "core/project/reference_cases.h"

#include <fmt/format.h>

#include <map>
#include <nlohmann/json.hpp>

#include "core/project/json_text.h"

namespace rm::io {

namespace {

using nlohmann::json;

Vec3 point(const json& j) {
    return {j.at(0).get<double>(), j.at(1).get<double>(), j.at(2).get<double>()};
}

model::Ground readGround(const json& j) {
    model::Ground ground;
    const std::string type = j.at("type");
    if (type == "pec")
        ground.kind = model::GroundKind::Perfect;
    else if (type == "real") {
        ground.kind = model::GroundKind::Real;
        ground.relativePermittivity = j.at("eps_r");
        ground.conductivitySm = j.at("sigma");
    } else if (type != "free") {
        throw Error(fmt::format("ground type \"{}\" is not free, pec or real", type));
    }
    return ground;
}

model::WirePlace readPlace(const json& j, const std::map<int, std::size_t>& wireIndex) {
    const int id = j.at("wire");
    const auto found = wireIndex.find(id);
    if (found == wireIndex.end()) throw Error(fmt::format("there is no wire {}", id));
    return {found->second, j.at("at").get<double>()};
}

std::optional<double> optionalNumber(const json& j, const char* member) {
    if (!j.contains(member)) return std::nullopt;
    return j.at(member).get<double>();
}

Expectation readExpectation(const json& j) {
    Expectation e;
    for (const auto& z : j.at("z")) e.impedanceOhm.emplace_back(z.at(0).get<double>(), z.at(1).get<double>());
    e.impedanceToleranceOhm = j.at("z_tol");
    e.gainDbi = j.at("gain_dbi").get<std::vector<double>>();
    e.gainToleranceDb = j.at("gain_tol_db");
    e.gainWithinDb = j.at("gain_within_db");
    e.maxDbi = j.at("max_dbi");
    return e;
}

ReferenceCase readCase(const json& j) {
    ReferenceCase c;
    c.name = j.at("name");
    c.frequencyHz = j.at("f_hz");
    c.model.ground = readGround(j.at("ground"));
    std::map<int, std::size_t> wireIndex;
    for (const auto& w : j.at("wires")) {
        model::PlainWire wire;
        wire.startM = point(w.at("p1"));
        wire.endM = point(w.at("p2"));
        wire.radiusM = w.at("radius");
        wire.conductivitySm = optionalNumber(w, "sigma");
        wire.part = fmt::format("wire {}", w.at("id").get<int>());
        wireIndex[w.at("id").get<int>()] = c.model.wires.size();
        c.model.wires.push_back(wire);
    }
    for (const auto& f : j.at("feeds")) {
        model::PlainFeed feed;
        feed.place = readPlace(f, wireIndex);
        feed.voltage = {f.at("v").at(0).get<double>(), f.at("v").at(1).get<double>()};
        feed.name = fmt::format("feed {}", c.model.feeds.size() + 1);
        c.model.feeds.push_back(feed);
    }
    for (const auto& l : j.value("loads", json::array())) {
        model::PlainLoad load;
        load.place = readPlace(l, wireIndex);
        load.circuit.kind = l.at("kind") == "parallel" ? model::LoadKind::Parallel : model::LoadKind::Series;
        load.circuit.resistanceOhm = optionalNumber(l, "r");
        load.circuit.inductanceH = optionalNumber(l, "l");
        load.circuit.capacitanceF = optionalNumber(l, "c");
        load.name = fmt::format("load {}", c.model.loads.size() + 1);
        c.model.loads.push_back(load);
    }
    for (const auto& d : j.value("look", json::array()))
        c.look.push_back({d.at(0).get<double>(), d.at(1).get<double>()});
    if (j.contains("expect")) c.expected = readExpectation(j.at("expect"));
    return c;
}

}  // namespace

bool ReferenceCase::lossless() const {
    for (const auto& wire : model.wires)
        if (wire.conductivitySm) return false;
    for (const auto& load : model.loads)
        if (load.circuit.resistanceOhm) return false;
    return model.ground.kind != model::GroundKind::Real;
}

std::vector<ReferenceCase> parseReferenceCases(const std::string& text, const std::string& name) {
    const json root = parseJson(text, name);
    std::vector<ReferenceCase> cases;
    try {
        for (const auto& j : root.at("cases")) cases.push_back(readCase(j));
    } catch (const std::exception& e) {
        throw Error(fmt::format("{}: case {}: {}.", name, cases.size() + 1, e.what()));
    }
    return cases;
}

std::vector<ReferenceCase> readReferenceCases(const std::filesystem::path& file) {
    return parseReferenceCases(readTextFile(file), file.string());
}

}  // namespace rm::io
