#include "core/edit/apart.h"

#include <algorithm>
#include <variant>
#include <vector>

#include "core/edit/reshape.h"
#include "core/model/expand.h"
#include "core/model/typed.h"

namespace rm::edit {

namespace {

using namespace rm::model;

long errorsOf(const Design& design) {
    const Expansion expansion = expand(design);
    return std::count_if(expansion.findings.begin(), expansion.findings.end(),
                         [](const Finding& f) { return f.severity == Severity::Error; });
}

}  // namespace

void setApart(Design& design, Id part, bool feet) {
    constexpr double kFootM = 0.3048;
    const Steps steps = feet ? Steps{kFootM / 96.0, 1.0} : Steps{0.0, 1.0};
    const std::vector<double> far = feet ? std::vector<double>{3.0 * kFootM, 6.0 * kFootM, 15.0 * kFootM}
                                         : std::vector<double>{1.0, 2.0, 5.0};
    // To a side, forward, up, and between radials, level or over them.
    std::vector<Vec3> ways = {
        Vec3::UnitY(), Vec3::UnitX(), Vec3::UnitZ(), {0.64, 0.77, 0.0}, {0.64, 0.77, 1.0}};
    // Elements to the side of elements would lie on them.
    if (std::holds_alternative<ElementRow>(at(design.parts, part).shape)) std::swap(ways[0], ways[2]);
    Design without = design;
    std::erase_if(without.parts, [part](const Part& p) { return p.id == part; });
    const long before = errorsOf(without);
    if (errorsOf(design) <= before) return;
    for (const double metres : far)
        for (const Vec3& way : ways) {
            Design moved = design;
            const Fit fit = shiftParts(moved, {part}, metres * way, steps);
            if (!fit.moved.empty() || !fit.held.empty() || errorsOf(moved) > before) continue;
            design = std::move(moved);
            return;
        }
}

}  // namespace rm::edit
