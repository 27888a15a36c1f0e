// The document: a project of designs, each parametric. Every length, height and angle is kept as the text
// that the designer typed; model/expand works it out. All of it is plain values.
//
// Axes of a design: x is the front of the antenna, y its left, z up. The site's heading says which compass
// bearing the front points to.
//
// What is large is copied, compared and destroyed in design.cpp and not wherever it is used: that was a third
// of the time the program takes to build.
#pragma once

#include <array>
#include <string>
#include <variant>
#include <vector>

#include "core/model/bands.h"
#include "core/model/build_texts.h"
#include "core/model/cable_run.h"
#include "core/model/copies.h"
#include "core/model/drive_sets.h"
#include "core/model/element_row.h"
#include "core/model/feed_blocks.h"
#include "core/model/goals.h"
#include "core/model/hung_wire.h"
#include "core/model/keep_clear.h"
#include "core/model/measured.h"
#include "core/model/support.h"
#include "core/model/typed.h"
#include "core/model/wire_model.h"

namespace rm::model {

enum class DimensionKind { Length, Angle, Number };

/// A named value that parts refer to.
struct Dimension {
    std::string name;
    std::string text;
    DimensionKind kind = DimensionKind::Length;
    std::string low;   ///< end of the slider; empty: half of the value when the slider was made
    std::string high;  ///< end of the slider; empty: one and a half times the value
    std::string note;
    bool scales = true;  ///< takes part in "scale to frequency"
    Extra extra;
    Id id = 0;

    bool operator==(const Dimension&) const = default;
};

struct Conductor {
    std::string material = "copper";
    std::string diameter = "2 mm";       ///< of the metal; or "strip 20 mm", "square 15 mm"
    std::string coat;                    ///< thickness of the insulation; empty: bare
    std::string coatPermittivity = "3";  ///< relative, of the insulation
    Extra extra = {};

    bool operator==(const Conductor&) const = default;
};

/// One straight wire.
struct StraightWire {
    PointText start{"0 m", "0 m", "0 m"};
    PointText end{"0 m", "10 m", "0 m"};
    std::string insulators = "0";  ///< that break it into equal pieces, as in a guy

    bool operator==(const StraightWire&) const = default;
};

/// A wire through points, closed to a loop if wanted.
struct BentWire {
    std::vector<PointText> points;
    bool closed = false;

    bool operator==(const BentWire&) const = default;
};

/// A regular polygon of wire. Upright (tilt 90 degrees) it stands across the front; flat (tilt 0) it lies.
struct RegularLoop {
    PointText centre{"0 m", "0 m", "10 m"};
    std::string sides = "4";
    bool byPerimeter = true;  ///< `size` is the perimeter, otherwise one side
    std::string size = "20 m";
    std::string tilt = "90 deg";
    std::string turn = "0 deg";  ///< compass turn of the whole loop to the right of the front
    bool cornerDown = false;     ///< corner at the bottom (at the back when flat), otherwise a side

    bool operator==(const RegularLoop&) const = default;
};

/// Two legs down from an apex.
struct InvertedV {
    PointText foot{"0 m", "0 m", "0 m"};  ///< below the apex
    std::string apexHeight = "10 m";      ///< above the foot
    std::string leg = "10 m";
    std::string angle = "120 deg";  ///< between the legs
    std::string turn = "0 deg";     ///< 0: the legs run left and right, broadside to the front

    bool operator==(const InvertedV&) const = default;
};

/// n equal wires from a hub, evenly spread round it.
struct Fan {
    PointText hub{"0 m", "0 m", "2 m"};
    std::string count = "4";
    std::string length = "5 m";
    std::string slope = "0 deg";   ///< below the horizon
    std::string first = "0 deg";   ///< bearing of the first, to the right of the front
    std::string insulators = "0";  ///< in each wire, as in a StraightWire

    bool operator==(const Fan&) const = default;
};

/// Wires round the foot of a vertical: laid on the ground, in it or held above it.
struct RadialSystem {
    PointText foot{"0 m", "0 m", "0 m"};  ///< where the antenna stands on them
    std::string count = "16";
    std::string length = "10 m";     ///< or several, "5 m; 8 m", taken in turn
    std::string depth = "5 cm";      ///< of the hub below the foot; 0: they leave from the foot itself
    std::string slope = "0 deg";     ///< below the horizon
    std::string first = "0 deg";     ///< bearing of the first, to the right of the front
    std::string sector = "360 deg";  ///< over which they are spread
    std::string bentUp = "0 m";      ///< length of their last piece, which rises
    std::string rod = "0 m";         ///< length of a rod straight down from the hub
    std::string rodDiameter = "16 mm";

    bool operator==(const RadialSystem&) const = default;
};

/// A rod driven into the ground.
struct GroundRod {
    PointText top{"0 m", "0 m", "0 m"};
    std::string length = "1.5 m";

    bool operator==(const GroundRod&) const = default;
};

using Shape = std::variant<StraightWire, BentWire, RegularLoop, InvertedV, Fan, ElementRow, RadialSystem,
                           GroundRod, HungWire, CableRun>;

struct Part {
    std::string name;
    bool enabled = true;
    Conductor conductor;
    Shape shape = StraightWire{};
    std::string foldedEnd;  ///< for its free ends when it is cut; empty: as the whole design (build_texts.h)
    Extra extra;
    Id id = 0;

    Part();
    Part(const Part&);
    Part(Part&&) noexcept;
    Part& operator=(const Part&);
    Part& operator=(Part&&) noexcept;
    ~Part();
    bool operator==(const Part&) const;
};

struct Feed {
    std::string name = "Feed";
    std::string part;
    Place place;
    /// Parts whose wires at the same joint are fed with that of `part`: two halves of several wires against
    /// the two others.
    std::vector<std::string> with = {};
    std::string amplitude = "1";  ///< volts, relative to the other feeds
    std::string phase = "0 deg";
    Extra extra;
    Id id = 0;

    bool operator==(const Feed&) const = default;
};

enum class LoadForm { Series, Parallel, Trap, Ring, Table };

/// A lumped load; resistance in ohm, inductance in uH with the Q of the coil, capacitance in pF, empty where
/// absent. A trap may be given by its frequency and the reactance of its coil there instead, a choke by the
/// turns on a ferrite ring or by a table of its impedance.
struct Load {
    std::string name = "Load";
    std::string part;
    Place place;
    LoadForm form = LoadForm::Series;
    std::string resistance;
    std::string inductance;
    std::string capacitance;
    std::string coilQ;
    std::string trapFrequency = "7.1 MHz";
    std::string trapReactance = "200";  ///< ohm, of the coil and of the capacitor at that frequency
    std::string turns = "10";           ///< on a ring, through its hole
    std::string ringOuter = "61 mm";    ///< diameters and height of the ring, of all that are stacked
    std::string ringInner = "35.5 mm";
    std::string ringHeight = "12.7 mm";
    std::string permeability = "800";  ///< initial, relative
    std::string relaxation;            ///< frequency at which it falls off; empty: by Snoek's law
    std::string stray = "2";           ///< pF, between the ends of the winding
    std::vector<ImpedancePoint> table;
    std::string tableFile;  ///< where it came from
    std::string rating;     ///< watts that it is said to stand; empty: unknown
    bool enabled = true;
    Extra extra;
    Id id = 0;

    bool operator==(const Load&) const = default;
};

enum class BlockKind { Transformer, Cable, Stub, Element, Choke, QuarterWave, Network };

/// A line between two points of the antenna.
struct PhasingLine : LineText {
    std::string name = "Line";
    std::string fromPart;
    Place from;
    std::string toPart;
    Place to;
    bool crossed = false;
    bool enabled = true;
    Extra extra;
    Id id = 0;

    bool operator==(const PhasingLine&) const = default;
};

/// One element of an L, pi or T network; uH, pF or ohm.
struct NetworkArm {
    ElementKind element = ElementKind::Inductor;
    bool shunt = false;
    std::string value = "1";
    std::string q;  ///< empty: no loss
    Extra extra = {};

    bool operator==(const NetworkArm&) const = default;
};

/// A block of the feed path. Only the members of its kind count; the others keep what was typed. The line is
/// that of a cable, a stub or a quarter-wave section (whose length follows from `tuned`).
struct FeedBlock : LineText {
    std::string name = "Transformer";
    BlockKind kind = BlockKind::Transformer;
    bool enabled = true;

    std::string ratio = "49:1";  ///< transformer: antenna side to radio side
    std::string magnetising;     ///< uH on the radio side; this and the next three empty: ideal
    std::string coreLoss;        ///< ohm
    std::string leakage;         ///< uH
    std::string compensation;    ///< pF

    bool shorted = true;  ///< stub
    std::string tuned;    ///< quarter-wave section: the frequency; empty: the design frequency

    ElementKind element = ElementKind::Inductor;
    bool shunt = false;
    std::string value = "1";  ///< uH, pF or ohm
    std::string q;            ///< empty: no loss

    std::vector<NetworkArm> arms;  ///< network: from the antenna to the radio

    std::string loss = "0.1";  ///< choke, dB
    std::string choking;       ///< ohm against the current on the outside of a cable run; empty: none
    Extra extra;
    Id id = 0;

    FeedBlock();
    FeedBlock(const FeedBlock&);
    FeedBlock(FeedBlock&&) noexcept;
    FeedBlock& operator=(const FeedBlock&);
    FeedBlock& operator=(FeedBlock&&) noexcept;
    ~FeedBlock();
    bool operator==(const FeedBlock&) const;
};

/// A dimension as it was when something was measured.
struct TakenWith {
    std::string dimension;
    std::string value;
    Extra extra = {};

    bool operator==(const TakenWith&) const = default;
};

/// A measurement of the built antenna, laid over the modelled curves.
struct Measured {
    std::string name;
    std::string file;  ///< where it came from
    MeasuredData data;
    bool atAntenna = false;  ///< taken at the feedpoint, otherwise at the radio end of the feed path
    bool hasLead = false;    ///< `lead` lay between the analyser and that place
    FeedBlock lead;          ///< a cable or a transformer, taken away before comparing
    std::vector<TakenWith> takenWith = {};  ///< what was cut when it was taken; empty: as it is now
    bool shown = true;
    Extra extra;
    Id id = 0;

    bool operator==(const Measured&) const = default;
};

/// The soil whose two constants the designer gives.
inline constexpr const char* kCustomSoil = "custom";

struct Site {
    GroundKind ground = GroundKind::FreeSpace;
    bool quick = false;                  ///< worked out in free space for the time being, whatever the ground
    std::string soil = "average";        ///< of real ground: a kind from model/soils.h, or kCustomSoil
    std::string permittivity = "13";     ///< of custom soil, relative
    std::string conductivity = "0.005";  ///< of custom soil, S/m
    std::string height = "0 m";     ///< added to all heights but those of supports and what hangs on them
    std::string heading = "0 deg";  ///< compass bearing of the front
    std::vector<Support> supports;  ///< what stands there and holds wires up
    Backdrop backdrop;              ///< a picture of it under its plan
    Extra extra;

    bool operator==(const Site&) const = default;
};

/// How fine a mesh a design needs, as its self-check found (study/self_check.h). It says nothing about what
/// the design is: it is not kept in files, and designs that differ in it alone are equal.
struct Fineness {
    int level = 0;

    bool operator==(const Fineness&) const { return true; }
};

struct Design {
    std::string name = "New design";
    std::string designFrequency = "14.15 MHz";
    std::string reference = "50";  ///< ohm; the impedance that SWR refers to
    std::vector<Dimension> dimensions;
    std::vector<Part> parts;
    std::vector<Copy> copies;  ///< made one after the other
    std::vector<Feed> feeds;   ///< on a part with copies: one on each; on one copy by its full name
    std::vector<Load> loads;
    std::vector<PhasingLine> lines;
    std::vector<DriveSet> driveSets;
    int driveSet = -1;  ///< the one in use; -1: every feed as it says itself
    Harness harness;
    std::vector<FeedBlock>
        feedPath;  ///< from the feedpoint, or the common point of the harness, to the radio
    std::vector<Measured> measured;
    TunePlan tune;
    BuildTexts build;
    Site site;
    std::vector<std::string> bands;  ///< names of the bands it is for; empty: all of the project
    Fineness fineness;
    Extra extra;
    Id id = 0;

    Design();
    Design(const Design&);
    Design(Design&&) noexcept;
    Design& operator=(const Design&);
    Design& operator=(Design&&) noexcept;
    ~Design();
    bool operator==(const Design&) const;
};

/// A result that was pinned: the model that made it. Its figures are worked out from it whenever they are
/// needed, so that they are always those of this model.
struct Pin {
    std::string name;
    Design design;
    bool shown = true;
    int colour = -1;  ///< of the overlay colours; -1: by its place in the list
    Extra extra;
    Id id = 0;

    bool operator==(const Pin&) const = default;
};

/// Which directions matter.
struct Angles {
    std::array<double, 4> watchDeg = {5.0, 10.0, 15.0, 30.0};  ///< elevations read in the ledger
    double layerKm = 300.0;                                    ///< virtual height of the layer for one hop
    double nearestKm = 0.0;  ///< distances wanted in one hop; both 0: none chosen
    double farthestKm = 0.0;

    bool wanted() const { return farthestKm > nearestKm; }
    Extra extra = {};

    bool operator==(const Angles&) const = default;
};

struct Project {
    std::string title = "New project";
    std::vector<Band> bands;
    std::size_t workingBand = 0;
    std::vector<Design> designs;
    std::size_t activeDesign = 0;
    bool feetAndInches = false;
    SwrLimits swrLimits = kUsualSwrLimits;
    double powerW = 100.0;  ///< of the radio, for watts lost
    std::vector<Pin> pins;
    int baseline = -1;  ///< pin that the others are compared with; -1: none
    Angles angles;
    KeepClear keepClear;
    Extra extra;

    const Design& active() const { return designs.at(activeDesign); }
    Design& active() { return designs.at(activeDesign); }
    Id lastId = 0;  ///< the highest id given so far

    Project();
    Project(const Project&);
    Project(Project&&) noexcept;
    Project& operator=(const Project&);
    Project& operator=(Project&&) noexcept;
    ~Project();
    bool operator==(const Project&) const;
};

/// The kind of a shape in plain words: "inverted V".
std::string shapeName(const Shape& shape);

}  // namespace rm::model
