#include "core/project/project_file.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/project/design_json.h"
#include "core/project/json_text.h"
#include "core/project/text_file.h"
#include "core/words/words.h"

namespace rm::io {

using namespace rm::model;

template <typename Fields>
void describe(Fields& f, Of<Band>) {
    f.text("name", &Band::name, When::Always);
    f.number("low MHz", &Band::lowHz, When::Always, 1e6);
    f.number("high MHz", &Band::highHz, When::Always, 1e6);
    f.numbers("spots MHz", &Band::spotsHz, 1e6);
    f.extra(&Band::extra);
    if constexpr (Fields::reading) {
        const Band& band = f.thing();
        if (!(band.lowHz > 0.0) || !(band.highHz > band.lowHz))
            throw Error(say("band \"{}\" needs edges, the lower one first", band.name));
    }
}

template <typename Fields>
void describe(Fields& f, Of<Pin>) {
    f.text("name", &Pin::name, When::Always);
    f.flag("shown", &Pin::shown, When::Always);
    f.integer("colour", &Pin::colour, -1.0, 99.0);
    if constexpr (Fields::reading) {
        const json* design = f.find("design");
        if (design == nullptr) throw Error(say("{} holds no design", f.where()));
        f.thing().design = readDesign(*design, f.where());
    } else {
        f.object()["design"] = writeDesign(f.thing().design);
    }
    f.extra(&Pin::extra);
}

template <typename Fields>
void describe(Fields& f, Of<Angles>) {
    if constexpr (Fields::reading) {
        auto& watchDeg = f.thing().watchDeg;
        const json& watch = f.array("watch deg");
        for (std::size_t i = 0; i < std::min(watch.size(), watchDeg.size()); ++i)
            watchDeg[i] = std::clamp(f.numberOf(watch[i], "watch deg"), 0.0, 90.0);
    } else {
        f.object()["watch deg"] = f.thing().watchDeg;
    }
    f.number("layer km", &Angles::layerKm, When::Always);
    f.number("nearest km", &Angles::nearestKm, When::Always);
    f.number("farthest km", &Angles::farthestKm, When::Always);
    f.extra(&Angles::extra);
    if constexpr (Fields::reading) {
        Angles& angles = f.thing();
        angles.layerKm = std::clamp(angles.layerKm, 50.0, 1000.0);
        angles.nearestKm = std::max(0.0, angles.nearestKm);
        angles.farthestKm = std::max(0.0, angles.farthestKm);
    }
}

template <typename Fields>
void describe(Fields& f, Of<KeepClear>) {
    f.choice("limits", &KeepClear::limits,
             {{"ICNIRP 1998", LimitSet::Icnirp1998},
              {"ICNIRP 2020", LimitSet::Icnirp2020},
              {"FCC 1.1310", LimitSet::Fcc},
              {"own", LimitSet::Own}},
             When::Always);
    f.choice("mode", &KeepClear::mode,
             {{"carrier", SendMode::Carrier},
              {"speech", SendMode::SpeechSsb},
              {"processed speech", SendMode::ProcessedSsb},
              {"morse", SendMode::Morse}},
             When::Always);
    f.number("duty percent", &KeepClear::dutyPercent, When::Always);
    f.number("margin dB", &KeepClear::marginDb, When::Always);
    f.number("head m", &KeepClear::headM, When::Always);
    f.number("window m", &KeepClear::windowM, When::Always);
    f.number("own V/m", &KeepClear::ownVm);
    f.number("own A/m", &KeepClear::ownAm);
    f.extra(&KeepClear::extra);
    if constexpr (Fields::reading) {
        KeepClear& k = f.thing();
        k.dutyPercent = std::clamp(k.dutyPercent, 0.1, 100.0);
        k.marginDb = std::clamp(k.marginDb, 0.0, 30.0);
        k.headM = std::clamp(k.headM, 0.0, 100.0);
        k.windowM = std::clamp(k.windowM, 0.0, 1000.0);
        k.ownVm = std::clamp(k.ownVm, 1e-3, 1e6);
        k.ownAm = std::clamp(k.ownAm, 1e-6, 1e4);
    }
}

template <typename Fields>
void describeLimits(Fields& f) {
    if constexpr (Fields::reading) {
        const json& given = f.array("SWR limits");
        if (given.empty()) return;
        SwrLimits limits{};
        const bool three = given.size() == 3 && std::all_of(given.begin(), given.end(),
                                                            [](const json& v) { return v.is_number(); });
        for (std::size_t i = 0; three && i < 3; ++i) limits[i] = given[i].template get<double>();
        if (!three || !(limits[0] > 1.0) || !(limits[1] > limits[0]) || !(limits[2] > limits[1]))
            throw Error(say("\"SWR limits\" has to be three rising numbers above 1"));
        f.thing().swrLimits = limits;
    } else {
        f.object()["SWR limits"] = f.thing().swrLimits;
    }
}

template <typename Fields>
void describe(Fields& f, Of<Project>) {
    const auto last = [](const auto& list) {
        return list.empty() ? 0.0 : static_cast<double>(list.size()) - 1.0;
    };
    f.text("title", &Project::title, When::Always);
    f.list("bands", &Project::bands, "band", When::Always);
    f.list("designs", &Project::designs, "design", When::Always);
    if constexpr (Fields::reading)
        if (f.thing().designs.empty()) throw Error(say("it holds no design"));
    f.integer("working band", &Project::workingBand, 0.0, last(f.thing().bands), When::Always);
    f.integer("active design", &Project::activeDesign, 0.0, last(f.thing().designs), When::Always);
    f.flag("feet and inches", &Project::feetAndInches, When::Always);
    describeLimits(f);
    f.number("power W", &Project::powerW, When::Always);
    f.list("pins", &Project::pins, "pin", When::Always);
    f.integer("baseline", &Project::baseline, -1.0, f.thing().pins.empty() ? -1.0 : last(f.thing().pins),
              When::Always);
    f.object("angles", &Project::angles, When::Always);
    f.object("keep clear", &Project::keepClear);
    f.extra(&Project::extra);
}

Project fromJson(const json& root) {
    Project project;
    Reader<Project> reader(project, root, "");
    const json* format = reader.find("format");
    if (format == nullptr || *format != "reed-mast project")
        throw Error(say("it is not a Reed Mast project"));
    const json* version = reader.find("version");
    const double written = version == nullptr ? 0.0 : reader.numberOf(*version, "version");
    if (written > kProjectVersion)
        throw Error(
            say("it was written by a newer Reed Mast (file version {}, this one knows {}): update "
                "the program to open it",
                written, kProjectVersion));
    describe(reader, Of<Project>());
    return project;
}

json toJson(const Project& project) {
    json j = Writer<Project>::written(project);
    j["format"] = "reed-mast project";
    j["version"] = kProjectVersion;
    return j;
}

std::string textOf(const Project& project) {
    return jsonText(toJson(project));
}

Project parseProject(const std::string& text, const std::string& name) {
    const json root = parseJson(text, name);
    try {
        return fromJson(root);
    } catch (const Error& e) {
        throw Error(say("{} cannot be read: {}.", name, e.what()));
    } catch (const json::exception& e) {
        throw Error(say("{} cannot be read: {}.", name, e.what()));
    }
}

Project readProject(const std::filesystem::path& file) {
    return parseProject(readTextFile(file), file.string());
}

void writeProject(const Project& project, const std::filesystem::path& file) {
    writeTextAtomically(file, jsonText(toJson(project), 2) + "\n");
}

const model::Design& designOf(const model::Project& project, const std::string& name,
                              const std::string& file) {
    if (name.empty()) return project.active();
    for (const auto& design : project.designs)
        if (design.name == name) return design;
    throw Error(say("{} has no design named \"{}\".", file, name));
}

}  // namespace rm::io
