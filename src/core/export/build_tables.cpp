#include "core/export/build_tables.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/quantity/component.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

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
        Table t{say("What to cut"),
                {{say("piece"), 3.0, Align::Left},
                 {say("how many"), 0.8, Align::Right},
                 {say("as modelled"), 1.2, Align::Right},
                 {say("to cut"), 1.2, Align::Right},
                 {say("with"), 3.3, Align::Left},
                 {say("of"), 1.9, Align::Left}},
                {}};
        for (const auto& p : sheet_.list.pieces)
            put(t, p.origin,
                {p.part, std::to_string(p.count), length(p.modelledM), length(p.cutM), p.added, p.conductor});
        return t;
    }

  private:
    quantity::LengthStyle style() const {
        return feet_ ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric;
    }
    std::string length(double metres) const { return quantity::formatLength(metres, style()); }
    static void put(Table& table, const std::string& about, std::vector<std::string> cells) {
        table.rows.push_back(std::move(cells));
        table.about.push_back(about);
    }
    static std::string mass(double kg) {
        return kg <= 0.0 ? "" : kg < 1.0 ? figure("{:.0f} g", 1e3 * kg) : figure("{:.2f} kg", kg);
    }
    static std::string millimetres(double metres) { return figure("{:.1f} mm", 1e3 * metres); }
    static std::string degrees(double value) { return fmt::format("{:03.0f}°", value); }

    void hung() {
        Table t{say("What hangs"),
                {{say("part"), 1.5, Align::Left},
                 {say("from"), 1.5, Align::Left},
                 {say("to"), 1.5, Align::Left},
                 {say("bearing"), 1.0, Align::Right},
                 {say("wire"), 1.1, Align::Right},
                 {say("rope"), 1.1, Align::Right},
                 {say("tied at"), 1.1, Align::Right},
                 {say("and at"), 1.1, Align::Right},
                 {say("middle"), 1.1, Align::Right},
                 {say("sag"), 0.9, Align::Right},
                 {say("pull"), 0.8, Align::Right},
                 {say("rises"), 0.7, Align::Right}},
                {}};
        for (const auto& h : sheet_.rigging.hung)
            put(t, h.part,
                {h.part, h.from, h.to, degrees(h.bearingDeg), length(h.wireM), length(h.ropeM),
                 length(h.fromUpM), length(h.toUpM), length(h.middleUpM), length(h.sagM),
                 h.pullN > 0.0 ? figure("{:.0f} N", h.pullN) : "", figure("{:.0f}°", h.slopeDeg)});
        tables_.push_back(std::move(t));
    }
    void pegs() {
        Table t{say("Pegs and ends on the ground"),
                {{say("what"), 2.0, Align::Left},
                 {say("from"), 2.0, Align::Left},
                 {say("bearing"), 1.0, Align::Right},
                 {say("distance"), 1.0, Align::Right},
                 {say("above ground"), 1.0, Align::Right}},
                {}};
        for (const auto& p : sheet_.rigging.pegs)
            put(t, p.from, {p.what, p.from, degrees(p.bearingDeg), length(p.distanceM), length(p.upM)});
        tables_.push_back(std::move(t));
    }
    void booms() {
        for (const auto& boom : sheet_.booms) {
            const bool tube = !boom.tube.empty();
            Table t{say("Boom of ") + boom.part + (boom.count > 1 ? say(", {} of them", boom.count) : ""),
                    {{say("what"), 3.4, Align::Left},
                     {say("from its end"), 1.0, Align::Right},
                     {say("from the first"), 1.0, Align::Right},
                     {say("from the last"), 1.0, Align::Right},
                     {say("tape, 1/8"), 0.9, Align::Right},
                     {say("tape, 1/16"), 1.0, Align::Right},
                     {say("tape, 1/32"), 1.0, Align::Right}},
                    {}};
            struct BoomRow {
                std::string what;
                double atM;
                double fromM;
            };
            std::vector<BoomRow> marks;
            for (const auto& hole : boom.holes)
                marks.push_back({hole.element, hole.atM, marks.empty() ? -1.0 : hole.fromM});
            for (const double at : boom.jointsM) marks.push_back({say("joint of the boom"), at, -1.0});
            if (boom.massKg > 0.0)
                marks.push_back({say("balance, {}", massWords(boom)), boom.balanceM, -1.0});
            if (tube) {
                marks.push_back({say("end, {}", boom.tube), -boom.endM, -1.0});
                marks.push_back({say("end, {} long", length(boom.tubeM())), boom.lengthM + boom.endM, -1.0});
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
            return say("{} with {} of elements", mass(boom.massKg), mass(boom.elementsKg));
        return say("{} of elements alone", mass(boom.elementsKg));
    }
    /// Rods and tubes with what they weigh; where they go into each other, how much of them shows.
    void tubes() {
        const auto& pieces = sheet_.list.pieces;
        const bool telescoped = std::any_of(pieces.begin(), pieces.end(),
                                            [](const auto& piece) { return piece.insideOfM > 0.0; });
        Table t{say("Rods and tubes"),
                {{say("element"), 2.0, Align::Left},
                 {say("of"), 1.9, Align::Left},
                 {say("how many"), 0.8, Align::Right},
                 {say("to cut"), 1.1, Align::Right},
                 {say("mass each"), 0.9, Align::Right}},
                {}};
        if (telescoped)
            t.columns.insert(t.columns.begin() + 3, {{say("shows"), 1.1, Align::Right},
                                                     {say("inside"), 0.9, Align::Right},
                                                     {say("of the"), 0.9, Align::Right},
                                                     {say("play"), 0.8, Align::Right}});
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
                          figure("{:.4g} mm", 1e3 * p.insideOfM),
                          millimetres(p.insideOfM - 2.0 * sheet_.allowances.wallM - p.diameterM)};
            add(p.origin, {p.part, p.conductor, std::to_string(p.count), length(p.cutM), mass(p.massKg)},
                inside);
            all += p.count * p.massKg;
            longest = std::max(longest, p.cutM);
        }
        if (!t.rows.empty())
            add({}, {say("together"), say("the longest {}", length(longest)), "", "", mass(all)},
                {"", "", "", ""});
        tables_.push_back(std::move(t));
    }
    void spreaders() {
        Table t{say("Spreaders"),
                {{say("loop"), 2.0, Align::Left},
                 {say("how many"), 0.8, Align::Right},
                 {say("from the middle"), 1.0, Align::Right},
                 {say("across"), 1.0, Align::Right}},
                {}};
        for (const auto& s : sheet_.fittings.spreaders)
            put(t, s.part.substr(0, s.part.find(", ")),
                {s.part, std::to_string(s.count), length(s.lengthM), length(2.0 * s.lengthM)});
        tables_.push_back(std::move(t));
    }
    void lines() {
        Table t{say("Lines"),
                {{say("line"), 1.6, Align::Left},
                 {say("kind"), 1.6, Align::Left},
                 {say("as"), 1.6, Align::Left},
                 {say("cut length"), 1.2, Align::Right},
                 {say("electrically"), 1.0, Align::Right}},
                {}};
        for (const auto& l : sheet_.fittings.lines)
            put(t, l.name, {l.name, l.kind, l.use, length(l.lengthM), figure("{:.1f}°", l.degrees)});
        tables_.push_back(std::move(t));
    }
    void coils() {
        Table coils{say("Coils"),
                    {{say("coil"), 1.6, Align::Left},
                     {say("inductance"), 1.0, Align::Right},
                     {say("former"), 1.0, Align::Right},
                     {say("turns"), 0.8, Align::Right},
                     {say("wound length"), 1.0, Align::Right},
                     {say("wire"), 1.6, Align::Right},
                     {say("own resonance"), 1.1, Align::Right},
                     {say("Q at most"), 0.8, Align::Right}},
                    {}};
        for (const auto& [name, w] : sheet_.fittings.coils)
            put(coils, name,
                {name, figure("{:.3g} µH", 1e6 * w.inductanceH), figure("{:.0f} mm", 1e3 * w.formerM),
                 figure("{:.1f}", w.turns), fmt::format("{:.0f} mm", 1e3 * w.lengthM),
                 say("{:.2f} m of {:.1f} mm", w.wireLengthM, 1e3 * w.wireM),
                 figure("{:.1f} MHz", 1e-6 * w.resonanceHz), figure("{:.0f}", w.q)});
        tables_.push_back(std::move(coils));
        Table traps{say("Traps of coax"),
                    {{say("trap"), 1.6, Align::Left},
                     {say("resonant at"), 1.0, Align::Right},
                     {say("of"), 1.4, Align::Left},
                     {say("former"), 0.8, Align::Right},
                     {say("turns"), 0.7, Align::Right},
                     {say("cable"), 0.9, Align::Right},
                     {say("wound length"), 1.0, Align::Right},
                     {say("makes"), 1.6, Align::Right}},
                    {}};
        for (const auto& [name, trap] : sheet_.fittings.traps)
            put(traps, name,
                {name, figure("{:.3f} MHz", 1e-6 * trap.resonanceHz), trap.cable,
                 figure("{:.0f} mm", 1e3 * trap.formerM), figure("{:.1f}", trap.turns), length(trap.cableM),
                 fmt::format("{:.0f} mm", 1e3 * trap.windingM),
                 say("{:.3g} µH with {:.3g} pF", 1e6 * trap.inductanceH, 1e12 * trap.capacitanceF)});
        tables_.push_back(std::move(traps));
        Table others{say("Capacitors and transformers"),
                     {{say("what"), 1.6, Align::Left},
                      {say("wanted"), 1.0, Align::Right},
                      {say("take"), 2.6, Align::Left}},
                     {}};
        for (const auto& c : sheet_.fittings.capacitors)
            put(others, c.name,
                {c.name, quantity::formatCapacitance(c.picofarad, 4),
                 quantity::formatCapacitance(c.standardPf) + say(" of the series E24")});
        for (const auto& t : sheet_.fittings.transformers)
            put(others, t.name,
                {t.name, t.ratio,
                 say("{} turns to the antenna, {} to the radio: {:.3g} : 1", t.antennaTurns, t.radioTurns,
                     t.ratioMade)});
        tables_.push_back(std::move(others));
    }
    void order() {
        Table t{say("To order"),
                {{say("what"), 2.0, Align::Left},
                 {say("how much"), 1.0, Align::Right},
                 {say("because"), 3.0, Align::Left}},
                {}};
        for (const auto& o : build::orderFor(sheet_, style())) t.rows.push_back({o.what, o.quantity, o.why});
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
