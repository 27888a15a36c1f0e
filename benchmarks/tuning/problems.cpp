#include "problems.h"

#include <fmt/format.h>

#include <functional>

#include "core/edit/crossed.h"
#include "core/starters/starter.h"
#include "long_yagi.h"

namespace rm::tuning {

namespace {

using namespace rm::test;

std::string metres(double m) {
    return fmt::format("{:.4g} m", m);
}

std::vector<Band> bandsOf(const std::vector<std::string>& names) {
    std::vector<Band> bands;
    for (const auto& name : names) bands.push_back(*findAllocatedBand(name));
    return bands;
}

Design starter(const std::string& kind, const std::vector<Band>& bands, double heightM,
               GroundKind ground = GroundKind::Real) {
    starters::Order order;
    order.bands = bands;
    order.heightM = heightM;
    order.site.ground = ground;
    return starters::sketch(kind, order);
}

/// A length that may move.
std::string moved(Design& d, const std::string& name, double value, double low, double high,
                  const std::string& step = "") {
    d.dimensions.push_back(dim(name, metres(value), metres(low), metres(high)));
    d.tune.movers.push_back(mover(name, step));
    return name;
}

/// A plain number or an angle that may move.
std::string movedNumber(Design& d, const std::string& name, DimensionKind kind, double value, double low,
                        double high, const std::string& step) {
    const char* unit = kind == DimensionKind::Angle ? " deg" : "";
    d.dimensions.push_back(dim(name, fmt::format("{}{}", value, unit), fmt::format("{}{}", low, unit),
                               fmt::format("{}{}", high, unit)));
    d.dimensions.back().kind = kind;
    d.tune.movers.push_back(mover(name, step));
    return name;
}

Part& part(Design& d, const std::string& name, const Shape& shape, const Conductor& conductor) {
    Part p;
    p.name = name;
    p.shape = shape;
    p.conductor = conductor;
    d.parts.push_back(p);
    return d.parts.back();
}

Feed& feed(Design& d, const std::string& on, PlaceKind kind, const std::string& value = "") {
    Feed f;
    f.part = on;
    f.place.kind = kind;
    f.place.value = value;
    d.feeds.push_back(f);
    return d.feeds.back();
}

Goal second(Goal g) {
    g.stage = 2;
    return g;
}

/// As much gain as there is, once all else is met.
Goal mostGain(const std::string& from, const std::string& to = "") {
    return second(goal(GoalKind::Gain, "", from, to));
}

/// Lengths and spacings of Cheng and Chen's array (D. K. Cheng and C. A. Chen, IEEE Trans. Antennas Propag.
/// 21, 1973): perfect conductors of radius 0.003369 wavelengths in free space.
Problem sixElements() {
    Design d;
    d.designFrequency = "299.792458 MHz";
    const double lengths[] = {0.51, 0.49, 0.43, 0.43, 0.43, 0.43};
    const double spacings[] = {0.0, 0.25, 0.31, 0.31, 0.31, 0.31};
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    row.spacings = true;
    for (int i = 0; i < 6; ++i) {
        RowElement e;
        e.name = fmt::format("e{}", i);
        e.length = moved(d, e.name + "_long", lengths[i], 0.38, 0.55, "0.1 mm");
        e.position = i == 0 ? "0 m" : moved(d, e.name + "_after", spacings[i], 0.1, 0.5, "0.1 mm");
        row.elements.push_back(e);
    }
    part(d, "Array", row, {"perfect", "6.738 mm", "", "3"});
    feed(d, "Array", PlaceKind::Middle).place.element = "e1";
    d.tune.goals = {goal(GoalKind::Gain, "", "299.792458 MHz")};
    return {"six elements of Cheng and Chen", "gain at one frequency, lengths and spacings free", d, {}};
}

Problem loopFed() {
    auto d = starter("yagi-loop", {{"6 m", 50e6, 50.5e6, {}}}, 0.0, GroundKind::FreeSpace);
    d.tune.limits = {limit(LimitKind::BoomLength, "5 m")};
    return {"loop-fed Yagi", "five elements on 5 m of boom, 50 to 50.5 MHz", d, {{"6 m", 50e6, 50.5e6, {}}}};
}

Problem crossedVees() {
    Design d;
    d.designFrequency = "3.75 MHz";
    d.site.ground = GroundKind::Real;
    const std::string apex = moved(d, "apex", 14.0, 11.0, 18.0, "1 cm");
    for (const bool longer : {true, false}) {
        InvertedV vee;
        vee.apexHeight = apex;
        vee.leg = longer ? moved(d, "long_leg", 20.3, 17.5, 23.0, "1 cm")
                         : moved(d, "short_leg", 18.2, 15.0, 20.0, "1 cm");
        vee.angle = movedNumber(d, longer ? "long_angle" : "short_angle", DimensionKind::Angle, 115.0, 90.0,
                                150.0, "1 deg");
        vee.turn = longer ? "0 deg" : "90 deg";
        part(d, longer ? "Long V" : "Short V", vee, {"copper", "2 mm", "", "3"});
    }
    feed(d, "Long V", PlaceKind::Corner, "1").with = {"Short V"};
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "3.5 MHz", "4 MHz")};
    return {"two crossed inverted Vs", "one feed, SWR from 3.5 to 4 MHz", d, {}};
}

Problem endFed() {
    const auto bands = bandsOf({"80 m", "40 m", "20 m", "15 m", "10 m"});
    Design d;
    d.designFrequency = "7.1 MHz";
    d.site.ground = GroundKind::Real;
    const std::string span = moved(d, "span", 22.6, 21.5, 26.0, "1 cm");
    const std::string counterpoise = moved(d, "counterpoise", 2.0, 0.5, 6.0, "1 cm");
    part(d, "Wire", BentWire{{{"0 m", "0 m", "3 m"}, {"sqrt(" + span + "^2 - 49)", "0 m", "10 m"}}, false},
         {"copper", "1.5 mm", "", "3"});
    part(d, "Counterpoise", StraightWire{{"0 m", "0 m", "3 m"}, {"-" + counterpoise, "0 m", "1 m"}},
         {"copper", "1.5 mm", "", "3"});
    feed(d, "Wire", PlaceKind::Start);
    Load coil;
    coil.part = "Wire";
    coil.place.kind = PlaceKind::Distance;
    coil.place.value = moved(d, "coil_at", 20.2, 18.0, 21.4, "1 cm");
    coil.inductance = movedNumber(d, "coil_uH", DimensionKind::Number, 100.0, 30.0, 140.0, "1");
    coil.coilQ = "200";
    d.loads.push_back(coil);
    FeedBlock transformer;
    transformer.ratio = "49:1";
    transformer.magnetising = "12";
    transformer.leakage = "0.1";
    transformer.compensation = "100";
    d.feedPath.push_back(transformer);
    d.tune.goals = {goal(GoalKind::Swr, "2")};
    d.tune.goals[0].bands = {"80 m", "40 m", "20 m", "15 m", "10 m"};
    return {"end-fed wire", "transformer, coil and counterpoise, SWR on five bands", d, bands};
}

Problem fourSquare() {
    Design d;
    d.designFrequency = "7.1 MHz";
    d.site.ground = GroundKind::Perfect;
    const char* const places[][2] = {
        {"-7.46 m", "0 m"}, {"0 m", "7.46 m"}, {"0 m", "-7.46 m"}, {"7.46 m", "0 m"}};
    const std::string side = movedNumber(d, "side_volts", DimensionKind::Number, 1.0, 0.3, 2.0, "0.01");
    const std::string front = movedNumber(d, "front_volts", DimensionKind::Number, 1.0, 0.3, 2.0, "0.01");
    const std::string sidePhase =
        movedNumber(d, "side_phase", DimensionKind::Angle, -90.0, -170.0, -20.0, "1 deg");
    const std::string frontPhase =
        movedNumber(d, "front_phase", DimensionKind::Angle, -180.0, -300.0, -60.0, "1 deg");
    for (int i = 0; i < 4; ++i) {
        const std::string name = fmt::format("Vertical {}", i + 1);
        part(d, name,
             StraightWire{{places[i][0], places[i][1], "0 m"}, {places[i][0], places[i][1], "10.2 m"}},
             {"aluminium-6061", "30 mm", "", "3"});
        Feed& f = feed(d, name, PlaceKind::Start);
        f.name = fmt::format("Feed {}", i + 1);
        f.amplitude = i == 0 ? "1" : i == 3 ? front : side;
        f.phase = i == 0 ? "0 deg" : i == 3 ? frontPhase : sidePhase;
    }
    auto rear = goal(GoalKind::FrontToRear, "26", "7.05 MHz", "7.15 MHz");
    rear.towards = "front";
    d.tune.goals = {rear, mostGain("7.05 MHz", "7.15 MHz")};
    return {"four in a square", "voltages and phases for a quiet rear, then gain", d, {}};
}

Problem fanDipole() {
    const auto bands = bandsOf({"20 m", "15 m", "10 m"});
    Design d;
    d.designFrequency = "14.15 MHz";
    d.site.ground = GroundKind::Real;
    const double legs[] = {5.15, 3.45, 2.6};
    for (std::size_t i = 0; i < bands.size(); ++i) {
        InvertedV vee;
        vee.apexHeight = "10 m";
        vee.leg = moved(d, fmt::format("leg{}", i + 1), legs[i], 0.85 * legs[i], 1.15 * legs[i], "1 cm");
        vee.angle = movedNumber(d, fmt::format("angle{}", i + 1), DimensionKind::Angle,
                                140.0 - 30.0 * static_cast<double>(i), 60.0, 170.0, "1 deg");
        part(d, "Dipole " + bands[i].name, vee, {"copper", "2 mm", "", "3"});
    }
    feed(d, "Dipole 20 m", PlaceKind::Corner, "1").with = {"Dipole 15 m", "Dipole 10 m"};
    d.tune.goals = {goal(GoalKind::Swr, "1.5")};
    d.tune.goals[0].bands = {"20 m", "15 m", "10 m"};
    return {"fan dipole", "three bands on one feed", d, bands};
}

Problem logPeriodic() {
    Design d;
    d.designFrequency = "18.1 MHz";
    const std::string longest = moved(d, "longest", 10.9, 9.5, 12.0, "1 cm");
    const std::string tau = movedNumber(d, "tau", DimensionKind::Number, 0.88, 0.8, 0.94, "0.001");
    const std::string sigma = movedNumber(d, "sigma", DimensionKind::Number, 0.05, 0.03, 0.09, "0.001");
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    for (int i = 0; i < 10; ++i) {
        RowElement e;
        e.name = fmt::format("e{}", i + 1);
        e.length = fmt::format("{}*{}^{}", longest, tau, i);
        e.position = i == 0 ? "0 m" : fmt::format("2*{0}*{1}*(1-{2}^{3})/(1-{2})", sigma, longest, tau, i);
        row.elements.push_back(e);
    }
    part(d, "Row", row, {"aluminium-6061", "16 mm", "", "3"});
    feed(d, "Row", PlaceKind::Middle).place.element = "e10";
    d.lines = edit::crossedLines(d, d.parts.front(),
                                 movedNumber(d, "line_ohm", DimensionKind::Number, 120.0, 60.0, 300.0, "1"));
    FeedBlock balun;
    balun.ratio = "2:1";
    d.feedPath.push_back(balun);
    d.tune.limits = {limit(LimitKind::BoomLength, "7 m")};
    d.tune.goals = {goal(GoalKind::Swr, "1.8", "14 MHz", "28.5 MHz"), mostGain("14 MHz", "28.5 MHz")};
    return {"log-periodic row", "ten elements from 14 to 28.5 MHz, SWR and then the least gain", d, {}};
}

Problem shortVertical() {
    Design d;
    d.designFrequency = "3.65 MHz";
    d.site.ground = GroundKind::Real;
    const std::string tall = moved(d, "tall", 8.0, 6.0, 9.0, "1 cm");
    part(d, "Vertical", StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", tall}},
         {"aluminium-6061", "30 mm", "", "3"});
    Fan hat;
    hat.hub = {"0 m", "0 m", tall};
    hat.count = "4";
    hat.length = moved(d, "hat", 1.5, 0.5, 3.0, "1 cm");
    hat.slope = "20 deg";
    part(d, "Hat", hat, {"copper", "2 mm", "", "3"});
    RadialSystem radials;
    radials.count = "12";
    radials.length = moved(d, "radial", 10.0, 5.0, 16.0, "10 cm");
    part(d, "Radials", radials, {"copper", "2 mm", "", "3"});
    feed(d, "Vertical", PlaceKind::Start);
    Load coil;
    coil.part = "Vertical";
    coil.place.kind = PlaceKind::Distance;
    coil.place.value = moved(d, "coil_at", 3.0, 1.0, 5.5, "1 cm");
    coil.inductance = movedNumber(d, "coil_uH", DimensionKind::Number, 30.0, 1.0, 90.0, "0.1");
    coil.coilQ = "250";
    d.loads.push_back(coil);
    d.tune.limits = {limit(LimitKind::TotalWire, "150 m")};
    d.tune.goals = {goal(GoalKind::Swr, "1.6", "3.64 MHz", "3.66 MHz"), mostGain("3.65 MHz")};
    return {"short vertical", "coil, hat and radials on 80 m, SWR and then gain", d, {}};
}

Problem twelveElements() {
    Design d = longYagi();
    auto& row = std::get<ElementRow>(d.parts.front().shape);
    row.elements.back().position = moved(d, "e10_at", 6.0, 5.6, 7.0, "1 mm");
    RowElement last;
    last.name = "e11";
    last.length = moved(d, "e11_long", 0.872, 0.76, 0.98, "1 mm");
    last.position = "8 m";
    row.elements.push_back(last);
    // Two sizes of tube at the long end, one at the short, the driven one the thickest.
    for (std::size_t i = 0; i < row.elements.size(); ++i)
        row.elements[i].diameter = i == 1 ? "12 mm" : i < 4 ? "10 mm x 0.3 m, 8 mm" : "6 mm";
    return {"twelve elements", "mixed tubing on 8 m of boom for 144 to 144.6 MHz", d, {}};
}

}  // namespace

std::vector<Problem> problems() {
    Design limited = longYagi();
    limited.tune.limits = {limit(LimitKind::BoomLength, "6 m")};
    return {
        {"eleven elements", "8 mm on 6 m of boom for 144 to 144.6 MHz, twenty lengths", longYagi(), {}},
        {"eleven elements, boom limited", "the same with the limit that its boom just keeps", limited, {}},
        sixElements(),
        loopFed(),
        crossedVees(),
        endFed(),
        fourSquare(),
        fanDipole(),
        logPeriodic(),
        shortVertical(),
        twelveElements()};
}

}  // namespace rm::tuning
