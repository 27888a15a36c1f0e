// What the processes of a study say to each other: a word, a line end, and what belongs to it.
#pragma once

#include <charconv>
#include <chrono>
#include <string>
#include <string_view>
#include <vector>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace rm::wide::say {

inline constexpr const char* kStudy = "study";  ///< to a rank: the study, and where it is written to
inline constexpr const char* kWant = "want";    ///< to rank 0: another piece, please
inline constexpr const char* kWork = "work";    ///< to a rank: numbers of cases
inline constexpr const char* kLines = "lines";  ///< to rank 0: cases, each with its number
inline constexpr const char* kEnd = "end";      ///< to a rank: no more
/// After `kEnd`: what the rank kept beside the result is not needed.
inline constexpr const char* kFinished = "finished";

/// How long the thread that passes messages rests where there are none.
inline constexpr auto kRest = std::chrono::microseconds(100);

inline std::string message(const char* word, std::string_view rest) {
    return fmt::format("{}\n{}", word, rest);
}

struct Heard {
    std::string_view word;
    std::string_view rest;
};
/// Views of `text`.
inline Heard hear(std::string_view text) {
    const auto end = text.find('\n');
    return {text.substr(0, end), end == std::string_view::npos ? std::string_view() : text.substr(end + 1)};
}

inline std::string numbersText(const std::vector<std::size_t>& numbers) {
    return fmt::format("{}", fmt::join(numbers, " "));
}

inline std::vector<std::size_t> numbersIn(std::string_view text) {
    std::vector<std::size_t> numbers;
    for (const char *at = text.data(), *last = text.data() + text.size(); at < last; ++at) {
        std::size_t number = 0;
        at = std::from_chars(at, last, number).ptr;
        numbers.push_back(number);
    }
    return numbers;
}

}  // namespace rm::wide::say
