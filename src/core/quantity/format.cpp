#include "core/quantity/format.h"

#include "core/words/words.h"

#include <fmt/format.h>

#include <atomic>
#include <cmath>
#include <numeric>
#include <regex>

namespace rm::quantity {

namespace {

/// Elements of a Yagi are shorter: an eighth of an inch is more than some of them forgive.
constexpr double kFineBelowM = 3.0;
constexpr double kFootM = 0.3048;

std::atomic<LengthStyle> saidStyle{LengthStyle::Metric};

}  // namespace

std::string formatLength(double metres, LengthStyle style) {
    const double size = std::abs(metres);
    if (style == LengthStyle::FeetInches) return formatTape(metres, tapeParts(metres));
    if (size < 0.0005) return "0 m";
    if (size < 1.0) return figure("{:.4g} m", metres);
    return size < 1000.0 ? figure("{:.3f} m", metres) : figure("{:.1f} m", metres);
}

std::string formatRough(double metres, int decimals, LengthStyle style) {
    return style == LengthStyle::FeetInches ? figure("{:.{}f} ft", metres / kFootM, decimals)
                                            : figure("{:.{}f} m", metres, decimals);
}

void sayLengths(LengthStyle style) {
    saidStyle = style;
}

std::string said(double metres, int decimals) {
    const LengthStyle style = saidStyle;
    const bool exact = style == LengthStyle::FeetInches && decimals >= 2;
    return exact ? formatLength(metres, style) : formatRough(metres, decimals, style);
}

std::string formatTape(double metres, int parts) {
    const char* sign = metres < 0.0 ? "−" : "";
    const long inch = parts;
    const long foot = 12L * inch;
    const long marks = std::lround(std::abs(metres) / 0.0254 * parts);
    const long feet = marks / foot;
    const long inches = marks % foot / inch;
    const long rest = marks % inch;
    std::string text = fmt::format("{}{}' {}", sign, feet, inches);
    if (rest != 0) {
        const long divisor = std::gcd(rest, inch);
        text += fmt::format(" {}/{}", rest / divisor, inch / divisor);
    }
    return text + "\"";
}

int tapeParts(double metres) {
    return std::abs(metres) < kFineBelowM ? 16 : 8;
}

std::string formatDiameter(double metres) {
    return figure("{:.4g} mm", metres * 1000.0);
}

std::string formatFrequency(double hertz) {
    return figure("{:.3f} MHz", hertz / 1e6);
}

std::string formatSwr(double swr) {
    if (!std::isfinite(swr) || swr > 99.0) return "> 99";
    return swr < 10.0 ? figure("{:.2f}", swr) : figure("{:.1f}", swr);
}

std::string formatImpedance(Complex ohm) {
    const double size = std::abs(ohm);
    const int decimals = size < 1000.0 ? 1 : 0;
    return figure("{}{:.{}f} {} j{:.{}f}", ohm.real() < 0.0 ? "−" : "", std::abs(ohm.real()), decimals,
                  ohm.imag() < 0.0 ? "−" : "+", std::abs(ohm.imag()), decimals);
}

std::string formatDb(double db, int decimals) {
    if (db < -60.0) return "–";
    std::string text = figure("{:.{}f}", db, decimals);
    if (text.find_first_of("123456789") == std::string::npos && text[0] == '-') text.erase(0, 1);
    return text[0] == '-' ? "−" + text.substr(1) : text;
}

std::string lengthLike(const std::string& like, double metres) {
    static const std::regex feet(R"((ft|feet|foot|'))", std::regex::icase);
    static const std::regex inch(R"((in|inch|inches|"))", std::regex::icase);
    static const std::regex centi(R"(\d\s*cm)", std::regex::icase);
    static const std::regex milli(R"(\d\s*mm)", std::regex::icase);
    if (std::regex_search(like, feet) && std::regex_search(like, inch))
        return formatLength(metres, LengthStyle::FeetInches);
    if (std::regex_search(like, feet)) return fmt::format("{:.3f} ft", metres / kFootM);
    if (std::regex_search(like, inch)) return fmt::format("{:.3f} in", metres / 0.0254);
    if (std::regex_search(like, milli)) return fmt::format("{:.1f} mm", metres * 1000.0);
    if (std::regex_search(like, centi)) return fmt::format("{:.2f} cm", metres * 100.0);
    return fmt::format("{:.4f} m", metres);
}

}  // namespace rm::quantity
