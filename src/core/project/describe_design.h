// The description of a whole design.
#pragma once

#include <fmt/format.h>

#include "core/project/describe_circuit.h"
#include "core/project/describe_parts.h"
#include "core/project/describe_plan.h"

namespace rm::io {

template <typename Fields>
void describe(Fields& f, Of<model::Support>) {
    using model::Support;
    using model::SupportKind;
    f.text("name", &Support::name, When::Always);
    f.choice("kind", &Support::kind,
             {{"mast", SupportKind::Mast},
              {"tree", SupportKind::Tree},
              {"roof edge", SupportKind::RoofEdge},
              {"wall", SupportKind::Wall},
              {"peg", SupportKind::Peg}},
             When::Always);
    f.text("east", &Support::east, When::Always);
    f.text("north", &Support::north, When::Always);
    f.text("height", &Support::height, When::Always);
    f.text("to east", &Support::toEast);
    f.text("to north", &Support::toNorth);
    f.extra(&Support::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Backdrop>) {
    using model::Backdrop;
    f.text("file", &Backdrop::file, When::Always);
    f.number("first x", &Backdrop::firstX, When::Always);
    f.number("first y", &Backdrop::firstY, When::Always);
    f.number("second x", &Backdrop::secondX, When::Always);
    f.number("second y", &Backdrop::secondY, When::Always);
    f.number("first east m", &Backdrop::firstEastM, When::Always);
    f.number("first north m", &Backdrop::firstNorthM, When::Always);
    f.number("second east m", &Backdrop::secondEastM, When::Always);
    f.number("second north m", &Backdrop::secondNorthM, When::Always);
    f.extra(&Backdrop::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Site>) {
    using model::GroundKind;
    using model::Site;
    f.choice(
        "ground", &Site::ground,
        {{"free space", GroundKind::FreeSpace}, {"perfect", GroundKind::Perfect}, {"real", GroundKind::Real}},
        When::Always);
    f.flag("quick free space", &Site::quick);
    f.text("soil", &Site::soil, When::Always);
    f.text("permittivity", &Site::permittivity, When::Always);
    f.text("conductivity", &Site::conductivity, When::Always);
    f.text("height", &Site::height, When::Always);
    f.text("heading", &Site::heading, When::Always);
    f.list("supports", &Site::supports, "support");
    f.object("backdrop", &Site::backdrop);
    f.extra(&Site::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::BuildTexts>) {
    using model::BuildTexts;
    f.text("folded end", &BuildTexts::foldedEnd);
    f.text("joint", &BuildTexts::joint);
    f.text("stock", &BuildTexts::stock);
    f.text("reel", &BuildTexts::reel);
    f.text("kerf", &BuildTexts::kerf);
    f.text("overlap", &BuildTexts::overlap);
    f.text("wall", &BuildTexts::wall);
    f.text("gap", &BuildTexts::gap);
    f.text("boom end", &BuildTexts::boomEnd);
    f.extra(&BuildTexts::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Design>) {
    using model::Design;
    f.text("name", &Design::name, When::Always);
    if constexpr (Fields::reading) f.setWhere(fmt::format("design \"{}\"", f.thing().name));
    f.text("design frequency", &Design::designFrequency, When::Always);
    f.text("reference ohm", &Design::reference, When::Always);
    f.list("dimensions", &Design::dimensions, "dimension", When::Always);
    f.list("parts", &Design::parts, "part", When::Always);
    f.list("copies", &Design::copies, "copies");
    f.list("feeds", &Design::feeds, "feed", When::Always);
    f.list("drive sets", &Design::driveSets, "drive set");
    f.integer("drive set", &Design::driveSet, -1.0, static_cast<double>(f.thing().driveSets.size()) - 1.0);
    f.object("harness", &Design::harness);
    f.list("loads", &Design::loads, "load", When::Always);
    f.list("lines", &Design::lines, "line");
    f.list("feed path", &Design::feedPath, "feed path block");
    f.list("measured", &Design::measured, "measurement");
    f.object("site", &Design::site, When::Always);
    f.object("tune", &Design::tune);
    f.object("build", &Design::build);
    f.names("bands", &Design::bands);
    f.extra(&Design::extra);
}

}  // namespace rm::io
