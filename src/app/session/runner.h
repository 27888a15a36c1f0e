// Computes in the background what the bench shows: the newest request wins, older work is cancelled.
#pragma once

#include <QObject>
#include <condition_variable>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

#include "app/session/document.h"
#include "core/study/currents.h"
#include "core/study/drive_study.h"
#include "core/study/figures.h"
#include "core/study/lobe_grid.h"
#include "core/study/measured_curve.h"
#include "core/study/path_study.h"
#include "core/study/pattern_sweep.h"
#include "core/study/sweep.h"

namespace rm::app {

using ExpansionPtr = std::shared_ptr<const model::Expansion>;
using AnalysisPtr = std::shared_ptr<const study::Analysis>;
using SweepPtr = std::shared_ptr<const study::Sweep>;
using LobePtr = std::shared_ptr<const study::LobeGrid>;
using DrivesPtr = std::shared_ptr<const std::vector<study::DriveRow>>;
using PathPtr = std::shared_ptr<const study::PathStudy>;
using MeasuredPtr = std::shared_ptr<const std::vector<study::MeasuredPlanes>>;

/// What a pin comes to at the working frequency and over the range shown; `problem` where it cannot.
struct PinResult {
    std::string name;
    std::size_t colour = 0;  ///< of the overlay colours
    bool baseline = false;
    double headingDeg = 0.0;
    AnalysisPtr analysis;
    SweepPtr sweep;
    ExpansionPtr expansion;
    std::shared_ptr<const std::vector<study::PatternPoint>> patterns;  ///< where they were asked for
    std::string problem;
};
/// The overlay colour of the pin at this place.
inline std::size_t overlayOf(const model::Pin& pin, std::size_t place) {
    return pin.colour >= 0 ? static_cast<std::size_t>(pin.colour) : place;
}

/// One per pin of the project; null where it is hidden.
using PinsPtr = std::shared_ptr<const std::vector<std::shared_ptr<const PinResult>>>;
using PatternSweepPtr = std::shared_ptr<const std::vector<study::PatternPoint>>;

/// What to compute: the active design at a frequency, then sweeps of its bands, the working band first.
struct Request {
    ProjectPtr project;
    quint64 generation = 0;
    double frequencyHz = 0.0;
    study::AnalysisOptions options;
    double lowHz = 0.0;  ///< range of the band instrument
    double highHz = 0.0;
    int points = 41;
    bool bandsToo = true;
    study::MatchWish wish;
    bool lobeToo = false;      ///< the lobe in three dimensions
    bool drivesToo = false;    ///< all drive sets side by side
    bool patternsToo = false;  ///< gain, front-to-back and takeoff over the range as well
};

class Runner : public QObject {
    Q_OBJECT
  public:
    explicit Runner(QObject* parent = nullptr);
    ~Runner() override;

    /// Starts this work and cancels what runs.
    void start(const Request& request);
    /// Cancels the sweep that runs.
    void cancel();
    /// Field solutions made so far: a change of a load, a line or the feed path makes none.
    int solutions() const { return fields_.solutions(); }

  Q_SIGNALS:
    void expanded(quint64 generation, rm::app::ExpansionPtr expansion);
    /// The measurements of the design, in their order.
    void measured(quint64 generation, rm::app::MeasuredPtr planes);
    void analysed(quint64 generation, rm::app::AnalysisPtr analysis);
    void failed(quint64 generation, QString sentence);
    void rangeSwept(quint64 generation, rm::app::SweepPtr sweep);
    void bandSwept(quint64 generation, int band, rm::app::SweepPtr sweep);
    void progress(quint64 generation, double share);
    /// After the range, and again after all bands.
    void pathStudied(quint64 generation, rm::app::PathPtr study);
    void lobed(quint64 generation, rm::app::LobePtr lobe);
    void drivesStudied(quint64 generation, rm::app::DrivesPtr rows);
    /// Sentences about parts that carry current without being fed.
    void remarked(quint64 generation, QStringList sentences);
    void pinned(quint64 generation, rm::app::PinsPtr pins);
    void patternsSwept(quint64 generation, rm::app::PatternSweepPtr points);
    void finished(quint64 generation);

  private:
    void loop(std::stop_token stop);
    void compute(const Request& request, std::stop_token stop);
    PinsPtr workOutPins(const Request& request, const study::Analysis& live, double headingDeg,
                        std::stop_token stop);

    study::FieldStore fields_;
    std::map<std::string, std::shared_ptr<const PinResult>> pins_;  ///< by all that they rest on
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Request> next_;
    std::stop_source work_;
    std::jthread thread_;
};

/// Runs one function in the background and hands its result, or the sentence of its rm::Error, to the thread
/// of `context`. The returned source cancels it.
class Task : public QObject {
    Q_OBJECT
  public:
    explicit Task(QObject* parent) : QObject(parent) {}
    ~Task() override;
    /// `work` runs elsewhere and returns what to do here afterwards.
    void start(std::function<std::function<void()>(std::stop_token)> work);
    void cancel() { thread_.request_stop(); }
    bool running() const { return running_; }

  Q_SIGNALS:
    void failed(QString sentence);
    void done();

  private:
    std::jthread thread_;
    bool running_ = false;
    int turn_ = 0;
};

}  // namespace rm::app
