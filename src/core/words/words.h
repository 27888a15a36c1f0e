// What is said to people, in their language. English stands where it is said, and is the key of every
// translation; a catalogue for another language is chosen once, before anything is said. What programs read
// (files, columns, members of JSON, names in a project) never goes through here, and without a catalogue all
// is English, with decimal points.
#pragma once

#include <fmt/format.h>

#include <memory>
#include <string>
#include <string_view>
#include <type_traits>

namespace rm {

/// A language other than English.
class Catalogue {
  public:
    Catalogue() = default;
    Catalogue(const Catalogue&) = delete;
    Catalogue& operator=(const Catalogue&) = delete;
    virtual ~Catalogue() = default;

    /// What `english` is in this language; empty where that is not known.
    virtual std::string find(std::string_view english) const = 0;
    /// The form for `n` of what is one thing in `english`; empty where that is not known.
    virtual std::string find(std::string_view english, long n) const = 0;
    /// What stands before the tenths: '.' or ','.
    virtual char decimalMark() const = 0;
};

/// From now on everything is said in this language; nothing: in English. To be called before other threads
/// begin.
void speak(std::shared_ptr<const Catalogue> catalogue);

/// The language that is spoken, nullptr for English.
const Catalogue* spoken();

/// Marks English that is said elsewhere, by `said` of what this returns.
constexpr const char* later(const char* english) {
    return english;
}

/// What was marked with `later`, in the language that is spoken.
std::string said(const char* english);

/// A number, or a few with their units, as it is written there: points between digits become the decimal mark
/// of the language.
std::string decimals(std::string number);

namespace detail {

/// A number in a sentence.
struct Decimal {
    double value;
};

template <typename T>
decltype(auto) shown(const T& value) {
    if constexpr (std::is_floating_point_v<T>)
        return Decimal{static_cast<double>(value)};
    else
        return (value);
}

/// The sentence of the catalogue with its values; `english` where it has none, or one that these do not fit.
std::string put(fmt::string_view english, fmt::format_args values);
/// The same of what is said in two ways: `form` is `one` or the English for any other number, `n` of them
/// there are.
std::string putMany(long n, fmt::string_view one, fmt::string_view form, fmt::format_args values);

}  // namespace detail

/// A sentence or a few words with their values, as fmt::format puts them in.
template <typename... T>
std::string say(fmt::format_string<T...> english, T&&... values) {
    return detail::put(english, fmt::make_format_args(detail::shown(values)...));
}

/// A number with its unit, or a few, in the decimal mark of the language: nothing of it is looked up.
template <typename... T>
std::string figure(fmt::format_string<T...> format, T&&... values) {
    return fmt::vformat(format, fmt::make_format_args(detail::shown(values)...));
}

/// A sentence that depends on how many there are: `one` for one thing, `many` for any other number.
template <typename... T>
std::string sayMany(long n, fmt::format_string<T...> one, fmt::format_string<T...> many, T&&... values) {
    return detail::putMany(n, one, n == 1 ? one : many, fmt::make_format_args(detail::shown(values)...));
}

}  // namespace rm

/// Numbers in sentences have the decimal mark of the language, whatever else is asked of them.
template <>
struct fmt::formatter<rm::detail::Decimal> {
    fmt::format_parse_context::iterator parse(fmt::format_parse_context& context);
    fmt::appender format(rm::detail::Decimal number, fmt::format_context& context) const;

  private:
    fmt::formatter<double> plain_;
};
