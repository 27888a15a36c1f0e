#include "core/export/build_tables.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/quantity/component.h"
#include "core/quantity/format.h"

namespace rm::io {

namespace {

class Tabler {
  public:
    Tabler(const build::BuildSheet& sheet, bool feet) : sheet_(sheet), feet_(feet) {}

    std::vector<Table> others() {
        tubes();
        booms();
        spreaders();
        hung();
        pegs();
        lines();
        coils();
        order();
        std::erase_if(tables_, [](const Table& table) { return table.rows.empty(); });
        return std::move(tables_);
    }

    Table cut() const {
        Table t{"What to cut",
                {{"piece", 3.0, Align::Left},
                 {"how many", 0.8, Align::Right},
                 {"as modelled", 1.2, Align::Right},
                 {"to cut", 1.2, Align::Right},
                 {"with", 3.3, Align::Left},
                 {"of", 1.9, Align::Left}},
                {}};
        for (const auto& p : sheet_.list.pieces)
            put(t, p.origin,
                {p.part, std::to_string(p.count), length(p.modelledM), length(p.cutM), p.added, p.conductor});
        return t;
    }

  private:
    std::string length(double metres) const {
        return quantity::formatLength(
            metres, feet_ ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric);
    }
    static void put(Table& table, const std::string& about, std::vector<std::string> cells) {
        table.rows.push_back(std::move(cells));
        table.about.push_back(about);
    }
    static std::string mass(double kg) {
        return kg <= 0.0 ? "" : kg < 1.0 ? fmt::format("{:.0f} g", 1e3 * kg) : fmt::format("{:.2f} kg", kg);
    }
    static std::string millimetres(double metres) { return fmt::format("{:.1f} mm", 1e3 * metres); }
    static std::string degrees(double value) { return fmt::format("{:03.0f}°", value); }

    void hung() {
        Table t{"What hangs",
                {{"part", 1.5, Align::Left},
                 {"from", 1.5, Align::Left},
                 {"to", 1.5, Align::Left},
                 {"bearing", 1.0, Align::Right},
                 {"wire", 1.1, Align::Right},
                 {"rope", 1.1, Align::Right},
                 {"tied at", 1.1, Align::Right},
                 {"and at", 1.1, Align::Right},
                 {"middle", 1.1, Align::Right},
                 {"sag", 0.9, Align::Right},
                 {"pull", 0.8, Align::Right},
                 {"rises", 0.7, Align::Right}},
                {}};
        for (const auto& h : sheet_.rigging.hung)
            put(t, h.part,
                {h.part, h.from, h.to, degrees(h.bearingDeg), length(h.wireM), length(h.ropeM),
                 length(h.fromUpM), length(h.toUpM), length(h.middleUpM), length(h.sagM),
                 h.pullN > 0.0 ? fmt::format("{:.0f} N", h.pullN) : "", fmt::format("{:.0f}°", h.slopeDeg)});
        tables_.push_back(std::move(t));
    }
    void pegs() {
        Table t{"Pegs and ends on the ground",
                {{"what", 2.0, Align::Left},
                 {"from", 2.0, Align::Left},
                 {"bearing", 1.0, Align::Right},
                 {"distance", 1.0, Align::Right},
                 {"above ground", 1.0, Align::Right}},
                {}};
        for (const auto& p : sheet_.rigging.pegs)
            put(t, p.from, {p.what, p.from, degrees(p.bearingDeg), length(p.distanceM), length(p.upM)});
        tables_.push_back(std::move(t));
    }
    void booms() {
        for (const auto& boom : sheet_.booms) {
            const bool tube = !boom.tube.empty();
            Table t{"Boom of " + boom.part + (boom.count > 1 ? fmt::format(", {} of them", boom.count) : ""),
                    {{"what", 2.4, Align::Left},
                     {"from its end", 1.0, Align::Right},
                     {"from the first", 1.0, Align::Right},
                     {"from the last", 1.0, Align::Right},
                     {"tape, 1/8", 0.9, Align::Right},
                     {"tape, 1/16", 1.0, Align::Right},
                     {"tape, 1/32", 1.0, Align::Right}},
                    {}};
            struct BoomRow {
                std::string what;
                double atM;
                double fromM;
            };
            std::vector<BoomRow> marks;
            for (const auto& hole : boom.holes)
                marks.push_back({hole.element, hole.atM, marks.empty() ? -1.0 : hole.fromM});
            for (const double at : boom.jointsM) marks.push_back({"joint of the boom", at, -1.0});
            if (boom.massKg > 0.0)
                marks.push_back({fmt::format("balance, {}", massWords(boom)), boom.balanceM, -1.0});
            if (tube) {
                marks.push_back({fmt::format("end, {}", boom.tube), -boom.endM, -1.0});
                marks.push_back(
                    {fmt::format("end, {} long", length(boom.tubeM())), boom.lengthM + boom.endM, -1.0});
            }
            std::stable_sort(marks.begin(), marks.end(),
                             [](const BoomRow& a, const BoomRow& b) { return a.atM < b.atM; });
            // A tape begins at the end of the boom, where there is one.
            for (const auto& mark : marks)
                put(t, boom.part,
                    {mark.what, tube ? millimetres(mark.atM + boom.endM) : "", millimetres(mark.atM),
                     mark.fromM < 0.0 ? "" : millimetres(mark.fromM),
                     quantity::formatTape(mark.atM + boom.endM, 8),
                     quantity::formatTape(mark.atM + boom.endM, 16),
                     quantity::formatTape(mark.atM + boom.endM, 32)});
            tables_.push_back(std::move(t));
        }
    }
    std::string massWords(const build::BoomPlan& boom) const {
        if (boom.massKg > boom.elementsKg)
            return fmt::format("{} with {} of elements", mass(boom.massKg), mass(boom.elementsKg));
        return fmt::format("{} of elements alone", mass(boom.elementsKg));
    }
    /// Rods and tubes with what they weigh; where they go into each other, how much of them shows.
    void tubes() {
        const auto& pieces = sheet_.list.pieces;
        const bool telescoped = std::any_of(pieces.begin(), pieces.end(),
                                            [](const auto& piece) { return piece.insideOfM > 0.0; });
        Table t{"Rods and tubes",
                {{"element", 2.0, Align::Left},
                 {"of", 1.9, Align::Left},
                 {"how many", 0.8, Align::Right},
                 {"to cut", 1.1, Align::Right},
                 {"mass each", 0.9, Align::Right}},
                {}};
        if (telescoped)
            t.columns.insert(t.columns.begin() + 3, {{"shows", 1.1, Align::Right},
                                                     {"inside", 0.9, Align::Right},
                                                     {"of the", 0.9, Align::Right},
                                                     {"play", 0.8, Align::Right}});
        double all = 0.0;
        double longest = 0.0;
        const auto add = [&](const std::string& about, std::vector<std::string> cells,
                             std::vector<std::string> inside) {
            if (telescoped) cells.insert(cells.begin() + 3, inside.begin(), inside.end());
            put(t, about, std::move(cells));
        };
        for (const auto& p : pieces) {
            if (p.wire) continue;
            std::vector<std::string> inside{length(p.modelledM), "", "", ""};
            if (p.insideOfM > 0.0)
                inside = {length(p.modelledM), millimetres(p.overlapM),
                          fmt::format("{:.4g} mm", 1e3 * p.insideOfM),
                          millimetres(p.insideOfM - 2.0 * sheet_.allowances.wallM - p.diameterM)};
            add(p.origin, {p.part, p.conductor, std::to_string(p.count), length(p.cutM), mass(p.massKg)},
                inside);
            all += p.count * p.massKg;
            longest = std::max(longest, p.cutM);
        }
        if (!t.rows.empty())
            add({}, {"together", fmt::format("the longest {}", length(longest)), "", "", mass(all)},
                {"", "", "", ""});
        tables_.push_back(std::move(t));
    }
    void spreaders() {
        Table t{"Spreaders",
                {{"loop", 2.0, Align::Left},
                 {"how many", 0.8, Align::Right},
                 {"from the middle", 1.0, Align::Right},
                 {"across", 1.0, Align::Right}},
                {}};
        for (const auto& s : sheet_.fittings.spreaders)
            put(t, s.part.substr(0, s.part.find(", ")),
                {s.part, std::to_string(s.count), length(s.lengthM), length(2.0 * s.lengthM)});
        tables_.push_back(std::move(t));
    }
    void lines() {
        Table t{"Lines",
                {{"line", 1.6, Align::Left},
                 {"kind", 1.6, Align::Left},
                 {"as", 1.6, Align::Left},
                 {"cut length", 1.2, Align::Right},
                 {"electrically", 1.0, Align::Right}},
                {}};
        for (const auto& l : sheet_.fittings.lines)
            put(t, l.name, {l.name, l.kind, l.use, length(l.lengthM), fmt::format("{:.1f}°", l.degrees)});
        tables_.push_back(std::move(t));
    }
    void coils() {
        Table coils{"Coils",
                    {{"coil", 1.6, Align::Left},
                     {"inductance", 1.0, Align::Right},
                     {"former", 1.0, Align::Right},
                     {"turns", 0.8, Align::Right},
                     {"wound length", 1.0, Align::Right},
                     {"wire", 1.6, Align::Right},
                     {"own resonance", 1.1, Align::Right},
                     {"Q at most", 0.8, Align::Right}},
                    {}};
        for (const auto& [name, w] : sheet_.fittings.coils)
            put(coils, name,
                {name, fmt::format("{:.3g} µH", 1e6 * w.inductanceH),
                 fmt::format("{:.0f} mm", 1e3 * w.formerM), fmt::format("{:.1f}", w.turns),
                 fmt::format("{:.0f} mm", 1e3 * w.lengthM),
                 fmt::format("{:.2f} m of {:.1f} mm", w.wireLengthM, 1e3 * w.wireM),
                 fmt::format("{:.1f} MHz", 1e-6 * w.resonanceHz), fmt::format("{:.0f}", w.q)});
        tables_.push_back(std::move(coils));
        Table traps{"Traps of coax",
                    {{"trap", 1.6, Align::Left},
                     {"resonant at", 1.0, Align::Right},
                     {"of", 1.4, Align::Left},
                     {"former", 0.8, Align::Right},
                     {"turns", 0.7, Align::Right},
                     {"cable", 0.9, Align::Right},
                     {"wound length", 1.0, Align::Right},
                     {"makes", 1.6, Align::Right}},
                    {}};
        for (const auto& [name, trap] : sheet_.fittings.traps)
            put(traps, name,
                {name, fmt::format("{:.3f} MHz", 1e-6 * trap.resonanceHz), trap.cable,
                 fmt::format("{:.0f} mm", 1e3 * trap.formerM), fmt::format("{:.1f}", trap.turns),
                 length(trap.cableM), fmt::format("{:.0f} mm", 1e3 * trap.windingM),
                 fmt::format("{:.3g} µH with {:.3g} pF", 1e6 * trap.inductanceH, 1e12 * trap.capacitanceF)});
        tables_.push_back(std::move(traps));
        Table others{"Capacitors and transformers",
                     {{"what", 1.6, Align::Left}, {"wanted", 1.0, Align::Right}, {"take", 2.6, Align::Left}},
                     {}};
        for (const auto& c : sheet_.fittings.capacitors)
            put(others, c.name,
                {c.name, quantity::formatCapacitance(c.picofarad, 4),
                 quantity::formatCapacitance(c.standardPf) + " of the series E24"});
        for (const auto& t : sheet_.fittings.transformers)
            put(others, t.name,
                {t.name, t.ratio,
                 fmt::format("{} turns to the antenna, {} to the radio: {:.3g} : 1", t.antennaTurns,
                             t.radioTurns, t.ratioMade)});
        tables_.push_back(std::move(others));
    }
    void order() {
        Table t{"To order",
                {{"what", 2.0, Align::Left}, {"how much", 1.0, Align::Right}, {"because", 3.0, Align::Left}},
                {}};
        for (const auto& o : sheet_.order) t.rows.push_back({o.what, o.quantity, o.why});
        tables_.push_back(std::move(t));
    }

    const build::BuildSheet& sheet_;
    bool feet_;
    std::vector<Table> tables_;
};

}  // namespace

Table cutTable(const build::BuildSheet& sheet, bool feetAndInches) {
    return Tabler(sheet, feetAndInches).cut();
}

std::vector<Table> otherTables(const build::BuildSheet& sheet, bool feetAndInches) {
    return Tabler(sheet, feetAndInches).others();
}

std::vector<Table> buildTables(const build::BuildSheet& sheet, bool feetAndInches) {
    std::vector<Table> all = otherTables(sheet, feetAndInches);
    all.insert(all.begin(), cutTable(sheet, feetAndInches));
    return all;
}

}  // namespace rm::io
