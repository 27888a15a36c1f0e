#include "core/quantity/complex_number.h"

#include <string>

#include "core/quantity/number.h"

namespace rm::quantity {

namespace {

bool isUnit(char c) {
    return c == 'j' || c == 'i' || c == 'J' || c == 'I';
}

}  // namespace

std::optional<std::complex<double>> readComplex(std::string_view text) {
    std::string packed;
    for (const char c : text)
        if (c != ' ' && c != '*') packed += c;
    std::optional<double> real;
    std::optional<double> imaginary;
    for (std::size_t at = 0; at < packed.size();) {
        // A part ends before the next sign that is not that of a power of ten.
        std::size_t end = at + 1;
        while (end < packed.size() && !((packed[end] == '+' || packed[end] == '-') &&
                                        packed[end - 1] != 'e' && packed[end - 1] != 'E'))
            ++end;
        std::string part = packed.substr(at, end - at);
        at = end;
        const double sign = part.front() == '-' ? -1.0 : 1.0;
        if (part.front() == '+' || part.front() == '-') part.erase(0, 1);
        bool unit = false;
        if (!part.empty() && isUnit(part.front())) {
            part.erase(0, 1);
            unit = true;
        } else if (!part.empty() && isUnit(part.back())) {
            part.pop_back();
            unit = true;
        }
        const bool signedTwice = !part.empty() && (part.front() == '-' || part.front() == '+');
        const auto size = part.empty() && unit ? std::optional<double>(1.0)
                          : signedTwice        ? std::nullopt
                                               : readNumber(part);
        auto& place = unit ? imaginary : real;
        if (!size || place) return std::nullopt;
        place = sign * *size;
    }
    if (!real && !imaginary) return std::nullopt;
    return std::complex<double>(real.value_or(0.0), imaginary.value_or(0.0));
}

}  // namespace rm::quantity
