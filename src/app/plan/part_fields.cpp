// Fields of the editor for a part: its shape and its conductor.
#include <QLabel>
#include <QToolButton>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "core/model/materials.h"
#include "core/model/rename.h"

namespace rm::app {

namespace {

using namespace rm::model;
using quantity::Kind;

template <typename Shape>
Shape& shapeOf(Design& d, Id part) {
    return std::get<Shape>(model::at(d.parts, part).shape);
}

}  // namespace

void ItemEditor::buildPart() {
    const model::Id i = selection_.id;
    const auto& part = model::at(document_.design().parts, i);
    title_->setText(text(model::shapeName(part.shape))
                        .replace(0, 1, text(model::shapeName(part.shape)).left(1).toUpper()));
    addText(
        "Name", [i](const Design& d) { return model::at(d.parts, i).name; },
        [i](Design& d, const std::string& v) { model::renamePart(d, model::indexOf(d.parts, i), v); });
    const auto quantity = [&](const QString& label, Kind kind, auto member, auto shapeTag,
                              const QString& tip = {}) {
        using Form = decltype(shapeTag);
        addQuantity(
            label, kind,
            [i, member](const Design& d) { return std::get<Form>(model::at(d.parts, i).shape).*member; },
            [i, member](Design& d, const std::string& v) { shapeOf<Form>(d, i).*member = v; }, tip);
    };
    if (std::holds_alternative<StraightWire>(part.shape)) {
        addPoint("Start", [i](Design& d) -> PointText& { return shapeOf<StraightWire>(d, i).start; });
        addPoint("End", [i](Design& d) -> PointText& { return shapeOf<StraightWire>(d, i).end; });
        quantity("Insulators", Kind::Number, &StraightWire::insulators, StraightWire{},
                 "That break it into equal pieces, as in a guy");
    } else if (const auto* bent = std::get_if<BentWire>(&part.shape)) {
        for (std::size_t n = 0; n < bent->points.size(); ++n)
            addPoint(QString("Point %1").arg(n + 1),
                     [i, n](Design& d) -> PointText& { return shapeOf<BentWire>(d, i).points.at(n); });
        addChoice(
            "Closed", {"open wire", "closed to a loop"}, {"open", "closed"},
            [i](const Design& d) {
                return std::string(std::get<BentWire>(model::at(d.parts, i).shape).closed ? "closed"
                                                                                          : "open");
            },
            [i](Design& d, const std::string& v) { shapeOf<BentWire>(d, i).closed = v == "closed"; });
        const auto [add, remove] = addMoreAndLess("Add point", "Remove last", bent->points.size() > 2);
        connect(add, &QToolButton::clicked, this, [this, i] {
            edit("Add point", [&](Design& d) {
                auto& points = shapeOf<BentWire>(d, i).points;
                points.push_back(points.empty() ? PointText{"0 m", "0 m", "5 m"} : points.back());
            });
        });
        connect(remove, &QToolButton::clicked, this, [this, i] {
            edit("Remove point", [&](Design& d) { shapeOf<BentWire>(d, i).points.pop_back(); });
        });
    } else if (std::holds_alternative<RegularLoop>(part.shape)) {
        addPoint("Centre", [i](Design& d) -> PointText& { return shapeOf<RegularLoop>(d, i).centre; });
        quantity("Sides", Kind::Number, &RegularLoop::sides, RegularLoop{},
                 "3 for a triangle, 4 for a square, many for a circle");
        addChoice(
            "Sized by", {"perimeter", "one side"}, {"perimeter", "side"},
            [i](const Design& d) {
                return std::string(
                    std::get<RegularLoop>(model::at(d.parts, i).shape).byPerimeter ? "perimeter" : "side");
            },
            [i](Design& d, const std::string& v) {
                shapeOf<RegularLoop>(d, i).byPerimeter = v == "perimeter";
            });
        quantity("Size", Kind::Length, &RegularLoop::size, RegularLoop{});
        quantity("Tilt", Kind::Angle, &RegularLoop::tilt, RegularLoop{},
                 "90 degrees stands upright across the front, 0 lies flat");
        quantity("Turn", Kind::Angle, &RegularLoop::turn, RegularLoop{}, "To the right, seen from above");
        addChoice(
            "Stands on", {"a side", "a corner"}, {"side", "corner"},
            [i](const Design& d) {
                return std::string(std::get<RegularLoop>(model::at(d.parts, i).shape).cornerDown ? "corner"
                                                                                                 : "side");
            },
            [i](Design& d, const std::string& v) { shapeOf<RegularLoop>(d, i).cornerDown = v == "corner"; });
    } else if (std::holds_alternative<InvertedV>(part.shape)) {
        quantity("Apex height", Kind::Length, &InvertedV::apexHeight, InvertedV{});
        quantity("Leg", Kind::Length, &InvertedV::leg, InvertedV{}, "Length of each leg");
        quantity("Angle", Kind::Angle, &InvertedV::angle, InvertedV{},
                 "Between the legs; 180 degrees is a straight dipole");
        quantity("Turn", Kind::Angle, &InvertedV::turn, InvertedV{},
                 "0: the legs run left and right, broadside to the front");
        addPoint("Foot", [i](Design& d) -> PointText& { return shapeOf<InvertedV>(d, i).foot; });
    } else if (std::holds_alternative<ElementRow>(part.shape)) {
        buildRow();
    } else if (std::holds_alternative<RadialSystem>(part.shape)) {
        quantity("Radials", Kind::Number, &RadialSystem::count, RadialSystem{}, "How many: 1 to 180");
        addText(
            "Length",
            [i](const Design& d) { return std::get<RadialSystem>(model::at(d.parts, i).shape).length; },
            [i](Design& d, const std::string& v) { shapeOf<RadialSystem>(d, i).length = v; },
            "10 m, or several that take turns: 5 m; 10 m");
        quantity(
            "Depth", Kind::Length, &RadialSystem::depth, RadialSystem{},
            "Of their hub below the foot. 0: they leave from the foot itself; on the lawn or held above it "
            "with the height of the foot");
        quantity("Slope", Kind::Angle, &RadialSystem::slope, RadialSystem{}, "Below the horizon");
        quantity("First", Kind::Angle, &RadialSystem::first, RadialSystem{},
                 "Bearing of the first to the right of the front; of the middle, where they fill a sector");
        quantity("Sector", Kind::Angle, &RadialSystem::sector, RadialSystem{},
                 "360 degrees: all round. Less where a house stands in the way");
        quantity("Bent up", Kind::Length, &RadialSystem::bentUp, RadialSystem{},
                 "Length of their last piece, which rises; 0: none");
        quantity("Rod", Kind::Length, &RadialSystem::rod, RadialSystem{},
                 "Length of a rod straight down from the hub; 0: none");
        if (std::get<RadialSystem>(part.shape).rod != "0 m")
            quantity("Its diameter", Kind::Diameter, &RadialSystem::rodDiameter, RadialSystem{});
        addPoint("Foot", [i](Design& d) -> PointText& { return shapeOf<RadialSystem>(d, i).foot; });
    } else if (std::holds_alternative<HungWire>(part.shape)) {
        buildHung();
    } else if (std::holds_alternative<CableRun>(part.shape)) {
        buildCable();
        // Its size can be that of the cable in the feed path.
        if (std::get<CableRun>(part.shape).sized) return;
    } else if (std::holds_alternative<GroundRod>(part.shape)) {
        quantity("Length", Kind::Length, &GroundRod::length, GroundRod{}, "Straight down from its top");
        addPoint("Top", [i](Design& d) -> PointText& { return shapeOf<GroundRod>(d, i).top; });
    } else {
        addPoint("Hub", [i](Design& d) -> PointText& { return shapeOf<Fan>(d, i).hub; });
        quantity("Wires", Kind::Number, &Fan::count, Fan{}, "1 to 128, evenly spread round the hub");
        quantity("Length", Kind::Length, &Fan::length, Fan{});
        quantity("Slope", Kind::Angle, &Fan::slope, Fan{}, "Below the horizon");
        quantity("First", Kind::Angle, &Fan::first, Fan{},
                 "Bearing of the first wire, to the right of the front");
        quantity("Insulators", Kind::Number, &Fan::insulators, Fan{}, "In each wire, as in guys");
    }
    QStringList names;
    QStringList ids;
    for (const auto& material : model::materials()) {
        names << text(material.name);
        ids << text(material.id);
    }
    addChoice(
        "Conductor", names, ids, [i](const Design& d) { return model::at(d.parts, i).conductor.material; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.material = v; });
    if (std::holds_alternative<ElementRow>(part.shape)) {
        addText(
            "Elements", [i](const Design& d) { return model::at(d.parts, i).conductor.diameter; },
            [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.diameter = v; },
            "Diameter of the elements that have none of their own in the table: 8 mm; a strip 20 mm wide and "
            "a "
            "square tube of 15 mm count by their equivalent radius: \"strip 20 mm\", \"square 15 mm\"");
        return;
    }
    addQuantity(
        "Diameter", Kind::Diameter, [i](const Design& d) { return model::at(d.parts, i).conductor.diameter; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.diameter = v; },
        "2 mm, 1/4 in, 14 awg");
    addQuantity(
        "Insulation", Kind::Diameter, [i](const Design& d) { return model::at(d.parts, i).conductor.coat; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.coat = v; },
        "Thickness of the coat alone; empty: bare wire. A coat makes the wire a few percent longer "
        "electrically",
        true);
    if (!part.conductor.coat.empty())
        addQuantity(
            "Its permittivity", Kind::Number,
            [i](const Design& d) { return model::at(d.parts, i).conductor.coatPermittivity; },
            [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.coatPermittivity = v; },
            "PVC about 3, polyethylene 2.3, PTFE 2.1");
    addQuantity(
        "Folded end", Kind::Diameter, [i](const Design& d) { return model::at(d.parts, i).foldedEnd; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).foldedEnd = v; },
        "Wire folded back at each free end when it is cut; empty: as the Build mode says for all", true);
}

}  // namespace rm::app
