#include "core/edit/feet.h"

#include <cmath>
#include <regex>

#include "core/edit/shape_fields.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/quantity/typed_like.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

constexpr double kInchM = 0.0254;
constexpr double kFootM = 0.3048;
/// Nearer to a mark of a tape than this is on it.
constexpr double kOnMarkM = 5e-5;
/// Ends of sliders are round numbers.
constexpr double kSliderStepM = 0.03;

bool isMetric(const std::string& text) {
    static const std::regex metric(R"(^\s*[-+]?[0-9.]+\s*(m|cm|mm)\s*$)");
    return std::regex_match(text, metric);
}

/// A whole foot where that is the next but one mark or nearer: 33 ft to the centimetre are 33 ft.
std::string nextMark(double metres) {
    const int parts = quantity::tapeParts(metres);
    const double foot = kFootM * std::round(metres / kFootM);
    if (foot != 0.0 && std::abs(metres - foot) < 1.5 * kInchM / parts) return quantity::typedTape(foot, 1);
    return quantity::typedTape(metres, parts);
}

/// Writes lengths rounded to so many feet; 0: as they are.
auto inSteps(double ft) {
    return [ft](double metres) {
        const double step = ft * kFootM;
        return feetText(step > 0.0 ? step * std::round(metres / step) : metres);
    };
}

void rewrite(std::string& text, const auto& written) {
    if (isMetric(text)) text = written(quantity::evaluate(text, Kind::Length, {}));
}

Design rewritten(Design design, const auto& dimensionText) {
    for (auto& dimension : design.dimensions) {
        if (dimension.kind != DimensionKind::Length) continue;
        rewrite(dimension.text, dimensionText);
        for (std::string* end : {&dimension.low, &dimension.high})
            rewrite(*end,
                    [](double m) { return quantity::typedLike("ft", Kind::Length, m, kSliderStepM, 0.0); });
    }
    for (auto& part : design.parts) part = inFeet(std::move(part));
    for (auto& block : design.feedPath) block = inFeet(std::move(block));
    rewrite(design.site.height, dimensionText);
    return design;
}

}  // namespace

std::string feetText(double metres) {
    for (const int parts : {8, 16}) {
        const double mark = kInchM / parts;
        if (metres != 0.0 && std::abs(metres - mark * std::round(metres / mark)) < kOnMarkM)
            return quantity::typedTape(metres, parts);
    }
    return quantity::typedLike("ft", Kind::Length, metres, 0.0, 0.0);
}

std::string typedIn(const Project& project, double metres) {
    return project.feetAndInches ? feetText(metres)
                                 : quantity::typedLike("m", Kind::Length, metres, 0.0, 0.0);
}

Part inFeet(Part part, double roundedToFt) {
    for (const auto& field : fieldsOf(part))
        if (field.kind == Kind::Length) rewrite(*field.text, inSteps(roundedToFt));
    return part;
}

FeedBlock inFeet(FeedBlock block) {
    rewrite(block.length, feetText);
    return block;
}

Support inFeet(Support support, double roundedToFt) {
    for (std::string* text :
         {&support.height, &support.east, &support.north, &support.toEast, &support.toNorth})
        rewrite(*text, inSteps(roundedToFt));
    return support;
}

Design inFeet(Design design) {
    const auto before = expand(design);
    const Design marked = rewritten(design, nextMark);
    const auto after = expand(marked);
    if (after.joints.size() == before.joints.size() && after.findings.size() == before.findings.size())
        return marked;
    return rewritten(std::move(design), feetText);
}

}  // namespace rm::edit
