// Chokes along a cable run and what each part does, against the antenna solved anew for every case.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/model/expand.h"
#include "core/model/without.h"
#include "core/study/balance.h"
#include "core/study/choke_study.h"
#include "core/study/part_effects.h"

using namespace rm;
using namespace rm::study;
using namespace rm::model;

namespace {

/// A dipole at 10 m whose cable, some wavelengths of it, hangs from its middle and runs along the ground.
Design withCable(bool choked) {
    Design d;
    d.designFrequency = "14.1 MHz";
    Part wire;
    wire.name = "Wire";
    wire.shape = StraightWire{{"0 m", "-5.05 m", "10 m"}, {"0 m", "5.05 m", "10 m"}};
    Part cable;
    cable.name = "Cable";
    CableRun run;
    run.level = "0.5 m";
    run.points.push_back({"", {"-6 m", "3 m", "0.5 m"}});
    cable.shape = run;
    d.parts = {wire, cable};
    Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    if (choked) {
        Load choke;
        choke.name = "Choke";
        choke.part = "Cable";
        choke.place = {PlaceKind::Distance, "3 m"};
        choke.resistance = "1000";
        d.loads.push_back(choke);
    }
    d.site.ground = GroundKind::Perfect;
    return d;
}

double shareOf(const Design& d) {
    const Expansion e = expand(d);
    return balanceOf(e, analyse(e, 14.1e6)).front().share();
}

}  // namespace

TEST_CASE("a choke moved along the run on one solution is one that is solved for at every place") {
    const ChokeStudy s = studyChoke(withCable(true), 14.1e6, 100.0);
    REQUIRE(s.complete);
    CHECK(s.run == "Cable");
    CHECK(s.choke == "Choke");
    CHECK(s.lengthM == Approx(9.5 + std::hypot(6.0, 3.0)));
    REQUIRE(s.places.size() >= 24);
    CHECK(std::is_sorted(s.places.begin(), s.places.end(),
                         [](const auto& a, const auto& b) { return a.alongM < b.alongM; }));
    Design d = withCable(true);
    CHECK(s.now.share == Approx(shareOf(d)).margin(0.01));
    for (const std::size_t i : {std::size_t{0}, std::size_t{8}, std::size_t{17}}) {
        d.loads[0].place.value = std::to_string(s.places[i].alongM) + " m";
        const Expansion e = expand(d);
        const Analysis a = analyse(e, 14.1e6);
        INFO("at " << s.places[i].alongM);
        CHECK(s.places[i].share == Approx(balanceOf(e, a).front().share()).margin(0.015));
        CHECK(s.places[i].swr == Approx(a.figures.swr).epsilon(0.01));
        CHECK(s.places[i].watts == Approx(loadHeat(e, a, 100.0)[0].watts).epsilon(0.05).margin(0.05));
    }
    d.loads.clear();
    CHECK(s.none.share == Approx(shareOf(d)).margin(0.01));
    // Larger is better at the same place, and it is said how much is enough.
    CHECK(s.sizes.front().share > s.sizes.back().share);
    CHECK(s.sizes.back().ohm == Approx(10000.0));
    CHECK(s.best().share <= s.now.share);
    CHECK_THAT(s.advice(), Catch::StartsWith("Best ") && Catch::Contains(" m from the feed"));
    CHECK_THAT(s.advice(quantity::LengthStyle::FeetInches), Catch::Contains(" ft from the feed"));
    // A large one at the feed leaves the antenna as it is without its cable.
    CHECK(s.swrWithout > 1.0);
}

TEST_CASE("without a choke one is tried at the feed; without a run there is nothing to study") {
    const ChokeStudy s = studyChoke(withCable(false), 14.1e6, 100.0);
    CHECK(s.choke.empty());
    CHECK(s.places.front().alongM == 0.0);
    CHECK(s.places.front().ohm == Approx(kTriedOhm));
    CHECK(s.places.front().share < 0.5 * s.none.share);
    CHECK(s.sizes.back().lostDb == Approx(0.0).margin(0.1));
    CHECK(s.sizes.back().swr == Approx(s.swrWithout).epsilon(0.02));
    Design none = withCable(false);
    none.parts.pop_back();
    CHECK_THROWS_AS(studyChoke(none, 14.1e6, 100.0), Error);
}

TEST_CASE("what each part does is the difference to the antenna without it") {
    Design d = withCable(false);
    Part mast;
    mast.name = "Mast";
    mast.shape = StraightWire{{"-2 m", "0 m", "0.2 m"}, {"-2 m", "0 m", "9.5 m"}};
    d.parts.push_back(mast);
    Part far;
    far.name = "Far wire";
    far.shape = StraightWire{{"900 m", "0 m", "1 m"}, {"901 m", "0 m", "1 m"}};
    d.parts.push_back(far);
    CHECK(sparePartsOf(d) == std::vector<std::string>{"Cable", "Mast", "Far wire"});
    const Band band{"20 m", 14.0e6, 14.35e6, {}};
    const auto effects = partEffects(d, sparePartsOf(d), band, 14.1e6);
    REQUIRE(effects.complete);
    REQUIRE(effects.rows.size() == 4);
    const Design bare = model::withoutPart(d, "Mast");
    CHECK(effects.rows[1].figures.peak.gainDbi ==
          Approx(analyse(expand(bare), 14.1e6).figures.peak.gainDbi).margin(1e-6));
    CHECK(effects.rows[0].share > 0.02);
    CHECK(effects.sentence(effects.rows[2]) == "Far wire does nothing that counts.");
    CHECK(effects.rows[3].without.size() == 3);
    CHECK(effects.sentence(effects.rows[3]).rfind("Cable, Mast, Far wire together: ", 0) == 0);
    // The other antenna, which has a feed of its own, can be taken away with it.
    Part other;
    other.name = "Other";
    other.shape = StraightWire{{"4 m", "-5 m", "8 m"}, {"4 m", "5 m", "8 m"}};
    Design two = d;
    two.parts.push_back(other);
    Feed second;
    second.name = "Second";
    second.part = "Other";
    two.feeds.push_back(second);
    DriveSet set;
    set.name = "Both";
    set.driven.resize(2);
    set.driven[0].feed = "Feed";
    set.driven[1].feed = "Second";
    two.driveSets = {set};
    two.driveSet = 0;
    CHECK(sparePartsOf(two) == std::vector<std::string>{"Wire", "Cable", "Mast", "Far wire", "Other"});
    const auto alone = partEffects(two, {"Other"}, band, 14.1e6);
    INFO(alone.rows[0].problem);
    CHECK(alone.rows[0].problem.empty());
    CHECK(alone.rows[0].figures.peak.gainDbi ==
          Approx(analyse(expand(d), 14.1e6).figures.peak.gainDbi).margin(1e-6));
    // The end-fed wire cannot do without what it works against.
    d.feeds[0].place = {PlaceKind::Start, ""};
    const auto needed = partEffects(d, {"Cable"}, band, 14.1e6);
    CHECK_FALSE(needed.rows[0].problem.empty());
}
