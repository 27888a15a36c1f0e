#include "core/quantity/number.h"

#include <charconv>
#include <cmath>
#include <cstddef>

namespace rm::quantity {

namespace {

bool isDigit(char c) {
    return c >= '0' && c <= '9';
}

/// Bytes of the UTF-8 letter that begins at `at`; 0 where none does (RFC 3629, table 3-7 of Unicode).
std::size_t letterBytes(std::string_view text, std::size_t at) {
    const auto byte = [&](std::size_t i) {
        return at + i < text.size() ? static_cast<unsigned char>(text[at + i]) : 0U;
    };
    const auto follows = [&](std::size_t i, unsigned low = 0x80, unsigned high = 0xBF) {
        return byte(i) >= low && byte(i) <= high;
    };
    const unsigned first = byte(0);
    if (first < 0x80) return 1;
    if (first >= 0xC2 && first <= 0xDF) return follows(1) ? 2 : 0;
    if (first >= 0xE0 && first <= 0xEF) {
        const unsigned low = first == 0xE0 ? 0xA0 : 0x80;
        const unsigned high = first == 0xED ? 0x9F : 0xBF;
        return follows(1, low, high) && follows(2) ? 3 : 0;
    }
    if (first >= 0xF0 && first <= 0xF4) {
        const unsigned low = first == 0xF0 ? 0x90 : 0x80;
        const unsigned high = first == 0xF4 ? 0x8F : 0xBF;
        return follows(1, low, high) && follows(2) && follows(3) ? 4 : 0;
    }
    return 0;
}

bool isUtf8(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t bytes = letterBytes(text, at);
        if (bytes == 0) return false;
        at += bytes;
    }
    return true;
}

std::string fromLatin1(std::string_view text) {
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80) {
            out += c;
        } else {
            out += static_cast<char>(0xC0U | (byte >> 6U));
            out += static_cast<char>(0x80U | (byte & 0x3FU));
        }
    }
    return out;
}

}  // namespace

bool isOfThisWorld(double value) {
    const double size = std::abs(value);
    return size == 0.0 || (size >= kSmallestNumber && size <= kLargestNumber);
}

std::optional<double> readNumber(std::string_view text) {
    if (text.starts_with('+')) {
        text.remove_prefix(1);
        if (text.starts_with('-')) return std::nullopt;
    }
    // from_chars takes "inf" and "nan", too.
    const std::size_t first = text.starts_with('-') ? 1 : 0;
    if (first >= text.size() || !(isDigit(text[first]) || text[first] == '.')) return std::nullopt;
    double value = 0.0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size() || !isOfThisWorld(value))
        return std::nullopt;
    return value;
}

std::string plainText(std::string_view text) {
    std::string out = isUtf8(text) ? std::string(text) : fromLatin1(text);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const auto byte = static_cast<unsigned char>(out[i]);
        if (byte < 0x20 || byte == 0x7F) out[i] = ' ';
        // U+0080 to U+009F: control characters of eight bits.
        if (byte == 0xC2 && i + 1 < out.size() && static_cast<unsigned char>(out[i + 1]) < 0xA0)
            out.replace(i, 2, " ");
        // U+2028, U+2029 and the marks that turn the direction of writing: U+202A to U+202E, U+2066 to
        // U+2069.
        if (byte == 0xE2 && i + 2 < out.size()) {
            const auto second = static_cast<unsigned char>(out[i + 1]);
            const auto third = static_cast<unsigned char>(out[i + 2]);
            const bool lines = second == 0x80 && third >= 0xA8 && third <= 0xAE;
            const bool isolates = second == 0x81 && third >= 0xA6 && third <= 0xA9;
            if (lines || isolates) out.replace(i, 3, " ");
        }
    }
    return out;
}

}  // namespace rm::quantity
