// starters: the kinds there are. starter: one of them made, as a project file.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/edit/designs.h"
#include "core/model/soils.h"
#include "core/project/project_file.h"
#include "core/quantity/formula.h"
#include "core/starters/starter.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct StarterOptions {
    std::string kind;
    std::vector<std::string> bands{"20 m"};
    std::string height = "10 m";
    std::string soil = "average";
    std::string wire = "2 mm";
    std::string out;
    bool json = false;
};

int list(const StarterOptions& options) {
    if (options.json) {
        json all = json::array();
        for (const auto& k : starters::kinds())
            all.push_back({{"id", k.id},
                           {"name", k.name},
                           {"group", k.group},
                           {"good_at", k.goodAt},
                           {"bands", k.bands},
                           {"lowest_hz", k.lowestHz},
                           {"highest_hz", k.highestHz}});
        printJson(all);
        return kDone;
    }
    std::string group;
    for (const auto& k : starters::kinds()) {
        if (k.group != group) fmt::print("{}{}\n", group.empty() ? "" : "\n", k.group);
        group = k.group;
        fmt::print("  {:<16} {}\n", k.id, k.goodAt);
    }
    return kDone;
}

int make(const StarterOptions& options) {
    starters::Order order;
    for (const auto& name : options.bands) {
        const auto* band = model::findAllocatedBand(name);
        if (band == nullptr) throw Error(fmt::format("\"{}\" is no band known here: use one as 20 m.", name));
        order.bands.push_back(*band);
    }
    order.site.ground = options.soil == "free"      ? model::GroundKind::FreeSpace
                        : options.soil == "perfect" ? model::GroundKind::Perfect
                                                    : model::GroundKind::Real;
    if (order.site.ground == model::GroundKind::Real) {
        if (model::findSoil(options.soil) == nullptr)
            throw Error(fmt::format("\"{}\" is no kind of ground known here.", options.soil));
        order.site.soil = options.soil;
    }
    order.heightM = quantity::evaluate(options.height, quantity::Kind::Length, {});
    if (!(order.heightM >= 1.0 && order.heightM <= 200.0)) throw Error("Supports reach from 1 m to 200 m.");
    order.wire.diameter = options.wire;
    model::Project project = edit::starterProject();
    project.bands = order.bands;
    project.workingBand = 0;
    project.designs.clear();
    project = edit::addDesign(std::move(project), starters::make(options.kind, order));
    project.title = project.active().name;
    if (options.out.empty()) {
        fmt::print("{}", io::textOf(project));
        return kDone;
    }
    io::writeProject(project, options.out);
    fmt::print("{}: {}\n", options.out, project.active().name);
    return kDone;
}

}  // namespace

void addStarterCommands(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<StarterOptions>();
    CLI::App* all =
        app.add_subcommand("starters", "Kinds of antenna to begin with, and what they are good at");
    all->add_flag("--json", options->json, "Print JSON instead of a table");
    all->callback([options, &exitCode] { exitCode = list(*options); });
    CLI::App* one = app.add_subcommand("starter", "Makes one, resonant over the ground, as a project");
    one->add_option("kind", options->kind, "As starters lists it: inverted-v")->required();
    one->add_option("--band", options->bands, "Its band, and further ones where the kind serves several");
    one->add_option("--height", options->height, "What the supports reach");
    one->add_option("--ground", options->soil, "A kind of ground, perfect, or free");
    one->add_option("--wire", options->wire, "Diameter of what is made of wire");
    one->add_option("--out", options->out, "Project file to write; printed if left out");
    one->callback([options, &exitCode] { exitCode = make(*options); });
}

}  // namespace rm::cli
