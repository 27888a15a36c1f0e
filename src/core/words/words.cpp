#include "core/words/words.h"

#include <utility>

namespace rm {

namespace {

/// Of the whole process, like its locale: chosen once, before the first sentence.
std::shared_ptr<const Catalogue>& language() {
    static std::shared_ptr<const Catalogue> chosen;
    return chosen;
}

}  // namespace

void speak(std::shared_ptr<const Catalogue> catalogue) {
    language() = std::move(catalogue);
}

const Catalogue* spoken() {
    return language().get();
}

std::string said(const char* english) {
    if (!spoken()) return english;
    std::string translated = spoken()->find(english);
    return translated.empty() ? english : translated;
}

std::string decimals(std::string number) {
    if (!spoken() || spoken()->decimalMark() == '.') return number;
    const auto digit = [&](std::size_t at) { return number[at] >= '0' && number[at] <= '9'; };
    for (std::size_t i = 1; i + 1 < number.size(); ++i)
        if (number[i] == '.' && digit(i - 1) && digit(i + 1)) number[i] = spoken()->decimalMark();
    return number;
}

std::string detail::put(std::string_view english, std::string translated, fmt::format_args values) {
    // A catalogue is data: a place too many in it must not cost the sentence.
    if (!translated.empty()) try {
            return fmt::vformat(translated, values);
        } catch (const fmt::format_error&) {
        }
    return fmt::vformat(fmt::string_view(english.data(), english.size()), values);
}

}  // namespace rm
