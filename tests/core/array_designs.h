// What tests of rows, copies and drive sets set out.
#pragma once

#include "antennas.h"
#include "core/model/expand.h"
#include "fed_row.h"

namespace rm::test {

using namespace rm::model;

inline constexpr double kArrayHz = 50.15e6;

/// The five elements of antennas.h as an element row, fed at the second.
inline Design yagiDesign() {
    Design d;
    d.designFrequency = "50.15 MHz";
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    row.half = true;
    const char* const names[] = {"reflector", "driven", "director 1", "director 2", "director 3"};
    const char* const at[] = {"0 m", "1.05 m", "1.75 m", "3.1 m", "4.7 m"};
    const char* const half[] = {"1.48 m", "1.415 m", "1.35 m", "1.33 m", "1.29 m"};
    for (int i = 0; i < 5; ++i) {
        RowElement e;
        e.name = names[i];
        e.position = at[i];
        e.length = half[i];
        row.elements.push_back(e);
    }
    setFedRow(d, "Yagi", {"perfect", "12 mm", "", "3"}, row, "driven");
    return d;
}

inline ElementRow& rowOf(Design& d) {
    return std::get<ElementRow>(d.parts.at(0).shape);
}

inline Copy stack(const std::string& rows, const std::string& columns, const std::string& up,
                  const std::string& across) {
    Copy c;
    c.rows = rows;
    c.columns = columns;
    c.rowSpacing = up;
    c.columnSpacing = across;
    return c;
}

/// A half-wave dipole across the front.
inline Design dipoleDesign(const std::string& height = "0 m") {
    Design d;
    d.designFrequency = "50.15 MHz";
    Part part;
    part.name = "Dipole";
    part.conductor = {"perfect", "4 mm", "", "3"};
    part.shape = StraightWire{{"0", "-1.4 m", height}, {"0", "1.4 m", height}};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    return d;
}

inline Solved solved(const Design& d, double hz = kArrayHz) {
    const auto e = expand(d);
    for (const auto& f : e.findings) INFO(f.sentence);
    REQUIRE(e.usable());
    return solve(e.model, hz);
}

inline DriveSet driving(const std::string& name, std::vector<DriveEntry> entries,
                        IdleKind idle = IdleKind::Open) {
    DriveSet set;
    set.name = name;
    set.driven = std::move(entries);
    set.idle = idle;
    return set;
}

}  // namespace rm::test
