#include "core/study/drive_study.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/model/rename.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

struct FeedPoint {
    std::string name;
    Vec3 atM;
};

std::vector<FeedPoint> feedPoints(const model::Expansion& design) {
    std::vector<FeedPoint> points;
    for (const auto& feed : design.model.feeds) {
        const auto& wire = design.model.wires.at(feed.place.wire);
        points.push_back({feed.name, wire.startM + feed.place.at * (wire.endM - wire.startM)});
    }
    return points;
}

model::DriveSet allInPhase(const std::vector<FeedPoint>& feeds, const std::string& name) {
    model::DriveSet set;
    set.name = name;
    for (const auto& feed : feeds) set.driven.push_back({feed.name});
    return set;
}

/// Half of the feeds turned round: those on the far side of the middle along an axis.
std::vector<model::DriveSet> halfReversed(const std::vector<FeedPoint>& feeds, const Vec3& axis,
                                          const std::string& name) {
    double low = 1e300;
    double high = -1e300;
    for (const auto& feed : feeds) {
        low = std::min(low, axis.dot(feed.atM));
        high = std::max(high, axis.dot(feed.atM));
    }
    constexpr double kApartM = 1e-3;
    if (high - low < kApartM) return {};
    model::DriveSet set = allInPhase(feeds, name);
    for (std::size_t i = 0; i < feeds.size(); ++i)
        if (axis.dot(feeds[i].atM) > 0.5 * (low + high)) set.driven[i].phase = "180 deg";
    return {set};
}

/// Two at the same height where all stand so; otherwise neighbours from the lowest up.
std::vector<model::DriveSet> eachPair(std::vector<FeedPoint> feeds) {
    if (feeds.size() < 3) return {};
    constexpr double kSameHeightM = 1e-6;
    std::stable_sort(feeds.begin(), feeds.end(), [](const FeedPoint& a, const FeedPoint& b) {
        return a.atM.z() < b.atM.z() - kSameHeightM;
    });
    const auto level = [&](std::size_t i) {
        return std::abs(feeds[i].atM.z() - feeds[i + 1].atM.z()) < kSameHeightM;
    };
    bool rows = feeds.size() % 2 == 0;
    for (std::size_t i = 0; i + 1 < feeds.size(); ++i) rows = rows && level(i) == (i % 2 == 0);
    std::vector<model::DriveSet> sets;
    for (std::size_t i = 0; i + 1 < feeds.size(); i += rows ? 2 : 1)
        sets.push_back(allInPhase({feeds[i], feeds[i + 1]}, say("{} and {}", model::labelOf(feeds[i].name),
                                                                model::labelOf(feeds[i + 1].name))));
    return sets;
}

}  // namespace

std::vector<model::DriveSet> driveSetsBy(DrivePattern pattern, const model::Expansion& design,
                                         double frequencyHz, double bearingDeg) {
    auto feeds = feedPoints(design);
    if (feeds.size() < 2) return {};
    switch (pattern) {
        case DrivePattern::AllInPhase:
            return {allInPhase(feeds, say("All in phase"))};
        case DrivePattern::UpperHalfReversed:
            return halfReversed(feeds, Vec3::UnitZ(), say("Upper half reversed"));
        case DrivePattern::LeftHalfReversed:
            return halfReversed(feeds, Vec3::UnitY(), say("Left half reversed"));
        case DrivePattern::EachPair:
            return eachPair(feeds);
        case DrivePattern::SingleOnes: {
            std::vector<model::DriveSet> sets;
            for (const auto& feed : feeds)
                sets.push_back(allInPhase({feed}, say("Only ") + model::labelOf(feed.name)));
            return sets;
        }
        default: {
            model::DriveSet set = allInPhase(feeds, say("Steered to {:.0f}°", bearingDeg));
            const double azimuth = (design.headingDeg - bearingDeg) * kDegree;
            const Vec3 towards(std::cos(azimuth), std::sin(azimuth), 0.0);
            const double k = 2.0 * kPi / wavelengthM(frequencyHz);
            for (std::size_t i = 0; i < feeds.size(); ++i) {
                const double phase = -k * towards.dot(feeds[i].atM - feeds[0].atM) / kDegree;
                set.driven[i].phase = fmt::format("{:.1f} deg", std::remainder(phase, 360.0));
            }
            return {set};
        }
    }
}

std::vector<DriveRow> studyDrives(const model::Design& design, double frequencyHz, double cutAzimuthDeg,
                                  double cutElevationDeg, FieldStore* fields, std::stop_token stop) {
    FieldStore own;
    AnalysisOptions options;
    options.fields = fields != nullptr ? fields : &own;
    options.bearingAzimuthDeg = cutAzimuthDeg;
    options.azimuthElevationDeg = cutElevationDeg;
    options.stop = stop;
    std::vector<DriveRow> rows(design.driveSets.size() + 1);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        rows[i].index = static_cast<int>(i) - 1;
        rows[i].name = i == 0 ? say("As the feeds say") : design.driveSets[i - 1].name;
        auto with = design;
        with.driveSet = rows[i].index;
        rows[i].expansion = std::make_shared<const model::Expansion>(model::expand(with));
    }
    // The first one solves the field; the others only close the circuit.
    const auto workOut = [&](DriveRow& row) {
        unlessStopped(stop, [&] {
            try {
                row.analysis =
                    std::make_shared<const Analysis>(analyse(*row.expansion, frequencyHz, options));
                row.elevation = readCut(row.analysis->elevation);
            } catch (const Error& e) {
                row.problem = e.what();
            }
        });
    };
    workOut(rows.front());
    tbb::parallel_for(std::size_t{1}, rows.size(), [&](std::size_t i) { workOut(rows[i]); });
    return rows;
}

Coupling couplingOf(const em::MatrixXc& feedAdmittance, double referenceOhm) {
    Coupling out;
    const auto n = feedAdmittance.rows();
    const em::MatrixXc identity = em::MatrixXc::Identity(n, n);
    em::MatrixXc y = feedAdmittance;
    out.impedanceOhm = identity;
    em::solveLinear(y, out.impedanceOhm);
    em::MatrixXc plus = out.impedanceOhm + referenceOhm * identity;
    em::MatrixXc s = out.impedanceOhm - referenceOhm * identity;
    em::solveLinear(plus, s);
    out.couplingDb = Eigen::MatrixXd(n, n);
    for (Eigen::Index r = 0; r < n; ++r)
        for (Eigen::Index c = 0; c < n; ++c)
            out.couplingDb(r, c) = 20.0 * std::log10(std::max(1e-10, std::abs(s(r, c))));
    return out;
}

}  // namespace rm::study
