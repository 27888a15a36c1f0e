#include "core/project/touchstone.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <sstream>

#include "core/model/limits.h"
#include "core/project/text_file.h"
#include "core/project/text_table.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

/// What stands for an open end.
constexpr double kOpenOhm = 1e9;

std::string upper(std::string word) {
    std::transform(word.begin(), word.end(), word.begin(),
                   [](unsigned char c) { return static_cast<char>(std::toupper(c)); });
    return word;
}

/// The option line: "# MHz S MA R 50", every part optional.
struct Options {
    double unitHz = 1e9;
    char parameter = 'S';
    std::string format = "MA";
    double referenceOhm = 50.0;
};

class Parser {
  public:
    Parser(const std::string& text, const std::string& name) : lines_(linesOf(text)), name_(name) {}

    std::vector<ImpedancePoint> run() {
        for (const auto& whole : lines_) {
            ++number_;
            const std::string line = whole.substr(0, whole.find('!'));
            std::istringstream words(line);
            std::string first;
            if (!(words >> first)) continue;
            if (first.front() == '#') {
                // Only the first option line counts.
                if (!haveOptions_) readOptions(line.substr(line.find('#') + 1));
                haveOptions_ = true;
                continue;
            }
            readData(line);
        }
        if (points_.empty()) throw Error(say("{} holds no measured points.", name_));
        return std::move(points_);
    }

  private:
    [[noreturn]] void fail(const std::string& what) const {
        throw Error(say("{}, line {}: {}", name_, number_, what));
    }

    double toNumber(const std::string& word) const {
        const auto value = quantity::readNumber(word);
        if (!value) fail(say("\"{}\" is not a number.", word));
        return *value;
    }

    void readOptions(const std::string& line) {
        static const std::map<std::string, double> kUnits = {
            {"HZ", 1.0}, {"KHZ", 1e3}, {"MHZ", 1e6}, {"GHZ", 1e9}};
        std::istringstream words(line);
        std::string word;
        while (words >> word) {
            const std::string w = upper(word);
            if (const auto unit = kUnits.find(w); unit != kUnits.end()) {
                options_.unitHz = unit->second;
            } else if (w == "S" || w == "Z" || w == "Y") {
                options_.parameter = w.front();
            } else if (w == "MA" || w == "DB" || w == "RI") {
                options_.format = w;
            } else if (w == "R") {
                std::string value;
                if (!(words >> value)) fail(say("the reference resistance after R is missing."));
                options_.referenceOhm = toNumber(value);
                if (options_.referenceOhm <= 0.0) fail(say("the reference resistance has to be above zero."));
            } else {
                fail(say("\"{}\" is not an option of a one-port file.", word));
            }
        }
    }

    void readData(const std::string& line) {
        std::istringstream words(line);
        std::vector<double> v;
        std::string word;
        while (words >> word) v.push_back(toNumber(word));
        if (v.size() != 3) fail(say("a one-port line has three numbers, this one {}.", v.size()));
        const double hz = v[0] * options_.unitHz;
        if (!(hz > 0.0)) fail(say("the frequency has to be above zero."));
        if (!(hz >= model::kLowestHz && hz <= model::kHighestHz))
            fail(say("{:.6g} MHz is no frequency of an antenna; check the unit.", hz / 1e6));
        if (!points_.empty() && hz <= points_.back().frequencyHz) fail(say("the frequencies have to rise."));
        Complex value(v[1], v[2]);
        if (options_.format == "MA") value = std::polar(v[1], v[2] * kDegree);
        if (options_.format == "DB") value = std::polar(std::pow(10.0, v[1] / 20.0), v[2] * kDegree);
        points_.push_back({hz, impedance(value)});
    }

    /// Z and Y are normalised to the reference in version 1. An open end reads as an impedance without end,
    /// which neither a file nor a plot can hold.
    Complex impedance(Complex value) const {
        const double r = options_.referenceOhm;
        Complex z = value * r;
        if (options_.parameter == 'Y') z = r / value;
        if (options_.parameter == 'S') z = r * (1.0 + value) / (1.0 - value);
        return std::abs(z) < kOpenOhm ? z : Complex(kOpenOhm);
    }

    std::vector<std::string> lines_;
    std::string name_;
    Options options_;
    bool haveOptions_ = false;
    int number_ = 0;
    std::vector<ImpedancePoint> points_;
};

}  // namespace

std::vector<ImpedancePoint> parseTouchstone(const std::string& text, const std::string& name) {
    return Parser(text, name).run();
}

std::vector<ImpedancePoint> readTouchstone(const std::filesystem::path& file) {
    return parseTouchstone(readTextFile(file), file.string());
}

std::string touchstoneText(const std::vector<ImpedancePoint>& points, double referenceOhm,
                           const std::string& comment) {
    std::string text = fmt::format("! {}\n# MHz S RI R {:g}\n", quantity::plainText(comment), referenceOhm);
    for (const auto& p : points) {
        const Complex gamma = std::isfinite(std::abs(p.impedanceOhm))
                                  ? (p.impedanceOhm - referenceOhm) / (p.impedanceOhm + referenceOhm)
                                  : Complex(1.0);
        // What is far below the last digit kept is nothing, and no number that would be refused when read.
        const auto kept = [](double part) { return std::abs(part) < 1e-12 ? 0.0 : part; };
        text += fmt::format("{:.9g} {:.9g} {:.9g}\n", p.frequencyHz / 1e6, kept(gamma.real()),
                            kept(gamma.imag()));
    }
    return text;
}

}  // namespace rm::io
