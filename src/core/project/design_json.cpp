#include "core/project/design_json.h"

#include <algorithm>

#include "core/circuit/reflection.h"
#include "core/project/array_json.h"
#include "core/project/goals_json.h"
#include "core/project/json_members.h"

namespace rm::io {

using namespace rm::model;

namespace {

constexpr std::initializer_list<std::pair<const char*, DimensionKind>> kDimensionKinds = {
    {"length", DimensionKind::Length}, {"angle", DimensionKind::Angle}, {"number", DimensionKind::Number}};
constexpr std::initializer_list<std::pair<const char*, PlaceKind>> kPlaceKinds = {
    {"start", PlaceKind::Start},   {"middle", PlaceKind::Middle},     {"end", PlaceKind::End},
    {"corner", PlaceKind::Corner}, {"distance", PlaceKind::Distance}, {"percent", PlaceKind::Percent}};
constexpr std::initializer_list<std::pair<const char*, LoadForm>> kLoadForms = {
    {"series", LoadForm::Series}, {"parallel", LoadForm::Parallel}, {"trap", LoadForm::Trap}};
constexpr std::initializer_list<std::pair<const char*, BlockKind>> kBlockKinds = {
    {"transformer", BlockKind::Transformer},
    {"cable", BlockKind::Cable},
    {"stub", BlockKind::Stub},
    {"element", BlockKind::Element},
    {"choke", BlockKind::Choke},
    {"quarter wave", BlockKind::QuarterWave},
    {"network", BlockKind::Network}};
constexpr std::initializer_list<std::pair<const char*, ElementKind>> kElementKinds = {
    {"inductor", ElementKind::Inductor},
    {"capacitor", ElementKind::Capacitor},
    {"resistor", ElementKind::Resistor}};
constexpr std::initializer_list<std::pair<const char*, GroundKind>> kGroundKinds = {
    {"free space", GroundKind::FreeSpace}, {"perfect", GroundKind::Perfect}, {"real", GroundKind::Real}};

Place readPlace(const json& j, const std::string& where) {
    Members m(j, where);
    Place place;
    place.kind = m.choice("kind", PlaceKind::Middle, kPlaceKinds);
    place.value = m.text("value", "");
    place.element = m.text("element", "");
    return place;
}

json writePlace(const Place& place) {
    json j = {{"kind", wordFor(place.kind, kPlaceKinds)}};
    if (!place.value.empty()) j["value"] = place.value;
    if (!place.element.empty()) j["element"] = place.element;
    return j;
}

const Texts<FeedBlock> kBlockTexts = {{"ratio", &FeedBlock::ratio},
                                      {"magnetising uH", &FeedBlock::magnetising},
                                      {"core loss ohm", &FeedBlock::coreLoss},
                                      {"leakage uH", &FeedBlock::leakage},
                                      {"compensation pF", &FeedBlock::compensation},
                                      {"cut for", &FeedBlock::tuned},
                                      {"value", &FeedBlock::value},
                                      {"Q", &FeedBlock::q},
                                      {"loss dB", &FeedBlock::loss}};

NetworkArm readArm(const json& j, const std::string& where) {
    Members m(j, where);
    NetworkArm arm;
    arm.element = m.choice("element", ElementKind::Inductor, kElementKinds);
    arm.shunt = m.flag("shunt", false);
    arm.value = m.text("value", arm.value);
    arm.q = m.text("Q", "");
    return arm;
}

json writeArm(const NetworkArm& arm) {
    json j = {{"element", wordFor(arm.element, kElementKinds)}, {"shunt", arm.shunt}, {"value", arm.value}};
    if (!arm.q.empty()) j["Q"] = arm.q;
    return j;
}

PhasingLine readLine(const json& j, const std::string& where) {
    Members m(j, where);
    PhasingLine line;
    line.name = m.text("name", line.name);
    line.fromPart = m.text("from part", "");
    line.toPart = m.text("to part", "");
    if (const json* p = m.object("from place")) line.from = readPlace(*p, where + ", from place");
    if (const json* p = m.object("to place")) line.to = readPlace(*p, where + ", to place");
    readTexts<LineText>(m, line, lineTexts());
    line.crossed = m.flag("crossed", false);
    line.enabled = m.flag("enabled", true);
    line.extra = m.rest();
    return line;
}

json writeLine(const PhasingLine& line) {
    json j = {
        {"name", line.name},      {"from part", line.fromPart},      {"from place", writePlace(line.from)},
        {"to part", line.toPart}, {"to place", writePlace(line.to)}, {"crossed", line.crossed}};
    writeTexts<LineText>(j, line, lineTexts());
    if (!line.enabled) j["enabled"] = false;
    return withExtra(j, line.extra);
}

FeedBlock readBlock(const json& j, const std::string& where) {
    Members m(j, where);
    FeedBlock block;
    block.name = m.text("name", "");
    block.kind = m.choice("kind", BlockKind::Transformer, kBlockKinds);
    block.enabled = m.flag("enabled", true);
    readTexts<LineText>(m, block, lineTexts());
    readTexts(m, block, kBlockTexts);
    for (const auto& arm : m.array("elements")) block.arms.push_back(readArm(arm, where + ", elements"));
    block.shorted = m.flag("shorted", true);
    block.element = m.choice("element", ElementKind::Inductor, kElementKinds);
    block.shunt = m.flag("shunt", false);
    block.extra = m.rest();
    return block;
}

json writeBlock(const FeedBlock& block) {
    const FeedBlock standard;
    json j = {{"name", block.name}, {"kind", wordFor(block.kind, kBlockKinds)}};
    if (!block.enabled) j["enabled"] = false;
    writeTexts<LineText>(j, block, lineTexts());
    writeTexts(j, block, kBlockTexts);
    for (const auto& arm : block.arms) j["elements"].push_back(writeArm(arm));
    if (!block.shorted) j["shorted"] = false;
    if (block.element != standard.element) j["element"] = wordFor(block.element, kElementKinds);
    if (block.shunt) j["shunt"] = true;
    return withExtra(j, block.extra);
}

Dimension readDimension(const json& j, const std::string& where) {
    Members m(j, where);
    Dimension d;
    d.name = m.text("name", "");
    d.text = m.text("value", "");
    d.kind = m.choice("kind", DimensionKind::Length, kDimensionKinds);
    d.low = m.text("low", "");
    d.high = m.text("high", "");
    d.note = m.text("note", "");
    d.scales = m.flag("scales", true);
    d.extra = m.rest();
    return d;
}

json writeDimension(const Dimension& d) {
    json j = {{"name", d.name}, {"value", d.text}, {"kind", wordFor(d.kind, kDimensionKinds)}};
    if (!d.low.empty()) j["low"] = d.low;
    if (!d.high.empty()) j["high"] = d.high;
    if (!d.note.empty()) j["note"] = d.note;
    if (!d.scales) j["scales"] = false;
    return withExtra(j, d.extra);
}

Part readPart(const json& j, const std::string& where) {
    Members m(j, where);
    Part part;
    part.name = m.text("name", "");
    part.enabled = m.flag("enabled", true);
    if (const json* c = m.object("conductor")) {
        Members conductor(*c, where + ", conductor");
        part.conductor.material = conductor.text("material", "copper");
        part.conductor.diameter = conductor.text("diameter", "2 mm");
        part.conductor.coat = conductor.text("insulation", "");
        part.conductor.coatPermittivity = conductor.text("insulation permittivity", "3");
    }
    const std::string shape = m.text("shape", "");
    if (shape == "straight wire") {
        StraightWire w;
        w.start = m.point("start", w.start);
        w.end = m.point("end", w.end);
        w.insulators = m.text("insulators", w.insulators);
        part.shape = w;
    } else if (shape == "bent wire") {
        BentWire w;
        for (const auto& p : m.array("points")) w.points.push_back(m.readPoint(p, "points"));
        w.closed = m.flag("closed", false);
        part.shape = w;
    } else if (shape == "loop") {
        RegularLoop l;
        l.centre = m.point("centre", l.centre);
        l.sides = m.text("sides", l.sides);
        l.byPerimeter = m.choice("sized by", true, {{"perimeter", true}, {"side", false}});
        l.size = m.text("size", l.size);
        l.tilt = m.text("tilt", l.tilt);
        l.turn = m.text("turn", l.turn);
        l.cornerDown = m.flag("corner down", false);
        part.shape = l;
    } else if (shape == "inverted V") {
        InvertedV v;
        v.foot = m.point("foot", v.foot);
        v.apexHeight = m.text("apex height", v.apexHeight);
        v.leg = m.text("leg", v.leg);
        v.angle = m.text("angle", v.angle);
        v.turn = m.text("turn", v.turn);
        part.shape = v;
    } else if (shape == "fan") {
        Fan f;
        f.hub = m.point("hub", f.hub);
        f.count = m.text("count", f.count);
        f.length = m.text("length", f.length);
        f.slope = m.text("slope", f.slope);
        f.first = m.text("first", f.first);
        f.insulators = m.text("insulators", f.insulators);
        part.shape = f;
    } else if (shape == "element row") {
        part.shape = readRow(m);
    } else {
        throw Error(fmt::format("{}: shape \"{}\" is not known to this version", where, shape));
    }
    part.extra = m.rest();
    return part;
}

struct ShapeWriter {
    json operator()(const StraightWire& w) const {
        json j = {{"shape", "straight wire"}, {"start", w.start}, {"end", w.end}};
        if (w.insulators != "0") j["insulators"] = w.insulators;
        return j;
    }
    json operator()(const BentWire& w) const {
        json j = {{"shape", "bent wire"}, {"points", w.points}};
        if (w.closed) j["closed"] = true;
        return j;
    }
    json operator()(const RegularLoop& l) const {
        return {{"shape", "loop"},  {"centre", l.centre},
                {"sides", l.sides}, {"sized by", l.byPerimeter ? "perimeter" : "side"},
                {"size", l.size},   {"tilt", l.tilt},
                {"turn", l.turn},   {"corner down", l.cornerDown}};
    }
    json operator()(const InvertedV& v) const {
        return {{"shape", "inverted V"}, {"foot", v.foot},   {"apex height", v.apexHeight},
                {"leg", v.leg},          {"angle", v.angle}, {"turn", v.turn}};
    }
    json operator()(const Fan& f) const {
        json j = {{"shape", "fan"},     {"hub", f.hub},     {"count", f.count},
                  {"length", f.length}, {"slope", f.slope}, {"first", f.first}};
        if (f.insulators != "0") j["insulators"] = f.insulators;
        return j;
    }
    json operator()(const ElementRow& row) const { return writeRow(row); }
};

json writePart(const Part& part) {
    json j = std::visit(ShapeWriter{}, part.shape);
    j["name"] = part.name;
    if (!part.enabled) j["enabled"] = false;
    j["conductor"] = {{"material", part.conductor.material}, {"diameter", part.conductor.diameter}};
    if (!part.conductor.coat.empty()) {
        j["conductor"]["insulation"] = part.conductor.coat;
        j["conductor"]["insulation permittivity"] = part.conductor.coatPermittivity;
    }
    return withExtra(j, part.extra);
}

Feed readFeed(const json& j, const std::string& where) {
    Members m(j, where);
    Feed feed;
    feed.name = m.text("name", "Feed");
    feed.part = m.text("part", "");
    if (const json* p = m.object("place")) feed.place = readPlace(*p, where + ", place");
    feed.amplitude = m.text("amplitude", "1");
    feed.phase = m.text("phase", "0 deg");
    feed.extra = m.rest();
    return feed;
}

json writeFeed(const Feed& feed) {
    return withExtra({{"name", feed.name},
                      {"part", feed.part},
                      {"place", writePlace(feed.place)},
                      {"amplitude", feed.amplitude},
                      {"phase", feed.phase}},
                     feed.extra);
}

Load readLoad(const json& j, const std::string& where) {
    Members m(j, where);
    Load load;
    load.name = m.text("name", "Load");
    load.part = m.text("part", "");
    if (const json* p = m.object("place")) load.place = readPlace(*p, where + ", place");
    load.form = m.choice("kind", LoadForm::Series, kLoadForms);
    load.resistance = m.text("ohm", "");
    load.inductance = m.text("uH", "");
    load.capacitance = m.text("pF", "");
    load.coilQ = m.text("coil Q", "");
    load.trapFrequency = m.text("trap frequency", load.trapFrequency);
    load.trapReactance = m.text("trap ohm", load.trapReactance);
    load.enabled = m.flag("enabled", true);
    load.extra = m.rest();
    return load;
}

json writeLoad(const Load& load) {
    json j = {{"name", load.name},
              {"part", load.part},
              {"place", writePlace(load.place)},
              {"kind", wordFor(load.form, kLoadForms)}};
    if (!load.resistance.empty()) j["ohm"] = load.resistance;
    if (!load.inductance.empty()) j["uH"] = load.inductance;
    if (!load.capacitance.empty()) j["pF"] = load.capacitance;
    if (!load.coilQ.empty()) j["coil Q"] = load.coilQ;
    if (load.form == LoadForm::Trap) {
        j["trap frequency"] = load.trapFrequency;
        j["trap ohm"] = load.trapReactance;
    }
    if (!load.enabled) j["enabled"] = false;
    return withExtra(j, load.extra);
}

/// Points are [Hz, R, X] or, where the SWR alone is known, [Hz, SWR].
MeasuredData readMeasuredData(Members& m) {
    MeasuredData data;
    data.referenceOhm = m.number("reference ohm", 50.0);
    data.note = m.text("note", "");
    for (const auto& p : m.array("points")) {
        const bool numbers =
            p.is_array() && std::all_of(p.begin(), p.end(), [](const json& v) { return v.is_number(); });
        if (!numbers || p.size() < 2 || p.size() > 3)
            throw Error(fmt::format("{}: each point has to be [Hz, R, X] or [Hz, SWR]", m.where()));
        MeasuredPoint point;
        point.frequencyHz = p[0].get<double>();
        if (p.size() == 3) {
            point.impedanceOhm = Complex(p[1].get<double>(), p[2].get<double>());
            point.swr = circuit::swr(*point.impedanceOhm, data.referenceOhm);
        } else {
            point.swr = p[1].get<double>();
        }
        data.points.push_back(point);
    }
    return data;
}

Measured readMeasured(const json& j, const std::string& where) {
    Members m(j, where);
    Measured measured;
    measured.name = m.text("name", "Measured");
    measured.file = m.text("file", "");
    measured.data = readMeasuredData(m);
    measured.atAntenna = m.flag("at antenna", false);
    measured.shown = m.flag("shown", true);
    measured.hasLead = m.flag("lead taken away", false);
    if (const json* lead = m.object("lead")) measured.lead = readBlock(*lead, where + ", lead");
    measured.extra = m.rest();
    return measured;
}

json writeMeasured(const Measured& measured) {
    json points = json::array();
    for (const auto& p : measured.data.points) {
        if (p.impedanceOhm)
            points.push_back({p.frequencyHz, p.impedanceOhm->real(), p.impedanceOhm->imag()});
        else
            points.push_back({p.frequencyHz, p.swr});
    }
    json j = {{"name", measured.name},
              {"file", measured.file},
              {"note", measured.data.note},
              {"reference ohm", measured.data.referenceOhm},
              {"at antenna", measured.atAntenna},
              {"points", points}};
    if (!measured.shown) j["shown"] = false;
    if (measured.hasLead) j["lead taken away"] = true;
    if (measured.hasLead) j["lead"] = writeBlock(measured.lead);
    return withExtra(j, measured.extra);
}

}  // namespace

Design readDesign(const json& j, std::size_t number) {
    const std::string where = fmt::format("design {}", number);
    Members m(j, where);
    Design d;
    d.name = m.text("name", d.name);
    const std::string named = fmt::format("design \"{}\"", d.name);
    d.designFrequency = m.text("design frequency", d.designFrequency);
    d.reference = m.text("reference ohm", d.reference);
    for (const auto& x : m.array("dimensions"))
        d.dimensions.push_back(readDimension(x, named + ", dimension"));
    for (const auto& x : m.array("parts"))
        d.parts.push_back(readPart(x, fmt::format("{}, part {}", named, d.parts.size() + 1)));
    for (const auto& x : m.array("copies")) d.copies.push_back(readCopy(x, named + ", copies"));
    for (const auto& x : m.array("drive sets"))
        d.driveSets.push_back(readDriveSet(x, named + ", drive sets"));
    d.driveSet = static_cast<int>(
        std::clamp(m.number("drive set", -1.0), -1.0, static_cast<double>(d.driveSets.size()) - 1.0));
    if (const json* h = m.object("harness")) d.harness = readHarness(*h, named + ", harness");
    for (const auto& x : m.array("feeds")) d.feeds.push_back(readFeed(x, named + ", feed"));
    for (const auto& x : m.array("loads")) d.loads.push_back(readLoad(x, named + ", load"));
    for (const auto& x : m.array("lines")) d.lines.push_back(readLine(x, named + ", line"));
    for (const auto& x : m.array("feed path")) d.feedPath.push_back(readBlock(x, named + ", feed path"));
    for (const auto& x : m.array("measured"))
        d.measured.push_back(
            readMeasured(x, fmt::format("{}, measurement {}", named, d.measured.size() + 1)));
    for (const auto& x : m.array("bands")) {
        if (!x.is_string()) throw Error(fmt::format("{}: \"bands\" has to be a list of names", named));
        d.bands.push_back(x.get<std::string>());
    }
    if (const json* s = m.object("site")) {
        Members site(*s, named + ", site");
        d.site.ground = site.choice("ground", GroundKind::FreeSpace, kGroundKinds);
        d.site.quick = site.flag("quick free space", false);
        d.site.soil = site.text("soil", "average");
        d.site.permittivity = site.text("permittivity", "13");
        d.site.conductivity = site.text("conductivity", "0.005");
        d.site.height = site.text("height", "0 m");
        d.site.heading = site.text("heading", "0 deg");
        d.site.extra = site.rest();
    }
    if (const json* t = m.object("tune")) d.tune = readPlan(*t, named + ", tune");
    d.extra = m.rest();
    return d;
}

json writeDesign(const Design& d) {
    json j = {{"name", d.name},
              {"design frequency", d.designFrequency},
              {"reference ohm", d.reference},
              {"dimensions", list(d.dimensions, writeDimension)},
              {"parts", list(d.parts, writePart)},
              {"feeds", list(d.feeds, writeFeed)},
              {"loads", list(d.loads, writeLoad)},
              {"site", withExtra({{"ground", wordFor(d.site.ground, kGroundKinds)},
                                  {"soil", d.site.soil},
                                  {"permittivity", d.site.permittivity},
                                  {"conductivity", d.site.conductivity},
                                  {"height", d.site.height},
                                  {"heading", d.site.heading}},
                                 d.site.extra)}};
    if (d.site.quick) j["site"]["quick free space"] = true;
    if (!d.copies.empty()) j["copies"] = list(d.copies, writeCopy);
    if (!d.driveSets.empty()) j["drive sets"] = list(d.driveSets, writeDriveSet);
    if (d.driveSet >= 0) j["drive set"] = d.driveSet;
    if (d.harness.enabled || !d.harness.arms.empty()) j["harness"] = writeHarness(d.harness);
    if (!d.lines.empty()) j["lines"] = list(d.lines, writeLine);
    if (!d.feedPath.empty()) j["feed path"] = list(d.feedPath, writeBlock);
    if (!d.measured.empty()) j["measured"] = list(d.measured, writeMeasured);
    if (!d.tune.empty()) j["tune"] = writePlan(d.tune);
    if (!d.bands.empty()) j["bands"] = d.bands;
    return withExtra(j, d.extra);
}

}  // namespace rm::io
