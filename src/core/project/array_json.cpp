#include "core/project/array_json.h"

namespace rm::io {

using namespace rm::model;

namespace {

constexpr std::initializer_list<std::pair<const char*, ElementForm>> kForms = {
    {"straight", ElementForm::Straight},
    {"bent", ElementForm::Bent},
    {"folded", ElementForm::Folded},
    {"loop in plane", ElementForm::LoopInPlane},
    {"loop upright", ElementForm::LoopUpright}};
constexpr std::initializer_list<std::pair<const char*, BoomKind>> kBooms = {
    {"none", BoomKind::None},
    {"insulating", BoomKind::Insulating},
    {"through, bonded", BoomKind::Bonded},
    {"through, insulated", BoomKind::Insulated},
    {"above", BoomKind::Above}};
constexpr std::initializer_list<std::pair<const char*, CopyKind>> kCopies = {{"mirror", CopyKind::Mirror},
                                                                             {"rotate", CopyKind::Rotate},
                                                                             {"shift", CopyKind::Shift},
                                                                             {"stack", CopyKind::Stack}};
constexpr std::initializer_list<std::pair<const char*, MirrorPlane>> kPlanes = {
    {"left and right", MirrorPlane::LeftRight},
    {"front and back", MirrorPlane::FrontBack},
    {"up and down", MirrorPlane::UpDown}};
constexpr std::initializer_list<std::pair<const char*, CopyAxis>> kAxes = {
    {"upright", CopyAxis::Upright}, {"forward", CopyAxis::Forward}, {"left", CopyAxis::Left}};
constexpr std::initializer_list<std::pair<const char*, IdleKind>> kIdle = {
    {"open", IdleKind::Open}, {"shorted", IdleKind::Shorted}, {"terminated", IdleKind::Terminated}};

const Texts<RowElement> kElementTexts = {{"position", &RowElement::position},
                                         {"length", &RowElement::length},
                                         {"diameter", &RowElement::diameter},
                                         {"flat", &RowElement::flat},
                                         {"sweep", &RowElement::sweep},
                                         {"second conductor", &RowElement::gap},
                                         {"end diameter", &RowElement::endDiameter}};
const Texts<Copy> kCopyTexts = {{"at", &Copy::at},
                                {"count", &Copy::count},
                                {"angle", &Copy::angle},
                                {"rows", &Copy::rows},
                                {"columns", &Copy::columns},
                                {"row spacing", &Copy::rowSpacing},
                                {"column spacing", &Copy::columnSpacing}};

std::vector<std::string> readNames(Members& m, const char* name) {
    std::vector<std::string> names;
    for (const auto& x : m.array(name)) {
        if (!x.is_string()) throw Error(fmt::format("{}: \"{}\" has to be a list of names", m.where(), name));
        names.push_back(x.get<std::string>());
    }
    return names;
}

}  // namespace

const Texts<LineText>& lineTexts() {
    static const Texts<LineText> texts = {{"line", &LineText::line},
                                          {"line ohm", &LineText::lineOhm},
                                          {"velocity factor", &LineText::velocityFactor},
                                          {"loss root", &LineText::lossRoot},
                                          {"loss linear", &LineText::lossLinear},
                                          {"length", &LineText::length}};
    return texts;
}

ElementRow readRow(Members& m) {
    ElementRow row;
    row.start = m.point("start", row.start);
    row.turn = m.text("turn", row.turn);
    row.rise = m.text("rise", row.rise);
    row.roll = m.text("roll", row.roll);
    row.spacings = m.choice("positions", false, {{"from the start", false}, {"from the one before", true}});
    row.half = m.choice("lengths", false, {{"whole", false}, {"half", true}});
    if (const json* b = m.object("boom")) {
        Members boom(*b, m.where() + ", boom");
        row.boom.kind = boom.choice("kind", BoomKind::None, kBooms);
        row.boom.square = boom.flag("square", false);
        row.boom.diameter = boom.text("diameter", row.boom.diameter);
    }
    for (const auto& x : m.array("elements")) {
        Members e(x, fmt::format("{}, element {}", m.where(), row.elements.size() + 1));
        RowElement element;
        element.name = e.text("name", fmt::format("element {}", row.elements.size() + 1));
        element.form = e.choice("form", ElementForm::Straight, kForms);
        readTexts(e, element, kElementTexts);
        row.elements.push_back(element);
    }
    return row;
}

json writeRow(const ElementRow& row) {
    json elements = json::array();
    for (const auto& element : row.elements) {
        json e = {{"name", element.name}, {"position", element.position}, {"length", element.length}};
        if (element.form != ElementForm::Straight) e["form"] = wordFor(element.form, kForms);
        writeTexts(e, element, kElementTexts);
        elements.push_back(e);
    }
    return {{"shape", "element row"},
            {"start", row.start},
            {"turn", row.turn},
            {"rise", row.rise},
            {"roll", row.roll},
            {"positions", row.spacings ? "from the one before" : "from the start"},
            {"lengths", row.half ? "half" : "whole"},
            {"boom",
             {{"kind", wordFor(row.boom.kind, kBooms)},
              {"square", row.boom.square},
              {"diameter", row.boom.diameter}}},
            {"elements", elements}};
}

Copy readCopy(const json& j, const std::string& where) {
    Members m(j, where);
    Copy copy;
    copy.name = m.text("name", copy.name);
    copy.kind = m.choice("kind", CopyKind::Stack, kCopies);
    copy.enabled = m.flag("enabled", true);
    copy.parts = readNames(m, "parts");
    copy.plane = m.choice("plane", MirrorPlane::LeftRight, kPlanes);
    copy.axis = m.choice("axis", CopyAxis::Upright, kAxes);
    copy.centre = m.point("centre", copy.centre);
    copy.step = m.point("step", copy.step);
    copy.centred = m.flag("centred", false);
    readTexts(m, copy, kCopyTexts);
    copy.extra = m.rest();
    return copy;
}

json writeCopy(const Copy& copy) {
    const Copy standard;
    json j = {{"name", copy.name}, {"kind", wordFor(copy.kind, kCopies)}};
    if (!copy.enabled) j["enabled"] = false;
    if (!copy.parts.empty()) j["parts"] = copy.parts;
    if (copy.plane != standard.plane) j["plane"] = wordFor(copy.plane, kPlanes);
    if (copy.axis != standard.axis) j["axis"] = wordFor(copy.axis, kAxes);
    if (copy.centre != standard.centre) j["centre"] = copy.centre;
    if (copy.step != standard.step) j["step"] = copy.step;
    if (copy.centred) j["centred"] = true;
    writeTexts(j, copy, kCopyTexts);
    return withExtra(j, copy.extra);
}

DriveSet readDriveSet(const json& j, const std::string& where) {
    Members m(j, where);
    DriveSet set;
    set.name = m.text("name", "Drive set");
    set.idle = m.choice("idle", IdleKind::Open, kIdle);
    set.termination = m.text("termination ohm", set.termination);
    for (const auto& x : m.array("driven")) {
        Members d(x, where + ", driven");
        DriveEntry entry;
        entry.feed = d.text("feed", "");
        entry.amplitude = d.text("amplitude", "1");
        entry.phase = d.text("phase", "0 deg");
        entry.delay = d.text("delay", "");
        set.driven.push_back(entry);
    }
    set.extra = m.rest();
    return set;
}

json writeDriveSet(const DriveSet& set) {
    json driven = json::array();
    for (const auto& entry : set.driven) {
        json e = {{"feed", entry.feed}, {"amplitude", entry.amplitude}, {"phase", entry.phase}};
        if (!entry.delay.empty()) e["delay"] = entry.delay;
        driven.push_back(e);
    }
    json j = {{"name", set.name}, {"driven", driven}, {"idle", wordFor(set.idle, kIdle)}};
    if (set.idle == IdleKind::Terminated) j["termination ohm"] = set.termination;
    return withExtra(j, set.extra);
}

Harness readHarness(const json& j, const std::string& where) {
    Members m(j, where);
    Harness harness;
    harness.enabled = m.flag("enabled", true);
    readTexts<LineText>(m, harness.line, lineTexts());
    for (const auto& x : m.array("arms")) {
        Members a(x, where + ", arms");
        harness.arms.push_back({a.text("feed", ""), a.text("length", ""), a.flag("crossed", false)});
    }
    return harness;
}

json writeHarness(const Harness& harness) {
    json j = {{"enabled", harness.enabled}};
    writeTexts<LineText>(j, harness.line, lineTexts());
    for (const auto& arm : harness.arms)
        j["arms"].push_back({{"feed", arm.feed}, {"length", arm.length}, {"crossed", arm.crossed}});
    return j;
}

}  // namespace rm::io
