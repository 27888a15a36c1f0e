#include "app/session/runner.h"

#include <QMetaType>
#include <algorithm>

#include "core/project/project_file.h"

namespace rm::app {

namespace {

/// Patterns change slowly over a band.
constexpr int kPatternPoints = 9;
constexpr std::size_t kPinsKept = 200;
constexpr double kLobeStepDeg = 5.0;
constexpr std::size_t kMostBystanders = 4;

MeasuredPtr planesOf(const model::Design& design, const model::Expansion& expansion) {
    auto planes = std::make_shared<std::vector<study::MeasuredPlanes>>();
    for (std::size_t i = 0; i < design.measured.size(); ++i)
        planes->push_back({study::measuredAt(design, expansion, i, study::Plane::Radio),
                           study::measuredAt(design, expansion, i, study::Plane::Antenna)});
    return planes;
}

}  // namespace

Runner::Runner(QObject* parent) : QObject(parent) {
    qRegisterMetaType<rm::app::ExpansionPtr>("rm::app::ExpansionPtr");
    qRegisterMetaType<rm::app::AnalysisPtr>("rm::app::AnalysisPtr");
    qRegisterMetaType<rm::app::SweepPtr>("rm::app::SweepPtr");
    qRegisterMetaType<rm::app::MeasuredPtr>("rm::app::MeasuredPtr");
    qRegisterMetaType<rm::app::PinsPtr>("rm::app::PinsPtr");
    qRegisterMetaType<rm::app::LobePtr>("rm::app::LobePtr");
    qRegisterMetaType<rm::app::DrivesPtr>("rm::app::DrivesPtr");
    qRegisterMetaType<rm::app::PathPtr>("rm::app::PathPtr");
    qRegisterMetaType<rm::app::PatternSweepPtr>("rm::app::PatternSweepPtr");
    thread_ = std::jthread([this](std::stop_token stop) { loop(stop); });
}

Runner::~Runner() {
    cancel();
    thread_.request_stop();
    wake_.notify_all();
}

void Runner::start(const Request& request) {
    const std::scoped_lock lock(mutex_);
    next_ = request;
    work_.request_stop();
    wake_.notify_all();
}

void Runner::cancel() {
    const std::scoped_lock lock(mutex_);
    work_.request_stop();
}

void Runner::loop(std::stop_token stop) {
    while (!stop.stop_requested()) {
        Request request;
        std::stop_token work;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [this] { return next_.has_value(); })) return;
            request = *next_;
            next_.reset();
            work_ = std::stop_source();
            work = work_.get_token();
        }
        compute(request, work);
    }
}

void Runner::compute(const Request& request, std::stop_token stop) {
    const quint64 g = request.generation;
    const auto expansion = std::make_shared<const model::Expansion>(model::expand(request.project->active()));
    Q_EMIT expanded(g, expansion);
    Q_EMIT measured(g, planesOf(request.project->active(), *expansion));
    try {
        study::requireUsable(*expansion);
        study::AnalysisOptions options = request.options;
        options.fields = &fields_;
        const auto analysis =
            std::make_shared<const study::Analysis>(study::analyse(*expansion, request.frequencyHz, options));
        if (stop.stop_requested()) return;
        Q_EMIT analysed(g, analysis);
        if (request.lobeToo)
            Q_EMIT lobed(g, std::make_shared<const study::LobeGrid>(study::lobeGrid(
                                *analysis->mesh, analysis->reading, kLobeStepDeg, options.component)));
        if (request.drivesToo)
            Q_EMIT drivesStudied(
                g, std::make_shared<const std::vector<study::DriveRow>>(study::studyDrives(
                       request.project->active(), request.frequencyHz, analysis->elevation.fixedAngleDeg,
                       analysis->azimuth.fixedAngleDeg, &fields_, stop)));
        const auto range = std::make_shared<const study::Sweep>(study::sweep(
            *expansion, request.lowHz, request.highHz, request.points, stop,
            [&](double share) { Q_EMIT progress(g, share); }, &fields_));
        if (range->points.empty()) return;
        Q_EMIT rangeSwept(g, range);
        const auto& project = *request.project;
        std::vector<SweepPtr> swept(project.bands.size());
        const auto studyPath = [&] {
            std::vector<const study::Sweep*> bands;
            for (const auto& band : swept) bands.push_back(band.get());
            Q_EMIT pathStudied(g, std::make_shared<const study::PathStudy>(
                                      study::studyPath(*expansion, analysis->figures.antennaOhm,
                                                       request.frequencyHz, *range, bands, request.wish)));
        };
        studyPath();
        if (!project.pins.empty()) {
            const PinsPtr pins = workOutPins(request, *analysis, expansion->headingDeg, stop);
            if (stop.stop_requested()) return;
            Q_EMIT pinned(g, pins);
        }
        if (request.patternsToo)
            Q_EMIT patternsSwept(
                g, std::make_shared<const std::vector<study::PatternPoint>>(study::patternSweep(
                       *expansion, request.lowHz, request.highHz, kPatternPoints, stop, &fields_)));
        for (std::size_t b = 0; request.bandsToo && b < project.bands.size(); ++b) {
            if (stop.stop_requested()) return;
            const auto& names = project.active().bands;
            if (!names.empty() && std::find(names.begin(), names.end(), project.bands[b].name) == names.end())
                continue;
            const auto band = std::make_shared<const study::Sweep>(study::sweep(
                *expansion, project.bands[b].lowHz, project.bands[b].highHz, 11, stop, {}, &fields_));
            if (!band->complete) return;
            swept[b] = band;
            Q_EMIT bandSwept(g, static_cast<int>(b), band);
        }
        if (request.bandsToo) studyPath();
        QStringList sentences;
        for (const auto& b : study::bystanders(*expansion, *analysis, kMostBystanders, &fields_, stop))
            sentences << QString::fromStdString(b.sentence());
        if (stop.stop_requested()) return;
        Q_EMIT remarked(g, sentences);
        Q_EMIT finished(g);
    } catch (const std::exception& e) {
        Q_EMIT failed(g, QString::fromUtf8(e.what()));
    }
}

/// The pins cut at the bearing and elevation of the live antenna, on the compass, so that like lies on like.
PinsPtr Runner::workOutPins(const Request& request, const study::Analysis& live, double headingDeg,
                            std::stop_token stop) {
    auto results = std::make_shared<std::vector<std::shared_ptr<const PinResult>>>();
    const double bearing = headingDeg - live.elevation.fixedAngleDeg;
    if (pins_.size() > kPinsKept) pins_.clear();
    for (std::size_t i = 0; i < request.project->pins.size(); ++i) {
        const model::Pin& pin = request.project->pins[i];
        results->push_back(nullptr);
        const auto& names = pin.design.bands;
        const std::string band =
            request.project->bands.empty()
                ? std::string()
                : request.project
                      ->bands[std::min(request.project->workingBand, request.project->bands.size() - 1)]
                      .name;
        // Figures of an antenna on a band that it is not for would only mislead.
        const bool meant = names.empty() || std::find(names.begin(), names.end(), band) != names.end();
        if (!pin.shown || !meant || stop.stop_requested()) continue;
        model::Project alone;
        alone.designs.push_back(pin.design);
        const std::string key =
            io::toJson(alone).dump() +
            QString(" %1 %2 %3 %4 %5 %6 %7 %8")
                .arg(10 * overlayOf(pin, i) + (static_cast<int>(i) == request.project->baseline ? 1 : 0))
                .arg(QString::fromStdString(pin.name))
                .arg(request.frequencyHz, 0, 'f', 3)
                .arg(bearing, 0, 'f', 2)
                .arg(live.azimuth.fixedAngleDeg, 0, 'f', 2)
                .arg(request.lowHz, 0, 'f', 1)
                .arg(request.highHz, 0, 'f', 1)
                .arg(100 * request.points + 10 * static_cast<int>(request.patternsToo) +
                     static_cast<int>(request.options.component))
                .toStdString();
        auto& kept = pins_[key];
        if (!kept) {
            auto result = std::make_shared<PinResult>();
            result->name = pin.name;
            result->colour = overlayOf(pin, i);
            result->baseline = static_cast<int>(i) == request.project->baseline;
            try {
                result->expansion = std::make_shared<const model::Expansion>(model::expand(pin.design));
                const model::Expansion& e = *result->expansion;
                result->headingDeg = e.headingDeg;
                study::AnalysisOptions options = request.options;
                options.fields = &fields_;
                options.bearingAzimuthDeg = e.headingDeg - bearing;
                options.azimuthElevationDeg = live.azimuth.fixedAngleDeg;
                result->analysis =
                    std::make_shared<const study::Analysis>(study::analyse(e, request.frequencyHz, options));
                result->sweep = std::make_shared<const study::Sweep>(
                    study::sweep(e, request.lowHz, request.highHz, request.points, stop, {}, &fields_));
                if (!result->sweep->complete) return results;
                if (request.patternsToo)
                    result->patterns =
                        std::make_shared<const std::vector<study::PatternPoint>>(study::patternSweep(
                            e, request.lowHz, request.highHz, kPatternPoints, stop, &fields_));
                if (stop.stop_requested()) return results;
            } catch (const Error& e) {
                result->problem = e.what();
            }
            kept = result;
        }
        results->back() = kept->analysis ? kept : nullptr;
    }
    return results;
}

Task::~Task() {
    thread_.request_stop();
}

void Task::start(std::function<std::function<void()>(std::stop_token)> work) {
    thread_ = {};
    running_ = true;
    // What an earlier work still has to say comes too late.
    const int turn = ++turn_;
    thread_ = std::jthread([this, turn, work = std::move(work)](std::stop_token stop) {
        const auto end = [this, turn](std::function<void()> what) {
            QMetaObject::invokeMethod(this, [this, turn, what = std::move(what)] {
                if (turn != turn_) return;
                running_ = false;
                if (what) what();
                Q_EMIT done();
            });
        };
        try {
            end(work(stop));
        } catch (const std::exception& e) {
            end([this, sentence = QString::fromUtf8(e.what())] { Q_EMIT failed(sentence); });
        }
    });
}

}  // namespace rm::app
