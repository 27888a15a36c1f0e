#include "core/build/trim.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <set>

#include "core/build/cause_fit.h"
#include "core/circuit/chain.h"
#include "core/circuit/reflection.h"
#include "core/edit/shape_fields.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/stopped.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"
#include "core/study/varied.h"
#include "core/words/words.h"

namespace rm::build {

namespace {

using namespace rm::model;

/// Farther than this from what is drawn nobody trims.
constexpr double kReach = 0.18;
/// Lengths over that reach, then a golden section between the neighbours of the best.
constexpr int kScan = 19;
constexpr double kGolden = 0.6180339887;
constexpr double kSettled = 2e-4;
constexpr int kBandPoints = 9;
constexpr int kCurvePoints = 81;
/// What a tape can do, and what is no better an SWR.
constexpr double kTapeM = 0.001;
constexpr int kTapeMarks = 16;
constexpr double kTapeMarkM = 0.0254 / kTapeMarks;
constexpr double kNoBetterSwr = 0.02;
constexpr double kCannotBe = 1e9;

std::vector<std::size_t> measurementsFor(const Design& design, const TrimRequest& request) {
    if (!request.measured.empty()) return request.measured;
    std::vector<std::size_t> shown;
    for (std::size_t i = 0; i < design.measured.size(); ++i)
        if (design.measured[i].shown) shown.push_back(i);
    return shown;
}

/// The dimension that was asked for, or the first that tuning moves, or the first of all.
std::string dimensionFor(const Design& design, const TrimRequest& request,
                         const std::vector<std::string>& lengths) {
    if (lengths.empty())
        throw Error(
            say("No length here is a dimension: make dimensions of the wire that is to be cut first."));
    const auto can = [&](const std::string& name) {
        return std::find(lengths.begin(), lengths.end(), name) != lengths.end();
    };
    if (!request.dimension.empty() && !can(request.dimension))
        throw Error(say("\"{}\" is no length that can be cut: choose one of {}.", request.dimension,
                        fmt::join(lengths, ", ")));
    if (!request.dimension.empty()) return request.dimension;
    for (const auto& mover : design.tune.movers)
        if (can(mover.dimension)) return mover.dimension;
    return lengths.front();
}

/// The antenna as it was built, with one dimension changed: what its SWR is then.
class BuiltAntenna {
  public:
    BuiltAntenna(const Design& design, const std::vector<std::string>& lengths, const std::string& dimension,
                 const Band& band, study::FieldStore& fields, std::stop_token stop)
        : design_(design),
          lengths_(lengths),
          dimension_(dimension),
          band_(band),
          fields_(fields),
          stop_(std::move(stop)),
          nowM_(expand(design).dimensionValue.at(dimension)) {}

    double nowM() const { return nowM_; }

    /// At the radio at equally spaced frequencies.
    std::vector<double> swr(const Causes& causes, double changeM, double lowHz, double highHz,
                            int points) const {
        const auto cut = study::withDimension(design_, dimension_, nowM_ + changeM);
        const auto expansion = expand(withCauses(cut, lengths_, causes));
        study::requireUsable(expansion);
        const auto swept = study::sweep(expansion, lowHz, highHz, points, stop_, {}, &fields_);
        endWhere(stop_);
        std::vector<double> all;
        for (const auto& point : swept.points) {
            Complex z = atTerminals(point.antennaOhm, causes, point.frequencyHz);
            if (!expansion.feedPath.empty())
                z = circuit::walkChain(expansion.feedPath, z, point.frequencyHz).back().impedanceOhm;
            all.push_back(circuit::swr(z, expansion.referenceOhm));
        }
        return all;
    }

    double worst(const Causes& causes, double changeM) const {
        try {
            const auto all = swr(causes, changeM, band_.lowHz, band_.highHz, kBandPoints);
            return *std::max_element(all.begin(), all.end());
        } catch (const Error&) {
            return kCannotBe;  // such a length cannot be: nothing to trim to
        }
    }

    /// The change that makes the worst SWR over the band smallest, m.
    double bestCut(const Causes& causes) const {
        const double step = 2.0 * kReach * nowM_ / (kScan - 1);
        double best = 0.0;
        double value = kCannotBe;
        for (int i = 0; i < kScan; ++i) {
            const double at = step * (i - (kScan - 1) / 2);
            const double swr = worst(causes, at);
            if (swr >= value) continue;
            value = swr;
            best = at;
        }
        double low = best - step;
        double high = best + step;
        double a = high - kGolden * (high - low);
        double b = low + kGolden * (high - low);
        double fa = worst(causes, a);
        double fb = worst(causes, b);
        while (high - low > kSettled * nowM_) {
            const bool left = fa < fb;
            (left ? high : low) = left ? b : a;
            (left ? b : a) = left ? a : b;
            (left ? fb : fa) = left ? fa : fb;
            double& open = left ? a : b;
            open = left ? high - kGolden * (high - low) : low + kGolden * (high - low);
            (left ? fa : fb) = worst(causes, open);
        }
        return 0.5 * (low + high);
    }

  private:
    const Design& design_;
    const std::vector<std::string>& lengths_;
    std::string dimension_;
    const Band& band_;
    study::FieldStore& fields_;
    std::stop_token stop_;
    double nowM_;
};

/// How far the cut moves with what is not known, each cause by its own doubt.
double doubtOf(const BuiltAntenna& antenna, const CauseFit& fit, double cutM) {
    double variance = 0.0;
    for (const auto& found : fit.found()) {
        // What sits at the feed is no matter of length.
        if (found.cause == Cause::Capacitance || found.cause == Cause::Line || found.cause == Cause::Loss)
            continue;
        const double by = std::max(found.sigma, usual(found.cause).step);
        Causes moved = fit.causes();
        moved[indexOf(found.cause)] += by;
        const double change = (antenna.bestCut(moved) - cutM) * found.sigma / by;
        variance += change * change;
    }
    return std::sqrt(variance);
}

double bestHz(const TrimCurve& curve, const std::vector<double>& swr) {
    return curve.hz[static_cast<std::size_t>(std::min_element(swr.begin(), swr.end()) - swr.begin())];
}

/// What is cut off, as a tape shows it: never nothing of it.
std::string lengthWords(double metres, bool feet) {
    if (feet) {
        std::string tape = quantity::formatTape(std::max(metres, kTapeMarkM), kTapeMarks);
        for (const std::string none : {"0' ", "0 "})
            if (tape.starts_with(none)) tape.erase(0, none.size());
        return tape;
    }
    return metres < 1.0 ? figure("{:.1f} cm", 100.0 * metres) : figure("{:.2f} m", metres);
}

/// "leg (length of each leg)"
std::string called(const Design& design, const std::string& dimension) {
    for (const auto& d : design.dimensions)
        if (d.name == dimension && !d.note.empty()) {
            std::string note = d.note;
            note[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(note[0])));
            return fmt::format("{} ({})", dimension, note);
        }
    return dimension;
}

}  // namespace

std::string trimSentence(const TrimAnswer& a, bool feetAndInches) {
    const double change = std::abs(a.changeM);
    std::string advice;
    if (change < std::max(kTapeM, 0.7 * a.sigmaM) || a.afterSwr > a.beforeSwr - kNoBetterSwr)
        advice = say("Leave {} as it is: best SWR at {:.3f} MHz, {:.2f} or less over {}.", a.called,
                     a.beforeHz / 1e6, a.beforeSwr, a.band);
    else
        advice =
            say("{} {} by {} (± {}), to {}: best SWR from {:.3f} to {:.3f} MHz, worst over {} from {:.2f} "
                "to {:.2f}.",
                a.changeM < 0.0 ? say("Shorten") : say("Lengthen"), a.called,
                lengthWords(change, feetAndInches), lengthWords(a.sigmaM, feetAndInches),
                feetAndInches ? quantity::formatTape(a.nowM + a.changeM, kTapeMarks)
                              : figure("{:.3f} m", a.nowM + a.changeM),
                a.beforeHz / 1e6, a.afterHz / 1e6, a.band, a.beforeSwr, a.afterSwr);
    if (a.explained) return advice;
    return say(
        "What was measured does not fit any of these causes (it stays {:.2f} off in the reflection "
        "coefficient): check "
        "the feed line and its reference plane before cutting. {}",
        a.misfit, advice);
}

std::vector<std::string> trimDimensions(const Design& design) {
    // What no part hangs on cuts nothing.
    std::set<std::string> used;
    const std::function<void(const std::string&)> follow = [&](const std::string& text) {
        std::vector<std::string> names;
        try {
            names = quantity::namesIn(text);
        } catch (const Error&) {
            return;  // a finding already
        }
        for (const auto& name : names)
            if (used.insert(name).second)
                for (const auto& d : design.dimensions)
                    if (d.name == name) follow(d.text);
    };
    for (Part part : design.parts)
        for (const auto& field : edit::fieldsOf(part)) follow(*field.text);
    std::vector<std::string> names;
    for (const auto& d : design.dimensions)
        if (d.kind == DimensionKind::Length && d.scales && quantity::isPlainNumber(d.text) &&
            used.count(d.name) != 0)
            names.push_back(d.name);
    return names;
}

TrimAnswer trim(const Design& design, const TrimRequest& request, const std::stop_token& stop,
                const std::function<void(double)>& progress) {
    const auto say = [&](double share) {
        endWhere(stop);
        if (progress) progress(share);
    };
    const auto lengths = trimDimensions(design);
    TrimAnswer a;
    a.dimension = dimensionFor(design, request, lengths);
    study::requireUsable(expand(design));
    CauseFit fit(design, measurementsFor(design, request), request.band, lengths, stop);
    fit.run([&](double share) { say(0.5 * share); });
    a.causes = fit.found();
    a.explained = fit.explained();
    a.misfit = fit.misfit();
    a.misfitDrawn = fit.misfitDrawn();

    const BuiltAntenna antenna(design, lengths, a.dimension, request.band, fit.fields(), stop);
    a.nowM = antenna.nowM();
    a.changeM = antenna.bestCut(fit.causes());
    say(0.7);
    a.sigmaM = doubtOf(antenna, fit, a.changeM);
    say(0.9);
    a.beforeSwr = antenna.worst(fit.causes(), 0.0);
    a.afterSwr = antenna.worst(fit.causes(), a.changeM);

    // Over what was measured and the band, whichever is wider.
    const double low = std::min(request.band.lowHz, fit.lowHz());
    const double high = std::max(request.band.highHz, fit.highHz());
    for (int i = 0; i < kCurvePoints; ++i) {
        a.curve.hz.push_back(low + (high - low) * i / (kCurvePoints - 1));
        a.curve.measuredSwr.push_back(fit.measuredSwr(a.curve.hz.back()));
    }
    a.curve.drawnSwr = antenna.swr({}, 0.0, low, high, kCurvePoints);
    a.curve.fittedSwr = antenna.swr(fit.causes(), 0.0, low, high, kCurvePoints);
    a.curve.cutSwr = antenna.swr(fit.causes(), a.changeM, low, high, kCurvePoints);
    a.beforeHz = bestHz(a.curve, a.curve.fittedSwr);
    a.afterHz = bestHz(a.curve, a.curve.cutSwr);
    a.called = called(design, a.dimension);
    a.band = request.band.name;
    return a;
}

}  // namespace rm::build
