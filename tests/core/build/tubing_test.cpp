// Tubes that go into each other, booms that are joined and balanced, traps wound of cable.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "core/build/sheet.h"
#include "core/export/boom_template.h"
#include "core/export/build_tables.h"
#include "core/project/project_file.h"
#include "demo.h"
#include "sheet_checks.h"

using namespace rm;

namespace {

constexpr double kAluminium = 2700.0;

model::RowElement element(const std::string& name, const std::string& position, const std::string& length,
                          const std::string& diameter) {
    model::RowElement e;
    e.name = name;
    e.position = position;
    e.length = length;
    e.diameter = diameter;
    return e;
}

model::Design rowOf(const std::vector<model::RowElement>& elements, model::BoomKind boom) {
    model::Part part;
    part.name = "Beam";
    part.conductor.material = "aluminium-6061";
    part.conductor.diameter = "12 mm";
    model::ElementRow row;
    row.elements = elements;
    row.boom.kind = boom;
    row.boom.diameter = "50 mm";
    part.shape = row;
    model::Design d;
    d.designFrequency = "28.5 MHz";
    d.parts = {part};
    model::Feed feed;
    feed.part = "Beam";
    feed.place.kind = model::PlaceKind::Middle;
    feed.place.element = elements.back().name;
    d.feeds = {feed};
    return d;
}

const char* const kSchedule = "25 mm x 0.6 m, 20 mm x 0.5 m, 16 mm";

double tubeKg(double diameterM, double wallM, double lengthM) {
    return kPi * (diameterM - wallM) * wallM * lengthM * kAluminium;
}

const build::Piece& pieceOf(const build::BuildSheet& sheet, const std::string& part, double diameterM) {
    for (const auto& piece : sheet.list.pieces)
        if (piece.part == part && std::abs(piece.diameterM - diameterM) < 1e-9) return piece;
    FAIL(part << " has no piece of " << 1e3 * diameterM << " mm");
    throw Error("none");
}

}  // namespace

TEST_CASE("a telescoped element is cut as the tubes that it is made of, each as much longer as it goes in") {
    auto d =
        rowOf({element("reflector", "0 m", "4 m", kSchedule), element("driven", "2 m", "3.6 m", kSchedule)},
              model::BoomKind::None);
    d.build.wall = "1.9 mm";
    const auto sheet = build::buildSheet(d);
    CHECK(sheet.findings.empty());
    const auto& middle = pieceOf(sheet, "Beam, reflector", 0.025);
    CHECK(middle.count == 1);
    CHECK(middle.cutM == Approx(1.2));
    CHECK(middle.conductor == "aluminium-6061 25 mm");
    const auto& next = pieceOf(sheet, "Beam, reflector", 0.020);
    CHECK(next.count == 2);
    CHECK(next.modelledM == Approx(0.5));
    CHECK(next.cutM == Approx(0.6));
    CHECK(next.insideOfM == Approx(0.025));
    CHECK_THAT(next.added, Catch::Contains("100 mm inside the 25 mm tube"));
    CHECK(next.massKg == Approx(tubeKg(0.020, 0.0019, 0.6)));
    const auto& tip = pieceOf(sheet, "Beam, reflector", 0.016);
    CHECK(tip.cutM == Approx(0.9 + 0.1));
    // The fed one is split in its middle: two halves of the thick tube.
    const auto& half = pieceOf(sheet, "Beam, driven", 0.025);
    CHECK(half.count == 2);
    CHECK(half.cutM == Approx(0.6));
    CHECK(half.insideOfM == 0.0);
    // Every diameter on stock of its own, and a clamp for each place where one goes into the next.
    CHECK(sheet.stock.size() == 3);
    const auto order = build::orderFor(sheet);
    const auto clamps = std::find_if(
        order.begin(), order.end(), [](const auto& row) { return row.what == "clamps or rivets for tubes"; });
    REQUIRE(clamps != order.end());
    CHECK(clamps->quantity == "8");
    // What is modelled is all there.
    double modelled = 0.0;
    for (const auto& piece : sheet.list.pieces) modelled += piece.count * piece.modelledM;
    CHECK(modelled == Approx(7.6));
}

TEST_CASE("tubes that do not go into each other are said to, and those shorter than what goes into them") {
    auto d = rowOf({element("driven", "0 m", "4 m", kSchedule)}, model::BoomKind::None);
    d.build.wall = "3 mm";
    auto sheet = build::buildSheet(d);
    REQUIRE(sheet.findings.size() == 2);
    CHECK(sheet.findings[0].sentence ==
          "Beam, driven: a tube of 16 mm does not go into one of 20 mm with walls of 3 mm.");
    CHECK(sheet.findings[1].sentence ==
          "Beam, driven: a tube of 20 mm does not go into one of 25 mm with walls of 3 mm.");
    CHECK(sheet.findings[0].part == "Beam");
    d.build.wall = "1 mm";
    d.build.overlap = "55 cm";
    sheet = build::buildSheet(d);
    REQUIRE(sheet.findings.size() == 1);
    CHECK(sheet.findings[0].sentence ==
          "Beam, driven: its tube of 20 mm has 500 mm for what goes into it, and 550 go in.");
    // A whole one in the middle takes a tube in at either end.
    d = rowOf({element("reflector", "0 m", "4 m", kSchedule), element("driven", "2 m", "3.6 m", "16 mm")},
              model::BoomKind::None);
    d.build.overlap = "55 cm";
    d.build.wall = "1 mm";
    CHECK(build::buildSheet(d).findings.size() == 1);
    std::get<model::ElementRow>(d.parts[0].shape).elements[0].diameter =
        "25 mm x 0.5 m, 20 mm x 0.6 m, 16 mm";
    sheet = build::buildSheet(d);
    REQUIRE(sheet.findings.size() == 1);
    CHECK(sheet.findings[0].sentence ==
          "Beam, reflector: its tube of 25 mm has 500 mm for what goes into it, and 550 go in.");
    for (const char* const wall : {"-1 mm", "nonsense", "1e9 m"}) {
        d.build.wall = wall;
        CHECK_THROWS_WITH(build::buildSheet(d), Catch::StartsWith("Wall of tubes: "));
    }
}

TEST_CASE("thin rods are solid, and the diameter of an element is its own") {
    const auto sheet = build::buildSheet(
        rowOf({element("a", "0 m", "1 m", "6 mm"), element("b", "1 m", "0.9 m", "")}, model::BoomKind::None));
    const auto& rod = pieceOf(sheet, "Beam, a", 0.006);
    CHECK(rod.conductor == "aluminium-6061 6 mm");
    CHECK(rod.massKg == Approx(0.25 * kPi * 0.006 * 0.006 * kAluminium));
    CHECK(pieceOf(sheet, "Beam, b", 0.012).conductor == "aluminium-6061 12 mm");
    CHECK(pieceOf(sheet, "Beam, b", 0.012).massKg == Approx(tubeKg(0.012, 0.0015, 0.45)));
}

TEST_CASE("a rod that is fed between its halves is shorter by the gap; what is left of it is something") {
    auto d = rowOf({element("driven", "0 m", "1 m", "6 mm")}, model::BoomKind::None);
    d.build.gap = "12 mm";
    const auto sheet = build::buildSheet(d);
    REQUIRE(sheet.list.pieces.size() == 1);
    CHECK(sheet.list.pieces[0].count == 2);
    CHECK(sheet.list.pieces[0].cutM == Approx(0.494));
    CHECK(sheet.list.pieces[0].added == "6.0 mm less for the gap");
    d.build.gap = "1.1 m";
    CHECK_THROWS_WITH(build::buildSheet(d), Catch::StartsWith("Beam, driven: nothing is left of it"));
}

TEST_CASE("wire comes off reels, and spreaders hold the corners of loops") {
    model::Design d;
    model::Part part;
    part.name = "Quad";
    part.conductor.diameter = "2 mm";
    model::RegularLoop loop;
    loop.size = "22 m";
    part.shape = loop;
    d.parts = {part};
    model::Feed feed;
    feed.part = "Quad";
    d.feeds = {feed};
    auto sheet = build::buildSheet(d);
    REQUIRE(sheet.stock.size() == 1);
    CHECK(sheet.stock[0].reel);
    CHECK(sheet.stock[0].stockM == 100.0);
    CHECK(sheet.stock[0].plan.bars.size() == 1);
    REQUIRE(sheet.fittings.spreaders.size() == 1);
    CHECK(sheet.fittings.spreaders[0].count == 4);
    CHECK(sheet.fittings.spreaders[0].lengthM == Approx(5.5 / std::sqrt(2.0)));
    // Two of them have twice as many.
    model::Copy copy;
    copy.parts = {"Quad"};
    copy.rowSpacing = "9 m";
    auto pair = d;
    pair.copies = {copy};
    const auto both = build::buildSheet(pair).fittings.spreaders;
    REQUIRE(both.size() == 1);
    CHECK(both[0].count > 4);
    CHECK(both[0].count % 4 == 0);
    CHECK(both[0].lengthM == Approx(5.5 / std::sqrt(2.0)));
    d.build.reel = "20 m";
    sheet = build::buildSheet(d);
    REQUIRE(sheet.findings.size() == 1);
    CHECK_THAT(sheet.findings[0].mend, Catch::Contains("a longer reel"));
    // What hangs from ropes has none.
    std::get<model::RegularLoop>(d.parts[0].shape).size = "84 m";
    d.build.reel = "100 m";
    CHECK(build::buildSheet(d).fittings.spreaders.empty());
}

TEST_CASE("a boom is joined clear of its elements, out of its stock, and balances where its masses do") {
    std::vector<model::RowElement> elements;
    for (const char* const at : {"0 m", "2 m", "4 m", "5 m", "8 m"})
        elements.push_back(element(std::string("e") + at[0], at, "5 m", "20 mm"));
    auto d = rowOf(elements, model::BoomKind::Above);
    const auto sheet = build::buildSheet(d);
    REQUIRE(sheet.booms.size() == 1);
    const auto& boom = sheet.booms[0];
    CHECK(boom.tubeM() == Approx(8.1));
    REQUIRE(boom.jointsM.size() == 1);
    REQUIRE(boom.tubesM.size() == 2);
    CHECK(boom.tubesM[0] + boom.tubesM[1] == Approx(8.1));
    CHECK(std::max(boom.tubesM[0], boom.tubesM[1]) <= 6.0);
    for (const auto& hole : boom.holes) CHECK(std::abs(hole.atM - boom.jointsM[0]) > 0.3);
    const double rod = tubeKg(0.020, 0.0015, 5.0);
    const double tube = tubeKg(0.050, 0.0015, 8.1);
    CHECK(boom.elementsKg == Approx(5.0 * rod).epsilon(1e-3));  // cut longer for the boom
    CHECK(boom.massKg == Approx(5.0 * rod + tube).epsilon(1e-3));
    CHECK(boom.balanceM == Approx((rod * 19.0 + tube * 4.0) / (5.0 * rod + tube)).epsilon(1e-3));
    // Forward loops and swept tips bring their mass with them.
    auto swept = elements;
    swept.back().form = model::ElementForm::Bent;
    swept.back().flat = "1 m";
    swept.back().sweep = "90 deg";
    const auto bent = build::buildSheet(rowOf(swept, model::BoomKind::Above));
    // Two arms of 2 m out of 5, each with its middle a metre ahead.
    CHECK(bent.booms[0].balanceM - boom.balanceM == Approx(rod * 0.8 / (5.0 * rod + tube)).epsilon(0.02));
    // Without a boom there is nothing to join.
    const auto bare = build::buildSheet(rowOf(elements, model::BoomKind::None));
    CHECK(bare.booms[0].tube.empty());
    CHECK(bare.booms[0].jointsM.empty());
    CHECK(bare.booms[0].balanceM == Approx(19.0 / 5.0));
    elements.front().diameter = kSchedule;
    for (const auto& built : {sheet, build::buildSheet(rowOf(elements, model::BoomKind::Above))})
        for (const auto& table : io::otherTables(built, false))
            for (const auto& row : table.rows) CHECK(row.size() == table.columns.size());
}

TEST_CASE("no tube of a boom is longer than its stock, wherever the elements stand") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> gap(0.05, 1.4);
    std::uniform_real_distribution<double> stock(1.6, 4.0);
    for (int trial = 0; trial < 60; ++trial) {
        std::vector<model::RowElement> elements;
        double at = 0.0;
        for (int i = 0; i < 12; ++i) {
            elements.push_back(element("e" + std::to_string(i), std::to_string(at) + " m", "1 m", "8 mm"));
            at += gap(random);
        }
        auto d = rowOf(elements, model::BoomKind::Above);
        d.build.stock = std::to_string(stock(random)) + " m";
        const auto sheet = build::buildSheet(d);
        const auto& boom = sheet.booms[0];
        CAPTURE(trial, sheet.stockM, boom.tubeM());
        double sum = 0.0;
        for (const double tube : boom.tubesM) {
            CHECK(tube <= sheet.stockM + 1e-9);
            CHECK(tube > 0.0);
            sum += tube;
        }
        CHECK(sum == Approx(boom.tubeM()));
        CHECK(boom.tubesM.size() == static_cast<std::size_t>(std::ceil(boom.tubeM() / sheet.stockM - 1e-9)));
    }
}

TEST_CASE("every copy of a row is cut as the row is, and has a boom of its own") {
    const auto one = build::buildSheet(test::demoDesign("Yagi, 70 MHz"));
    const auto two = build::buildSheet(test::demoDesign("Two Yagis stacked, 70 MHz"));
    int found = 0;
    for (const auto& piece : one.list.pieces)
        for (const auto& other : two.list.pieces)
            if (other.origin == "Yagi" && other.element == piece.element) {
                ++found;
                CHECK(other.cutM == Approx(piece.cutM));
                CHECK(other.added == piece.added);
                CHECK(other.massKg == Approx(piece.massKg));
            }
    CHECK(found == 2 * static_cast<int>(one.list.pieces.size()));
    REQUIRE(two.booms.size() == 1);
    CHECK(two.booms[0].count == 2);
    CHECK(two.booms[0].massKg == Approx(one.booms[0].massKg));
    CHECK(two.booms[0].elementsKg == Approx(one.booms[0].elementsKg));
    CHECK(two.booms[0].balanceM == Approx(one.booms[0].balanceM));
    const auto ordered = [](const build::BuildSheet& sheet, const std::string& what) {
        for (const auto& row : build::orderFor(sheet))
            if (row.what == what) return row.quantity;
        return std::string("none");
    };
    CHECK(ordered(one, "boom tube, square 25 mm") == "1 x 6 m");
    CHECK(ordered(two, "boom tube, square 25 mm") == "2 x 6 m");
    // The mast is longer than any tube: it is joined from four.
    CHECK(ordered(two, "steel 80 mm") == "4 x 6 m");
}

TEST_CASE("a trap of coax resonates where it should, by the inductance of its turns and all of its cable") {
    for (const double hz : {3.7e6, 7.1e6, 14.2e6, 28.5e6}) {
        const auto trap = build::coaxTrapFor(hz);
        CHECK(trap.resonanceHz == Approx(hz).epsilon(1e-6));
        // 50 ohm with a velocity factor of 0.66: 101 pF a metre.
        CHECK(trap.capacitanceF / trap.cableM == Approx(101.0e-12).epsilon(0.01));
        // Wheeler in inches.
        const double radius = 0.5 * (trap.formerM + 0.005) / 0.0254;
        CHECK(1e6 * trap.inductanceH == Approx(radius * radius * trap.turns * trap.turns /
                                               (9.0 * radius + 10.0 * trap.windingM / 0.0254)));
        CHECK(trap.cableM > trap.turns * kPi * trap.formerM);
        CHECK(trap.windingM / trap.formerM > 0.4);
        CHECK(trap.windingM / trap.formerM < 2.5);
    }
    auto d = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json").designs.front();
    model::Load load;
    load.name = "Trap";
    load.part = d.parts.front().name;
    load.form = model::LoadForm::Trap;
    load.trapFrequency = "7.1 MHz";
    load.place.kind = model::PlaceKind::Percent;
    load.place.value = "25";
    d.loads = {load};
    const auto sheet = build::buildSheet(d);
    REQUIRE(sheet.fittings.traps.size() == 1);
    CHECK(sheet.fittings.traps[0].trap.resonanceHz == Approx(7.1e6).epsilon(1e-6));
}

TEST_CASE("a boom on paper has its holes where they are, whatever strip they fall on") {
    std::vector<model::RowElement> elements;
    for (const char* const at : {"0 m", "0.31 m", "0.9 m", "1.255 m", "2.1 m"})
        elements.push_back(element("el " + std::string(at), at, "1 m", "10 mm"));
    const auto d = rowOf(elements, model::BoomKind::Insulated);
    for (const auto paper : {io::Paper::A4, io::Paper::A3, io::Paper::Letter}) {
        io::DrawingOptions options;
        options.paper = paper;
        options.feetAndInches = paper == io::Paper::Letter;
        const auto sheets = io::boomTemplate(d, options);
        test::checkSheets(sheets, "boom");
        // What each is and where, once.
        int names = 0;
        int places = 0;
        for (const auto& sheet : sheets)
            for (const auto& text : sheet.texts) {
                names += text.words == "el 1.255 m" ? 1 : 0;
                places += text.words == (options.feetAndInches ? "4' 3 3/8\"" : "1305.0 mm") ? 1 : 0;
            }
        CHECK(names == 1);
        CHECK(places == 1);
        // Strips in their order, each by the edge that its marks end on.
        std::vector<double> holes;
        double begun = 0.0;
        for (const auto& sheet : sheets) {
            std::vector<io::SheetLine> edges;
            for (const auto& line : sheet.lines)
                if (line.layer == "frame" && line.width == 0.3 && line.from.y == line.to.y)
                    edges.push_back(line);
            std::sort(edges.begin(), edges.end(),
                      [](const auto& a, const auto& b) { return a.from.y < b.from.y; });
            for (const auto& edge : edges) {
                for (const auto& line : sheet.lines)
                    if (line.layer == "wires" && line.to.y == edge.from.y)
                        holes.push_back(begun + line.to.x - edge.from.x);
                begun += edge.to.x - edge.from.x;
            }
        }
        CHECK(begun == Approx(2200.0));
        std::sort(holes.begin(), holes.end());
        REQUIRE(holes.size() == 5);
        const double wanted[] = {50.0, 360.0, 950.0, 1305.0, 2150.0};
        for (std::size_t i = 0; i < 5; ++i) CHECK(holes[i] == Approx(wanted[i]).margin(1e-6));
    }
    auto longer = elements;
    longer.back().position = "21 m";
    CHECK_THROWS_WITH(io::boomTemplate(rowOf(longer, model::BoomKind::None), {}),
                      Catch::Contains("more paper than 20 m"));
    CHECK_THROWS_WITH(
        io::boomTemplate(io::readProject(RM_SOURCE_DIR "/demo/heron_point.json").designs[0], {}),
        Catch::Contains("nothing to drill"));
}
