#include "core/project/measured_file.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fstream>
#include <map>
#include <sstream>

#include "core/circuit/reflection.h"
#include "core/project/touchstone.h"

namespace rm::io {

namespace {

enum class Column { Frequency, R, X, MagnitudeZ, PhaseZ, Swr, LossDb, Phase, RealS, ImagS, Other };

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

std::string trimmed(const std::string& text) {
    const char* const blank = " \t\r\"'";
    const auto first = text.find_first_not_of(blank);
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(blank) - first + 1);
}

bool has(const std::string& text, const char* part) {
    return text.find(part) != std::string::npos;
}

/// What a title means. Units in brackets or after the name do not matter here.
Column columnOf(const std::string& title) {
    const std::string t = lower(trimmed(title));
    const std::string word = trimmed(t.substr(0, t.find_first_of("([/")));
    const auto is = [&](std::initializer_list<const char*> names) {
        return std::any_of(names.begin(), names.end(), [&](const char* n) { return word == n || t == n; });
    };
    const bool reflection = has(t, "s11") || has(t, "gamma") || has(t, "refl") || has(t, "rho");
    const bool phase = has(t, "phase") || has(t, "angle") || has(t, "theta") || has(t, "arg");
    if (has(t, "freq") || has(t, "hz") || word == "f") return Column::Frequency;
    if (has(t, "swr")) return Column::Swr;
    if (phase) return has(t, "z") && !reflection ? Column::PhaseZ : Column::Phase;
    if (reflection && (has(t, "re") || has(t, "real")) && !has(t, "refl")) return Column::RealS;
    if (reflection && has(t, "im")) return Column::ImagS;
    if (has(t, "return") || is({"rl", "rl db"}) || (reflection && has(t, "db"))) return Column::LossDb;
    if (is({"r", "rs", "r ohm", "r_ohm", "resistance", "re z", "z real", "real"}) || has(t, "re(z") ||
        has(t, "resistance"))
        return Column::R;
    if (is({"x", "xs", "x ohm", "x_ohm", "reactance", "im z", "z imag", "imag"}) || has(t, "im(z") ||
        has(t, "reactance"))
        return Column::X;
    if (is({"|z|", "z", "z ohm", "impedance", "mag z"})) return Column::MagnitudeZ;
    return Column::Other;
}

/// Hz per unit that the title of the frequency column names; nothing where it names none.
std::optional<double> unitOf(const std::string& title) {
    const std::string t = lower(title);
    if (has(t, "ghz")) return 1e9;
    if (has(t, "mhz")) return 1e6;
    if (has(t, "khz")) return 1e3;
    if (has(t, "hz")) return 1.0;
    return std::nullopt;
}

class Table {
  public:
    Table(const std::string& text, const std::string& name) : name_(name) {
        std::istringstream in(text);
        for (std::string line; std::getline(in, line);) lines_.push_back(line);
    }

    model::MeasuredData run() {
        findSeparator();
        std::size_t at = findTitles();
        for (; at < lines_.size(); ++at) readLine(at);
        if (data_.points.empty()) throw Error(fmt::format("{} holds no measured points.", name_));
        scaleFrequencies();
        auto& points = data_.points;
        std::stable_sort(points.begin(), points.end(),
                         [](const auto& a, const auto& b) { return a.frequencyHz < b.frequencyHz; });
        return std::move(data_);
    }

  private:
    [[noreturn]] void fail(std::size_t line, const std::string& what) const {
        throw Error(fmt::format("{}, line {}: {}", name_, line + 1, what));
    }

    static bool isComment(const std::string& line) {
        const std::string t = trimmed(line);
        return t.empty() || t.front() == '#' || t.front() == '!' || t.starts_with("//");
    }

    /// Semicolons and tabs say it themselves; a comma separates where it does not stand between the digits of
    /// numbers that blanks separate.
    void findSeparator() {
        std::map<char, std::size_t> count;
        bool blanks = true;
        bool any = false;
        for (const auto& line : lines_) {
            if (isComment(line)) continue;
            for (const char c : line)
                if (c == ';' || c == '\t' || c == ',') ++count[c];
            if (!std::isdigit(static_cast<unsigned char>(trimmed(line).front()))) continue;
            std::istringstream words(line);
            int numbers = 0;
            for (std::string word; words >> word;) {
                if (!number(word, true)) blanks = false;
                ++numbers;
            }
            blanks = blanks && numbers > 1;
            any = true;
        }
        separator_ = count[';'] > 0 ? ';' : count['\t'] > 0 ? '\t' : any && blanks ? ' ' : ',';
    }

    std::vector<std::string> cells(const std::string& line) const {
        std::vector<std::string> out;
        if (separator_ == ' ') {
            std::istringstream words(line);
            for (std::string word; words >> word;) out.push_back(trimmed(word));
            return out;
        }
        std::istringstream in(line);
        for (std::string cell; std::getline(in, cell, separator_);) out.push_back(trimmed(cell));
        return out;
    }

    /// A number with a decimal point, or a comma where that is no separator.
    static std::optional<double> number(std::string text, bool decimalComma) {
        if (decimalComma && has(text, ",")) {
            text.erase(std::remove(text.begin(), text.end(), '.'), text.end());
            std::replace(text.begin(), text.end(), ',', '.');
        }
        if (!text.empty() && text.front() == '+') text.erase(0, 1);
        double v = 0.0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), v);
        if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(v))
            return std::nullopt;
        return v;
    }

    /// Reads the titles, or guesses them from the number of columns, and returns where the numbers begin.
    std::size_t findTitles() {
        for (std::size_t at = 0; at < lines_.size(); ++at) {
            if (isComment(lines_[at])) {
                const std::string t = trimmed(lines_[at]);
                if (data_.note.empty() && t.size() > 1)
                    data_.note = trimmed(t.substr(t.find_first_not_of("#!/ ")));
                continue;
            }
            const auto row = cells(lines_[at]);
            if (!row.empty() && number(row.front(), separator_ != ',')) {
                if (row.size() == 2)
                    columns_ = {Column::Frequency, Column::Swr};
                else if (row.size() == 3)
                    columns_ = {Column::Frequency, Column::R, Column::X};
                else
                    fail(at, fmt::format("{} columns without titles; name them in a line above, such as "
                                         "\"MHz, R, X\".",
                                         row.size()));
                return at;
            }
            std::vector<Column> found;
            for (std::size_t c = 0; c < row.size(); ++c) {
                found.push_back(columnOf(row[c]));
                if (found.back() == Column::Frequency) unitHz_ = unitOf(row[c]);
            }
            if (std::find(found.begin(), found.end(), Column::Frequency) == found.end()) continue;
            columns_ = found;
            requireColumns(at);
            return at + 1;
        }
        throw Error(fmt::format("{} has no line of numbers.", name_));
    }

    bool holds(Column c) const { return std::find(columns_.begin(), columns_.end(), c) != columns_.end(); }

    void requireColumns(std::size_t at) const {
        const bool impedance =
            (holds(Column::R) && holds(Column::X)) ||
            (holds(Column::MagnitudeZ) && (holds(Column::PhaseZ) || holds(Column::Phase))) ||
            (holds(Column::RealS) && holds(Column::ImagS)) || (holds(Column::LossDb) && holds(Column::Phase));
        if (impedance || holds(Column::Swr) || holds(Column::LossDb)) return;
        fail(at, "beside the frequency it needs R and X, SWR, or return loss and phase.");
    }

    void readLine(std::size_t at) {
        if (isComment(lines_[at])) return;
        const auto row = cells(lines_[at]);
        std::map<Column, double> value;
        for (std::size_t c = 0; c < columns_.size(); ++c) {
            if (columns_[c] == Column::Other || value.count(columns_[c]) != 0) continue;
            if (c >= row.size())
                fail(at, fmt::format("{} columns where {} are expected.", row.size(), columns_.size()));
            const auto v = number(row[c], separator_ != ',');
            if (!v) fail(at, fmt::format("\"{}\" is not a number.", row[c]));
            value[columns_[c]] = *v;
        }
        model::MeasuredPoint p;
        p.frequencyHz = value[Column::Frequency];
        if (!(p.frequencyHz > 0.0)) fail(at, "the frequency has to be above zero.");
        p.impedanceOhm = impedance(value);
        if (p.impedanceOhm)
            p.swr = circuit::swr(*p.impedanceOhm, data_.referenceOhm);
        else if (value.count(Column::Swr) != 0)
            p.swr = value[Column::Swr];
        else {
            const double size = std::pow(10.0, -std::abs(value[Column::LossDb]) / 20.0);
            p.swr = size < 1.0 ? (1.0 + size) / (1.0 - size) : 1e6;
        }
        if (p.swr < 1.0) fail(at, fmt::format("an SWR of {:g} is below 1.", p.swr));
        data_.points.push_back(p);
    }

    std::optional<Complex> impedance(std::map<Column, double>& v) const {
        const auto fromReflection = [this](Complex gamma) -> std::optional<Complex> {
            if (std::abs(1.0 - gamma) < 1e-12) return std::nullopt;
            return data_.referenceOhm * (1.0 + gamma) / (1.0 - gamma);
        };
        if (holds(Column::R) && holds(Column::X)) return Complex(v[Column::R], v[Column::X]);
        if (holds(Column::RealS) && holds(Column::ImagS))
            return fromReflection({v[Column::RealS], v[Column::ImagS]});
        if (holds(Column::LossDb) && holds(Column::Phase))
            return fromReflection(
                std::polar(std::pow(10.0, -std::abs(v[Column::LossDb]) / 20.0), v[Column::Phase] * kDegree));
        if (holds(Column::MagnitudeZ) && (holds(Column::PhaseZ) || holds(Column::Phase)))
            return std::polar(std::abs(v[Column::MagnitudeZ]),
                              v[holds(Column::PhaseZ) ? Column::PhaseZ : Column::Phase] * kDegree);
        return std::nullopt;
    }

    /// Without a unit the size tells: nobody measures above 1 GHz in MHz or below 100 kHz here.
    void scaleFrequencies() {
        double highest = 0.0;
        for (const auto& p : data_.points) highest = std::max(highest, p.frequencyHz);
        const double unit = unitHz_.value_or(highest > 1e6 ? 1.0 : highest > 1e3 ? 1e3 : 1e6);
        for (auto& p : data_.points) p.frequencyHz *= unit;
    }

    std::string name_;
    std::vector<std::string> lines_;
    std::vector<Column> columns_;
    std::optional<double> unitHz_;
    char separator_ = ',';
    model::MeasuredData data_;
};

/// The first comment of a Touchstone file.
std::string firstComment(const std::string& text) {
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);)
        if (!line.empty() && line.front() == '!') return trimmed(line.substr(1));
    return {};
}

}  // namespace

model::MeasuredData parseMeasuredCsv(const std::string& text, const std::string& name) {
    return Table(text, name).run();
}

model::MeasuredData readMeasured(const std::filesystem::path& file) {
    const std::string ending = lower(file.extension().string());
    std::ifstream in(file, std::ios::binary);
    if (!in) throw Error(fmt::format("{} cannot be opened.", file.string()));
    std::stringstream all;
    all << in.rdbuf();
    const std::string text = all.str();
    const std::string name = file.filename().string();
    if (ending != ".s1p") return parseMeasuredCsv(text, name);
    model::MeasuredData data;
    data.note = firstComment(text);
    for (const auto& p : parseTouchstone(text, name))
        data.points.push_back(
            {p.frequencyHz, p.impedanceOhm, circuit::swr(p.impedanceOhm, data.referenceOhm)});
    return data;
}

}  // namespace rm::io
