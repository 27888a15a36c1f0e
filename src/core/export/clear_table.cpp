#include "core/export/clear_table.h"

#include <fmt/format.h>

#include <cmath>

#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using study::ClearRow;
using study::ClearZone;
using study::Person;

const char* nameOf(Person person) {
    return person == Person::Public ? "public" : "operator";
}

/// "none: 34 %", "7.9 m"
std::string distance(const ClearZone& zone, double metres, bool feetAndInches) {
    if (zone.most < 1.0) return say("none ({:.0f} %)", 100.0 * zone.most);
    // Up to the next decimetre or inch, never down: nobody keeps a distance to the millimetre.
    const double unitM = feetAndInches ? 0.0254 : 0.1;
    const double up = std::ceil(metres / unitM - 1e-9) * unitM;
    const std::string words = feetAndInches ? quantity::formatTape(up, 1) : figure("{:.1f} m", up);
    return zone.clipped ? say("over ") + words : words;
}

}  // namespace

Table clearTable(const study::ClearTable& table, bool feetAndInches) {
    Table t;
    const auto at = [&](double heightM) {
        return feetAndInches ? say("at {:.1f} ft", heightM / 0.3048) : say("at {:g} m", heightM);
    };
    t.heading = say("Keep clear");
    const auto& rules = table.rules;
    t.columns = {{say("band"), 0.8},
                 {"MHz", 0.8, Align::Right},
                 {say("who"), 0.8},
                 {"V/m", 0.6, Align::Right},
                 {"A/m", 0.7, Align::Right},
                 {say("antenna"), 0.8, Align::Right},
                 {at(rules.headM), 1.3, Align::Right},
                 {say("wire"), 1.0, Align::Right},
                 {at(rules.windowM), 1.3, Align::Right},
                 {say("wire"), 1.0, Align::Right}};
    for (const ClearRow& row : table.rows)
        t.rows.push_back({row.band, figure("{:.3f}", row.frequencyHz / 1e6), nameOf(row.person),
                          row.limits.electricVm ? figure("{:.3g}", *row.limits.electricVm) : "",
                          row.limits.magneticAm ? figure("{:.2g}", *row.limits.magneticAm) : "",
                          figure("{:.3g} W", row.antennaW),
                          distance(row.head, row.head.fromMiddleM, feetAndInches),
                          distance(row.head, row.head.fromWireM, feetAndInches),
                          distance(row.window, row.window.fromMiddleM, feetAndInches),
                          distance(row.window, row.window.fromWireM, feetAndInches)});
    return t;
}

std::string clearText(const study::ClearTable& table, bool feetAndInches) {
    const Table t = clearTable(table, feetAndInches);
    std::vector<std::size_t> width;
    for (std::size_t c = 0; c < t.columns.size(); ++c) {
        width.push_back(t.columns[c].head.size());
        for (const auto& row : t.rows) width[c] = std::max(width[c], row[c].size());
    }
    std::string text;
    const auto put = [&](const auto& cell) {
        for (std::size_t c = 0; c < t.columns.size(); ++c)
            text += t.columns[c].align == Align::Right ? fmt::format("{:>{}}  ", cell(c), width[c])
                                                       : fmt::format("{:<{}}  ", cell(c), width[c]);
        while (!text.empty() && text.back() == ' ') text.pop_back();
        text += "\n";
    };
    put([&](std::size_t c) { return t.columns[c].head; });
    for (const auto& row : t.rows) put([&](std::size_t c) { return row[c]; });
    text += "\n";
    for (const auto& note : table.notes()) text += note + "\n";
    return text;
}

std::string clearCsv(const study::ClearTable& table) {
    std::string text =
        "band,frequency_MHz,person,limit_Vm,limit_Am,antenna_W,head_m,head_from_middle_m,head_from_wire_m,"
        "head_share,window_m,window_from_middle_m,window_from_wire_m,window_share\n";
    for (const ClearRow& row : table.rows)
        text += fmt::format(
            "{},{:.6f},{},{:.4g},{:.4g},{:.4g},{:g},{:.3f},{:.3f},{:.4g},{:g},{:.3f},{:.3f},{:.4g}\n",
            row.band, row.frequencyHz / 1e6, nameOf(row.person), row.limits.electricVm.value_or(0.0),
            row.limits.magneticAm.value_or(0.0), row.antennaW, row.head.heightM, row.head.fromMiddleM,
            row.head.fromWireM, row.head.most, row.window.heightM, row.window.fromMiddleM,
            row.window.fromWireM, row.window.most);
    return text;
}

std::vector<Sheet> clearSheets(const study::ClearTable& table, const TitleBlock& title, bool feetAndInches,
                               Paper paper) {
    Table notes;
    notes.heading = say("What it rests on");
    notes.columns = {{"", 1.0}};
    for (const auto& note : table.notes()) {
        // A sentence goes on in the next row where it is too long for one.
        constexpr std::size_t kLine = 110;
        std::string rest = note;
        while (rest.size() > kLine) {
            const auto space = rest.rfind(' ', kLine);
            if (space == std::string::npos) break;
            notes.rows.push_back({rest.substr(0, space)});
            rest = "    " + rest.substr(space + 1);
        }
        notes.rows.push_back({rest});
    }
    for (const auto& problem : table.problems) notes.rows.push_back({problem});
    return titled(layTables({clearTable(table, feetAndInches), notes}, paper), title, false);
}

}  // namespace rm::io
