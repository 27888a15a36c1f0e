#include "core/build/causes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/circuit/reflection.h"
#include "core/edit/shape_fields.h"
#include "core/model/dimension_kind.h"
#include "core/model/expand.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::build {

using namespace rm::model;

namespace {

constexpr double kLineOhm = 50.0;
/// Water, and water with all the salt it takes.
constexpr double kDriest = 1.5;
constexpr double kWettest = 81.0;
constexpr double kSaltiestSm = 10.0;

constexpr Usual kUsual[kCauses] = {{Cause::Length, 0.03, 1e-3}, {Cause::Height, 0.6, 0.02},
                                   {Cause::Soil, 0.8, 0.05},    {Cause::Capacitance, 4.0, 0.05},
                                   {Cause::Loss, 4.0, 0.05},    {Cause::Line, 0.3, 0.005}};

}  // namespace

const Usual& usual(Cause cause) {
    return kUsual[indexOf(cause)];
}

Design withCauses(const Design& design, const std::vector<std::string>& lengths, const Causes& causes) {
    Design built = design;
    const double longer = 1.0 + causes[indexOf(Cause::Length)];
    const auto values = edit::fieldValues(design);
    for (auto& d : built.dimensions)
        if (std::find(lengths.begin(), lengths.end(), d.name) != lengths.end())
            d.text = exactText(d.kind, longer * values.scope.values.at(d.name));
    const double raised = causes[indexOf(Cause::Height)];
    if (raised != 0.0) {
        const double height = quantity::evaluate(design.site.height, quantity::Kind::Length, values.scope);
        built.site.height = exactText(DimensionKind::Length, height + raised);
    }
    const double soil = causes[indexOf(Cause::Soil)];
    if (soil != 0.0 && design.site.ground == GroundKind::Real) {
        const Ground ground = expand(design).model.ground;
        built.site.soil = kCustomSoil;
        built.site.permittivity = fmt::format(
            "{:.9g}",
            std::clamp(1.0 + (ground.relativePermittivity - 1.0) * std::exp(0.5 * soil), kDriest, kWettest));
        built.site.conductivity =
            fmt::format("{:.9g}", std::min(ground.conductivitySm * std::exp(soil), kSaltiestSm));
    }
    return built;
}

Complex atTerminals(Complex antennaOhm, const Causes& causes, double frequencyHz) {
    const Complex y = 1.0 / antennaOhm +
                      Complex(0.0, 2.0 * kPi * frequencyHz * 1e-12 * causes[indexOf(Cause::Capacitance)]);
    return 1.0 / y + causes[indexOf(Cause::Loss)];
}

Complex throughLine(Complex ohm, const Causes& causes, double frequencyHz) {
    const double more = causes[indexOf(Cause::Line)];
    if (more == 0.0) return ohm;
    const Complex turned =
        circuit::reflection(ohm, kLineOhm) * std::polar(1.0, -2.0 * wavenumber(frequencyHz) * more);
    return kLineOhm * (1.0 + turned) / (1.0 - turned);
}

std::string wordsOf(const Found& f) {
    switch (f.cause) {
        case Cause::Length:
            return say("everything acts {:.2f} % {} than drawn (± {:.2f})", 100.0 * std::abs(f.value),
                       f.value < 0.0 ? say("shorter") : say("longer"), 100.0 * f.sigma);
        case Cause::Height:
            return say("it hangs {} {} than drawn (± {})", quantity::said(std::abs(f.value), 2),
                       f.value < 0.0 ? say("lower") : say("higher"), quantity::said(f.sigma, 2));
        case Cause::Soil:
            return say("the soil conducts {:.2g} times as well as said (from {:.2g} to {:.2g})",
                       std::exp(f.value), std::exp(f.value - f.sigma), std::exp(f.value + f.sigma));
        case Cause::Capacitance:
            return say("{:.1f} pF {} across the feed (± {:.1f})", std::abs(f.value),
                       f.value < 0.0 ? say("too few") : say("more than drawn"), f.sigma);
        case Cause::Loss:
            return say("{:.1f} ohm {} in series with the feed (± {:.1f})", std::abs(f.value),
                       f.value < 0.0 ? say("less") : say("more"), f.sigma);
        case Cause::Line:
            return say("{} of line {} than said between analyser and antenna (± {})",
                       quantity::said(std::abs(f.value), 2), f.value < 0.0 ? say("less") : say("more"),
                       quantity::said(f.sigma, 2));
    }
    return {};
}

}  // namespace rm::build
