#include "core/quantity/typed_like.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <regex>

#include "core/quantity/format.h"

namespace rm::quantity {

namespace {

/// A hundredth of a millimetre: two wires that meet there are joined.
constexpr double kExactM = 1e-5;
constexpr double kExactDeg = 1e-4;
constexpr double kInchM = 0.0254;
constexpr double kTiny = 1e-9;

/// Rounded to `step`, with as many digits as it needs.
std::string rounded(double value, double step) {
    const int digits = std::clamp(static_cast<int>(std::ceil(-std::log10(step) - 1e-9)), 0, 9);
    std::string text = fmt::format("{:.{}f}", value, digits);
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.') text.pop_back();
    }
    return text == "-0" ? "0" : text;
}

bool has(const std::string& text, const char* pattern) {
    return std::regex_search(text, std::regex(pattern, std::regex::icase));
}

/// Steps of a hand that goes by the marks of a tape.
bool onMarks(double step) {
    const double marks = step / (kInchM / 8.0);
    return marks > 0.5 && std::abs(marks - std::round(marks)) < kTiny;
}

std::string lengthText(const std::string& like, double metres, double step, double lambdaM) {
    if (lambdaM > 0.0 && has(like, "lambda"))
        return rounded(metres / lambdaM, std::min(1e-4, step / lambdaM)) + " lambda";
    const bool feet = has(like, "(ft|feet|foot|')");
    const bool inches = has(like, "(in|inch|inches|\")");
    if ((feet || inches) && onMarks(step)) metres = step * std::round(metres / step);
    // An eighth of an inch is coarser than two ends that must meet.
    if (feet && inches && step >= kInchM / 8.0 - kTiny) return typedTape(metres, tapeParts(metres));
    if (feet) return rounded(metres / (12.0 * kInchM), step / (12.0 * kInchM)) + " ft";
    if (inches) return rounded(metres / kInchM, step / kInchM) + " in";
    // Other steps are metric: of other units they say how many digits are meant.
    const double stepped = step * std::round(metres / step);
    if (has(like, R"(\d\s*mm)")) return rounded(stepped * 1e3, step * 1e3) + " mm";
    if (has(like, R"(\d\s*cm)")) return rounded(stepped * 1e2, step * 1e2) + " cm";
    return rounded(stepped, step) + " m";
}

}  // namespace

std::string typedTape(double metres, int parts) {
    std::string text = formatTape(metres, parts);
    if (const std::string minus = "−"; text.starts_with(minus)) text.replace(0, minus.size(), "-");
    return text;
}

std::string typedLike(const std::string& like, Kind kind, double value, double step, double lambdaM) {
    if (kind == Kind::Length) return lengthText(like, value, step > 0.0 ? step : kExactM, lambdaM);
    const double s = step > 0.0 ? step : kExactDeg;
    const std::string number = rounded(s * std::round(value / s), s);
    return kind == Kind::Angle ? number + " deg" : number;
}

}  // namespace rm::quantity
