#include "core/wide/table.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <regex>

#include "core/quantity/formula.h"
#include "core/quantity/number.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::wide {

namespace {

/// Ends of titles that are units, how they are written for people, and how many decimals of them matter.
struct Unit {
    const char* end;
    const char* written;
    int decimals;
};
constexpr Unit kUnits[] = {{"_m", "m", 3},     {"_deg", "°", 1}, {"_dBi", "dBi", 2},   {"_dB", "dB", 2},
                           {"_MHz", "MHz", 4}, {"_ohm", "Ω", 1}, {"_percent", "%", 1}, {"SWR", "", 2}};

const Unit* unitOf(const std::string& title) {
    for (const auto& unit : kUnits)
        if (title.ends_with(unit.end)) return &unit;
    return nullptr;
}

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// "gain dBi", "Gain_dBi" and "gain" are one column.
std::string plain(std::string text) {
    for (char& c : text)
        c = c == '_' || c == '-' ? ' ' : static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

}  // namespace

Table::Table(Result result, const std::stop_token& stop) : result_(std::move(result)) {
    titles_.emplace_back("case");
    for (const auto& over : result_.cases.over()) titles_.push_back(over.title);
    if (const auto repeated = result_.cases.repeated(); !repeated.empty()) titles_.push_back(repeated);
    firstValue_ = titles_.size();
    const auto& values = result_.cases.titles();
    titles_.insert(titles_.end(), values.begin(), values.end());

    const auto& over = result_.cases.over();
    numbers_.assign(titles_.size(), std::vector<double>(rows(), std::numeric_limits<double>::quiet_NaN()));
    for (std::size_t row = 0; row < rows(); ++row) {
        if (row % 1024 == 0) endWhere(stop);
        const Row& r = result_.rows[row];
        const auto steps = result_.cases.stepsOf(r.number);
        numbers_[0][row] = static_cast<double>(r.number + 1);
        for (std::size_t i = 0; i < over.size(); ++i) numbers_[1 + i][row] = over[i].steps[steps[i]].value;
        if (firstValue_ > 1 + over.size())
            numbers_[1 + over.size()][row] = static_cast<double>(steps.back() + 1);
        for (std::size_t i = 0; i < std::min(r.values.size(), values.size()); ++i)
            numbers_[firstValue_ + i][row] = r.values[i];
    }
}

std::string Table::heading(std::size_t column) const {
    std::string title = titles_.at(column);
    const Unit* unit = unitOf(title);
    const bool shown = unit != nullptr && *unit->written != 0;
    if (shown) title.erase(title.size() - std::string(unit->end).size());
    // Names of dimensions stay as they were given.
    const bool own = column < firstValue_ || column >= firstValue_ + result_.cases.columns().size();
    if (!own) std::replace(title.begin(), title.end(), '_', ' ');
    return shown ? title + ", " + unit->written : title;
}

bool Table::named(std::size_t column) const {
    const auto& over = result_.cases.over();
    return column >= 1 && column <= over.size() && !over[column - 1].steps.empty() &&
           over[column - 1].steps.front().named;
}

std::vector<std::string> Table::words(std::size_t column) const {
    std::vector<std::string> words;
    if (named(column))
        for (const auto& step : result_.cases.over()[column - 1].steps) words.push_back(step.text);
    return words;
}

double Table::step(std::size_t column) const {
    const auto& over = result_.cases.over();
    if (!varied(column)) return 0.0;
    if (column > over.size()) return 1.0;
    std::vector<double> values;
    for (const auto& one : over[column - 1].steps) values.push_back(one.value);
    std::sort(values.begin(), values.end());
    double least = 0.0;
    for (std::size_t i = 1; i < values.size(); ++i)
        if (const double by = values[i] - values[i - 1]; by > 0.0)
            least = least > 0.0 ? std::min(least, by) : by;
    return least;
}

std::string Table::text(std::size_t row, std::size_t column) const {
    const double value = number(row, column);
    if (named(column)) {
        const auto& steps = result_.cases.over()[column - 1].steps;
        return steps.at(static_cast<std::size_t>(value)).text;
    }
    if (!std::isfinite(value)) return {};
    const Unit* unit = column < firstValue_ ? nullptr : unitOf(titles_[column]);
    return unit != nullptr ? fmt::format("{:.{}f}", value, unit->decimals) : fmt::format("{:.6g}", value);
}

Filter::Filter(const std::string& text, const Table& table) {
    static const std::regex apart(R"(\s+and\s+|,)", std::regex::icase);
    static const std::regex shape(R"(^(.+?)\s*(<=|>=|!=|<>|=|<|>)\s*(.+)$)");
    std::vector<std::string> known;
    for (std::size_t c = 0; c < table.columns(); ++c) known.push_back(table.titles()[c]);
    for (std::sregex_token_iterator at(text.begin(), text.end(), apart, -1), end; at != end; ++at) {
        const std::string part = trimmed(*at);
        if (part.empty()) continue;
        std::smatch match;
        if (!std::regex_match(part, match, shape))
            throw Error(rm::say("\"{}\": a condition is a column, a sign and a value, as \"{} < 2\".", part,
                                known.back()));
        Condition condition;
        const std::string name = plain(trimmed(match[1]));
        bool found = false;
        for (std::size_t c = 0; c < table.columns() && !found; ++c) {
            const std::string title = plain(known[c]);
            const std::string heading = plain(table.heading(c));
            found = name == title || name == heading || name == heading.substr(0, heading.find(','));
            if (found) condition.column = c;
        }
        if (!found) {
            const auto near = quantity::closestName(trimmed(match[1]), known);
            throw Error(rm::say("There is no column \"{}\"{}.", trimmed(match[1]),
                                near.empty() ? "" : rm::say(": did you mean {}?", near)));
        }
        const std::string sign = match[2];
        condition.is = sign == "<"    ? Is::Below
                       : sign == "<=" ? Is::AtMost
                       : sign == ">"  ? Is::Above
                       : sign == ">=" ? Is::AtLeast
                       : sign == "="  ? Is::Equal
                                      : Is::Other;
        const std::string value = trimmed(match[3]);
        if (table.named(condition.column)) {
            if (condition.is != Is::Equal && condition.is != Is::Other)
                throw Error(rm::say("{} is a word: compare it with = or !=.", known[condition.column]));
            const auto words = table.words(condition.column);
            const auto word = std::find(words.begin(), words.end(), value);
            if (word == words.end())
                throw Error(rm::say("{} is never \"{}\": there are {}.", known[condition.column], value,
                                    fmt::join(words, ", ")));
            condition.number = static_cast<double>(word - words.begin());
        } else {
            const auto number = quantity::readNumber(value);
            if (!number) throw Error(rm::say("\"{}\" is no number.", value));
            condition.number = *number;
        }
        conditions_.push_back(std::move(condition));
    }
}

bool Filter::lets(const Table& table, std::size_t row) const {
    return std::all_of(conditions_.begin(), conditions_.end(), [&](const Condition& c) {
        const double value = table.number(row, c.column);
        switch (c.is) {
            case Is::Below:
                return value < c.number;
            case Is::AtMost:
                return value <= c.number;
            case Is::Above:
                return value > c.number;
            case Is::AtLeast:
                return value >= c.number;
            case Is::Equal:
                return std::abs(value - c.number) <= 1e-6 * std::max(1.0, std::abs(c.number));
            default:
                return std::abs(value - c.number) > 1e-6 * std::max(1.0, std::abs(c.number));
        }
    });
}

}  // namespace rm::wide
