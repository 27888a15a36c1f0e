#include "core/study/keep_clear.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/geometry.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kCoarse = 81;
constexpr int kFine = 161;
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

class ZoneFinder {
  public:
    ZoneFinder(const model::WireModel& model, const FieldAround& around, const FieldLimits& limits,
               double share, const std::stop_token& stop)
        : model_(model), around_(around), limits_(limits), share_(share), stop_(stop) {}

    ClearZone at(double heightM) const {
        ClearZone zone;
        zone.heightM = heightM;
        const model::Bounds box = model_.bounds();
        const double size = 0.5 * std::hypot(box.high.x() - box.low.x(), box.high.y() - box.low.y());
        // A start: the far field of a short antenna over perfect ground, twice.
        const double e = limits_.electricVm.value_or(*limits_.magneticAm * kEta0);
        double reach = size + std::max(1.0, 2.0 * std::sqrt(60.0 * around_.antennaW() * share_) / e);
        double outermost = 0.0;
        for (int growth = 0;; ++growth) {
            measure(zone, reach, kCoarse);
            outermost = zone.fromMiddleM;
            const bool fits = outermost < 0.95 * reach;
            if (fits || growth == kMostGrowths || reach > kFarthestM) break;
            reach *= 2.0;
        }
        if (zone.most < 1.0) return zone;
        // Nearer, where it fits in closely.
        const double step = 2.0 * reach / (kCoarse - 1);
        measure(zone, std::min(reach, 1.05 * outermost + 2.0 * step), kFine);
        return zone;
    }

  private:
    void measure(ClearZone& zone, double reach, int points) const {
        MapPlace place;
        place.heightM = zone.heightM;
        place.reachM = reach;
        place.points = points;
        zone.plane = mapPlane(model_, around_.frequencyHz(), place);
        const auto fields = around_.on(zone.plane, stop_);
        const Vec3 middle = model_.bounds().centre();
        std::vector<double> share;
        share.reserve(fields.size());
        zone.most = zone.fromMiddleM = zone.fromWireM = 0.0;
        zone.clipped = false;
        for (std::size_t i = 0; i < fields.size(); ++i) {
            share.push_back(exposure(fields[i], limits_, share_));
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
    }

    const model::WireModel& model_;
    const FieldAround& around_;
    const FieldLimits& limits_;
    double share_;
    const std::stop_token& stop_;
};

/// The farther of two, by the farther of their zones.
bool isWorse(const ClearRow& a, const ClearRow& b) {
    const auto farthest = [](const ClearRow& r) {
        return std::max(r.head.fromMiddleM, r.window.fromMiddleM);
    };
    if (farthest(a) != farthest(b)) return farthest(a) > farthest(b);
    return std::max(a.head.most, a.window.most) > std::max(b.head.most, b.window.most);
}

}  // namespace

ClearRow clearRow(const model::Expansion& design, const Analysis& analysis, const model::KeepClear& rules,
                  double radioW, Person person, const std::stop_token& stop) {
    const FieldAround around(analysis, radioW);
    ClearRow row;
    row.frequencyHz = around.frequencyHz();
    row.person = person;
    row.limits = fieldLimits(rules, person, row.frequencyHz);
    row.antennaW = around.antennaW();
    const ZoneFinder finder(design.model, around, row.limits, countedShare(rules), stop);
    row.head = finder.at(rules.headM);
    row.window = finder.at(rules.windowM);
    return row;
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
    const double whole = 6.0 * static_cast<double>(std::max<std::size_t>(1, bands.size()));
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
                    for (const Person person : {Person::Public, Person::Operator}) {
                        ClearRow row =
                            clearRow(expansion, analysis, project.keepClear, project.powerW, person, stop);
                        row.band = band->name;
                        auto& most = worst[static_cast<std::size_t>(person)];
                        if (!most || isWorse(row, *most)) most = std::move(row);
                        if (progress) progress((done += 1.0) / whole);
                    }
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
