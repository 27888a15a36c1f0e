#include "core/project/reference_cases.h"

#include <fmt/format.h>

#include <climits>
#include <map>
#include <nlohmann/json.hpp>

#include "core/project/json_text.h"
#include "core/project/text_file.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using nlohmann::json;

double number(const json& j) {
    const auto value = j.get<double>();
    if (!quantity::isOfThisWorld(value)) throw Error(say("{} is a number that nothing has", value));
    return value;
}

int wholeNumber(const json& j) {
    if (!j.is_number_integer() || j.get<long long>() < INT_MIN || j.get<long long>() > INT_MAX)
        throw Error(say("the number of a wire is not whole"));
    return j.get<int>();
}

Vec3 point(const json& j) {
    return {number(j.at(0)), number(j.at(1)), number(j.at(2))};
}

model::Ground readGround(const json& j) {
    model::Ground ground;
    const std::string type = j.at("type");
    if (type == "pec")
        ground.kind = model::GroundKind::Perfect;
    else if (type == "real") {
        ground.kind = model::GroundKind::Real;
        ground.relativePermittivity = number(j.at("eps_r"));
        ground.conductivitySm = number(j.at("sigma"));
    } else if (type != "free") {
        throw Error(say("ground type \"{}\" is not free, pec or real", type));
    }
    return ground;
}

model::WirePlace readPlace(const json& j, const std::map<int, std::size_t>& wireIndex) {
    const int id = wholeNumber(j.at("wire"));
    const auto found = wireIndex.find(id);
    if (found == wireIndex.end()) throw Error(say("there is no wire {}", id));
    return {found->second, number(j.at("at"))};
}

std::optional<double> optionalNumber(const json& j, const char* member) {
    if (!j.contains(member)) return std::nullopt;
    return number(j.at(member));
}

Expectation readExpectation(const json& j) {
    Expectation e;
    for (const auto& z : j.at("z")) e.impedanceOhm.emplace_back(number(z.at(0)), number(z.at(1)));
    e.impedanceToleranceOhm = number(j.at("z_tol"));
    for (const auto& gain : j.at("gain_dbi")) e.gainDbi.push_back(number(gain));
    e.gainToleranceDb = number(j.at("gain_tol_db"));
    e.gainWithinDb = number(j.at("gain_within_db"));
    e.maxDbi = number(j.at("max_dbi"));
    return e;
}

ReferenceCase readCase(const json& j) {
    ReferenceCase c;
    c.name = j.at("name");
    c.frequencyHz = number(j.at("f_hz"));
    c.model.ground = readGround(j.at("ground"));
    std::map<int, std::size_t> wireIndex;
    for (const auto& w : j.at("wires")) {
        model::PlainWire wire;
        wire.startM = point(w.at("p1"));
        wire.endM = point(w.at("p2"));
        wire.radiusM = number(w.at("radius"));
        wire.conductivitySm = optionalNumber(w, "sigma");
        wire.part = fmt::format("wire {}", wholeNumber(w.at("id")));
        wireIndex[wholeNumber(w.at("id"))] = c.model.wires.size();
        c.model.wires.push_back(wire);
    }
    for (const auto& f : j.at("feeds")) {
        model::PlainFeed feed;
        feed.place = readPlace(f, wireIndex);
        feed.voltage = {number(f.at("v").at(0)), number(f.at("v").at(1))};
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
    for (const auto& d : j.value("look", json::array())) c.look.push_back({number(d.at(0)), number(d.at(1))});
    if (j.contains("expect")) c.expected = readExpectation(j.at("expect"));
    if (c.expected && c.expected->impedanceOhm.size() > c.model.feeds.size())
        throw Error(say("it expects more impedances than it has feeds"));
    if (c.expected && c.expected->gainDbi.size() > c.look.size())
        throw Error(say("it expects more gains than it has directions to look at"));
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
        throw Error(say("{}: case {}: {}.", name, cases.size() + 1, e.what()));
    }
    return cases;
}

std::vector<ReferenceCase> readReferenceCases(const std::filesystem::path& file) {
    return parseReferenceCases(readTextFile(file), file.string());
}

}  // namespace rm::io
