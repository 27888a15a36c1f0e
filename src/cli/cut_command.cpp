// build: what to cut, and out of which stock lengths.
#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "core/build/sheet.h"
#include "core/export/build_tables.h"
#include "core/quantity/format.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct CutOptions {
    Options project;
    model::BuildTexts texts;  ///< empty: as the design says
    std::string pdf;
};

json toJson(const build::BuildSheet& sheet) {
    json pieces = json::array();
    for (const auto& p : sheet.list.pieces)
        pieces.push_back({{"part", p.part},
                          {"count", p.count},
                          {"conductor", p.conductor},
                          {"modelled_m", p.modelledM},
                          {"cut_m", p.cutM},
                          {"added", p.added},
                          {"diameter_m", p.diameterM},
                          {"overlap_m", p.overlapM},
                          {"mass_kg", p.massKg},
                          {"bends", p.bends}});
    json totals = json::array();
    for (const auto& t : sheet.list.totals)
        totals.push_back({{"conductor", t.conductor}, {"cut_m", t.cutM}, {"pieces", t.pieces}});
    json stock = json::array();
    for (const auto& b : sheet.stock) {
        json laid = json::array();
        for (const auto& bar : b.plan.bars) {
            json lengths = json::array();
            for (const std::size_t i : bar.pieces) lengths.push_back(b.lengthsM[i]);
            laid.push_back({{"cut_m", lengths}, {"left_m", bar.leftM}});
        }
        json tooLong = json::array();
        for (const std::size_t i : b.plan.tooLong) tooLong.push_back(b.lengthsM[i]);
        stock.push_back(
            {{"conductor", b.conductor}, {"stock_m", b.stockM}, {"bars", laid}, {"too_long_m", tooLong}});
    }
    json booms = json::array();
    for (const auto& b : sheet.booms) {
        json holes = json::array();
        for (const auto& h : b.holes)
            holes.push_back({{"element", h.element}, {"at_m", h.atM}, {"from_last_m", h.fromM}});
        booms.push_back({{"part", b.part},
                         {"count", b.count},
                         {"holes", holes},
                         {"length_m", b.lengthM},
                         {"tube", b.tube},
                         {"end_m", b.endM},
                         {"tubes_m", b.tubesM},
                         {"joints_m", b.jointsM},
                         {"balance_m", b.balanceM},
                         {"elements_kg", b.elementsKg},
                         {"mass_kg", b.massKg}});
    }
    json hung = json::array();
    for (const auto& h : sheet.rigging.hung)
        hung.push_back({{"part", h.part},
                        {"from", h.from},
                        {"to", h.to},
                        {"bearing_deg", h.bearingDeg},
                        {"wire_m", h.wireM},
                        {"rope_m", h.ropeM},
                        {"from_up_m", h.fromUpM},
                        {"middle_up_m", h.middleUpM},
                        {"to_up_m", h.toUpM},
                        {"sag_m", h.sagM},
                        {"pull_n", h.pullN},
                        {"slope_deg", h.slopeDeg}});
    json pegs = json::array();
    for (const auto& p : sheet.rigging.pegs)
        pegs.push_back({{"what", p.what},
                        {"from", p.from},
                        {"bearing_deg", p.bearingDeg},
                        {"distance_m", p.distanceM},
                        {"up_m", p.upM}});
    json lines = json::array();
    for (const auto& l : sheet.fittings.lines)
        lines.push_back({{"name", l.name},
                         {"kind", l.kind},
                         {"use", l.use},
                         {"length_m", l.lengthM},
                         {"electrical_deg", l.degrees}});
    json coils = json::array();
    for (const auto& [name, w] : sheet.fittings.coils)
        coils.push_back({{"name", name},
                         {"inductance_h", w.inductanceH},
                         {"former_m", w.formerM},
                         {"turns", w.turns},
                         {"wire_m", w.wireM},
                         {"pitch_m", w.pitchM},
                         {"wire_length_m", w.wireLengthM},
                         {"own_resonance_hz", w.resonanceHz},
                         {"q", w.q}});
    json capacitors = json::array();
    for (const auto& c : sheet.fittings.capacitors)
        capacitors.push_back({{"name", c.name}, {"pf", c.picofarad}, {"e24_pf", c.standardPf}});
    json transformers = json::array();
    for (const auto& t : sheet.fittings.transformers)
        transformers.push_back({{"name", t.name},
                                {"ratio", t.ratio},
                                {"antenna_turns", t.antennaTurns},
                                {"radio_turns", t.radioTurns},
                                {"ratio_made", t.ratioMade}});
    json chokes = json::array();
    for (const auto& c : sheet.fittings.chokes)
        chokes.push_back({{"name", c.name}, {"choking_ohm", c.choking}, {"loss_db", c.lossDb}});
    json spreaders = json::array();
    for (const auto& s : sheet.fittings.spreaders)
        spreaders.push_back({{"part", s.part}, {"count", s.count}, {"length_m", s.lengthM}});
    json traps = json::array();
    for (const auto& [name, t] : sheet.fittings.traps)
        traps.push_back({{"name", name},
                         {"cable", t.cable},
                         {"former_m", t.formerM},
                         {"turns", t.turns},
                         {"cable_m", t.cableM},
                         {"inductance_h", t.inductanceH},
                         {"capacitance_f", t.capacitanceF},
                         {"resonance_hz", t.resonanceHz}});
    json order = json::array();
    for (const auto& o : build::orderFor(sheet))
        order.push_back({{"what", o.what}, {"quantity", o.quantity}, {"why", o.why}});
    return {{"pieces", pieces},    {"totals", totals},       {"stock", stock},
            {"booms", booms},      {"hung", hung},           {"pegs", pegs},
            {"lines", lines},      {"coils", coils},         {"capacitors", capacitors},
            {"coax_traps", traps}, {"spreaders", spreaders}, {"transformers", transformers},
            {"chokes", chokes},    {"order", order}};
}

/// A field of comma-separated values.
std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"') out += '"';
        out += c;
    }
    return out + "\"";
}

/// Letters of a text, which may take several bytes each.
std::size_t lettersOf(const std::string& text) {
    return static_cast<std::size_t>(
        std::count_if(text.begin(), text.end(), [](unsigned char c) { return (c & 0xC0U) != 0x80U; }));
}

void printTable(const io::Table& table) {
    std::vector<std::size_t> widths;
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        widths.push_back(table.columns[c].head.size());
        for (const auto& row : table.rows) widths[c] = std::max(widths[c], lettersOf(row.at(c)));
    }
    const auto print = [&](const std::vector<std::string>& cells) {
        std::string line;
        for (std::size_t c = 0; c < cells.size(); ++c) {
            const std::string blanks(widths[c] - lettersOf(cells[c]), ' ');
            line += table.columns[c].align == io::Align::Right ? blanks + cells[c] : cells[c] + blanks;
            line += "  ";
        }
        line.erase(line.find_last_not_of(' ') + 1);
        fmt::print("{}\n", line);
    };
    fmt::print("\n{}\n", table.heading);
    std::vector<std::string> heads;
    for (const auto& column : table.columns) heads.push_back(column.head);
    print(heads);
    for (const auto& row : table.rows) print(row);
}

/// After an empty line and its heading.
void printCsv(const io::Table& table) {
    fmt::print("\n{}\n", quoted(table.heading));
    const auto print = [](const std::vector<std::string>& cells) {
        std::vector<std::string> fields;
        for (const auto& cell : cells) fields.push_back(quoted(cell));
        fmt::print("{}\n", fmt::join(fields, ","));
    };
    std::vector<std::string> heads;
    for (const auto& column : table.columns) heads.push_back(column.head);
    print(heads);
    for (const auto& row : table.rows) print(row);
}

int run(const CutOptions& options) {
    Loaded loaded = load(options.project);
    requireUsable(options.project, loaded);
    auto& texts = loaded.design.build;
    for (const auto member :
         {&model::BuildTexts::foldedEnd, &model::BuildTexts::joint, &model::BuildTexts::stock,
          &model::BuildTexts::kerf, &model::BuildTexts::reel, &model::BuildTexts::gap,
          &model::BuildTexts::overlap, &model::BuildTexts::wall, &model::BuildTexts::boomEnd})
        if (!(options.texts.*member).empty()) texts.*member = options.texts.*member;
    const auto sheet = build::buildSheet(loaded.design);
    const auto& list = sheet.list;
    if (options.project.json) {
        printJson(toJson(sheet));
        return kDone;
    }
    const auto tables = io::otherTables(sheet, loaded.project.feetAndInches);
    if (!options.pdf.empty()) {
        const auto sheets = io::titled(
            io::layTables(io::buildTables(sheet, loaded.project.feetAndInches),
                          loaded.project.feetAndInches ? io::Paper::Letter : io::Paper::A4),
            {loaded.design.name, loaded.project.title, "what to build it from", today(), {}}, true);
        io::writePdf(sheets, options.pdf);
        fmt::print("{}: {} {}\n", options.pdf, sheets.size(), sheets.size() == 1 ? "sheet" : "sheets");
        return kDone;
    }
    if (options.project.csv) {
        fmt::print("part,count,conductor,modelled_m,cut_m,added\n");
        for (const auto& p : list.pieces)
            fmt::print("{},{},{},{:.4f},{:.4f},{}\n", quoted(p.part), p.count, quoted(p.conductor),
                       p.modelledM, p.cutM, quoted(p.added));
        for (const auto& table : tables) printCsv(table);
        return kDone;
    }
    const bool feet = loaded.project.feetAndInches;
    const auto length = [feet](double metres, int decimals) {
        return feet ? quantity::formatLength(metres, quantity::LengthStyle::FeetInches)
                    : fmt::format("{:.{}f}", metres, decimals);
    };
    const char* unit = feet ? "" : " m";
    fmt::print("{}, {}\n{:<28} {:>5} {:>12} {:>12}  {}\n", loaded.project.title, loaded.design.name, "part",
               "count", feet ? "modelled" : "modelled, m", feet ? "cut" : "cut, m", "added");
    for (const auto& p : list.pieces)
        fmt::print("{:<28} {:>5} {:>12} {:>12}  {}\n", p.part, p.count, length(p.modelledM, 3),
                   length(p.cutM, 3), p.added);
    fmt::print("\n");
    for (const auto& t : list.totals)
        fmt::print("{}: {}{} in {} {}\n", t.conductor, length(t.cutM, 2), unit, t.pieces,
                   t.pieces == 1 ? "piece" : "pieces");
    for (const auto& b : sheet.stock) {
        fmt::print("\n{} out of {}{}\n", b.conductor, length(b.stockM, 2), unit);
        for (const auto& bar : b.plan.bars) {
            std::vector<std::string> lengths;
            for (const std::size_t i : bar.pieces) lengths.push_back(length(b.lengthsM[i], 3));
            fmt::print("  {}   left {}{}\n", fmt::join(lengths, " + "), length(bar.leftM, 2), unit);
        }
    }
    for (const auto& table : tables) printTable(table);
    for (const auto& f : sheet.findings) fmt::print("\n{} {}\n", f.sentence, f.mend);
    return kDone;
}

}  // namespace

void addCutCommand(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<CutOptions>(CutOptions{{}, {"", "", "", "", "", "", "", "", "", {}}, {}});
    CLI::App* command = app.add_subcommand("build", "What to cut, and out of which stock lengths");
    addProjectOptions(command, options->project);
    command->add_flag("--json", options->project.json, "Print JSON instead of a table");
    command->add_flag("--csv", options->project.csv,
                      "Print the pieces, then every other table, as comma-separated values");
    command->add_option("--pdf", options->pdf, "Write all tables to this file instead");
    command->add_option("--end", options->texts.foldedEnd,
                        "Wire folded back at a free end, with its unit; as the design says if left out");
    command->add_option("--feed", options->texts.joint, "Wire at a feed, a load or a joint");
    command->add_option("--stock", options->texts.stock, "Length that rods and tubes are sold in");
    command->add_option("--kerf", options->texts.kerf, "What a saw takes");
    command->add_option("--reel", options->texts.reel, "Length that wire is sold on");
    command->add_option("--gap", options->texts.gap, "Between the halves of a rod that is fed in between");
    command->add_option("--overlap", options->texts.overlap, "Of a tube inside the next thicker one");
    command->add_option("--wall", options->texts.wall, "Of tubes and booms");
    command->add_option("--boom-end", options->texts.boomEnd, "Of a boom beyond its last elements");
    command->callback([options, &exitCode] { exitCode = run(*options); });
}

}  // namespace rm::cli
