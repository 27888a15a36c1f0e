// The drawing: to scale, nothing written over anything, and read again in every form it is written in.
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>

#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>
#include <fstream>

#include "core/export/build_drawing.h"
#include "core/project/project_file.h"
#include "folder.h"
#include "sheet_checks.h"

using namespace rm;

namespace {

model::Project demo() {
    return io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
}

struct Counter : DL_CreationAdapter {
    int lines = 0;
    int texts = 0;
    double longest = 0.0;
    void addLine(const DL_LineData& l) override {
        ++lines;
        if (getAttributes().getLayer() == "wires")
            longest = std::max(longest, std::hypot(l.x2 - l.x1, l.y2 - l.y1));
    }
    void addText(const DL_TextData&) override { ++texts; }
};

}  // namespace

TEST_CASE("every design of the demo is drawn inside of its frame, and no number covers another one") {
    for (const auto& design : demo().designs)
        for (const auto paper : {io::Paper::A4, io::Paper::A3, io::Paper::Letter}) {
            io::DrawingOptions options;
            options.paper = paper;
            options.project = "Heron Point";
            const auto sheets = io::buildDrawing(design, options);
            CHECK(sheets.size() >= 2);
            test::checkSheets(sheets, design.name);
        }
}

TEST_CASE("lines are as long as the scale says") {
    const auto project = demo();
    for (const auto& design : project.designs) {
        if (design.name != "Yagi, 70 MHz" && design.name != "Inverted V, 60 m") continue;
        io::DrawingOptions options;
        const auto sheet = io::buildDrawing(design, options).front();
        double scale = 0.0;
        for (const auto& text : sheet.texts)
            if (text.words.rfind("1 : ", 0) == 0) scale = std::stod(text.words.substr(4));
        REQUIRE(scale > 0.0);
        double longest = 0.0;
        for (const auto& line : sheet.lines)
            if (line.layer == "wires")
                longest = std::max(longest, std::hypot(line.to.x - line.from.x, line.to.y - line.from.y));
        // Along the boom or a leg nothing is longer than itself.
        double most = 0.0;
        for (const auto& wire : model::expand(design).model.wires) most = std::max(most, wire.lengthM());
        CHECK(longest <= 1000.0 * most / scale + 1e-6);
        CHECK(longest > 0.6 * 1000.0 * most / scale);
    }
}

TEST_CASE("SVG, PDF and DXF hold it, and a reader opens the DXF again") {
    const test::Folder folder;
    const auto project = demo();
    io::DrawingOptions options;
    options.project = "A & B <C>";
    const auto sheets = io::buildDrawing(project.designs.front(), options);
    const std::string svg = io::svgOf(sheets.front());
    CHECK(svg.find("A &amp; B &lt;C&gt;") != std::string::npos);
    CHECK(svg.find("<line") != std::string::npos);
    const std::string pdf = (folder / "drawing.pdf").string();
    io::writePdf(sheets, pdf);
    std::ifstream in(pdf, std::ios::binary);
    std::string head(5, ' ');
    in.read(head.data(), 5);
    CHECK(head == "%PDF-");
    CHECK(std::filesystem::file_size(pdf) > 3000);
    const std::string dxf = (folder / "drawing.dxf").string();
    io::writeDxf(sheets.front(), dxf);
    Counter counter;
    DL_Dxf reader;
    REQUIRE(reader.in(dxf, &counter));
    CHECK(counter.lines == static_cast<int>(sheets.front().lines.size()));
    CHECK(counter.texts == static_cast<int>(sheets.front().texts.size()));
    double longest = 0.0;
    for (const auto& line : sheets.front().lines)
        if (line.layer == "wires")
            longest = std::max(longest, std::hypot(line.to.x - line.from.x, line.to.y - line.from.y));
    CHECK(counter.longest == Approx(longest).margin(1e-3));
    CHECK_THROWS_AS(io::writePdf(sheets, "/no/such/folder/x.pdf"), Error);
    CHECK_THROWS_AS(io::writeDxf(sheets.front(), "/no/such/folder/x.dxf"), Error);
    CHECK_THROWS_AS(io::paperNamed("foolscap"), Error);
}
