// Descriptions of what is connected to an antenna: feeds, loads, lines, the feed path, drive sets, the
// harness, measurements.
#pragma once

#include <fmt/format.h>

#include <algorithm>

#include "core/circuit/reflection.h"
#include "core/project/describe_parts.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

template <typename Fields>
void describe(Fields& f, Of<model::Feed>) {
    using model::Feed;
    f.text("name", &Feed::name, When::Always);
    f.text("part", &Feed::part, When::Always);
    f.object("place", &Feed::place, When::Always);
    f.names("with", &Feed::with);
    f.text("amplitude", &Feed::amplitude, When::Always);
    f.text("phase", &Feed::phase, When::Always);
    f.extra(&Feed::extra);
}

/// The table of a load: [Hz, R, X] each.
template <typename Fields>
void describeTable(Fields& f) {
    auto& table = f.thing().table;
    if constexpr (Fields::reading) {
        for (const json& p : f.array("table")) {
            const bool numbers =
                p.is_array() && p.size() == 3 && std::all_of(p.begin(), p.end(), [](const json& v) {
                    return v.is_number() && quantity::isOfThisWorld(v.get<double>());
                });
            if (!numbers) throw Error(say("{}: each point of its table has to be [Hz, R, X]", f.where()));
            table.push_back({p[0].template get<double>(),
                             Complex(p[1].template get<double>(), p[2].template get<double>())});
        }
    } else if (!table.empty()) {
        json& points = f.object()["table"] = json::array();
        for (const auto& p : table) points.push_back({p.frequencyHz, p.ohm.real(), p.ohm.imag()});
    }
}

template <typename Fields>
void describe(Fields& f, Of<model::Load>) {
    using model::Load;
    using model::LoadForm;
    f.text("name", &Load::name, When::Always);
    f.text("part", &Load::part, When::Always);
    f.object("place", &Load::place, When::Always);
    f.choice("kind", &Load::form,
             {{"series", LoadForm::Series},
              {"parallel", LoadForm::Parallel},
              {"trap", LoadForm::Trap},
              {"ring", LoadForm::Ring},
              {"table", LoadForm::Table}},
             When::Always);
    f.text("ohm", &Load::resistance);
    f.text("uH", &Load::inductance);
    f.text("pF", &Load::capacitance);
    f.text("coil Q", &Load::coilQ);
    f.text("trap frequency", &Load::trapFrequency);
    f.text("trap ohm", &Load::trapReactance);
    f.text("turns", &Load::turns);
    f.text("ring outer", &Load::ringOuter);
    f.text("ring inner", &Load::ringInner);
    f.text("ring height", &Load::ringHeight);
    f.text("permeability", &Load::permeability);
    f.text("relaxation", &Load::relaxation);
    f.text("stray pF", &Load::stray);
    describeTable(f);
    f.text("table file", &Load::tableFile);
    f.text("rating W", &Load::rating);
    f.flag("enabled", &Load::enabled);
    f.extra(&Load::extra);
}

/// The line members of cables, stubs, phasing lines and harnesses.
template <typename Thing, typename Fields>
void describeLine(Fields& f) {
    f.text("line", &Thing::line);
    f.text("line ohm", &Thing::lineOhm);
    f.text("velocity factor", &Thing::velocityFactor);
    f.text("loss root", &Thing::lossRoot);
    f.text("loss linear", &Thing::lossLinear);
    f.text("length", &Thing::length);
}

template <typename Fields>
void describe(Fields& f, Of<model::PhasingLine>) {
    using model::PhasingLine;
    f.text("name", &PhasingLine::name, When::Always);
    f.text("from part", &PhasingLine::fromPart, When::Always);
    f.object("from place", &PhasingLine::from, When::Always);
    f.text("to part", &PhasingLine::toPart, When::Always);
    f.object("to place", &PhasingLine::to, When::Always);
    describeLine<PhasingLine>(f);
    f.flag("crossed", &PhasingLine::crossed, When::Always);
    f.flag("enabled", &PhasingLine::enabled);
    f.extra(&PhasingLine::extra);
}

inline constexpr Words<model::ElementKind> kElementKinds = {{"inductor", model::ElementKind::Inductor},
                                                            {"capacitor", model::ElementKind::Capacitor},
                                                            {"resistor", model::ElementKind::Resistor}};

template <typename Fields>
void describe(Fields& f, Of<model::NetworkArm>) {
    using model::NetworkArm;
    f.choice("element", &NetworkArm::element, kElementKinds, When::Always);
    f.flag("shunt", &NetworkArm::shunt, When::Always);
    f.text("value", &NetworkArm::value, When::Always);
    f.text("Q", &NetworkArm::q);
    f.extra(&NetworkArm::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::FeedBlock>) {
    using model::BlockKind;
    using model::FeedBlock;
    f.text("name", &FeedBlock::name, When::Always);
    f.choice("kind", &FeedBlock::kind,
             {{"transformer", BlockKind::Transformer},
              {"cable", BlockKind::Cable},
              {"stub", BlockKind::Stub},
              {"element", BlockKind::Element},
              {"choke", BlockKind::Choke},
              {"quarter wave", BlockKind::QuarterWave},
              {"network", BlockKind::Network}},
             When::Always);
    f.flag("enabled", &FeedBlock::enabled);
    describeLine<FeedBlock>(f);
    f.text("ratio", &FeedBlock::ratio);
    f.text("magnetising uH", &FeedBlock::magnetising);
    f.text("core loss ohm", &FeedBlock::coreLoss);
    f.text("leakage uH", &FeedBlock::leakage);
    f.text("compensation pF", &FeedBlock::compensation);
    f.text("cut for", &FeedBlock::tuned);
    f.text("value", &FeedBlock::value);
    f.text("Q", &FeedBlock::q);
    f.text("loss dB", &FeedBlock::loss);
    f.text("choking ohm", &FeedBlock::choking);
    f.list("elements", &FeedBlock::arms, "element");
    f.flag("shorted", &FeedBlock::shorted);
    f.choice("element", &FeedBlock::element, kElementKinds);
    f.flag("shunt", &FeedBlock::shunt);
    f.extra(&FeedBlock::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::DriveEntry>) {
    using model::DriveEntry;
    f.text("feed", &DriveEntry::feed, When::Always);
    f.text("amplitude", &DriveEntry::amplitude, When::Always);
    f.text("phase", &DriveEntry::phase, When::Always);
    f.text("delay", &DriveEntry::delay);
    f.extra(&DriveEntry::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::DriveSet>) {
    using model::DriveSet;
    using model::IdleKind;
    f.text("name", &DriveSet::name, When::Always);
    f.list("driven", &DriveSet::driven, "driven feed", When::Always);
    f.choice("idle", &DriveSet::idle,
             {{"open", IdleKind::Open}, {"shorted", IdleKind::Shorted}, {"terminated", IdleKind::Terminated}},
             When::Always);
    f.text("termination ohm", &DriveSet::termination);
    f.extra(&DriveSet::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::HarnessArm>) {
    using model::HarnessArm;
    f.text("feed", &HarnessArm::feed, When::Always);
    f.text("length", &HarnessArm::length, When::Always);
    f.flag("crossed", &HarnessArm::crossed, When::Always);
    f.extra(&HarnessArm::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Harness>) {
    using model::Harness;
    // A harness that does not say so is in use.
    if constexpr (Fields::reading) f.thing().enabled = true;
    f.flag("enabled", &Harness::enabled, When::Always);
    f.inlined(&Harness::line, [](auto& line) { describeLine<model::LineText>(line); });
    f.list("arms", &Harness::arms, "arm");
    f.extra(&Harness::extra);
}

/// Points are [Hz, R, X] or, where the SWR alone is known, [Hz, SWR].
template <typename Fields>
void describePoints(Fields& f) {
    if constexpr (Fields::reading) {
        model::MeasuredData& data = f.thing().data;
        for (const json& p : f.array("points")) {
            const bool numbers = p.is_array() && std::all_of(p.begin(), p.end(), [](const json& v) {
                                     return v.is_number() && quantity::isOfThisWorld(v.get<double>());
                                 });
            if (!numbers || p.size() < 2 || p.size() > 3)
                throw Error(say("{}: each point has to be [Hz, R, X] or [Hz, SWR]", f.where()));
            model::MeasuredPoint point;
            point.frequencyHz = p[0].template get<double>();
            if (p.size() == 3) {
                point.impedanceOhm = Complex(p[1].template get<double>(), p[2].template get<double>());
                point.swr = std::min(circuit::swr(*point.impedanceOhm, data.referenceOhm), circuit::kMostSwr);
            } else {
                point.swr = p[1].template get<double>();
            }
            data.points.push_back(point);
        }
    } else {
        json& points = f.object()["points"] = json::array();
        for (const auto& p : f.thing().data.points) {
            if (p.impedanceOhm)
                points.push_back({p.frequencyHz, p.impedanceOhm->real(), p.impedanceOhm->imag()});
            else
                points.push_back({p.frequencyHz, p.swr});
        }
    }
}

template <typename Fields>
void describe(Fields& f, Of<model::TakenWith>) {
    using model::TakenWith;
    f.text("dimension", &TakenWith::dimension, When::Always);
    f.text("value", &TakenWith::value, When::Always);
    f.extra(&TakenWith::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Measured>) {
    using model::Measured;
    using model::MeasuredData;
    f.text("name", &Measured::name, When::Always);
    f.text("file", &Measured::file, When::Always);
    f.inlined(&Measured::data, [](auto& data) {
        data.text("note", &MeasuredData::note, When::Always);
        data.number("reference ohm", &MeasuredData::referenceOhm, When::Always);
    });
    describePoints(f);
    f.flag("at antenna", &Measured::atAntenna, When::Always);
    f.flag("shown", &Measured::shown);
    f.flag("lead taken away", &Measured::hasLead);
    f.object("lead", &Measured::lead);
    f.list("taken with", &Measured::takenWith, "dimension");
    f.extra(&Measured::extra);
}

}  // namespace rm::io
