#include "core/project/measured_file.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>

#include "core/circuit/reflection.h"
#include "core/model/limits.h"
#include "core/project/text_file.h"
#include "core/project/touchstone.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

enum class Column { Frequency, R, X, MagnitudeZ, PhaseZ, Swr, LossDb, Phase, RealS, ImagS, Other };

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

bool has(const std::string& text, const char* part) {
    return text.find(part) != std::string::npos;
}

/// What a title means. Units in brackets or after the name do not matter here.
Column columnOf(const std::string& title) {
    const std::string t = lower(trimmedCell(title));
    const std::string word = trimmedCell(t.substr(0, t.find_first_of("([/")));
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

std::string wordOf(Column column) {
    switch (column) {
        case Column::Frequency:
            return "frequency";
        case Column::R:
            return "R";
        case Column::X:
            return "X";
        case Column::MagnitudeZ:
            return "|Z|";
        case Column::PhaseZ:
            return say("phase of Z");
        case Column::Swr:
            return "SWR";
        case Column::LossDb:
            return say("return loss");
        case Column::Phase:
            return "phase";
        case Column::RealS:
            return say("real part of the reflection");
        case Column::ImagS:
            return say("imaginary part of the reflection");
        default:
            return say("(left out)");
    }
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

/// Reads the lines in one style.
class Table {
  public:
    Table(const std::vector<std::string>& lines, const std::string& name, const TableStyle& style)
        : name_(name), lines_(lines), style_(style) {}

    MeasuredTable run() {
        std::size_t at = findTitles();
        for (; at < lines_.size(); ++at) readLine(at);
        if (data_.points.empty()) throw Error(say("{} holds no measured points.", name_));
        scaleFrequencies();
        auto& points = data_.points;
        std::stable_sort(points.begin(), points.end(),
                         [](const auto& a, const auto& b) { return a.frequencyHz < b.frequencyHz; });
        std::string understood = describeStyle(style_);
        for (std::size_t c = 0; c < columns_.size(); ++c)
            understood += (c == 0 ? ": " : ", ") + wordOf(columns_[c]);
        return {std::move(data_), style_, understood};
    }
    /// How many lines were understood before the first that was not.
    std::size_t reached() const { return reached_; }
    /// The most cells of a line so far.
    std::size_t widest() const { return widest_; }

  private:
    [[noreturn]] void fail(std::size_t line, const std::string& what) const {
        throw Error(say("{}, line {}: {}", name_, line + 1, what));
    }

    static bool isComment(const std::string& line) {
        const std::string t = trimmedCell(line);
        return t.empty() || t.front() == '#' || t.front() == '!' || t.starts_with("//");
    }

    std::vector<std::string> cells(const std::string& line) {
        auto row = cellsOf(line, style_.separator);
        // A separator at the end of the line ends the last cell.
        while (!row.empty() && row.back().empty()) row.pop_back();
        widest_ = std::max(widest_, row.size());
        return row;
    }

    std::optional<double> number(const std::string& cell) const {
        return cellNumber(cell, style_.decimalComma);
    }

    void readComment(const std::string& line) {
        const auto first = trimmedCell(line).find_first_not_of("#!/ ");
        if (data_.note.empty() && first != std::string::npos)
            data_.note = trimmedCell(trimmedCell(line).substr(first));
    }

    /// Reads the titles, or guesses them from the number of columns, and returns where the numbers begin.
    std::size_t findTitles() {
        for (std::size_t at = 0; at < lines_.size(); ++at) {
            if (isComment(lines_[at])) {
                readComment(lines_[at]);
                continue;
            }
            const auto row = cells(lines_[at]);
            if (!row.empty() && number(row.front())) {
                if (row.size() == 2)
                    columns_ = {Column::Frequency, Column::Swr};
                else if (row.size() == 3)
                    columns_ = {Column::Frequency, Column::R, Column::X};
                else
                    fail(at, say("{} columns without titles; name them in a line above, such as "
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
            reached_ = at + 1;
            return at + 1;
        }
        throw Error(say("{} has no line of numbers.", name_));
    }

    bool holds(Column c) const { return std::find(columns_.begin(), columns_.end(), c) != columns_.end(); }

    void requireColumns(std::size_t at) const {
        const bool impedance =
            (holds(Column::R) && holds(Column::X)) ||
            (holds(Column::MagnitudeZ) && (holds(Column::PhaseZ) || holds(Column::Phase))) ||
            (holds(Column::RealS) && holds(Column::ImagS)) || (holds(Column::LossDb) && holds(Column::Phase));
        if (impedance || holds(Column::Swr) || holds(Column::LossDb)) return;
        fail(at, say("beside the frequency it needs R and X, SWR, or return loss and phase."));
    }

    void readLine(std::size_t at) {
        if (isComment(lines_[at])) return;
        const auto row = cells(lines_[at]);
        // What stands behind the last column may belong to a remark, and to nothing else.
        if (row.size() > columns_.size() && columns_.back() != Column::Other)
            fail(at, say("{} columns where {} are expected.", row.size(), columns_.size()));
        std::map<Column, double> value;
        for (std::size_t c = 0; c < columns_.size(); ++c) {
            if (columns_[c] == Column::Other || value.count(columns_[c]) != 0) continue;
            if (c >= row.size())
                fail(at, say("{} columns where {} are expected.", row.size(), columns_.size()));
            const auto v = number(row[c]);
            if (!v) fail(at, say("\"{}\" is not a number.", row[c]));
            value[columns_[c]] = *v;
        }
        model::MeasuredPoint p;
        p.frequencyHz = value[Column::Frequency];
        if (!(p.frequencyHz > 0.0)) fail(at, say("the frequency has to be above zero."));
        p.impedanceOhm = impedance(value);
        if (p.impedanceOhm)
            p.swr = circuit::swr(*p.impedanceOhm, data_.referenceOhm);
        else if (value.count(Column::Swr) != 0)
            p.swr = value[Column::Swr];
        else {
            const double size = std::pow(10.0, -std::abs(value[Column::LossDb]) / 20.0);
            p.swr = size < 1.0 ? (1.0 + size) / (1.0 - size) : circuit::kMostSwr;
        }
        if (p.swr < 1.0) fail(at, say("an SWR of {:g} is below 1.", p.swr));
        p.swr = std::min(p.swr, circuit::kMostSwr);
        data_.points.push_back(p);
        reached_ = at + 1;
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
        for (auto& p : data_.points) {
            p.frequencyHz *= unit;
            if (!(p.frequencyHz >= model::kLowestHz && p.frequencyHz <= model::kHighestHz))
                throw Error(say("{} has a frequency of {:.6g} MHz: check the unit in its title.", name_,
                                p.frequencyHz / 1e6));
        }
    }

    const std::string& name_;
    const std::vector<std::string>& lines_;
    TableStyle style_;
    std::vector<Column> columns_;
    std::optional<double> unitHz_;
    std::size_t reached_ = 0;
    std::size_t widest_ = 0;
    model::MeasuredData data_;
};

/// The first comment of a Touchstone file.
std::string firstComment(const std::string& text) {
    for (const auto& line : linesOf(text))
        if (!line.empty() && line.front() == '!') return trimmedCell(line.substr(1));
    return {};
}

}  // namespace

std::vector<MeasuredTable> measuredReadings(const std::string& text, const std::string& name) {
    const auto lines = linesOf(text);
    std::vector<MeasuredTable> readings;
    std::pair<std::size_t, std::size_t> farthest;
    std::string why;
    for (const TableStyle& style : tableStyles()) {
        Table table(lines, name, style);
        try {
            MeasuredTable reading = table.run();
            // Other marks that come to the same figures are no other way to read it.
            const bool known = std::any_of(readings.begin(), readings.end(),
                                           [&](const auto& r) { return r.data == reading.data; });
            if (!known) readings.push_back(std::move(reading));
        } catch (const Error& e) {
            // The style that went furthest and found most columns is the one that was meant.
            const auto got = std::pair(table.reached(), table.widest());
            if (!why.empty() && got <= farthest) continue;
            farthest = got;
            why = e.what();
        }
    }
    if (readings.empty()) throw Error(why);
    return readings;
}

model::MeasuredData parseMeasuredCsv(const std::string& text, const std::string& name) {
    auto readings = measuredReadings(text, name);
    if (readings.size() > 1)
        throw Error(say("{} can be read in {} ways: {}; or {}. Write it with semicolons between the columns.",
                        name, readings.size(), readings[0].understood, readings[1].understood));
    return std::move(readings.front().data);
}

std::vector<MeasuredTable> readMeasured(const std::filesystem::path& file) {
    const std::string ending = lower(file.extension().string());
    const std::string text = readTextFile(file);
    const std::string name = file.filename().string();
    if (ending != ".s1p") return measuredReadings(text, name);
    model::MeasuredData data;
    data.note = firstComment(text);
    for (const auto& p : parseTouchstone(text, name))
        data.points.push_back({p.frequencyHz, p.impedanceOhm,
                               std::min(circuit::swr(p.impedanceOhm, data.referenceOhm), circuit::kMostSwr)});
    return {{std::move(data), {}, "Touchstone, one port"}};
}

}  // namespace rm::io
