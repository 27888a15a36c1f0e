#include "core/quantity/formula.h"

#include <fmt/format.h>
#include <muParser.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <optional>
#include <string_view>

#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::quantity {

namespace {

struct Unit {
    std::string_view name;
    double factor;
    enum class Family { Length, Foot, Inch, Gauge, Lambda, Angle, Frequency, Percent } family;
};

// Longest first, so that "mm" is not read as "m".
constexpr std::array<Unit, 24> kUnits = {{
    {"lambda", 1.0, Unit::Family::Lambda}, {"inches", 0.0254, Unit::Family::Inch},
    {"degrees", 1.0, Unit::Family::Angle}, {"metres", 1.0, Unit::Family::Length},
    {"meters", 1.0, Unit::Family::Length}, {"inch", 0.0254, Unit::Family::Inch},
    {"feet", 0.3048, Unit::Family::Foot},  {"foot", 0.3048, Unit::Family::Foot},
    {"ghz", 1e9, Unit::Family::Frequency}, {"mhz", 1e6, Unit::Family::Frequency},
    {"khz", 1e3, Unit::Family::Frequency}, {"awg", 0.0, Unit::Family::Gauge},
    {"deg", 1.0, Unit::Family::Angle},     {"hz", 1.0, Unit::Family::Frequency},
    {"km", 1000.0, Unit::Family::Length},  {"cm", 0.01, Unit::Family::Length},
    {"mm", 0.001, Unit::Family::Length},   {"ft", 0.3048, Unit::Family::Foot},
    {"in", 0.0254, Unit::Family::Inch},    {"m", 1.0, Unit::Family::Length},
    {"'", 0.3048, Unit::Family::Foot},     {"\"", 0.0254, Unit::Family::Inch},
    {"%", 0.01, Unit::Family::Percent},    {"mil", 0.0000254, Unit::Family::Length},
}};

/// What a number with a unit is.
enum class Measure { Length, Angle, Frequency, Share };

Measure measureOf(Unit::Family family) {
    switch (family) {
        case Unit::Family::Angle:
            return Measure::Angle;
        case Unit::Family::Frequency:
            return Measure::Frequency;
        case Unit::Family::Percent:
            return Measure::Share;
        default:
            return Measure::Length;
    }
}

std::string nameOf(Measure measure) {
    switch (measure) {
        case Measure::Length:
            return say("a length");
        case Measure::Angle:
            return say("an angle");
        case Measure::Frequency:
            return say("a frequency");
        case Measure::Share:
            return say("a percentage");
    }
    return {};
}

constexpr std::array<std::string_view, 14> kReserved = {
    "lambda", "pi", "sqrt", "abs", "min", "max", "sin", "cos", "tan", "asin", "acos", "atan", "sign", "rint"};

bool isNameStart(char c) {
    return std::isalpha(static_cast<unsigned char>(c)) != 0 || c == '_';
}
bool isNameChar(char c) {
    return isNameStart(c) || std::isdigit(static_cast<unsigned char>(c)) != 0;
}

/// Typographic characters written in plain ones; decimal commas outside brackets become points.
std::string plainCharacters(const std::string& text) {
    static const std::array<std::pair<const char*, const char*>, 12> table = {{{"λ", "lambda"},
                                                                               {"°", " deg"},
                                                                               {"′", "'"},
                                                                               {"″", "\""},
                                                                               {"’", "'"},
                                                                               {"”", "\""},
                                                                               {"−", "-"},
                                                                               {"–", "-"},
                                                                               {"×", "*"},
                                                                               {"·", "*"},
                                                                               {"½", " 1/2"},
                                                                               {"¼", " 1/4"}}};
    std::string out = text;
    if (std::any_of(text.begin(), text.end(), [](char c) { return (c & 0x80) != 0; }))
        for (const auto& [from, to] : table)
            for (std::size_t at = out.find(from); at != std::string::npos; at = out.find(from, at))
                out.replace(at, std::string(from).size(), to);
    // Two marks of feet are one of inches.
    for (std::size_t at = out.find("''"); at != std::string::npos; at = out.find("''", at))
        out.replace(at, 2, "\"");
    int depth = 0;
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (out[i] == '(') ++depth;
        if (out[i] == ')') --depth;
        const bool between = i > 0 && i + 1 < out.size() &&
                             std::isdigit(static_cast<unsigned char>(out[i - 1])) &&
                             std::isdigit(static_cast<unsigned char>(out[i + 1]));
        if (out[i] == ',' && depth == 0 && between) out[i] = '.';
    }
    return out;
}

[[noreturn]] void missLambda() {
    throw Error(say("lambda is not known here: set the design frequency."));
}

/// Reads numbers with their units and turns the text into one that the formula parser knows.
class Reader {
  public:
    Reader(const std::string& original, double lambdaM)
        : original_(original), text_(plainCharacters(original)), lambdaM_(lambdaM) {}

    /// Empty for a number alone, which is last().
    std::string expression() {
        std::string out;
        while (true) {
            skipSpace();
            if (at_ >= text_.size()) break;
            const char c = text_[at_];
            const bool number = std::isdigit(static_cast<unsigned char>(c)) || c == '.';
            // Two values side by side would be read as one.
            if ((number || isNameStart(c)) && !out.empty() && (isNameChar(out.back()) || out.back() == ')'))
                refuseSideBySide(number);
            if (number) {
                fractionAllowed_ = out.empty() || out.back() == '+' || out.back() == '-' ||
                                   out.back() == '(' || out.back() == ',';
                last_ = quantity();
                skipSpace();
                if (out.empty() && at_ >= text_.size()) {
                    numbers_ = 1;
                    break;
                }
                out += fmt::format("({:.17g})", last_);
                ++numbers_;
            } else if (isNameStart(c)) {
                std::size_t end = at_;
                while (end < text_.size() && isNameChar(text_[end])) ++end;
                out += text_.substr(at_, end - at_);
                at_ = end;
                ++names_;
            } else {
                products_ = products_ || c == '*' || c == '/' || c == '^';
                out += c;
                ++at_;
                ++marks_;
            }
        }
        return out;
    }

    /// What its units make of it, where they say so: numbers alone, and units only side by side in a sum.
    /// Throws rm::Error where that adds up what cannot be added.
    std::optional<Measure> measure() const {
        if (names_ > 0 || !measure_ || products_) return std::nullopt;
        if (other_)
            throw Error(say("\"{}\" adds up {} and {}.", original_, nameOf(*measure_), nameOf(*other_)));
        return measure_;
    }

    bool hasUnit() const { return hasUnit_; }
    bool hasNames() const { return names_ > 0; }
    /// The number read last, in SI units.
    double last() const { return last_; }
    bool single() const { return numbers_ == 1 && names_ == 0 && marks_ == 0; }
    bool singleName() const { return names_ == 1 && numbers_ == 0 && marks_ == 0; }

  private:
    void skipSpace() {
        while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_]))) ++at_;
    }

    std::optional<double> number() {
        std::size_t end = at_;
        while (end < text_.size() &&
               (std::isdigit(static_cast<unsigned char>(text_[end])) || text_[end] == '.'))
            ++end;
        if (end == at_) return std::nullopt;
        if (end < text_.size() && (text_[end] == 'e' || text_[end] == 'E')) {
            std::size_t power = end + 1;
            if (power < text_.size() && (text_[power] == '+' || text_[power] == '-')) ++power;
            if (power < text_.size() && std::isdigit(static_cast<unsigned char>(text_[power]))) {
                end = power;
                while (end < text_.size() && std::isdigit(static_cast<unsigned char>(text_[end]))) ++end;
            }
        }
        const std::string digits = text_.substr(at_, end - at_);
        const auto value = readNumber(digits);
        if (!value) throw Error(say("\"{}\" is not a number of a size that can be meant.", digits));
        at_ = end;
        return value;
    }

    std::optional<Unit> unit() {
        const std::size_t start = at_;
        skipSpace();
        for (const Unit& unit : kUnits) {
            const std::string_view name = unit.name;
            const std::size_t end = at_ + name.size();
            if (end > text_.size()) continue;
            const bool same =
                std::equal(name.begin(), name.end(), text_.begin() + static_cast<std::ptrdiff_t>(at_),
                           [](char a, char b) { return a == std::tolower(static_cast<unsigned char>(b)); });
            if (!same || (isNameStart(name[0]) && end < text_.size() && isNameChar(text_[end]))) continue;
            at_ = end;
            hasUnit_ = true;
            return unit;
        }
        at_ = start;
        return std::nullopt;
    }

    /// `/ number` when a unit or a mixed number shows that it is a fraction; leaves the position alone
    /// otherwise.
    std::optional<double> denominator(bool mixed) {
        const std::size_t start = at_;
        skipSpace();
        if (at_ < text_.size() && text_[at_] == '/') {
            ++at_;
            skipSpace();
            if (const auto below = number()) {
                const std::size_t after = at_;
                const bool known = hasUnit_;
                const auto u = unit();
                at_ = after;
                hasUnit_ = known;
                const bool tape = u && (u->family == Unit::Family::Inch || u->family == Unit::Family::Foot);
                if (mixed || tape) return below;
            }
        }
        at_ = start;
        return std::nullopt;
    }

    double value() {
        double v = *number();
        if (fractionAllowed_)
            if (const auto below = denominator(false)) return v / *below;
        const std::size_t start = at_;
        skipSpace();
        if (at_ > start && at_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[at_]))) {
            const auto above = number();
            if (const auto below = denominator(true)) return v + *above / *below;
        }
        at_ = start;
        return v;
    }

    double inUnit(double v, const Unit& u) const {
        if (u.family == Unit::Family::Lambda) {
            if (lambdaM_ <= 0.0) missLambda();
            return v * lambdaM_;
        }
        // American wire gauge, ASTM B258: 0.127 mm at 36, a factor of 92 over 39 steps.
        if (u.family == Unit::Family::Gauge) return 0.000127 * std::pow(92.0, (36.0 - v) / 39.0);
        return v * u.factor;
    }

    [[noreturn]] void refuseSideBySide(bool number) const {
        const std::string rest = text_.substr(at_);
        if (number && afterFeet_)
            throw Error(say(
                "\"{}\" is not understood: put an inch mark, \", after \"{}\", or +, -, * or / before it.",
                original_, rest));
        throw Error(say("\"{}\" is not understood: put +, -, * or / before \"{}\".", original_, rest));
    }

    /// 33'-6" is how drawings write 33' 6", and a difference, too: no guess is right.
    void refuseHyphen() {
        const std::size_t start = at_;
        if (at_ + 1 >= text_.size() || text_[at_] != '-' ||
            !std::isdigit(static_cast<unsigned char>(text_[at_ + 1])))
            return;
        ++at_;
        fractionAllowed_ = true;
        value();
        const bool known = hasUnit_;
        const auto second = unit();
        hasUnit_ = known;
        if (second && second->family == Unit::Family::Inch)
            throw Error(
                say("\"{}\" can be read as feet and inches, or as feet less inches: put a space for the "
                    "hyphen, or spaces round it.",
                    original_));
        at_ = start;
    }

    double quantity() {
        const double v = value();
        const auto u = unit();
        afterFeet_ = u && u->family == Unit::Family::Foot;
        if (!u) return v;
        const Measure measure = measureOf(u->family);
        if (!measure_) measure_ = measure;
        if (*measure_ != measure) other_ = measure;
        double total = inUnit(v, *u);
        if (u->family == Unit::Family::Foot) {
            refuseHyphen();
            const std::size_t start = at_;
            skipSpace();
            if (at_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[at_]))) {
                fractionAllowed_ = true;
                const double inches = value();
                if (const auto second = unit(); second && second->family == Unit::Family::Inch)
                    return total + inches * second->factor;
            }
            at_ = start;
        }
        return total;
    }

    std::string original_;
    std::string text_;
    double lambdaM_;
    std::size_t at_ = 0;
    bool fractionAllowed_ = true;
    bool hasUnit_ = false;
    bool afterFeet_ = false;  ///< the number read last is in feet
    double last_ = 0.0;
    int numbers_ = 0;
    int names_ = 0;
    int marks_ = 0;
    std::optional<Measure> measure_;  ///< of the first number that has a unit
    std::optional<Measure> other_;    ///< of one that is something else
    bool products_ = false;
};

mu::value_type sinDeg(mu::value_type x) {
    return std::sin(x * kDegree);
}
mu::value_type cosDeg(mu::value_type x) {
    return std::cos(x * kDegree);
}
mu::value_type tanDeg(mu::value_type x) {
    return std::tan(x * kDegree);
}
mu::value_type asinDeg(mu::value_type x) {
    return std::asin(x) / kDegree;
}
mu::value_type acosDeg(mu::value_type x) {
    return std::acos(x) / kDegree;
}
mu::value_type atanDeg(mu::value_type x) {
    return std::atan(x) / kDegree;
}
mu::value_type rootOf(mu::value_type x) {
    return std::sqrt(x);
}
mu::value_type absolute(mu::value_type x) {
    return std::abs(x);
}
mu::value_type smallest(const mu::value_type* v, int n) {
    return *std::min_element(v, v + n);
}
mu::value_type largest(const mu::value_type* v, int n) {
    return *std::max_element(v, v + n);
}

mu::Parser makeParser() {
    mu::Parser parser;
    parser.ClearFun();
    parser.ClearConst();
    parser.DefineFun("sin", sinDeg);
    parser.DefineFun("cos", cosDeg);
    parser.DefineFun("tan", tanDeg);
    parser.DefineFun("asin", asinDeg);
    parser.DefineFun("acos", acosDeg);
    parser.DefineFun("atan", atanDeg);
    parser.DefineFun("sqrt", rootOf);
    parser.DefineFun("abs", absolute);
    parser.DefineFun("min", smallest);
    parser.DefineFun("max", largest);
    parser.DefineConst("pi", kPi);
    return parser;
}

/// A parser without variables. Defining its functions costs more than most formulas: each thread does it
/// once.
mu::Parser& freshParser() {
    thread_local mu::Parser parser = makeParser();
    parser.ClearVar();
    return parser;
}

bool isReserved(const std::string& name) {
    return std::find(kReserved.begin(), kReserved.end(), name) != kReserved.end();
}

/// The values of the scope that an expression uses, and no others: a design may have thousands.
std::map<std::string, double> valuesIn(const std::string& expression, const Scope& scope) {
    std::map<std::string, double> values;
    for (std::size_t begin = 0; begin < expression.size();) {
        std::size_t end = begin;
        while (end < expression.size() && isNameChar(expression[end])) ++end;
        const std::string name = expression.substr(begin, end - begin);
        const auto found = scope.values.find(name);
        if (found != scope.values.end()) values.insert(*found);
        if (name == "lambda" && scope.lambdaM > 0.0) values[name] = scope.lambdaM;
        begin = std::max(end, begin + 1);
    }
    return values;
}

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

[[noreturn]] void explain(const mu::Parser::exception_type& e, const std::string& text, const Scope& scope) {
    if (e.GetCode() == mu::ecUNASSIGNABLE_TOKEN) {
        if (e.GetToken() == "lambda") missLambda();
        std::vector<std::string> names{"lambda"};
        for (const auto& [name, value] : scope.values) names.push_back(name);
        const std::string close = closestName(e.GetToken(), names);
        throw Error(say("\"{}\" uses {}, which is not a dimension{}", text, e.GetToken(),
                        close.empty() ? "." : say(": did you mean {}?", close)));
    }
    throw Error(say("\"{}\" cannot be worked out: check the brackets and signs.", text));
}

Measure wantedBy(Kind kind) {
    switch (kind) {
        case Kind::Angle:
            return Measure::Angle;
        case Kind::Frequency:
            return Measure::Frequency;
        case Kind::Number:
            return Measure::Share;
        default:
            return Measure::Length;
    }
}

/// Throws rm::Error where a value is given in the unit of something else: "3 m" is no angle.
void requireMeasure(const Reader& reader, Kind kind, const std::string& text) {
    const auto given = reader.measure();
    if (!given || *given == wantedBy(kind)) return;
    const std::string wanted = kind == Kind::Angle      ? say("an angle in degrees")
                               : kind == Kind::Number   ? say("a number without a unit")
                               : kind == Kind::Diameter ? say("a diameter")
                                                        : nameOf(wantedBy(kind));
    throw Error(say("\"{}\" is {}: {} is wanted here.", text, nameOf(*given), wanted));
}

double defaultUnit(Kind kind) {
    switch (kind) {
        case Kind::Diameter:
            return 0.001;
        case Kind::Frequency:
            return 1e6;
        default:
            return 1.0;
    }
}

}  // namespace

double evaluate(const std::string& text, Kind kind, const Scope& scope) {
    const std::string clean = trimmed(text);
    if (clean.empty()) throw Error(say("A value is missing here."));
    Reader reader(clean, scope.lambdaM);
    const std::string expression = reader.expression();
    requireMeasure(reader, kind, clean);
    const double factor = reader.hasUnit() || reader.hasNames() ? 1.0 : defaultUnit(kind);
    double value = 0.0;
    const auto named =
        reader.singleName() && !isReserved(expression) ? scope.values.find(expression) : scope.values.end();
    if (reader.single()) {
        value = reader.last();
    } else if (named != scope.values.end()) {
        value = named->second;
    } else {
        mu::Parser& parser = freshParser();
        auto values = valuesIn(expression, scope);
        try {
            for (auto& [name, v] : values) parser.DefineVar(name, &v);
            parser.SetExpr(expression);
            value = parser.Eval();
        } catch (const mu::Parser::exception_type& e) {
            explain(e, clean, scope);
        }
    }
    if (!std::isfinite(value)) throw Error(say("\"{}\" has no finite value.", clean));
    value *= factor;
    // What formulas leave of a difference, such as cos(90)^4.
    if (std::abs(value) < kSmallestNumber) return 0.0;
    if (!isOfThisWorld(value))
        throw Error(say("\"{}\" comes to {:.3g}, which cannot be meant.", clean, value));
    return value;
}

std::vector<std::string> namesIn(const std::string& text) {
    const std::string clean = trimmed(text);
    if (clean.empty()) return {};
    Reader reader(clean, 1.0);
    const std::string expression = reader.expression();
    if (!reader.hasNames()) return {};
    mu::Parser& parser = freshParser();
    std::vector<std::string> names;
    try {
        parser.SetExpr(expression);
        for (const auto& [name, pointer] : parser.GetUsedVar())
            if (name != "lambda") names.push_back(name);
    } catch (const mu::Parser::exception_type& e) {
        explain(e, clean, {});
    }
    return names;
}

bool isPlainNumber(const std::string& text) {
    try {
        // A sign before the number belongs to it.
        std::string number = trimmed(text);
        for (const std::string sign : {"-", "+", "−"})
            if (number.starts_with(sign)) {
                number = trimmed(number.substr(sign.size()));
                break;
            }
        Reader reader(number, 1.0);
        reader.expression();
        return reader.single();
    } catch (const Error&) {
        return false;
    }
}

bool isUsableName(const std::string& name) {
    if (name.empty() || !isNameStart(name[0])) return false;
    if (!std::all_of(name.begin(), name.end(), isNameChar)) return false;
    return !isReserved(name);
}

std::string closestName(const std::string& name, const std::vector<std::string>& candidates) {
    std::string best;
    std::size_t bestDistance = std::max<std::size_t>(2, name.size() / 3) + 1;
    for (const auto& candidate : candidates) {
        // Levenshtein distance, one row at a time.
        std::vector<std::size_t> row(candidate.size() + 1);
        for (std::size_t j = 0; j < row.size(); ++j) row[j] = j;
        for (std::size_t i = 1; i <= name.size(); ++i) {
            std::size_t diagonal = row[0];
            row[0] = i;
            for (std::size_t j = 1; j < row.size(); ++j) {
                const std::size_t change = diagonal + (name[i - 1] == candidate[j - 1] ? 0 : 1);
                diagonal = row[j];
                row[j] = std::min({change, row[j] + 1, row[j - 1] + 1});
            }
        }
        if (row.back() < bestDistance) {
            bestDistance = row.back();
            best = candidate;
        }
    }
    return best;
}

}  // namespace rm::quantity
