#include "core/project/analyser_lines.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>
#include <vector>

#include "core/circuit/reflection.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

constexpr double kReferenceOhm = 50.0;
/// Radio, as far as anybody measures antennas.
constexpr double kLowestHz = 1e3;
constexpr double kHighestHz = 1e11;

std::vector<std::string> wordsOfLine(const std::string& line) {
    std::istringstream in(line);
    std::vector<std::string> words;
    for (std::string word; in >> word;) words.push_back(word);
    return words;
}

}  // namespace

std::string sweepLine(const AnalyserSweep& sweep) {
    return fmt::format("sweep {:.0f} {:.0f} {}\n", sweep.lowHz, sweep.highHz, sweep.points);
}

std::string pointLine(double frequencyHz, Complex ohm) {
    return fmt::format("point {:.0f} {:.6g} {:.6g}\n", frequencyHz, ohm.real(), ohm.imag());
}

AnalyserSweep readSweepLine(const std::string& line) {
    const auto words = wordsOfLine(line);
    if (words.size() != 4 || words[0] != "sweep")
        throw Error(say("A sweep is asked for by \"sweep FROM TO POINTS\", frequencies in Hz."));
    const auto low = quantity::readNumber(words[1]);
    const auto high = quantity::readNumber(words[2]);
    const auto points = quantity::readNumber(words[3]);
    if (!low || !high || *low < kLowestHz || *high > kHighestHz || !(*high > *low))
        throw Error(say("A sweep goes from a lower to a higher frequency, from 1 kHz to 100 GHz."));
    if (!points || *points != std::floor(*points) || *points < 2.0 || *points > kMostAnalyserPoints)
        throw Error(say("A sweep takes from 2 to {} points.", kMostAnalyserPoints));
    return {*low, *high, static_cast<int>(*points)};
}

void AnalyserReader::take(std::string_view bytes) {
    for (const char c : bytes) {
        if (done_) return;
        if (c != '\n') {
            rest_ += c;
            if (rest_.size() > kLongestAnalyserLine)
                throw Error(say("The analyser sends no lines: is something else at this address?"));
            continue;
        }
        const std::string whole = quantity::plainText(rest_);
        rest_.clear();
        line(whole);
    }
}

void AnalyserReader::line(const std::string& line) {
    const auto words = wordsOfLine(line);
    if (words.empty()) return;
    if (words[0] == "error") {
        const auto at = line.find("error") + 5;
        throw Error(say("The analyser says:{}", line.substr(at)));
    }
    if (words[0] == "done") {
        if (points() != asked_.points)
            throw Error(say("The analyser sent {} points of {}.", points(), asked_.points));
        done_ = true;
        return;
    }
    if (words.size() != 4 || words[0] != "point")
        throw Error(say("The analyser says \"{}\", which is no point of a sweep.", line.substr(0, 60)));
    const auto hz = quantity::readNumber(words[1]);
    const auto r = quantity::readNumber(words[2]);
    const auto x = quantity::readNumber(words[3]);
    if (!hz || !r || !x)
        throw Error(say("The analyser says \"{}\": one of these is no number.", line.substr(0, 60)));
    // Frequencies are whole hertz on their way.
    if (points() >= asked_.points || std::abs(*hz - asked_.frequencyHz(points())) > 1.0)
        throw Error(say("The analyser measured at {:.0f} Hz, which was not asked for.", *hz));
    model::MeasuredPoint point;
    point.frequencyHz = *hz;
    point.impedanceOhm = Complex(*r, *x);
    // A resistance below nothing is an analyser's noise, or its end of the scale.
    point.swr = std::clamp(circuit::swr(*point.impedanceOhm, kReferenceOhm), 1.0, circuit::kMostSwr);
    if (!(point.impedanceOhm->real() > 0.0)) point.swr = circuit::kMostSwr;
    data_.points.push_back(point);
    data_.referenceOhm = kReferenceOhm;
}

}  // namespace rm::io
