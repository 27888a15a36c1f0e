// What is spoken with an analyser: lines of plain text, over TCP or a serial device (docs/formats.md).
//
// To it "sweep 7000000 7200000 41": from and to in Hz, number of points. From it a "point 7000000 48.21
// -3.06" for each, frequency in Hz, resistance and reactance in ohm, and "done" after the last one; or
// instead "error" with a sentence.
#pragma once

#include <string>
#include <string_view>

#include "core/model/measured.h"

namespace rm::io {

inline constexpr int kMostAnalyserPoints = 2001;
inline constexpr std::size_t kLongestAnalyserLine = 400;

struct AnalyserSweep {
    double lowHz = 0.0;
    double highHz = 0.0;
    int points = 41;
    double frequencyHz(int i) const { return lowHz + (highHz - lowHz) * i / (points - 1); }
};

/// Lines of the two sides, with their ends.
std::string sweepLine(const AnalyserSweep& sweep);
std::string pointLine(double frequencyHz, Complex ohm);

/// What a client asks for. Throws rm::Error where the line is no sweep, or one that nobody can do.
AnalyserSweep readSweepLine(const std::string& line);

/// Collects what an analyser sends, in pieces of any size.
class AnalyserReader {
  public:
    explicit AnalyserReader(const AnalyserSweep& asked) : asked_(asked) {}

    /// Throws rm::Error for what is not of this language, what was not asked for, and what the analyser says
    /// is wrong.
    void take(std::string_view bytes);

    bool done() const { return done_; }
    int points() const { return static_cast<int>(data_.points.size()); }
    /// By rising frequency, with the SWR to 50 ohm.
    const model::MeasuredData& data() const { return data_; }

  private:
    void line(const std::string& line);

    AnalyserSweep asked_;
    std::string rest_;
    model::MeasuredData data_;
    bool done_ = false;
};

}  // namespace rm::io
