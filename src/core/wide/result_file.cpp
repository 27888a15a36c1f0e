#include "core/wide/result_file.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fstream>
#include <limits>
#include <nlohmann/json.hpp>

#include "core/project/json_text.h"
#include "core/project/text_file.h"
#include "core/quantity/number.h"
#include "core/stopped.h"
#include "core/version.h"
#include "core/words/words.h"

namespace rm::wide {

namespace {

using nlohmann::json;

constexpr const char* kFormatWord = "reed-mast study result";
constexpr const char* kComment = "# ";
constexpr const char* kJsonCase = "{\"case\":";
constexpr const char* kProgram = "program";
/// Lines of a file between two looks at whether it is still wanted.
constexpr std::size_t kLinesAtATime = 1024;

std::string quoted(const std::string& text) {
    if (text.find_first_of(",\"") == std::string::npos) return text;
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

/// The cells of a line of a CSV.
std::vector<std::string> cellsOf(const std::string& line) {
    std::vector<std::string> cells(1);
    bool inside = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (line[i] == '"' && inside && i + 1 < line.size() && line[i + 1] == '"')
            cells.back() += line[++i];
        else if (line[i] == '"')
            inside = !inside;
        else if (line[i] == ',' && !inside)
            cells.emplace_back();
        else
            cells.back() += line[i];
    }
    return cells;
}

/// Names of what differs and of the repetition, then of the values, then the problem.
std::vector<std::string> titlesOf(const Cases& cases) {
    std::vector<std::string> titles{"case"};
    for (const auto& over : cases.over()) titles.push_back(over.title);
    if (!cases.repeated().empty()) titles.push_back(cases.repeated());
    titles.insert(titles.end(), cases.titles().begin(), cases.titles().end());
    titles.emplace_back("problem");
    return titles;
}

/// How every line of a result is laid out.
struct Layout {
    explicit Layout(const Cases& cases)
        : titles(titlesOf(cases)),
          first(1 + cases.over().size() + (cases.repeated().empty() ? 0 : 1)),
          values(cases.titles().size()) {}

    std::vector<std::string> titles;
    std::size_t first;   ///< titles before those of the values
    std::size_t values;  ///< of a row
};

/// What the first line says, whatever the format.
json headerOf(const Cases& cases, Range range, const std::string& program) {
    json j = writeGiven(cases.given());
    if (!program.empty()) j[kProgram] = program;
    j["format"] = kFormatWord;
    j["version"] = 1;
    j["cases"] = cases.count();
    if (range.count() != cases.count()) j["part"] = {range.first + 1, range.end};
    return j;
}

/// The lines of a text; what has no end is none.
class Lines {
  public:
    explicit Lines(const std::string& text) : text_(text) {}
    bool next(std::string& line) {
        const auto end = text_.find('\n', at_);
        if (end == std::string::npos) return false;
        line = text_.substr(at_, end - at_);
        at_ = end + 1;
        return true;
    }
    std::size_t at() const { return at_; }

  private:
    const std::string& text_;
    std::size_t at_ = 0;
};

struct Head {
    Cases cases;
    Range range;
    std::string program;
};

Head readHead(Lines& lines, Format format, const std::string& name) {
    std::string line;
    if (!lines.next(line)) throw Error(rm::say("{} is no result of a study.", name));
    if (format == Format::Csv) {
        if (!line.starts_with(kComment)) throw Error(rm::say("{} is no result of a study.", name));
        line.erase(0, std::string(kComment).size());
    }
    const json j = io::parseJson(line, name);
    if (!j.is_object() || j.value("format", json()) != kFormatWord)
        throw Error(rm::say("{} is no result of a study.", name));
    Cases cases(parseGiven(j, name));
    Range range{0, cases.count()};
    if (j.contains("part")) {
        const auto& part = j["part"];
        if (!part.is_array() || part.size() != 2 || !part[0].is_number_unsigned() ||
            !part[1].is_number_unsigned())
            throw Error(rm::say("{}: \"part\" has to be the first and the last case.", name));
        range = {part[0].get<std::size_t>() - 1, part[1].get<std::size_t>()};
        if (range.first >= range.end || range.end > cases.count())
            throw Error(rm::say("{}: \"part\" lies outside the study.", name));
    }
    if (format == Format::Csv && !lines.next(line)) throw Error(rm::say("{} has no titles.", name));
    const auto program = j.find(kProgram);
    return {std::move(cases), range,
            program != j.end() && program->is_string() ? program->get<std::string>() : std::string()};
}

/// The object in a first line without the program that wrote it; nothing where there is none.
json withoutProgram(std::string line, Format format) {
    if (format == Format::Csv && line.starts_with(kComment)) line.erase(0, std::string(kComment).size());
    json j = json::parse(line, nullptr, false);
    if (j.is_object()) j.erase(kProgram);
    return j;
}

double numberIn(const std::string& cell, const std::string& name, std::size_t at) {
    if (cell.empty()) return std::numeric_limits<double>::quiet_NaN();
    const auto value = quantity::readNumber(cell);
    if (!value) throw Error(rm::say("{}, case {}: \"{}\" is no number.", name, at, cell));
    return *value;
}

Row rowOf(const std::string& line, const Layout& layout, Format format, const std::string& name) {
    Row row;
    const auto& [titles, first, values] = layout;
    if (format == Format::JsonLines) {
        const json j = io::parseJson(line, name);
        for (std::size_t i = 0; i < values; ++i) {
            const auto found = j.find(titles[first + i]);
            row.values.push_back(found != j.end() && found->is_number()
                                     ? found->get<double>()
                                     : std::numeric_limits<double>::quiet_NaN());
        }
        if (j.contains("problem") && j["problem"].is_string()) row.problem = j["problem"].get<std::string>();
    } else {
        const auto cells = cellsOf(line);
        if (cells.size() != titles.size())
            throw Error(rm::say("{} has a line of {} cells where {} are expected.", name, cells.size(),
                                titles.size()));
        for (std::size_t i = 0; i < values; ++i) row.values.push_back(numberIn(cells[first + i], name, i));
        row.problem = cells.back();
    }
    if (!row.problem.empty()) row.values.clear();
    return row;
}

}  // namespace

Format formatOf(const std::filesystem::path& file) {
    if (file.extension() == ".csv") return Format::Csv;
    if (file.extension() == ".jsonl") return Format::JsonLines;
    throw Error(rm::say("{}: the name of a result ends in .csv or .jsonl.", file.string()));
}

Range partOf(std::size_t cases, std::size_t part, std::size_t parts) {
    return {cases * (part - 1) / parts, cases * part / parts};
}

std::string thisProgram() {
    return fmt::format("reed-mast {}", kVersion);
}

std::string headOf(const Cases& cases, Format format, Range range, const std::string& program) {
    const std::string header = io::jsonText(headerOf(cases, range, program));
    if (format == Format::JsonLines) return header + "\n";
    std::string titles;
    for (const auto& title : titlesOf(cases)) titles += (titles.empty() ? "" : ",") + quoted(title);
    return kComment + header + "\n" + titles + "\n";
}

std::string lineOf(const Cases& cases, const Row& row, Format format) {
    const auto titles = titlesOf(cases);
    const auto steps = cases.stepsOf(row.number);
    const bool csv = format == Format::Csv;
    // In the order of the titles, which a library's object would not keep.
    std::string line =
        csv ? fmt::format("{}", row.number + 1) : fmt::format("{}{}", kJsonCase, row.number + 1);
    std::size_t title = 1;
    const auto add = [&](const std::string& cell) {
        line += csv ? "," + cell : "," + io::jsonText(json(titles[title])) + ":" + cell;
        ++title;
    };
    const auto text = [&](const std::string& t) { return csv ? quoted(t) : io::jsonText(json(t)); };
    for (std::size_t i = 0; i < cases.over().size(); ++i) {
        const auto& step = cases.over()[i].steps[steps[i]];
        add(step.named ? text(step.text) : fmt::format("{}", step.value));
    }
    if (!cases.repeated().empty()) add(fmt::format("{}", steps.back() + 1));
    for (std::size_t i = 0; i < cases.titles().size(); ++i) {
        const double value = i < row.values.size() ? row.values[i] : std::nan("");
        add(std::isfinite(value) ? fmt::format("{}", value) : csv ? "" : "null");
    }
    add(row.problem.empty() && !csv ? "null" : text(quantity::plainText(row.problem)));
    return csv ? line : line + "}";
}

std::optional<std::size_t> numberOf(const std::string& line, Format format) {
    const std::size_t from = format == Format::Csv ? 0 : std::string(kJsonCase).size();
    if (format == Format::JsonLines && !line.starts_with(kJsonCase)) return std::nullopt;
    std::size_t number = 0;
    const auto [end, error] =
        std::from_chars(line.data() + std::min(from, line.size()), line.data() + line.size(), number);
    if (error != std::errc() || number == 0 || end == line.data() + line.size() || *end != ',')
        return std::nullopt;
    if (format == Format::JsonLines && line.back() != '}') return std::nullopt;
    return number - 1;
}

Result readResult(const std::filesystem::path& file, const std::stop_token& stop,
                  const std::function<void(double)>& progress) {
    const auto format = formatOf(file);
    const std::string name = file.string();
    const std::string text = io::readTextFile(file);
    Lines lines(text);
    auto head = readHead(lines, format, name);
    Result result{std::move(head.cases), head.range, {}, std::move(head.program)};
    const Layout layout(result.cases);
    std::string line;
    while (lines.next(line)) {
        if (result.rows.size() % kLinesAtATime == 0) {
            endWhere(stop);
            if (progress) progress(static_cast<double>(lines.at()) / static_cast<double>(text.size()));
        }
        const std::size_t expected = result.range.first + result.rows.size();
        if (expected == result.range.end || numberOf(line, format) != expected)
            throw Error(rm::say("{}: case {} is not where it belongs.", name, expected + 1));
        auto row = rowOf(line, layout, format, name);
        row.number = expected;
        result.rows.push_back(std::move(row));
    }
    return result;
}

Begun readBegun(const std::filesystem::path& file, const std::string& head, Format format, Range range) {
    std::ifstream in(file, std::ios::binary);
    if (!in) throw Error(rm::say("{} cannot be read.", file.string()));
    std::string there(head.size(), '\0');
    in.read(there.data(), static_cast<std::streamsize>(head.size()));
    there.resize(static_cast<std::size_t>(in.gcount()));
    // Ended while its first line was written: nothing is lost by beginning anew.
    if (there.size() < head.size() && head.starts_with(there)) return {};
    if (there != head) {
        std::string first;
        in.clear();
        in.seekg(0);
        std::getline(in, first);
        const auto expected = head.substr(0, head.find('\n'));
        if (first != expected && withoutProgram(first, format) == withoutProgram(expected, format))
            throw Error(
                rm::say("{} was begun by another version of the program than {}: give another name, "
                        "or remove it.",
                        file.string(), thisProgram()));
        throw Error(rm::say("{} holds something else, or another study: give another name, or remove it.",
                            file.string()));
    }
    Begun begun{0, head.size()};
    std::string line;
    while (begun.rows < range.count() && std::getline(in, line) && !in.eof()) {
        if (numberOf(line, format) != range.first + begun.rows) break;
        ++begun.rows;
        begun.bytes += line.size() + 1;
    }
    return begun;
}

void mergeResults(const std::vector<std::filesystem::path>& parts, const std::filesystem::path& into) {
    struct Part {
        std::filesystem::path file;
        Range range;
        std::string header;  ///< what stands before its cases
    };
    std::vector<Part> all;
    std::string head;
    std::size_t count = 0;
    const auto format = formatOf(into);
    for (const auto& file : parts) {
        if (formatOf(file) != format)
            throw Error(rm::say("{} is of another format than {}.", file.string(), into.string()));
        std::ifstream in(file, std::ios::binary);
        std::string first, second;
        if (!std::getline(in, first) || (format == Format::Csv && !std::getline(in, second)))
            throw Error(rm::say("{} is no result of a study.", file.string()));
        const std::string text = first + "\n" + second + "\n";
        Lines lines(text);
        const auto read = readHead(lines, format, file.string());
        const std::string whole = headOf(read.cases, format, {0, read.cases.count()}, read.program);
        if (!head.empty() && whole != head)
            throw Error(rm::say("{} is of another study than {}.", file.string(), parts.front().string()));
        head = whole;
        count = read.cases.count();
        all.push_back({file, read.range, headOf(read.cases, format, read.range, read.program)});
    }
    std::sort(all.begin(), all.end(),
              [](const Part& a, const Part& b) { return a.range.first < b.range.first; });
    std::size_t next = 0;
    for (const auto& part : all) {
        if (part.range.first != next)
            throw Error(part.range.first > next
                            ? rm::say("Cases {} to {} are in none of the parts.", next + 1, part.range.first)
                            : rm::say("{} has cases that another part has, too.", part.file.string()));
        next = part.range.end;
    }
    if (next != count) throw Error(rm::say("Cases {} to {} are in none of the parts.", next + 1, count));
    // What is there already is of this study, or stays.
    if (std::filesystem::exists(into)) readBegun(into, head, format, {0, count});
    auto beside = into;
    beside += ".part";
    std::ofstream out(beside, std::ios::binary);
    out << head;
    for (const auto& part : all) {
        const auto begun = readBegun(part.file, part.header, format, part.range);
        if (begun.rows != part.range.count())
            throw Error(rm::say("{} is not finished: {} of {} cases.", part.file.string(), begun.rows,
                                part.range.count()));
        std::ifstream in(part.file, std::ios::binary);
        in.seekg(static_cast<std::streamoff>(part.header.size()));
        out << in.rdbuf();
    }
    out.close();
    if (!out) throw Error(rm::say("{} cannot be written.", beside.string()));
    std::filesystem::rename(beside, into);
}

}  // namespace rm::wide
