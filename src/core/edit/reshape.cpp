#include "core/edit/reshape.h"

#include <cmath>
#include <functional>

#include "core/edit/shape_fields.h"

namespace rm::edit {

namespace {

using namespace rm::model;

using MovePoint = std::function<Vec3(const Vec3&)>;

/// Every point of the parts goes where `move` says, every size is multiplied, every turn added to.
Fit reshape(Design& design, const std::vector<Id>& parts, const MovePoint& move, double factor,
            double turnDeg, const Steps& steps) {
    const FieldValues values = fieldValues(design);
    const auto value = [&](const ShapeField& field) {
        return quantity::evaluate(*field.text, field.kind, values.scope);
    };
    std::vector<FieldTarget> targets;
    for (const Id id : parts) {
        Part* part = find(design.parts, id);
        if (part == nullptr) continue;
        const auto fields = fieldsOf(*part);
        try {
            for (std::size_t i = 0; i < fields.size(); ++i) {
                const ShapeField& f = fields[i];
                const auto add = [&](const ShapeField& field, double wanted) {
                    targets.push_back({field.text, field.kind, wanted, part->name + ", " + field.name});
                };
                if (f.role == FieldRole::Forward) {
                    const Vec3 to = move({value(f), value(fields[i + 1]), value(fields[i + 2])});
                    for (std::size_t a = 0; a < 3; ++a) add(fields[i + a], to[static_cast<Eigen::Index>(a)]);
                }
                if (f.role == FieldRole::Size && factor != 1.0) add(f, factor * value(f));
                if (f.role == FieldRole::Turn && turnDeg != 0.0)
                    add(f, std::remainder(value(f) + turnDeg, 360.0));
            }
        } catch (const Error&) {
            // What cannot be read is a finding already, and stays where it is.
        }
    }
    return fitFields(design, targets, steps);
}

}  // namespace

Fit shiftParts(Design& design, const std::vector<Id>& parts, const Vec3& byM, const Steps& steps) {
    return reshape(
        design, parts, [&](const Vec3& p) -> Vec3 { return p + byM; }, 1.0, 0.0, steps);
}

Fit turnParts(Design& design, const std::vector<Id>& parts, const Vec3& axisM, double degrees,
              const Steps& steps) {
    const double a = -degrees * kDegree;
    const auto turned = [&](const Vec3& p) -> Vec3 {
        const Vec3 d = p - axisM;
        return {axisM.x() + std::cos(a) * d.x() - std::sin(a) * d.y(),
                axisM.y() + std::sin(a) * d.x() + std::cos(a) * d.y(), p.z()};
    };
    return reshape(design, parts, turned, 1.0, degrees, steps);
}

Fit scaleParts(Design& design, const std::vector<Id>& parts, const Vec3& centreM, double factor,
               const Steps& steps) {
    if (!(factor > 1e-3 && factor < 1e3)) return {};
    return reshape(
        design, parts, [&](const Vec3& p) -> Vec3 { return centreM + factor * (p - centreM); }, factor, 0.0,
        steps);
}

}  // namespace rm::edit
