#include "core/edit/crossed.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/model/expand.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;

constexpr const char* kLineOhm = "120";

/// From one element to the next: a position, or the difference of two.
std::string between(const ElementRow& row, std::size_t first) {
    const std::string& next = row.elements[first + 1].position;
    if (row.spacings) return next;
    const auto bracket = [](const std::string& text) {
        return text.find_first_of("+-") == std::string::npos ? text : "(" + text + ")";
    };
    return fmt::format("{} - {}", bracket(next), bracket(row.elements[first].position));
}

/// The element that is shortest; the last one where that cannot be told.
std::size_t shortest(const Design& design, const ElementRow& row) {
    const auto scope = scopeOf(design);
    std::size_t found = row.elements.size() - 1;
    double least = 1e300;
    for (std::size_t i = 0; i < row.elements.size(); ++i) {
        try {
            const double length = quantity::evaluate(row.elements[i].length, quantity::Kind::Length, scope);
            if (length < least) {
                least = length;
                found = i;
            }
        } catch (const Error&) {
            // The finding about the element says what is wrong with it.
        }
    }
    return found;
}

}  // namespace

std::vector<PhasingLine> crossedLines(const Design& design, const Part& part, const std::string& ohm) {
    const auto* row = std::get_if<ElementRow>(&part.shape);
    if (row == nullptr || row->elements.size() < 2)
        throw Error(say("{} is no row of elements: crossed lines join the elements of a row.", part.name));
    std::vector<PhasingLine> lines;
    for (std::size_t i = 0; i + 1 < row->elements.size(); ++i) {
        const std::string& from = row->elements[i].name;
        const std::string& to = row->elements[i + 1].name;
        const bool there = std::any_of(design.lines.begin(), design.lines.end(), [&](const PhasingLine& l) {
            return l.fromPart == part.name && l.toPart == part.name &&
                   ((l.from.element == from && l.to.element == to) ||
                    (l.from.element == to && l.to.element == from));
        });
        if (there) continue;
        PhasingLine line;
        line.line = kCustomLine;
        line.lineOhm = ohm;
        line.velocityFactor = "1";
        line.fromPart = line.toPart = part.name;
        line.from.element = from;
        line.to.element = to;
        line.length = between(*row, i);
        line.crossed = true;
        line.name = say("Line {}", i + 1);
        lines.push_back(std::move(line));
    }
    return lines;
}

Project crossElements(Project project, Id id) {
    Design& design = project.active();
    const Part& part = at(design.parts, id);
    auto lines = crossedLines(design, part, kLineOhm);
    if (lines.empty()) throw Error(say("The elements of {} are joined already.", part.name));
    Dimension ohm;
    ohm.name = freeName(design.dimensions, "line_ohm", "_");
    ohm.text = kLineOhm;
    ohm.kind = DimensionKind::Number;
    ohm.low = "60";
    ohm.high = "300";
    ohm.note = say("impedance of the crossed line along the boom");
    ohm.scales = false;
    for (auto& line : lines) {
        line.name = freeName(design.lines, line.name);
        line.lineOhm = ohm.name;
        design.lines.push_back(std::move(line));
    }
    design.dimensions.push_back(std::move(ohm));
    const auto& row = std::get<ElementRow>(part.shape);
    auto own = std::find_if(design.feeds.begin(), design.feeds.end(),
                            [&](const Feed& f) { return f.part == part.name; });
    if (own == design.feeds.end()) {
        Feed feed;
        feed.name = freeName(design.feeds, feed.name);
        feed.part = part.name;
        own = design.feeds.insert(own, feed);
    }
    Feed& feed = *own;
    feed.place = {};
    feed.place.element = row.elements[shortest(design, row)].name;
    giveIds(project);
    return project;
}

}  // namespace rm::edit
