// draw: the drawing to take outside, as SVG, PDF or DXF.
#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/export/boom_template.h"
#include "core/export/build_drawing.h"
#include "core/project/text_file.h"

namespace rm::cli {

namespace {

struct DrawOptions {
    Options project;
    std::string out;
    std::string paper = "A4";
    bool feet = false;
    bool trueSize = false;
};

int run(const DrawOptions& options) {
    const Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    io::DrawingOptions drawing;
    drawing.paper = io::paperNamed(options.paper);
    drawing.feetAndInches = options.feet || loaded.project.feetAndInches;
    drawing.project = loaded.project.title;
    drawing.date = today();
    const auto sheets = options.trueSize ? io::boomTemplate(loaded.design, drawing)
                                         : io::buildDrawing(loaded.design, drawing);
    const auto ends = [&](const char* end) {
        const std::string& out = options.out;
        return out.size() > 4 && out.compare(out.size() - 4, 4, end) == 0;
    };
    if (options.trueSize && !ends(".pdf"))
        throw Error(fmt::format("{}: a boom at its true size takes several pages, which only a .pdf has.",
                                options.out));
    if (ends(".svg"))
        io::writeTextAtomically(options.out, io::svgOf(sheets.front()));
    else if (ends(".dxf"))
        io::writeDxf(sheets.front(), options.out);
    else if (ends(".pdf"))
        io::writePdf(sheets, options.out);
    else
        throw Error(fmt::format("{}: a drawing is a .pdf, .svg or .dxf.", options.out));
    fmt::print("{}: {} {}\n", options.out, sheets.size(), sheets.size() == 1 ? "sheet" : "sheets");
    return kDone;
}

}  // namespace

void addDrawCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<DrawOptions>();
    CLI::App* command = app.add_subcommand("draw", "Three views to scale with dimensions, and what to cut");
    addProjectOptions(command, options->project);
    command->add_option("out", options->out, "File to write: .pdf, .svg or .dxf")->required();
    command->add_option("--paper", options->paper, "A4, A3 or Letter");
    command->add_flag("--feet", options->feet, "Lengths in feet and inches");
    command->add_flag("--true-size", options->trueSize,
                      "Instead of the views: the holes of the boom at 1 : 1, in strips to be joined");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
