#include "core/edit/shape_fields.h"

#include "core/model/expand_dimensions.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

class Fields {
  public:
    std::vector<ShapeField> all;

    void operator()(StraightWire& w) {
        point(w.start, "start");
        point(w.end, "end");
    }
    void operator()(BentWire& w) {
        for (std::size_t i = 0; i < w.points.size(); ++i)
            point(w.points[i], "point " + std::to_string(i + 1));
    }
    void operator()(RegularLoop& l) {
        point(l.centre, "centre");
        size(l.size, l.byPerimeter ? "perimeter" : "side");
        turn(l.turn, "turn");
        angle(l.tilt, "tilt");
    }
    void operator()(InvertedV& v) {
        point(v.foot, "foot");
        size(v.apexHeight, "apex height");
        size(v.leg, "leg");
        turn(v.turn, "turn");
        angle(v.angle, "angle");
    }
    void operator()(Fan& f) {
        point(f.hub, "hub");
        size(f.length, "length");
        turn(f.first, "first bearing");
        angle(f.slope, "slope");
    }
    void operator()(ElementRow& r) {
        point(r.start, "boom");
        for (auto& e : r.elements) {
            size(e.position, e.name + ", position");
            size(e.length, e.name + ", length");
            if (e.form == ElementForm::Bent && !e.flat.empty()) size(e.flat, e.name + ", straight middle");
            if (hasSecondConductor(e.form)) size(e.gap, e.name + ", second conductor");
        }
        turn(r.turn, "turn");
        angle(r.rise, "rise");
        angle(r.roll, "roll");
    }
    void operator()(RadialSystem& r) {
        point(r.foot, "foot");
        // Of several lengths that take turns none is the length.
        if (r.length.find(';') == std::string::npos) size(r.length, "length");
        turn(r.first, "first bearing");
        angle(r.slope, "slope");
    }
    void operator()(GroundRod& r) {
        point(r.top, "top");
        size(r.length, "length");
    }
    void operator()(HungWire& w) {
        if (!w.length.empty()) size(w.length, "length");
        if (w.by == HungBy::Start) size(w.rope, "rope");
    }
    void operator()(CableRun& r) {
        // Its heights count from the ground, and its first point is where the feed is: it is not moved as a
        // whole.
        if (r.down) size(r.level, "level");
    }

  private:
    void point(PointText& p, const std::string& name) {
        all.push_back({&p[0], Kind::Length, FieldRole::Forward, name + ", forward"});
        all.push_back({&p[1], Kind::Length, FieldRole::Left, name + ", left"});
        all.push_back({&p[2], Kind::Length, FieldRole::Up, name + ", up"});
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
