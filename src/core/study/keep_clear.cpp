#include "core/study/keep_clear.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "core/model/geometry.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kCoarse = 81;
/// The steps of a close look: so many along the longer side of a large part, no longer than this in a small
/// one (m), nor than so many of them along its longer side and across it.
constexpr double kLong = 160.0;
constexpr double kCloseM = 0.05;
constexpr double kShort = 60.0;
constexpr double kAcross = 24.0;
/// A zone of fewer steps is looked at more closely, up to so many times.
constexpr double kFewSteps = 10.0;
constexpr int kMostLooks = 6;
/// What changes from point to point by less than this share of itself has no peak between them.
constexpr double kSmooth = 0.25;
/// What is looked at grows up to this many times.
constexpr int kMostGrowths = 4;
/// Farther than this nobody looks, m.
constexpr double kFarthestM = 2000.0;

/// Distance from the nearest wire, seen from above.
double levelDistanceM(const model::WireModel& model, const Vec3& point) {
    const auto level = [](const Vec3& p) { return Vec3(p.x(), p.y(), 0.0); };
    double nearest = 1e99;
    for (const auto& wire : model.wires)
        nearest =
            std::min(nearest, model::pointToSegment(level(point), level(wire.startM), level(wire.endM)));
    return nearest;
}

/// The field on a level plane.
struct Level {
    em::PointPlane plane;
    std::vector<em::PointField> fields;
};

/// A part of a level plane: forward and to the left, m.
struct Part {
    Eigen::AlignedBox2d box;

    bool operator==(const Part& other) const { return box.isApprox(other.box); }
};

Eigen::Vector2d levelOf(const Vec3& point) {
    return {point.x(), point.y()};
}

/// The zones at one height and frequency, for one person after the other: all are held against the same
/// field.
class ZoneFinder {
  public:
    ZoneFinder(const model::WireModel& model, const FieldAround& around, double heightM, double share,
               const std::stop_token& stop)
        : model_(model), around_(around), heightM_(heightM), share_(share), stop_(stop) {}

    /// `first`: how far is looked at first, m.
    ClearZone zone(const FieldLimits& limits, double first) {
        double reach = first;
        ClearZone zone = measured(within(reach), limits);
        for (int growth = 0; growth < kMostGrowths && reach <= kFarthestM; ++growth) {
            if (zone.fromMiddleM < 0.95 * reach) break;
            reach *= 2.0;
            zone = measured(within(reach), limits);
        }
        // Closely, where it is or where it would be if anywhere: it may lie between the points of a grid.
        const Level& coarse = within(reach);
        const Part whole = partOf(coarse);
        Part part = around(exceeded(coarse, limits), coarse, whole);
        Level close = on(part);
        for (int look = 1;; ++look) {
            const ClearZone seen = measured(close, limits);
            if (look == kMostLooks) return seen;
            const Part found = exceeded(close, limits);
            if (seen.clipped && !(part == whole))
                part = around(part, coarse, whole);
            else if (found.box.sizes().maxCoeff() < kFewSteps * stepOf(close) && !staysBelow(close, limits))
                part = around(found, close, part);
            else
                return seen;
            close = on(part);
        }
    }

  private:
    const Level& within(double reach) {
        const auto [it, isNew] = coarse_.try_emplace(reach);
        if (isNew) {
            MapPlace place;
            place.heightM = heightM_;
            place.reachM = reach;
            place.points = kCoarse;
            it->second.plane = mapPlane(model_, around_.frequencyHz(), place);
            it->second.fields = around_.on(it->second.plane, stop_);
        }
        return it->second;
    }

    static double stepOf(const Level& level) { return level.plane.upM.norm(); }
    static Part partOf(const Level& level) {
        Eigen::AlignedBox2d box(levelOf(level.plane.cornerM));
        box.extend(levelOf(level.plane.at(level.plane.columns - 1, level.plane.rows - 1)));
        return {box};
    }
    /// With a step of a grid round it, as far as `whole` goes.
    static Part around(const Part& part, const Level& grid, const Part& whole) {
        const Eigen::Vector2d by = Eigen::Vector2d::Constant(stepOf(grid));
        return {Eigen::AlignedBox2d(part.box.min() - by, part.box.max() + by).intersection(whole.box)};
    }

    double exposureAt(const Level& level, const FieldLimits& limits, int column, int row) const {
        return exposure(level.fields[static_cast<std::size_t>(row * level.plane.columns + column)], limits,
                        share_);
    }

    struct Strongest {
        double exposure = 0.0;
        int column = 0;
        int row = 0;
    };
    Strongest strongest(const Level& level, const FieldLimits& limits) const {
        Strongest most;
        for (int row = 0; row < level.plane.rows; ++row)
            for (int column = 0; column < level.plane.columns; ++column)
                if (const double here = exposureAt(level, limits, column, row); here > most.exposure)
                    most = {here, column, row};
        return most;
    }

    /// What the points lie within where the limit is exceeded, or the one where the field is the strongest.
    Part exceeded(const Level& level, const FieldLimits& limits) const {
        Eigen::AlignedBox2d box;
        for (int row = 0; row < level.plane.rows; ++row)
            for (int column = 0; column < level.plane.columns; ++column)
                if (exposureAt(level, limits, column, row) >= 1.0)
                    box.extend(levelOf(level.plane.at(column, row)));
        if (box.isEmpty()) {
            const Strongest most = strongest(level, limits);
            box.extend(levelOf(level.plane.at(most.column, most.row)));
        }
        return {box};
    }

    /// Whether the limit is reached nowhere, between the points of the grid neither: where the field is the
    /// strongest it changes little from point to point, and is by more than that below the limit.
    bool staysBelow(const Level& level, const FieldLimits& limits) const {
        const Strongest most = strongest(level, limits);
        double least = most.exposure;
        for (int row = std::max(most.row - 1, 0); row <= std::min(most.row + 1, level.plane.rows - 1); ++row)
            for (int column = std::max(most.column - 1, 0);
                 column <= std::min(most.column + 1, level.plane.columns - 1); ++column)
                least = std::min(least, exposureAt(level, limits, column, row));
        const double change = most.exposure - least;
        return change < kSmooth * most.exposure && most.exposure + change < 1.0;
    }

    Level on(const Part& part) const {
        const Eigen::Vector2d size = part.box.sizes();
        const double longer = size.maxCoeff();
        const double step =
            std::min(std::max(longer / kLong, std::min(kCloseM, longer / kShort)), size.minCoeff() / kAcross);
        Level level;
        level.plane.cornerM = {part.box.min().x(), part.box.max().y(), heightM_};
        level.plane.rightM = {0.0, -step, 0.0};
        level.plane.upM = {step, 0.0, 0.0};
        // Up to the far sides.
        level.plane.columns = 1 + static_cast<int>(std::ceil(size.y() / step - 1e-6));
        level.plane.rows = 1 + static_cast<int>(std::ceil(size.x() / step - 1e-6));
        level.fields = around_.on(level.plane, stop_);
        return level;
    }

    ClearZone measured(const Level& level, const FieldLimits& limits) const {
        ClearZone zone;
        zone.heightM = heightM_;
        zone.plane = level.plane;
        const Vec3 middle = model_.bounds().centre();
        std::vector<double> share;
        share.reserve(level.fields.size());
        for (const auto& field : level.fields) {
            share.push_back(exposure(field, limits, share_));
            zone.most = std::max(zone.most, share.back());
        }
        zone.contour = levelLines(share, zone.plane.columns, zone.plane.rows, 1.0);
        const auto reaches = [&](const Vec3& point) {
            zone.fromMiddleM =
                std::max(zone.fromMiddleM, std::hypot(point.x() - middle.x(), point.y() - middle.y()));
            zone.fromWireM = std::max(zone.fromWireM, levelDistanceM(model_, point));
        };
        for (const auto& line : zone.contour) reaches(zone.plane.at(line.fromColumn, line.fromRow));
        for (int row = 0; row < zone.plane.rows; ++row)
            for (int column = 0; column < zone.plane.columns; ++column) {
                const bool rim =
                    row == 0 || column == 0 || row + 1 == zone.plane.rows || column + 1 == zone.plane.columns;
                if (!rim || share[static_cast<std::size_t>(row * zone.plane.columns + column)] < 1.0)
                    continue;
                zone.clipped = true;
                reaches(zone.plane.at(column, row));
            }
        // Between the points of the grid it may just be reached.
        if (zone.most >= 1.0 && zone.fromMiddleM == 0.0) zone.clipped = true;
        return zone;
    }

    const model::WireModel& model_;
    const FieldAround& around_;
    double heightM_;
    double share_;
    const std::stop_token& stop_;
    std::map<double, Level> coarse_;  ///< by reach
};

/// How far is looked at first: the far field of a short antenna over perfect ground, twice.
double firstReach(const model::WireModel& model, const FieldAround& around, const FieldLimits& limits,
                  double share) {
    const model::Bounds box = model.bounds();
    const double size = 0.5 * std::hypot(box.high.x() - box.low.x(), box.high.y() - box.low.y());
    const double e = limits.electricVm.value_or(*limits.magneticAm * kEta0);
    return size + std::max(1.0, 2.0 * std::sqrt(60.0 * around.antennaW() * share) / e);
}

/// The farther of two, by the farther of their zones.
bool isWorse(const ClearRow& a, const ClearRow& b) {
    const auto farthest = [](const ClearRow& r) {
        return std::max(r.head.fromMiddleM, r.window.fromMiddleM);
    };
    if (farthest(a) != farthest(b)) return farthest(a) > farthest(b);
    return std::max(a.head.most, a.window.most) > std::max(b.head.most, b.window.most);
}

}  // namespace

std::vector<ClearRow> clearRows(const model::Expansion& design, const Analysis& analysis,
                                const model::KeepClear& rules, double radioW, const std::stop_token& stop) {
    const FieldAround around(analysis, radioW);
    const double share = countedShare(rules);
    std::vector<ClearRow> rows;
    double first = 0.0;
    for (const Person person : {Person::Public, Person::Operator}) {
        ClearRow row;
        row.frequencyHz = around.frequencyHz();
        row.person = person;
        row.limits = fieldLimits(rules, person, row.frequencyHz);
        row.antennaW = around.antennaW();
        first = std::max(first, firstReach(design.model, around, row.limits, share));
        rows.push_back(row);
    }
    for (const auto& [heightM, zone] :
         {std::pair{rules.headM, &ClearRow::head}, std::pair{rules.windowM, &ClearRow::window}}) {
        ZoneFinder finder(design.model, around, heightM, share, stop);
        for (auto& row : rows) row.*zone = finder.zone(row.limits, first);
    }
    return rows;
}

ClearTable keepClear(const model::Project& project, const model::Design& design, std::stop_token stop,
                     const Progress& progress) {
    ClearTable table;
    table.rules = project.keepClear;
    table.radioW = project.powerW;
    const model::Expansion expansion = model::expand(design);
    requireUsable(expansion);
    std::vector<const model::Band*> bands;
    for (const auto& band : project.bands)
        if (design.bands.empty() ||
            std::find(design.bands.begin(), design.bands.end(), band.name) != design.bands.end())
            bands.push_back(&band);
    const double whole = 3.0 * static_cast<double>(std::max<std::size_t>(1, bands.size()));
    double done = 0.0;
    try {
        for (const model::Band* band : bands) {
            std::optional<ClearRow> worst[2];
            try {
                for (const double hz : {band->lowHz, band->centreHz(), band->highHz}) {
                    AnalysisOptions options;
                    options.stop = stop;
                    options.meshHz = band->highHz;
                    const Analysis analysis = analyse(expansion, hz, options);
                    for (ClearRow& row :
                         clearRows(expansion, analysis, project.keepClear, project.powerW, stop)) {
                        row.band = band->name;
                        auto& most = worst[static_cast<std::size_t>(row.person)];
                        if (!most || isWorse(row, *most)) most = std::move(row);
                    }
                    if (progress) progress((done += 1.0) / whole);
                }
            } catch (const Error& e) {
                table.problems.push_back(fmt::format("{}: {}", band->name, e.what()));
                continue;
            }
            for (auto& row : worst)
                if (row) table.rows.push_back(std::move(*row));
        }
        table.complete = true;
    } catch (const Stopped&) {
    }
    return table;
}

std::vector<std::string> ClearTable::notes() const {
    std::vector<std::string> all;
    all.push_back(say("Limits: {}; {}.", nameOf(rules, Person::Public), nameOf(rules, Person::Operator)));
    all.push_back(
        say("Counted are {:.0f} W of the radio, {} ({:.0f} % of the peak), sent {:.0f} % of the "
            "averaging time, and a "
            "margin of {:g} dB: {:.3g} W.",
            radioW, nameOf(rules.mode), 100.0 * meanShare(rules.mode), rules.dutyPercent, rules.marginDb,
            radioW * countedShare(rules)));
    all.push_back(say("Distances are level, from the middle of the antenna and from its nearest wire."));
    all.push_back(
        say("Where the limit is reached nowhere at a height, the largest part of it stands in brackets."));
    all.push_back(
        say("The field is that without people, at a point; the limits are means over a body, so the largest "
            "value at a "
            "height is more than the mean."));
    all.push_back(say(
        "Wires are thin lines of current here: closer than some ten of their radii the field is an estimate, "
        "and "
        "whoever can touch a wire is not protected by a distance."));
    return all;
}

}  // namespace rm::study
