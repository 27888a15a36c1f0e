// What the bench shows: one immutable value, worked out from one project, handed over whole.
#pragma once

#include <QStringList>
#include <memory>
#include <optional>
#include <vector>

#include "app/look/text.h"
#include "app/session/document.h"
#include "core/study/currents.h"
#include "core/study/drive_study.h"
#include "core/study/figures.h"
#include "core/study/keep_clear.h"
#include "core/study/lobe_grid.h"
#include "core/study/measured_curve.h"
#include "core/study/path_study.h"
#include "core/study/pattern_sweep.h"
#include "core/study/self_check.h"
#include "core/study/sweep.h"

namespace rm::app {

using ExpansionPtr = std::shared_ptr<const model::Expansion>;
using AnalysisPtr = std::shared_ptr<const study::Analysis>;
using SweepPtr = std::shared_ptr<const study::Sweep>;
using LobePtr = std::shared_ptr<const study::LobeGrid>;
using DrivesPtr = std::shared_ptr<const std::vector<study::DriveRow>>;
using DoubtPtr = std::shared_ptr<const study::Doubt>;
using ClearPtr = std::shared_ptr<const study::ClearTable>;
using PathPtr = std::shared_ptr<const study::PathStudy>;
using MeasuredPtr = std::shared_ptr<const std::vector<study::MeasuredPlanes>>;
using PatternSweepPtr = std::shared_ptr<const std::vector<study::PatternPoint>>;

/// What a pin comes to at the working frequency and over the range shown; `problem` where it cannot.
struct PinResult {
    model::Id id = 0;
    std::string name;
    std::size_t colour = 0;  ///< of the overlay colours
    bool baseline = false;
    double headingDeg = 0.0;
    AnalysisPtr analysis;
    SweepPtr sweep;
    ExpansionPtr expansion;
    DoubtPtr doubt;
    PatternSweepPtr patterns;  ///< where they were asked for
    std::string problem;
};
/// One per pin of the project; null where it is hidden or not for this band.
using PinsPtr = std::shared_ptr<const std::vector<std::shared_ptr<const PinResult>>>;

/// The overlay colour of the pin at this place.
inline std::size_t overlayOf(const model::Pin& pin, std::size_t place) {
    return pin.colour >= 0 ? static_cast<std::size_t>(pin.colour) : place;
}

/// Everything in it belongs to `project` at `frequencyHz` over `lowHz` to `highHz`. What is not there yet is
/// null; a later value of the same generation has it.
struct Results {
    quint64 generation = 0;
    ProjectPtr project;  ///< as it is shown: what tuning lays over the design is one pin more
    double frequencyHz = 0.0;
    model::Band band;    ///< the working band
    bool range = false;  ///< a range of the designer's own instead of the band
    double lowHz = 0.0;
    double highHz = 0.0;
    int points = 0;
    study::Component component = study::Component::Total;
    ExpansionPtr expansion;
    MeasuredPtr measured;  ///< the measurements of the design, in their order
    AnalysisPtr analysis;
    SweepPtr sweep;
    std::vector<SweepPtr> bands;  ///< in the order of the project's bands; null where not meant or not yet
    PinsPtr pins;
    DoubtPtr doubt;  ///< how far the analysis may be off; null where the antenna is too large to be checked
    PathPtr path;    ///< this and the next three where the stage in front asked for it
    LobePtr lobe;
    DrivesPtr drives;
    PatternSweepPtr patterns;
    QStringList remarks;  ///< sentences about parts that carry current without being fed
    QString problem;      ///< why there are no figures; empty where there are or will be
    bool finished = false;

    const model::Design& design() const { return project->active(); }
    QString rangeName() const { return range ? tr("Range") : QString::fromStdString(band.name); }
};
using ResultsPtr = std::shared_ptr<const Results>;

/// What a stage wants worked out beside what is always there.
struct Wants {
    bool lobe = false;                     ///< the lobe in three dimensions
    bool drives = false;                   ///< all drive sets side by side
    bool patterns = false;                 ///< gain, front-to-back and takeoff over the range
    std::optional<study::MatchWish> path;  ///< the feed path block by block, and what would match it
    bool check = true;  ///< how far the figures may be off; not while tuning lays one design after another

    Wants& operator|=(const Wants& other) {
        lobe |= other.lobe;
        drives |= other.drives;
        patterns |= other.patterns;
        if (other.path) path = other.path;
        return *this;
    }
};

}  // namespace rm::app
