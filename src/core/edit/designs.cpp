#include "core/edit/designs.h"

#include <fmt/format.h>

#include <algorithm>
#include <optional>

#include "core/edit/feet.h"
#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/words/words.h"

namespace rm::edit {

using namespace rm::model;

namespace {

/// Of a dipole of 2 mm wire that is resonant in the middle of 20 m, ten metres up.
constexpr double kStarterSpanM = 10.35;

}  // namespace

Project starterProject(bool feetAndInches) {
    Project p;
    p.feetAndInches = feetAndInches;
    for (const char* name : {"40 m", "20 m", "15 m", "10 m"}) p.bands.push_back(*findAllocatedBand(name));
    p.workingBand = 1;
    Design d;
    d.name = say("Dipole");
    d.dimensions.push_back({"span",
                            fmt::format("{} m", kStarterSpanM),
                            DimensionKind::Length,
                            "5 m",
                            "15 m",
                            say("Length of the dipole"),
                            true,
                            {}});
    Part part;
    part.name = say("Dipole");
    part.shape = StraightWire{{"0 m", "-span/2", "0 m"}, {"0 m", "span/2", "0 m"}};
    d.parts.push_back(part);
    Feed feed;
    feed.part = say("Dipole");
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    d.site.height = feetAndInches ? "33 ft" : "10 m";
    p.designs.push_back(feetAndInches ? inFeet(d) : d);
    giveIds(p);
    return p;
}

namespace {

Project withDesign(Project project, Design design) {
    design.id = 0;
    design.name = freeName(project.designs, design.name);
    project.designs.push_back(std::move(design));
    project.activeDesign = project.designs.size() - 1;
    giveIds(project);
    return project;
}

}  // namespace

Project newDesign(Project project) {
    Design design = starterProject(project.feetAndInches).active();
    if (project.workingBand < project.bands.size()) {
        const double hz = project.bands[project.workingBand].centreHz();
        design.designFrequency = fmt::format("{} MHz", hz / 1e6);
        const double spanM = kStarterSpanM * findAllocatedBand("20 m")->centreHz() / hz;
        Dimension& span = design.dimensions.front();
        const auto metres = [](double m) { return fmt::format("{:.4g} m", m); };
        span.text = metres(spanM);
        span.low = metres(0.5 * spanM);
        span.high = metres(1.5 * spanM);
    }
    if (project.feetAndInches) design = inFeet(std::move(design));
    return withDesign(std::move(project), std::move(design));
}

Project addDesign(Project project, Design design) {
    project = withDesign(std::move(project), std::move(design));
    const Id id = project.active().id;
    return chooseDesign(std::move(project), id);
}

Project copyDesign(Project project) {
    Design copy = project.active();
    return withDesign(std::move(project), std::move(copy));
}

Project removeDesign(Project project) {
    if (project.designs.size() < 2)
        throw Error(say("This is the only design: a project keeps at least one."));
    project.designs.erase(project.designs.begin() + static_cast<std::ptrdiff_t>(project.activeDesign));
    project.activeDesign = std::min(project.activeDesign, project.designs.size() - 1);
    return project;
}

bool isFor(const Design& design, const std::string& band) {
    return design.bands.empty() ||
           std::find(design.bands.begin(), design.bands.end(), band) != design.bands.end();
}

std::optional<std::size_t> bandFor(const Design& design, const std::vector<Band>& bands,
                                   std::size_t working) {
    if (working < bands.size() && isFor(design, bands[working].name)) return working;
    for (std::size_t i = 0; i < bands.size(); ++i)
        if (isFor(design, bands[i].name)) return i;
    return std::nullopt;
}

Project chooseDesign(Project project, Id design) {
    const std::size_t place = indexOf(project.designs, design);
    if (place >= project.designs.size()) return project;
    project.activeDesign = place;
    const Design& chosen = project.designs[place];
    if (const auto band = bandFor(chosen, project.bands, project.workingBand)) project.workingBand = *band;
    return project;
}

Project chooseBand(Project project, const std::string& band) {
    for (std::size_t i = 0; i < project.bands.size(); ++i)
        if (project.bands[i].name == band) project.workingBand = i;
    return project;
}

Project setBands(Project project, const std::vector<Band>& bands, const SwrLimits& limits) {
    const std::string working = workingBand(project, 14.0e6).name;
    project.bands = bands;
    project.swrLimits = limits;
    project.workingBand = 0;
    return chooseBand(std::move(project), working);
}

Project withBands(Project project, const std::vector<Band>& bands) {
    std::vector<Band> all = project.bands;
    for (const Band& band : bands)
        if (std::none_of(all.begin(), all.end(), [&](const Band& own) { return own.name == band.name; }))
            all.push_back(band);
    if (all.size() == project.bands.size()) return project;
    std::stable_sort(all.begin(), all.end(), [](const Band& a, const Band& b) { return a.lowHz < b.lowHz; });
    const SwrLimits limits = project.swrLimits;
    return setBands(std::move(project), all, limits);
}

Band workingBand(const Project& project, double frequencyHz) {
    if (project.bands.empty()) return {"band", 0.98 * frequencyHz, 1.02 * frequencyHz, {}};
    return project.bands[std::min(project.workingBand, project.bands.size() - 1)];
}

}  // namespace rm::edit
