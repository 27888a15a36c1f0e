#include "core/export/build_tables.h"

#include <fmt/format.h>

#include "core/quantity/format.h"

namespace rm::io {

namespace {

class Tabler {
  public:
    Tabler(const build::BuildSheet& sheet, bool feet) : sheet_(sheet), feet_(feet) {}

    std::vector<Table> others() {
        hung();
        pegs();
        booms();
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
            t.rows.push_back(
                {p.part, std::to_string(p.count), length(p.modelledM), length(p.cutM), p.added, p.conductor});
        return t;
    }

  private:
    std::string length(double metres) const {
        return quantity::formatLength(
            metres, feet_ ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric);
    }
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
            t.rows.push_back({h.part, h.from, h.to, degrees(h.bearingDeg), length(h.wireM), length(h.ropeM),
                              length(h.fromUpM), length(h.toUpM), length(h.middleUpM), length(h.sagM),
                              h.pullN > 0.0 ? fmt::format("{:.0f} N", h.pullN) : "",
                              fmt::format("{:.0f}°", h.slopeDeg)});
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
            t.rows.push_back({p.what, p.from, degrees(p.bearingDeg), length(p.distanceM), length(p.upM)});
        tables_.push_back(std::move(t));
    }
    void booms() {
        for (const auto& boom : sheet_.booms) {
            Table t{"Holes on the boom of " + boom.part,
                    {{"element", 2.0, Align::Left},
                     {"from the first", 1.0, Align::Right},
                     {"from the last", 1.0, Align::Right},
                     {"tape, 1/16", 1.0, Align::Right},
                     {"tape, 1/32", 1.0, Align::Right}},
                    {}};
            for (const auto& hole : boom.holes)
                t.rows.push_back({hole.element, fmt::format("{:.1f} mm", 1e3 * hole.atM),
                                  fmt::format("{:.1f} mm", 1e3 * hole.fromM),
                                  quantity::formatTape(hole.atM, 16), quantity::formatTape(hole.atM, 32)});
            tables_.push_back(std::move(t));
        }
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
            t.rows.push_back({l.name, l.kind, l.use, length(l.lengthM), fmt::format("{:.1f}°", l.degrees)});
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
            coils.rows.push_back({name, fmt::format("{:.3g} µH", 1e6 * w.inductanceH),
                                  fmt::format("{:.0f} mm", 1e3 * w.formerM), fmt::format("{:.1f}", w.turns),
                                  fmt::format("{:.0f} mm", 1e3 * w.lengthM),
                                  fmt::format("{:.2f} m of {:.1f} mm", w.wireLengthM, 1e3 * w.wireM),
                                  fmt::format("{:.1f} MHz", 1e-6 * w.resonanceHz),
                                  fmt::format("{:.0f}", w.q)});
        tables_.push_back(std::move(coils));
        Table others{"Capacitors and transformers",
                     {{"what", 1.6, Align::Left}, {"wanted", 1.0, Align::Right}, {"take", 2.6, Align::Left}},
                     {}};
        for (const auto& c : sheet_.fittings.capacitors)
            others.rows.push_back({c.name, fmt::format("{:.4g} pF", c.picofarad),
                                   fmt::format("{:g} pF of the series E24", c.standardPf)});
        for (const auto& t : sheet_.fittings.transformers)
            others.rows.push_back({t.name, t.ratio,
                                   fmt::format("{} turns to the antenna, {} to the radio: {:.3g} : 1",
                                               t.antennaTurns, t.radioTurns, t.ratioMade)});
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
