#include "core/edit/shape_fields.h"

#include "core/model/expand_dimensions.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

class Fields {
  public:
    std::vector<ShapeField> all;

    void operator()(StraightWire& w) {
        point(w.start, say("start"));
        point(w.end, say("end"));
    }
    void operator()(BentWire& w) {
        for (std::size_t i = 0; i < w.points.size(); ++i)
            point(w.points[i], say("point ") + std::to_string(i + 1));
    }
    void operator()(RegularLoop& l) {
        point(l.centre, say("centre"));
        size(l.size, l.byPerimeter ? say("perimeter") : say("side"));
        turn(l.turn, say("turn"));
        angle(l.tilt, say("tilt"));
    }
    void operator()(InvertedV& v) {
        point(v.foot, say("foot"));
        size(v.apexHeight, say("apex height"));
        size(v.leg, say("leg"));
        turn(v.turn, say("turn"));
        angle(v.angle, say("angle"));
    }
    void operator()(Fan& f) {
        point(f.hub, say("hub"));
        size(f.length, say("length"));
        turn(f.first, say("first bearing"));
        angle(f.slope, say("slope"));
    }
    void operator()(ElementRow& r) {
        point(r.start, say("boom"));
        for (auto& e : r.elements) {
            size(e.position, e.name + say(", position"));
            size(e.length, e.name + say(", length"));
            if (e.form == ElementForm::Bent && !e.flat.empty())
                size(e.flat, e.name + say(", straight middle"));
            if (hasSecondConductor(e.form)) size(e.gap, e.name + say(", second conductor"));
        }
        turn(r.turn, say("turn"));
        angle(r.rise, say("rise"));
        angle(r.roll, say("roll"));
    }
    void operator()(RadialSystem& r) {
        point(r.foot, say("foot"));
        // Of several lengths that take turns none is the length.
        if (r.length.find(';') == std::string::npos) size(r.length, say("length"));
        turn(r.first, say("first bearing"));
        angle(r.slope, say("slope"));
    }
    void operator()(GroundRod& r) {
        point(r.top, say("top"));
        size(r.length, say("length"));
    }
    void operator()(HungWire& w) {
        if (!w.length.empty()) size(w.length, say("length"));
        if (w.by == HungBy::Start) size(w.rope, say("rope"));
    }
    void operator()(CableRun& r) {
        // Its heights count from the ground, and its first point is where the feed is: it is not moved as a
        // whole.
        if (r.down) size(r.level, say("level"));
    }

  private:
    void point(PointText& p, const std::string& name) {
        all.push_back({&p[0], Kind::Length, FieldRole::Forward, name + say(", forward")});
        all.push_back({&p[1], Kind::Length, FieldRole::Left, name + say(", left")});
        all.push_back({&p[2], Kind::Length, FieldRole::Up, name + say(", up")});
    }
    void size(std::string& text, const std::string& name) {
        all.push_back({&text, Kind::Length, FieldRole::Size, name});
    }
    void turn(std::string& text, const std::string& name) {
        all.push_back({&text, Kind::Angle, FieldRole::Turn, name});
    }
    void angle(std::string& text, const std::string& name) {
        all.push_back({&text, Kind::Angle, FieldRole::Other, name});
    }
};

}  // namespace

std::vector<ShapeField> fieldsOf(Part& part) {
    Fields fields;
    std::visit(fields, part.shape);
    return std::move(fields.all);
}

double lambdaOf(const Design& design) {
    try {
        const double hz = quantity::evaluate(design.designFrequency, Kind::Frequency, {});
        return hz > 0.0 ? wavelengthM(hz) : 0.0;
    } catch (const Error&) {
        return 0.0;
    }
}

FieldValues fieldValues(const Design& design) {
    FieldValues values;
    values.scope.lambdaM = lambdaOf(design);
    evaluateDimensions(values, design.dimensions);
    values.findings.clear();
    values.failed = false;
    return values;
}

}  // namespace rm::edit
