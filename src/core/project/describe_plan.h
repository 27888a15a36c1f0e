// Descriptions of goals, movers and limits.
#pragma once

#include "core/project/fields.h"

namespace rm::io {

template <typename Fields>
void describe(Fields& f, Of<model::Goal>) {
    using namespace model;
    f.choice("kind", &Goal::kind,
             {{"SWR", GoalKind::Swr},
              {"gain", GoalKind::Gain},
              {"gain at angle", GoalKind::GainAt},
              {"mean gain", GoalKind::MeanGain},
              {"least gain", GoalKind::LeastGain},
              {"front-to-rear", GoalKind::FrontToRear},
              {"front-to-back", GoalKind::FrontToBack},
              {"null", GoalKind::Null},
              {"flat gain", GoalKind::Flat},
              {"side lobe", GoalKind::SideLobe},
              {"resistance", GoalKind::Resistance},
              {"impedance", GoalKind::Impedance},
              {"efficiency", GoalKind::Efficiency},
              {"takeoff angle", GoalKind::Takeoff},
              {"resonance", GoalKind::Resonance},
              {"bandwidth", GoalKind::Bandwidth}},
             When::Always);
    f.flag("enabled", &Goal::enabled);
    f.text("from", &Goal::from);
    f.text("to", &Goal::to);
    f.text("limit", &Goal::limit);
    f.text("upper", &Goal::upper);
    f.text("wanted", &Goal::wanted);
    f.text("angle", &Goal::angle);
    f.text("angle to", &Goal::angleTo);
    f.text("towards", &Goal::towards);
    f.names("drive sets", &Goal::driveSets);
    f.names("bands", &Goal::bands);
    f.flag("as many bands as possible", &Goal::counted);
    f.choice("importance", &Goal::importance,
             {{"useful", Importance::Useful},
              {"important", Importance::Important},
              {"essential", Importance::Essential}});
    f.integer("stage", &Goal::stage, 1.0, 99.0);
    f.extra(&Goal::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::Mover>) {
    using model::Mover;
    f.text("dimension", &Mover::dimension);
    f.text("low", &Mover::low);
    f.text("high", &Mover::high);
    f.text("step", &Mover::step);
    f.text("choices", &Mover::choices);
    f.flag("enabled", &Mover::enabled);
    f.extra(&Mover::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::BuildLimit>) {
    using model::BuildLimit;
    using model::LimitKind;
    f.choice("kind", &BuildLimit::kind,
             {{"longest element", LimitKind::LongestElement},
              {"boom length", LimitKind::BoomLength},
              {"total wire", LimitKind::TotalWire},
              {"highest point", LimitKind::HighestPoint},
              {"lowest point", LimitKind::LowestPoint},
              {"keep apart", LimitKind::KeepApart}},
             When::Always);
    f.text("value", &BuildLimit::value, When::Always);
    f.flag("enabled", &BuildLimit::enabled);
    f.extra(&BuildLimit::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::BuildErrorTexts>) {
    using model::BuildErrorTexts;
    f.text("length", &BuildErrorTexts::length, When::Always);
    f.text("angle", &BuildErrorTexts::angle, When::Always);
    f.text("diameter", &BuildErrorTexts::diameter, When::Always);
    f.text("height", &BuildErrorTexts::height, When::Always);
    f.text("ground", &BuildErrorTexts::ground, When::Always);
    f.extra(&BuildErrorTexts::extra);
}

template <typename Fields>
void describe(Fields& f, Of<model::TunePlan>) {
    using model::TunePlan;
    f.list("goals", &TunePlan::goals, "goal");
    f.list("may move", &TunePlan::movers, "mover");
    f.list("limits", &TunePlan::limits, "limit");
    f.flag("as built", &TunePlan::asBuilt);
    f.object("errors", &TunePlan::errors);
    f.extra(&TunePlan::extra);
}

}  // namespace rm::io
