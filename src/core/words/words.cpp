#include "core/words/words.h"

#include <algorithm>
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

namespace {

/// `translated` with its values, `english` where that is empty or does not take them.
std::string put(fmt::string_view english, const std::string& translated, fmt::format_args values) {
    // A catalogue is data: a place too many in it must not cost the sentence.
    if (!translated.empty()) try {
            return fmt::vformat(translated, values);
        } catch (const fmt::format_error&) {
        }
    return fmt::vformat(english, values);
}

}  // namespace

std::string detail::put(fmt::string_view english, fmt::format_args values) {
    if (!spoken()) return fmt::vformat(english, values);
    return rm::put(english, spoken()->find({english.data(), english.size()}), values);
}

std::string detail::putMany(long n, fmt::string_view one, fmt::string_view form, fmt::format_args values) {
    if (!spoken()) return fmt::vformat(form, values);
    return rm::put(form, spoken()->find({one.data(), one.size()}, n), values);
}

}  // namespace rm

fmt::format_parse_context::iterator fmt::formatter<rm::detail::Decimal>::parse(
    fmt::format_parse_context& context) {
    return plain_.parse(context);
}

fmt::appender fmt::formatter<rm::detail::Decimal>::format(rm::detail::Decimal number,
                                                          fmt::format_context& context) const {
    if (!rm::spoken()) return plain_.format(number.value, context);
    fmt::memory_buffer written;
    fmt::format_context inner(fmt::appender(written), context.args(), context.locale());
    plain_.format(number.value, inner);
    const std::string text = rm::decimals({written.data(), written.size()});
    return std::copy(text.begin(), text.end(), context.out());
}
