#include "app/session/runner.h"

#include <fmt/format.h>
#include <QMetaType>
#include <QTimer>

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <map>
#include <mutex>
#include <thread>

#include "app/look/text.h"
#include "app/session/task.h"
#include "core/edit/designs.h"
#include "core/project/project_file.h"
#include "core/stopped.h"
#include "core/study/balance.h"
#include "core/study/field_store.h"
#include "core/study/lying.h"

namespace rm::app {

namespace {

/// Patterns change slowly over a band.
constexpr int kPatternPoints = 9;
constexpr int kBandPoints = 11;
/// Figures that come this soon after Stop are shown rather than none.
constexpr int kGraceMs = 30;
/// What comes after the first figures waits for their picture, but no longer than this: a window that is
/// hidden paints none.
constexpr std::chrono::milliseconds kPictureWait{30};
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

DoubtPtr doubtOf(const model::Expansion& expansion, double frequencyHz, study::FieldStore& checks,
                 const std::stop_token& stop) {
    const auto doubt = study::selfCheck(expansion.model, frequencyHz, &checks, stop);
    return doubt ? std::make_shared<const study::Doubt>(*doubt) : nullptr;
}

bool sameEdges(const model::Band& a, const model::Band& b) {
    return a.lowHz == b.lowHz && a.highHz == b.highHz;
}

bool sameCuts(const study::AnalysisOptions& a, const study::AnalysisOptions& b) {
    return a.bearingAzimuthDeg == b.bearingAzimuthDeg && a.azimuthElevationDeg == b.azimuthElevationDeg &&
           a.component == b.component;
}

}  // namespace

/// The workplace: it outlives the runner for as long as the work at hand takes to let go.
struct Runner::Shop {
    explicit Shop(Runner* runner) : mailbox(runner), owner(runner) {}

    void loop(const std::shared_ptr<Shop>& self);
    void compute(const Request& request, std::stop_token stop, std::stop_token stopField);
    PinsPtr workOutPins(const Request& request, const Results& live, std::stop_token stop);
    void publish(const Results& results);
    void awaitPicture(quint64 generation, const std::stop_token& stop);

    Mailbox mailbox;
    Runner* owner;  ///< to be touched on its own thread alone
    study::FieldStore fields;
    study::FieldStore checks{24, std::size_t{64} << 20};           ///< what the self-check solves beside them
    std::map<std::string, std::shared_ptr<const PinResult>> pins;  ///< by all that they rest on
    Results last;                                                  ///< of the newest work, as far as it came
    study::AnalysisOptions lastOptions;
    std::mutex mutex;
    std::condition_variable wake;
    std::optional<Request> next;
    std::stop_source work;
    std::stop_source field;     ///< of the first figures alone
    bool stopped = false;       ///< the newest request, begun or not, is to end with its first figures
    bool fieldStopped = false;  ///< and before them, where they have not come by now
    unsigned asked = 0;         ///< how many requests there were
    quint64 painted = 0;        ///< the newest generation whose first figures are on the screen
    bool closed = false;
};

Runner::Runner(QObject* parent) : QObject(parent), shop_(std::make_shared<Shop>(this)) {
    qRegisterMetaType<rm::app::ResultsPtr>("rm::app::ResultsPtr");
    std::thread([shop = shop_] { shop->loop(shop); }).detach();
}

Runner::~Runner() {
    shop_->mailbox.close();
    const std::scoped_lock lock(shop_->mutex);
    shop_->closed = true;
    shop_->work.request_stop();
    shop_->field.request_stop();
    shop_->wake.notify_all();
}

int Runner::solutions() const {
    return shop_->fields.solutions();
}

void Runner::painted(quint64 generation) {
    const std::scoped_lock lock(shop_->mutex);
    shop_->painted = generation;
    shop_->wake.notify_all();
}

void Runner::start(const Request& request) {
    const std::scoped_lock lock(shop_->mutex);
    shop_->next = request;
    shop_->stopped = shop_->fieldStopped = false;
    ++shop_->asked;
    shop_->work.request_stop();
    shop_->field.request_stop();
    shop_->wake.notify_all();
}

void Runner::cancel() {
    const std::scoped_lock lock(shop_->mutex);
    shop_->stopped = true;
    shop_->work.request_stop();
    shop_->wake.notify_all();
    QTimer::singleShot(kGraceMs, this, [shop = shop_, asked = shop_->asked] {
        const std::scoped_lock still(shop->mutex);
        if (shop->asked != asked) return;
        shop->fieldStopped = true;
        shop->field.request_stop();
    });
}

void Runner::Shop::loop(const std::shared_ptr<Shop>& self) {
    while (true) {
        Request request;
        std::stop_token stop;
        std::stop_token stopField;
        {
            std::unique_lock lock(mutex);
            wake.wait(lock, [this] { return closed || next.has_value(); });
            if (closed) return;
            request = std::move(*next);
            next.reset();
            work = std::stop_source();
            field = std::stop_source();
            if (stopped) work.request_stop();
            if (fieldStopped) field.request_stop();
            stop = work.get_token();
            stopField = field.get_token();
        }
        self->compute(request, stop, stopField);
    }
}

void Runner::Shop::awaitPicture(quint64 generation, const std::stop_token& stop) {
    std::unique_lock lock(mutex);
    wake.wait_for(lock, kPictureWait,
                  [&] { return closed || stop.stop_requested() || painted >= generation; });
}

void Runner::Shop::publish(const Results& results) {
    last = results;
    mailbox.post([runner = owner, shared = std::make_shared<const Results>(results)] {
        Q_EMIT runner->published(shared);
    });
}

void Runner::Shop::compute(const Request& request, std::stop_token stop, std::stop_token stopField) {
    const Results before = last;
    const bool sameAntenna = before.expansion && before.expansion == request.first.expansion;
    Results r = request.first;
    const model::Expansion& expansion = *r.expansion;
    const model::Project& project = *r.project;
    const auto finish = [&] {
        r.finished = true;
        publish(r);
    };
    try {
        r.measured = sameAntenna && before.measured ? before.measured : planesOf(r.design(), expansion);
        study::requireUsable(expansion);
        study::AnalysisOptions options = request.options;
        options.fields = &fields;
        options.stop = stopField;
        const bool sameFigures = sameAntenna && before.analysis && before.frequencyHz == r.frequencyHz &&
                                 sameCuts(options, lastOptions);
        r.analysis =
            sameFigures
                ? before.analysis
                : std::make_shared<const study::Analysis>(study::analyse(expansion, r.frequencyHz, options));
        lastOptions = options;
        const bool sameRange =
            r.lowHz == before.lowHz && r.highHz == before.highHz && r.points == before.points;
        if (sameAntenna && before.sweep && before.sweep->complete && sameRange) r.sweep = before.sweep;
        // Bands that have been swept stay: by their edges, wherever they stand now.
        r.bands.resize(project.bands.size());
        for (std::size_t b = 0; sameAntenna && b < r.bands.size(); ++b)
            for (std::size_t old = 0; old < before.bands.size() && old < before.project->bands.size(); ++old)
                if (before.bands[old] && sameEdges(project.bands[b], before.project->bands[old]))
                    r.bands[b] = before.bands[old];
        const bool samePins = before.pins && before.project && before.project->pins == project.pins &&
                              before.project->baseline == project.baseline &&
                              before.frequencyHz == r.frequencyHz && before.component == r.component &&
                              sameRange;
        if (samePins) r.pins = before.pins;
        if (sameFigures) {
            r.remarks = before.remarks;
            if (!request.wants.lobe || before.lobe) r.lobe = before.lobe;
        }
        if (sameFigures && request.wants.drives) r.drives = before.drives;
        if (sameAntenna && sameRange && request.wants.patterns) r.patterns = before.patterns;
        publish(r);
        if (!sameFigures) awaitPicture(r.generation, stop);
        if (stop.stop_requested()) return finish();
        if (request.wants.lobe && !r.lobe)
            r.lobe = std::make_shared<const study::LobeGrid>(
                study::lobeGrid(*r.analysis->mesh, r.analysis->reading, kLobeStepDeg, options.component));
        if (request.wants.drives && !r.drives)
            r.drives = std::make_shared<const std::vector<study::DriveRow>>(
                study::studyDrives(r.design(), r.frequencyHz, r.analysis->elevation.fixedAngleDeg,
                                   r.analysis->azimuth.fixedAngleDeg, &fields, stop));
        if (!r.sweep) {
            auto swept = std::make_shared<const study::Sweep>(study::sweep(
                expansion, r.lowHz, r.highHz, r.points, stop,
                [&, generation = r.generation](double share) {
                    mailbox.post(
                        [runner = owner, generation, share] { Q_EMIT runner->progress(generation, share); });
                },
                &fields));
            if (!swept->points.empty()) r.sweep = std::move(swept);
        }
        // Stopped by hand the sweep is shown as far as it came; stopped by a newer request nobody looks at
        // it.
        if (!r.sweep) return finish();
        const auto studyPath = [&] {
            if (!request.wants.path) return;
            std::vector<const study::Sweep*> swept;
            for (const auto& band : r.bands) swept.push_back(band.get());
            r.path = std::make_shared<const study::PathStudy>(
                study::studyPath(expansion, r.analysis->figures.antennaOhm, r.frequencyHz, *r.sweep, swept,
                                 *request.wants.path));
        };
        studyPath();
        if (!r.range && project.workingBand < r.bands.size()) r.bands[project.workingBand] = r.sweep;
        publish(r);
        if (stop.stop_requested()) return finish();
        if (project.pins.empty()) {
            r.pins.reset();
        } else {
            const PinsPtr worked = workOutPins(request, r, stop);
            if (stop.stop_requested()) return finish();
            r.pins = worked;
            publish(r);
        }
        if (request.wants.patterns && !r.patterns) {
            r.patterns = std::make_shared<const std::vector<study::PatternPoint>>(
                study::patternSweep(expansion, r.lowHz, r.highHz, kPatternPoints, stop, &fields));
            publish(r);
        }
        for (std::size_t b = 0; b < project.bands.size(); ++b) {
            if (stop.stop_requested()) return finish();
            if (r.bands[b] || !edit::isFor(r.design(), project.bands[b].name)) continue;
            const auto band = std::make_shared<const study::Sweep>(study::sweep(
                expansion, project.bands[b].lowHz, project.bands[b].highHz, kBandPoints, stop, {}, &fields));
            if (!band->complete) return finish();
            r.bands[b] = band;
            publish(r);
        }
        studyPath();
        if (!sameFigures || r.remarks.isEmpty()) {
            r.remarks.clear();
            for (const auto& b : study::bystanders(expansion, *r.analysis, kMostBystanders, &fields, stop))
                r.remarks << QString::fromStdString(b.sentence());
            for (const auto& c : study::cableEffects(r.design(), expansion, *r.analysis, &fields, stop))
                r.remarks << QString::fromStdString(c.sentence());
            for (const auto& l : study::loadHeat(expansion, *r.analysis, project.powerW))
                if (!l.warning().empty()) r.remarks << QString::fromStdString(l.warning());
            for (const auto& d : study::lyingDifferences(expansion, *r.analysis, &fields, stop))
                r.remarks << QString::fromStdString(d.sentence());
        }
        // Last of all, so that no hand feels it.
        if (sameFigures && before.doubt) {
            r.doubt = before.doubt;
        } else if (request.wants.check) {
            r.doubt = doubtOf(expansion, r.frequencyHz, checks, stop);
            if (r.doubt && !r.doubt->settled()) r.remarks << QString::fromStdString(r.doubt->sentence());
        }
    } catch (const Stopped&) {
        {
            const std::scoped_lock lock(mutex);
            if (next || closed) return;
        }
        if (!r.analysis) r.problem = tr("Stopped before there were figures: any change works them out.");
    } catch (const std::exception& e) {
        // Whatever it was: figures of the design that cannot be worked out are not shown.
        r.problem = QString::fromUtf8(e.what());
    }
    finish();
}

/// The pins cut at the bearing and elevation of the live antenna, on the compass, so that like lies on like.
PinsPtr Runner::Shop::workOutPins(const Request& request, const Results& live, std::stop_token stop) {
    auto results = std::make_shared<std::vector<std::shared_ptr<const PinResult>>>();
    const model::Project& project = *live.project;
    const double bearing = live.expansion->headingDeg - live.analysis->elevation.fixedAngleDeg;
    const double elevation = live.analysis->azimuth.fixedAngleDeg;
    if (pins.size() > kPinsKept) pins.clear();
    for (std::size_t i = 0; i < project.pins.size(); ++i) {
        const model::Pin& pin = project.pins[i];
        results->push_back(nullptr);
        // Figures of an antenna on a band that it is not for would only mislead.
        const bool meant = project.bands.empty() || edit::isFor(pin.design, live.band.name);
        if (!pin.shown || !meant || stop.stop_requested()) continue;
        model::Project alone;
        alone.designs.push_back(pin.design);
        const bool baseline = static_cast<int>(i) == project.baseline;
        const std::string key =
            io::textOf(alone) + fmt::format(" {} {} {} {} {:.3f} {:.2f} {:.2f} {:.1f} {:.1f} {} {} {}",
                                            pin.id, overlayOf(pin, i), baseline, pin.name, live.frequencyHz,
                                            bearing, elevation, live.lowHz, live.highHz, live.points,
                                            request.wants.patterns, static_cast<int>(live.component));
        auto& kept = pins[key];
        if (!kept) {
            auto result = std::make_shared<PinResult>();
            result->id = pin.id;
            result->name = pin.name;
            result->colour = overlayOf(pin, i);
            result->baseline = baseline;
            try {
                auto settled = std::make_shared<model::Expansion>(model::expand(pin.design));
                study::requireUsable(*settled);
                // In the middle of the band, so that another frequency asks nothing new; what tuning lays
                // over the design changes too often.
                if (pin.id != 0) result->doubt = doubtOf(*settled, live.band.centreHz(), checks, stop);
                if (result->doubt) settled->model.fineness = result->doubt->fineness;
                result->expansion = settled;
                const model::Expansion& e = *settled;
                result->headingDeg = e.headingDeg;
                study::AnalysisOptions options = request.options;
                options.fields = &fields;
                options.stop = stop;
                options.bearingAzimuthDeg = e.headingDeg - bearing;
                options.azimuthElevationDeg = elevation;
                result->analysis =
                    std::make_shared<const study::Analysis>(study::analyse(e, live.frequencyHz, options));
                result->sweep = std::make_shared<const study::Sweep>(
                    study::sweep(e, live.lowHz, live.highHz, live.points, stop, {}, &fields));
                if (!result->sweep->complete) return results;
                if (request.wants.patterns)
                    result->patterns = std::make_shared<const std::vector<study::PatternPoint>>(
                        study::patternSweep(e, live.lowHz, live.highHz, kPatternPoints, stop, &fields));
                if (stop.stop_requested()) return results;
            } catch (const Stopped&) {
                return results;
            } catch (const Error& e) {
                result->analysis.reset();
                result->problem = e.what();
            }
            kept = result;
        }
        results->back() = kept->analysis ? kept : nullptr;
    }
    return results;
}

}  // namespace rm::app
