#include "core/model/expand_row.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/model/boom.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

using quantity::Kind;

using Section = TubeSection;

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// Diameter and exposed length of one section as typed; the second is empty where there is none.
std::pair<std::string, std::string> splitSection(const std::string& text) {
    for (const std::string& times : {std::string(" x "), std::string("×")}) {
        const auto at = text.find(times);
        if (at != std::string::npos)
            return {trimmed(text.substr(0, at)), trimmed(text.substr(at + times.size()))};
    }
    return {trimmed(text), {}};
}

std::vector<Section> readTubing(FieldValues& values, const std::string& text, double halfM,
                                const std::string& item) {
    std::vector<Section> sections;
    double reached = 0.0;
    std::size_t from = 0;
    while (from <= text.size()) {
        const auto comma = std::min(text.find(',', from), text.size());
        const auto [diameter, exposed] = splitSection(text.substr(from, comma - from));
        from = comma + 1;
        const bool last = from > text.size();
        Section section;
        section.radiusM = values.radius(diameter, item, say("the diameter"));
        section.text = diameter;
        if (exposed.empty() && !last) {
            values.problem(
                item, say("{}: a section of its tubing has no exposed length.", item),
                say("Type \"25 mm x 0.6 m, 20 mm x 0.5 m, 16 mm\"; only the last may go without."));
            return {};
        }
        const double length = exposed.empty()
                                  ? halfM - reached
                                  : values.positive(exposed, Kind::Length, item, say("an exposed length"));
        reached += length;
        if (!values.failed && (reached > halfM * (1.0 + 1e-9) || length <= 0.0)) {
            values.problem(
                item,
                say("{}: its tubing is {} long from the centre, but half of the element is {}.", item,
                    quantity::said(reached - (length <= 0.0 ? length : 0.0), 3), quantity::said(halfM, 3)),
                say("Shorten a section, or leave the length of the last one empty."));
            return {};
        }
        section.toM = reached;
        sections.push_back(section);
    }
    // The outermost tube is what an element is lengthened with.
    if (!sections.empty()) sections.back().toM = halfM;
    return sections;
}

class RowBuilder {
  public:
    RowBuilder(FieldValues& values, const std::string& part, const ElementRow& row, const PlainWire& base)
        : values_(values), part_(part), base_(base), axes_(rowAxes(values, part, row)) {}

    const RowAxes& axes() const { return axes_; }

    ElementWires build(const RowElement& element, ElementSize& size) {
        const std::string item = part_ + ", " + element.name;
        ElementWires wires;
        wires.element = element.name;
        const double half = 0.5 * size.lengthM;
        std::vector<Section> sections;
        if (trimmed(element.diameter).empty())
            sections.push_back({base_.radiusM, half, {}});
        else
            sections = readTubing(values_, element.diameter, half, item);
        if (values_.failed || sections.empty()) return wires;
        size.sections = sections;
        size.diameterM = 2.0 * sections.front().radiusM;
        if (element.form == ElementForm::Bent) {
            size.sweepDeg = values_.value(element.sweep, Kind::Angle, item, say("the sweep"));
            if (!element.flat.empty())
                size.flatM = values_.value(element.flat, Kind::Length, item, say("the straight middle"));
            if (!values_.failed && (size.flatM < 0.0 || size.flatM >= size.lengthM))
                values_.problem(item, say("{}: its straight middle is longer than the element.", item),
                                say("Shorten it, or lengthen the element."));
        }
        const Vec3 centre = axes_.start + size.positionM * axes_.boom;
        wires.fed = conductor(item, centre, half, sections, size);
        if (hasSecondConductor(element.form)) addSecond(element, item, centre, half, sections, size, wires);
        return wires;
    }

  private:
    PlainWire wire(const std::string& item, const Vec3& from, const Vec3& to, double radiusM) const {
        PlainWire w = base_;
        w.part = item;
        w.startM = from;
        w.endM = to;
        w.radiusM = radiusM;
        return w;
    }

    /// From the left tip to the right one. A section that spans the centre is one wire.
    std::vector<PlainWire> conductor(const std::string& item, const Vec3& centre, double half,
                                     const std::vector<Section>& sections, const ElementSize& size) const {
        const double straight = size.form == ElementForm::Bent ? 0.5 * size.flatM : half;
        const Vec3 tip =
            std::cos(size.sweepDeg * kDegree) * axes_.along + std::sin(size.sweepDeg * kDegree) * axes_.boom;
        const Vec3 otherTip =
            -std::cos(size.sweepDeg * kDegree) * axes_.along + std::sin(size.sweepDeg * kDegree) * axes_.boom;
        const auto at = [&](double s) -> Vec3 {
            const double a = std::abs(s);
            const Vec3 out = s > 0.0 ? axes_.along : Vec3(-axes_.along);
            if (a <= straight) return centre + a * out;
            return centre + straight * out + (a - straight) * (s > 0.0 ? tip : otherTip);
        };
        // Where something changes, outward from the centre, with the radius inside of it.
        std::vector<Section> stops;
        double before = 0.0;
        for (const auto& section : sections) {
            if (size.form == ElementForm::Bent && straight > before && straight < section.toM)
                stops.push_back({section.radiusM, straight, {}});
            stops.push_back(section);
            before = section.toM;
        }
        std::vector<PlainWire> wires;
        for (std::size_t i = stops.size(); i-- > 1;)
            wires.push_back(wire(item, at(stops[i].toM), at(stops[i - 1].toM), stops[i].radiusM));
        const bool whole = straight > 0.0;
        if (whole) {
            wires.push_back(wire(item, at(stops[0].toM), at(-stops[0].toM), stops[0].radiusM));
        } else {
            wires.push_back(wire(item, at(stops[0].toM), centre, stops[0].radiusM));
            wires.push_back(wire(item, centre, at(-stops[0].toM), stops[0].radiusM));
        }
        for (std::size_t i = 1; i < stops.size(); ++i)
            wires.push_back(wire(item, at(-stops[i - 1].toM), at(-stops[i].toM), stops[i].radiusM));
        return wires;
    }

    void addSecond(const RowElement& element, const std::string& item, const Vec3& centre, double half,
                   const std::vector<Section>& sections, ElementSize& size, ElementWires& wires) {
        size.secondM = values_.value(element.gap, Kind::Length, item, say("the second conductor"));
        double end = sections.back().radiusM;
        if (!element.endDiameter.empty())
            end = values_.radius(element.endDiameter, item, say("the end diameter"));
        if (values_.failed) return;
        if (std::abs(size.secondM) <= 2.0 * sections.front().radiusM) {
            values_.problem(item, say("{}: its two conductors touch.", item),
                            say("Set the second conductor further away than their diameter."));
            return;
        }
        const Vec3 away =
            size.secondM * (element.form == ElementForm::LoopInPlane ? axes_.boom : axes_.above);
        auto second = conductor(item, centre + away, half, sections, size);
        const Vec3 left = centre + half * axes_.along;
        const Vec3 right = centre - half * axes_.along;
        wires.rest.push_back(wire(item, right, right + away, end));
        for (auto w = second.rbegin(); w != second.rend(); ++w) {
            std::swap(w->startM, w->endM);
            wires.rest.push_back(*w);
        }
        wires.rest.push_back(wire(item, left + away, left, end));
    }

    FieldValues& values_;
    std::string part_;
    PlainWire base_;
    RowAxes axes_;
};

}  // namespace

double RowSizes::boomLengthM() const {
    double low = 0.0;
    double high = 0.0;
    for (const auto& e : elements) {
        low = std::min(low, e.positionM);
        high = std::max(high, e.positionM);
    }
    return elements.empty() ? 0.0 : high - low;
}

RowAxes rowAxes(FieldValues& values, const std::string& part, const ElementRow& row) {
    const double turn = values.value(row.turn, Kind::Angle, part, say("the turn")) * kDegree;
    const double rise = values.value(row.rise, Kind::Angle, part, say("the rise of the boom")) * kDegree;
    const double roll = values.value(row.roll, Kind::Angle, part, say("the roll")) * kDegree;
    RowAxes axes;
    axes.start = values.point(row.start, part, say("boom"));
    const Vec3 ahead(std::cos(turn), -std::sin(turn), 0.0);
    const Vec3 left = Vec3::UnitZ().cross(ahead);
    axes.boom = std::cos(rise) * ahead + std::sin(rise) * Vec3::UnitZ();
    const Vec3 up = axes.boom.cross(left);
    axes.along = std::cos(roll) * left + std::sin(roll) * up;
    axes.above = axes.boom.cross(axes.along);
    return axes;
}

std::vector<ElementWires> buildRow(FieldValues& values, const std::string& part, const ElementRow& row,
                                   const PlainWire& base, double lambdaM, RowSizes& sizes) {
    sizes.part = part;
    std::vector<ElementWires> all;
    if (row.elements.empty()) values.problem(part, say("{} has no elements.", part), say("Add one."));
    RowBuilder builder(values, part, row, base);
    sizes.boom = builder.axes().boom;
    double boomM = 0.0;
    if (row.boom.kind != BoomKind::None && row.boom.kind != BoomKind::Insulating)
        boomM = values.positive(row.boom.diameter, Kind::Diameter, part, say("the boom"));
    if (!values.failed && boomM > kThickestBoomWavelengths * lambdaM)
        values.findings.push_back(
            {Severity::Warning, part,
             say("The boom of {} is {:.3f} wavelengths thick, more than its correction was measured for.",
                 part, boomM / lambdaM),
             say("Take the cut lengths as a first guess, or use a thinner boom.")});
    std::set<std::string> names;
    double position = 0.0;
    for (const auto& element : row.elements) {
        const std::string item = part + ", " + element.name;
        if (element.name.empty() || !names.insert(element.name).second)
            values.problem(part, say("{} has two elements named \"{}\".", part, element.name),
                           say("Give each a name of its own."));
        ElementSize size;
        size.name = element.name;
        size.form = element.form;
        const double typed = values.value(element.position, Kind::Length, item, say("the position"));
        position = row.spacings ? position + typed : typed;
        size.positionM = position;
        size.lengthM =
            values.positive(element.length, Kind::Length, item, say("the length")) * (row.half ? 2.0 : 1.0);
        if (values.failed) return {};
        all.push_back(builder.build(element, size));
        if (element.form == ElementForm::Straight && lambdaM > 0.0)
            size.addM = boomCorrectionM(row.boom.kind, boomM, lambdaM);
        sizes.elements.push_back(size);
        if (values.failed) return {};
    }
    return all;
}

}  // namespace rm::model
