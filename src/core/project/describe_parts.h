// Descriptions of what stands on a site: parts with their shapes and conductors, copies, places.
#pragma once

#include <fmt/format.h>

#include "core/project/fields.h"
#include "core/words/words.h"

namespace rm::io {

template <typename Fields>
void describe(Fields& f, Of<model::Place>) {
    using model::Place;
    using model::PlaceKind;
    f.choice("kind", &Place::kind,
             {{"start", PlaceKind::Start},
              {"middle", PlaceKind::Middle},
              {"end", PlaceKind::End},
              {"corner", PlaceKind::Corner},
              {"distance", PlaceKind::Distance},
              {"percent", PlaceKind::Percent},
              {"side", PlaceKind::Side}},
             When::Always);
    f.text("value", &Place::value);
    f.text("element", &Place::element);
    f.extra(&Place::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Dimension>) {
    using model::Dimension;
    using model::DimensionKind;
    f.text("name", &Dimension::name, When::Always);
    f.text("value", &Dimension::text, When::Always);
    f.choice("kind", &Dimension::kind,
             {{"length", DimensionKind::Length},
              {"angle", DimensionKind::Angle},
              {"number", DimensionKind::Number}},
             When::Always);
    f.text("low", &Dimension::low);
    f.text("high", &Dimension::high);
    f.text("note", &Dimension::note);
    f.flag("scales", &Dimension::scales);
    f.extra(&Dimension::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Conductor>) {
    using model::Conductor;
    f.text("material", &Conductor::material, When::Always);
    f.text("diameter", &Conductor::diameter, When::Always);
    f.text("insulation", &Conductor::coat);
    f.text("insulation permittivity", &Conductor::coatPermittivity);
    f.extra(&Conductor::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::RowElement>) {
    using model::ElementForm;
    using model::RowElement;
    f.text("name", &RowElement::name, When::Always);
    f.text("position", &RowElement::position, When::Always);
    f.text("length", &RowElement::length, When::Always);
    f.text("diameter", &RowElement::diameter);
    f.choice("form", &RowElement::form,
             {{"straight", ElementForm::Straight},
              {"bent", ElementForm::Bent},
              {"folded", ElementForm::Folded},
              {"loop in plane", ElementForm::LoopInPlane},
              {"loop upright", ElementForm::LoopUpright}});
    f.text("flat", &RowElement::flat);
    f.text("sweep", &RowElement::sweep);
    f.text("second conductor", &RowElement::gap);
    f.text("end diameter", &RowElement::endDiameter);
    f.extra(&RowElement::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Boom>) {
    using model::Boom;
    using model::BoomKind;
    f.choice("kind", &Boom::kind,
             {{"none", BoomKind::None},
              {"insulating", BoomKind::Insulating},
              {"through, bonded", BoomKind::Bonded},
              {"through, insulated", BoomKind::Insulated},
              {"above", BoomKind::Above}},
             When::Always);
    f.flag("square", &Boom::square, When::Always);
    f.text("diameter", &Boom::diameter, When::Always);
    f.extra(&Boom::extra);
}

// The shapes stand among the members of their part.

template <typename Fields>
void describe(Fields& f, Of<model::StraightWire>) {
    using model::StraightWire;
    f.point("start", &StraightWire::start, When::Always);
    f.point("end", &StraightWire::end, When::Always);
    f.text("insulators", &StraightWire::insulators);
}

template <typename Fields>
void describe(Fields& f, Of<model::BentWire>) {
    f.points("points", &model::BentWire::points);
    f.flag("closed", &model::BentWire::closed);
}

template <typename Fields>
void describe(Fields& f, Of<model::RegularLoop>) {
    using model::RegularLoop;
    f.point("centre", &RegularLoop::centre, When::Always);
    f.text("sides", &RegularLoop::sides, When::Always);
    f.template choice<bool>("sized by", &RegularLoop::byPerimeter, {{"perimeter", true}, {"side", false}},
                            When::Always);
    f.text("size", &RegularLoop::size, When::Always);
    f.text("tilt", &RegularLoop::tilt, When::Always);
    f.text("turn", &RegularLoop::turn, When::Always);
    f.flag("corner down", &RegularLoop::cornerDown, When::Always);
}

template <typename Fields>
void describe(Fields& f, Of<model::InvertedV>) {
    using model::InvertedV;
    f.point("foot", &InvertedV::foot, When::Always);
    f.text("apex height", &InvertedV::apexHeight, When::Always);
    f.text("leg", &InvertedV::leg, When::Always);
    f.text("angle", &InvertedV::angle, When::Always);
    f.text("turn", &InvertedV::turn, When::Always);
}

template <typename Fields>
void describe(Fields& f, Of<model::Fan>) {
    using model::Fan;
    f.point("hub", &Fan::hub, When::Always);
    f.text("count", &Fan::count, When::Always);
    f.text("length", &Fan::length, When::Always);
    f.text("slope", &Fan::slope, When::Always);
    f.text("first", &Fan::first, When::Always);
    f.text("insulators", &Fan::insulators);
}

template <typename Fields>
void describe(Fields& f, Of<model::RadialSystem>) {
    using model::RadialSystem;
    f.point("foot", &RadialSystem::foot, When::Always);
    f.text("count", &RadialSystem::count, When::Always);
    f.text("length", &RadialSystem::length, When::Always);
    f.text("depth", &RadialSystem::depth, When::Always);
    f.text("slope", &RadialSystem::slope, When::Always);
    f.text("first", &RadialSystem::first, When::Always);
    f.text("sector", &RadialSystem::sector, When::Always);
    f.text("bent up", &RadialSystem::bentUp);
    f.text("rod", &RadialSystem::rod);
    f.text("rod diameter", &RadialSystem::rodDiameter);
}

template <typename Fields>
void describe(Fields& f, Of<model::GroundRod>) {
    f.point("top", &model::GroundRod::top, When::Always);
    f.text("length", &model::GroundRod::length, When::Always);
}

template <typename Fields>
void describe(Fields& f, Of<model::HangPoint>) {
    using model::HangPoint;
    f.text("support", &HangPoint::support, When::Always);
    f.text("height", &HangPoint::height);
    f.text("along", &HangPoint::along);
    f.extra(&HangPoint::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::HungWire>) {
    using model::HungBy;
    using model::HungWire;
    f.list("hangs on", &HungWire::points, "place", When::Always);
    f.text("length", &HungWire::length, When::Always);
    f.choice("held by", &HungWire::by,
             {{"start", HungBy::Start}, {"middle", HungBy::Middle}, {"corner", HungBy::Corner}},
             When::Always);
    f.text("rope", &HungWire::rope);
    f.text("corner", &HungWire::corner);
    f.text("sag", &HungWire::sag);
    f.text("pull", &HungWire::pull);
}

template <typename Fields>
void describe(Fields& f, Of<model::RunPoint>) {
    using model::RunPoint;
    f.text("support", &RunPoint::support);
    f.point("at", &RunPoint::at, When::Always);
    f.extra(&RunPoint::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::CableRun>) {
    using model::CableRun;
    using model::RunEnd;
    using model::ShieldOn;
    f.text("feed", &CableRun::feed);
    f.choice("shield on", &CableRun::shield,
             {{"other side", ShieldOn::Other}, {"own side", ShieldOn::Own}, {"middle", ShieldOn::Middle}},
             When::Always);
    f.flag("down", &CableRun::down, When::Always);
    f.text("level", &CableRun::level, When::Always);
    f.list("by way of", &CableRun::points, "point");
    f.choice("ends", &CableRun::end,
             {{"open", RunEnd::Open}, {"rod", RunEnd::Rod}, {"station earth", RunEnd::Earth}}, When::Always);
    f.text("rod", &CableRun::rod);
    f.text("earth ohm", &CableRun::earthOhm);
    f.flag("sized by the feed path", &CableRun::sized);
    f.flag("measures the cable", &CableRun::measures);
}

template <typename Fields>
void describe(Fields& f, Of<model::ElementRow>) {
    using model::ElementRow;
    f.point("start", &ElementRow::start, When::Always);
    f.text("turn", &ElementRow::turn, When::Always);
    f.text("rise", &ElementRow::rise, When::Always);
    f.text("roll", &ElementRow::roll, When::Always);
    f.template choice<bool>("positions", &ElementRow::spacings,
                            {{"from the start", false}, {"from the one before", true}}, When::Always);
    f.template choice<bool>("lengths", &ElementRow::half, {{"whole", false}, {"half", true}}, When::Always);
    f.object("boom", &ElementRow::boom, When::Always);
    f.list("elements", &ElementRow::elements, "element", When::Always);
}

/// What each shape is called in the file.
template <typename Visit>
void eachShape(Visit visit) {
    visit("straight wire", model::StraightWire{});
    visit("bent wire", model::BentWire{});
    visit("loop", model::RegularLoop{});
    visit("inverted V", model::InvertedV{});
    visit("fan", model::Fan{});
    visit("element row", model::ElementRow{});
    visit("radial system", model::RadialSystem{});
    visit("ground rod", model::GroundRod{});
    visit("hung wire", model::HungWire{});
    visit("cable run", model::CableRun{});
}

template <typename Fields>
void describe(Fields& f, Of<model::Part>) {
    using model::Part;
    f.text("name", &Part::name, When::Always);
    f.flag("enabled", &Part::enabled);
    f.object("conductor", &Part::conductor, When::Always);
    f.text("folded end", &Part::foldedEnd);
    if constexpr (Fields::reading) {
        const json* given = f.find("shape");
        const std::string shape =
            given != nullptr && given->is_string() ? given->template get<std::string>() : "";
        bool known = false;
        eachShape([&](const char* name, auto standard) {
            if (shape != name) return;
            known = true;
            f.within(standard);
            f.thing().shape = standard;
        });
        if (!known) throw Error(say("{}: shape \"{}\" is not known to this version", f.where(), shape));
    } else {
        eachShape([&](const char* name, auto standard) {
            const auto* shape = std::get_if<decltype(standard)>(&f.thing().shape);
            if (shape == nullptr) return;
            f.object()["shape"] = name;
            f.object().update(Fields::written(*shape));
        });
    }
    f.extra(&Part::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Copy>) {
    using namespace model;
    f.text("name", &Copy::name, When::Always);
    f.choice("kind", &Copy::kind,
             {{"mirror", CopyKind::Mirror},
              {"rotate", CopyKind::Rotate},
              {"shift", CopyKind::Shift},
              {"stack", CopyKind::Stack}},
             When::Always);
    f.flag("enabled", &Copy::enabled);
    f.names("parts", &Copy::parts);
    f.choice("plane", &Copy::plane,
             {{"left and right", MirrorPlane::LeftRight},
              {"front and back", MirrorPlane::FrontBack},
              {"up and down", MirrorPlane::UpDown}});
    f.choice("axis", &Copy::axis,
             {{"upright", CopyAxis::Upright}, {"forward", CopyAxis::Forward}, {"left", CopyAxis::Left}});
    f.point("centre", &Copy::centre);
    f.point("step", &Copy::step);
    f.flag("centred", &Copy::centred);
    f.text("at", &Copy::at);
    f.text("count", &Copy::count);
    f.text("angle", &Copy::angle);
    f.text("rows", &Copy::rows);
    f.text("columns", &Copy::columns);
    f.text("row spacing", &Copy::rowSpacing);
    f.text("column spacing", &Copy::columnSpacing);
    f.extra(&Copy::extra);
}

}  // namespace rm::io
