#include "core/project/project_file.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>

#include "core/project/design_json.h"
#include "core/project/json_members.h"

namespace rm::io {

namespace {

using namespace rm::model;

Band readBand(const json& j) {
    Members m(j, "a band");
    Band band;
    band.name = m.text("name", "");
    band.lowHz = 1e6 * m.number("low MHz", 0.0);
    band.highHz = 1e6 * m.number("high MHz", 0.0);
    for (const auto& s : m.array("spots MHz"))
        if (s.is_number()) band.spotsHz.push_back(1e6 * s.get<double>());
    if (!(band.lowHz > 0.0) || !(band.highHz > band.lowHz))
        throw Error(fmt::format("band \"{}\" needs edges, the lower one first", band.name));
    return band;
}

json writeBand(const Band& band) {
    json j = {{"name", band.name}, {"low MHz", band.lowHz / 1e6}, {"high MHz", band.highHz / 1e6}};
    if (!band.spotsHz.empty()) {
        j["spots MHz"] = json::array();
        for (const double s : band.spotsHz) j["spots MHz"].push_back(s / 1e6);
    }
    return j;
}

Pin readPin(const json& j, std::size_t number) {
    const std::string where = fmt::format("pin {}", number);
    Members m(j, where);
    Pin pin;
    pin.name = m.text("name", fmt::format("Pin {}", number));
    pin.shown = m.flag("shown", true);
    pin.colour = static_cast<int>(m.number("colour", -1.0));
    const json* design = m.object("design");
    if (design == nullptr) throw Error(fmt::format("{} holds no design", where));
    pin.design = readDesign(*design, number);
    pin.extra = m.rest();
    return pin;
}

json writePin(const Pin& pin) {
    json j = {{"name", pin.name}, {"shown", pin.shown}, {"design", writeDesign(pin.design)}};
    if (pin.colour >= 0) j["colour"] = pin.colour;
    return withExtra(j, pin.extra);
}

Angles readAngles(Members& m) {
    Angles angles;
    const json* given = m.object("angles");
    if (given == nullptr) return angles;
    Members a(*given, "\"angles\"");
    const json& watch = a.array("watch deg");
    for (std::size_t i = 0; i < std::min(watch.size(), angles.watchDeg.size()); ++i)
        if (watch[i].is_number()) angles.watchDeg[i] = std::clamp(watch[i].get<double>(), 0.0, 90.0);
    angles.layerKm = std::clamp(a.number("layer km", angles.layerKm), 50.0, 1000.0);
    angles.nearestKm = std::max(0.0, a.number("nearest km", 0.0));
    angles.farthestKm = std::max(0.0, a.number("farthest km", 0.0));
    return angles;
}

json writeAngles(const Angles& angles) {
    return {{"watch deg", angles.watchDeg},
            {"layer km", angles.layerKm},
            {"nearest km", angles.nearestKm},
            {"farthest km", angles.farthestKm}};
}

SwrLimits readLimits(Members& m) {
    const json& given = m.array("SWR limits");
    if (given.empty()) return kUsualSwrLimits;
    SwrLimits limits{};
    const bool three = given.size() == 3 &&
                       std::all_of(given.begin(), given.end(), [](const json& v) { return v.is_number(); });
    for (std::size_t i = 0; three && i < 3; ++i) limits[i] = given[i].get<double>();
    if (!three || limits[0] <= 1.0 || limits[1] <= limits[0] || limits[2] <= limits[1])
        throw Error("\"SWR limits\" has to be three rising numbers above 1");
    return limits;
}

}  // namespace

Project fromJson(const json& root) {
    Members m(root, "the project");
    if (m.text("format", "") != "reed-mast project") throw Error("it is not a Reed Mast project");
    const int version = static_cast<int>(m.number("version", 0.0));
    if (version > kProjectVersion)
        throw Error(
            fmt::format("it was written by a newer Reed Mast (file version {}, this one knows {}): update "
                        "the program to open it",
                        version, kProjectVersion));
    Project project;
    project.title = m.text("title", project.title);
    for (const auto& b : m.array("bands")) project.bands.push_back(readBand(b));
    std::size_t number = 0;
    for (const auto& d : m.array("designs")) project.designs.push_back(readDesign(d, ++number));
    if (project.designs.empty()) throw Error("it holds no design");
    project.workingBand = m.index("working band", project.bands.size());
    project.activeDesign = m.index("active design", project.designs.size());
    project.feetAndInches = m.flag("feet and inches", false);
    project.swrLimits = readLimits(m);
    project.powerW = m.number("power W", project.powerW);
    number = 0;
    for (const auto& p : m.array("pins")) project.pins.push_back(readPin(p, ++number));
    project.baseline = static_cast<int>(m.number("baseline", -1.0));
    if (project.baseline >= static_cast<int>(project.pins.size())) project.baseline = -1;
    project.angles = readAngles(m);
    project.extra = m.rest();
    return project;
}

json toJson(const Project& project) {
    return withExtra({{"format", "reed-mast project"},
                      {"version", kProjectVersion},
                      {"title", project.title},
                      {"bands", list(project.bands, writeBand)},
                      {"working band", project.workingBand},
                      {"designs", list(project.designs, writeDesign)},
                      {"active design", project.activeDesign},
                      {"feet and inches", project.feetAndInches},
                      {"SWR limits", project.swrLimits},
                      {"power W", project.powerW},
                      {"pins", list(project.pins, writePin)},
                      {"baseline", project.baseline},
                      {"angles", writeAngles(project.angles)}},
                     project.extra);
}

Project readProject(const std::filesystem::path& file) {
    std::ifstream in(file);
    if (!in) throw Error(fmt::format("{} cannot be opened.", file.string()));
    std::stringstream text;
    text << in.rdbuf();
    json root;
    try {
        root = json::parse(text.str());
    } catch (const json::parse_error& e) {
        const std::string all = text.str();
        const auto line =
            1 + std::count(all.begin(),
                           all.begin() + static_cast<std::ptrdiff_t>(std::min(e.byte, all.size())), '\n');
        throw Error(fmt::format("{} is damaged: it stops being JSON at line {}.", file.string(), line));
    }
    try {
        return fromJson(root);
    } catch (const Error& e) {
        throw Error(fmt::format("{} cannot be read: {}.", file.string(), e.what()));
    }
}

void writeProject(const Project& project, const std::filesystem::path& file) {
    writeTextAtomically(file, toJson(project).dump(2) + "\n");
}

void writeTextAtomically(const std::filesystem::path& file, const std::string& text) {
    const auto fail = [&](const char* what) {
        return Error(fmt::format("{} cannot be {}: {}.", file.string(), what, std::strerror(errno)));
    };
    const std::string temporary = file.string() + fmt::format(".{}.part", ::getpid());
    const int handle = ::open(temporary.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (handle < 0) throw fail("written");
    std::size_t done = 0;
    while (done < text.size()) {
        const ssize_t n = ::write(handle, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) {
            const Error error = fail("written");
            ::close(handle);
            ::unlink(temporary.c_str());
            throw error;
        }
        done += static_cast<std::size_t>(n);
    }
    const bool flushed = ::fsync(handle) == 0;
    const bool closed = ::close(handle) == 0;
    if (!flushed || !closed || ::rename(temporary.c_str(), file.c_str()) != 0) {
        const Error error = fail("replaced");
        ::unlink(temporary.c_str());
        throw error;
    }
}

}  // namespace rm::io
