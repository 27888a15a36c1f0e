// Fields of the editor for a part: its shape and its conductor.
#include <QLabel>
#include <QToolButton>

#include "app/look/text.h"
#include "app/look/typed_number.h"
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
        tr("Name"), [i](const Design& d) { return model::at(d.parts, i).name; },
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
        addPoint(tr("Start"), [i](Design& d) -> PointText& { return shapeOf<StraightWire>(d, i).start; });
        addPoint(tr("End"), [i](Design& d) -> PointText& { return shapeOf<StraightWire>(d, i).end; });
        quantity(tr("Insulators"), Kind::Number, &StraightWire::insulators, StraightWire{},
                 tr("That break it into equal pieces, as in a guy"));
    } else if (const auto* bent = std::get_if<BentWire>(&part.shape)) {
        for (std::size_t n = 0; n < bent->points.size(); ++n)
            addPoint(tr("Point %1").arg(n + 1),
                     [i, n](Design& d) -> PointText& { return shapeOf<BentWire>(d, i).points.at(n); });
        addChoice(
            tr("Closed"), {tr("open wire"), tr("closed to a loop")}, {"open", "closed"},
            [i](const Design& d) {
                return std::string(std::get<BentWire>(model::at(d.parts, i).shape).closed ? "closed"
                                                                                          : "open");
            },
            [i](Design& d, const std::string& v) { shapeOf<BentWire>(d, i).closed = v == "closed"; });
        const auto [add, remove] =
            addMoreAndLess(tr("Add point"), tr("Remove last"), bent->points.size() > 2);
        connect(add, &QToolButton::clicked, this, [this, i] {
            edit(tr("Add point"), [&](Design& d) {
                auto& points = shapeOf<BentWire>(d, i).points;
                points.push_back(points.empty() ? PointText{"0 m", "0 m", "5 m"} : points.back());
            });
        });
        connect(remove, &QToolButton::clicked, this, [this, i] {
            edit(tr("Remove point"), [&](Design& d) { shapeOf<BentWire>(d, i).points.pop_back(); });
        });
    } else if (std::holds_alternative<RegularLoop>(part.shape)) {
        addPoint(tr("Centre"), [i](Design& d) -> PointText& { return shapeOf<RegularLoop>(d, i).centre; });
        quantity(tr("Sides"), Kind::Number, &RegularLoop::sides, RegularLoop{},
                 tr("3 for a triangle, 4 for a square, many for a circle"));
        addChoice(
            tr("Sized by"), {tr("perimeter"), tr("one side")}, {"perimeter", "side"},
            [i](const Design& d) {
                return std::string(
                    std::get<RegularLoop>(model::at(d.parts, i).shape).byPerimeter ? "perimeter" : "side");
            },
            [i](Design& d, const std::string& v) {
                shapeOf<RegularLoop>(d, i).byPerimeter = v == "perimeter";
            });
        quantity(tr("Size"), Kind::Length, &RegularLoop::size, RegularLoop{});
        quantity(tr("Tilt"), Kind::Angle, &RegularLoop::tilt, RegularLoop{},
                 tr("90 degrees stands upright across the front, 0 lies flat"));
        quantity(tr("Turn"), Kind::Angle, &RegularLoop::turn, RegularLoop{},
                 tr("To the right, seen from above"));
        addChoice(
            tr("Stands on"), {tr("a side"), tr("a corner")}, {"side", "corner"},
            [i](const Design& d) {
                return std::string(std::get<RegularLoop>(model::at(d.parts, i).shape).cornerDown ? "corner"
                                                                                                 : "side");
            },
            [i](Design& d, const std::string& v) { shapeOf<RegularLoop>(d, i).cornerDown = v == "corner"; });
    } else if (std::holds_alternative<InvertedV>(part.shape)) {
        quantity(tr("Apex height"), Kind::Length, &InvertedV::apexHeight, InvertedV{});
        quantity(tr("Leg"), Kind::Length, &InvertedV::leg, InvertedV{}, tr("Length of each leg"));
        quantity(tr("Angle"), Kind::Angle, &InvertedV::angle, InvertedV{},
                 tr("Between the legs; 180 degrees is a straight dipole"));
        quantity(tr("Turn"), Kind::Angle, &InvertedV::turn, InvertedV{},
                 tr("0: the legs run left and right, broadside to the front"));
        addPoint(tr("Foot"), [i](Design& d) -> PointText& { return shapeOf<InvertedV>(d, i).foot; });
    } else if (std::holds_alternative<ElementRow>(part.shape)) {
        buildRow();
    } else if (std::holds_alternative<RadialSystem>(part.shape)) {
        quantity(tr("Radials"), Kind::Number, &RadialSystem::count, RadialSystem{}, tr("How many: 1 to 180"));
        addText(
            tr("Length"),
            [i](const Design& d) { return std::get<RadialSystem>(model::at(d.parts, i).shape).length; },
            [i](Design& d, const std::string& v) {
                shapeOf<RadialSystem>(d, i).length = keptTyped(text(v), Kind::Length, ';');
            },
            tr("10 m, or several that take turns: 5 m; 10 m"));
        quantity(tr("Depth"), Kind::Length, &RadialSystem::depth, RadialSystem{},
                 tr("Of their hub below the foot. 0: they leave from the foot itself; on the lawn or held "
                    "above it "
                    "with the height of the foot"));
        quantity(tr("Slope"), Kind::Angle, &RadialSystem::slope, RadialSystem{}, tr("Below the horizon"));
        quantity(
            tr("First"), Kind::Angle, &RadialSystem::first, RadialSystem{},
            tr("Bearing of the first to the right of the front; of the middle, where they fill a sector"));
        quantity(tr("Sector"), Kind::Angle, &RadialSystem::sector, RadialSystem{},
                 tr("360 degrees: all round. Less where a house stands in the way"));
        quantity(tr("Bent up"), Kind::Length, &RadialSystem::bentUp, RadialSystem{},
                 tr("Length of their last piece, which rises; 0: none"));
        quantity(tr("Rod"), Kind::Length, &RadialSystem::rod, RadialSystem{},
                 tr("Length of a rod straight down from the hub; 0: none"));
        if (std::get<RadialSystem>(part.shape).rod != "0 m")
            quantity(tr("Its diameter"), Kind::Diameter, &RadialSystem::rodDiameter, RadialSystem{});
        addPoint(tr("Foot"), [i](Design& d) -> PointText& { return shapeOf<RadialSystem>(d, i).foot; });
    } else if (std::holds_alternative<HungWire>(part.shape)) {
        buildHung();
    } else if (std::holds_alternative<CableRun>(part.shape)) {
        buildCable();
        // Its size can be that of the cable in the feed path.
        if (std::get<CableRun>(part.shape).sized) return;
    } else if (std::holds_alternative<GroundRod>(part.shape)) {
        quantity(tr("Length"), Kind::Length, &GroundRod::length, GroundRod{},
                 tr("Straight down from its top"));
        addPoint(tr("Top"), [i](Design& d) -> PointText& { return shapeOf<GroundRod>(d, i).top; });
    } else {
        addPoint(tr("Hub"), [i](Design& d) -> PointText& { return shapeOf<Fan>(d, i).hub; });
        quantity(tr("Wires"), Kind::Number, &Fan::count, Fan{}, tr("1 to 128, evenly spread round the hub"));
        quantity(tr("Length"), Kind::Length, &Fan::length, Fan{});
        quantity(tr("Slope"), Kind::Angle, &Fan::slope, Fan{}, tr("Below the horizon"));
        quantity(tr("First"), Kind::Angle, &Fan::first, Fan{},
                 tr("Bearing of the first wire, to the right of the front"));
        quantity(tr("Insulators"), Kind::Number, &Fan::insulators, Fan{}, tr("In each wire, as in guys"));
    }
    QStringList names;
    QStringList ids;
    for (const auto& material : model::materials()) {
        names << text(material.name);
        ids << text(material.id);
    }
    addChoice(
        tr("Conductor"), names, ids,
        [i](const Design& d) { return model::at(d.parts, i).conductor.material; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.material = v; });
    if (std::holds_alternative<ElementRow>(part.shape)) {
        addText(
            tr("Elements"), [i](const Design& d) { return model::at(d.parts, i).conductor.diameter; },
            [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.diameter = v; },
            tr("Diameter of the elements that have none of their own in the table: 8 mm; a strip 20 mm wide "
               "and "
               "a "
               "square tube of 15 mm count by their equivalent radius: \"strip 20 mm\", \"square 15 mm\""));
        return;
    }
    addQuantity(
        tr("Diameter"), Kind::Diameter,
        [i](const Design& d) { return model::at(d.parts, i).conductor.diameter; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.diameter = v; },
        "2 mm, 1/4 in, 14 awg");
    addQuantity(
        tr("Insulation"), Kind::Diameter,
        [i](const Design& d) { return model::at(d.parts, i).conductor.coat; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.coat = v; },
        tr("Thickness of the coat alone; empty: bare wire. A coat makes the wire a few percent longer "
           "electrically"),
        true);
    if (!part.conductor.coat.empty())
        addQuantity(
            tr("Its permittivity"), Kind::Number,
            [i](const Design& d) { return model::at(d.parts, i).conductor.coatPermittivity; },
            [i](Design& d, const std::string& v) { model::at(d.parts, i).conductor.coatPermittivity = v; },
            tr("PVC about 3, polyethylene 2.3, PTFE 2.1"));
    addQuantity(
        tr("Folded end"), Kind::Diameter, [i](const Design& d) { return model::at(d.parts, i).foldedEnd; },
        [i](Design& d, const std::string& v) { model::at(d.parts, i).foldedEnd = v; },
        tr("Wire folded back at each free end when it is cut; empty: as the Build mode says for all"), true);
}

}  // namespace rm::app
