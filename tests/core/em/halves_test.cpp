// A feed across the two halves of several wires that meet in one joint.
#include <catch2/catch.hpp>

#include "core/circuit/port_circuit.h"
#include "core/em/far_field.h"
#include "core/em/solver.h"
#include "core/model/expand.h"

using namespace rm;
using namespace rm::model;

namespace {

Part vee(const std::string& name, const std::string& leg, const std::string& turn) {
    Part part;
    part.name = name;
    part.conductor.material = "perfect";
    part.shape = InvertedV{{"0 m", "0 m", "0 m"}, "12 m", leg, "120 deg", turn};
    return part;
}

Design crossed(const std::string& second) {
    Design d;
    d.designFrequency = "7.1 MHz";
    d.parts = {vee("A", "10 m", "0 deg"), vee("B", second, "90 deg")};
    Feed feed;
    feed.part = "A";
    feed.place = {PlaceKind::Corner, "1"};
    feed.with = {"B"};
    d.feeds = {feed};
    return d;
}

Complex impedance(const WireModel& model, double hz) {
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(model, hz));
    return circuit::closePorts(model, em::solvePorts(mesh, hz)).feedImpedance.at(0);
}

/// The same with the halves apart: a short bridge between them, with the feed in its middle.
WireModel bridged(const WireModel& joined) {
    WireModel model = joined;
    const Vec3 apex = model.wires[0].endM;
    const Vec3 half(0.0, 0.0, 0.015);
    // The left legs end at the joint, the right ones begin there.
    for (auto& wire : model.wires) {
        if ((wire.endM - apex).norm() < 1e-9) wire.endM += half;
        if ((wire.startM - apex).norm() < 1e-9) wire.startM -= half;
    }
    PlainWire bridge = model.wires[0];
    bridge.startM = apex + half;
    bridge.endM = apex - half;
    model.wires.push_back(bridge);
    model.feeds[0].place = {model.wires.size() - 1, 0.5};
    model.feeds[0].together.clear();
    return model;
}

}  // namespace

TEST_CASE("two inverted Vs on one apex, half against half, are what a bridge between the halves makes them") {
    for (const char* second : {"10 m", "5.2 m"}) {
        const auto e = expand(crossed(second));
        REQUIRE(e.usable());
        REQUIRE(e.model.feeds[0].together.size() == 1);
        for (const double hz : {7.1e6, 14.2e6}) {
            const Complex z = impedance(e.model, hz);
            const Complex bridge = impedance(bridged(e.model), hz);
            INFO(second << " at " << hz << ": " << z << " bridged " << bridge);
            // The bridge itself is 3 cm of wire, some 1.5 ohm at 14 MHz.
            CHECK(std::abs(z - bridge) < 0.02 * std::abs(bridge) + 2.0);
        }
    }
}

TEST_CASE("what goes in across two halves comes out, and it matters on which side they are") {
    const auto e = expand(crossed("5.2 m"));
    const double hz = 7.1e6;
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(e.model, hz));
    const auto reading = circuit::closePorts(e.model, em::solvePorts(mesh, hz));
    CHECK(em::averageGain(*mesh, reading.localCurrent, hz, reading.inputPowerW) == Approx(1.0).margin(0.002));

    Design one = crossed("5.2 m");
    one.feeds[0].with.clear();
    const auto against = expand(one);
    // Nobody said where the second wire belongs: that is said, and it is another antenna.
    REQUIRE(against.findings.size() == 1);
    CHECK(against.findings[0].sentence.find("passes through") != std::string::npos);
    // Where the second one is resonant most of the current is its.
    CHECK(std::abs(impedance(against.model, 14.2e6) - impedance(e.model, 14.2e6)) > 5.0);
}

TEST_CASE("halves that do not meet are a finding, and so is a joint with all on one side") {
    Design d = crossed("10 m");
    d.feeds[0].place = {PlaceKind::Percent, "20"};
    CHECK(hasError(expand(d).findings));
    d = crossed("10 m");
    d.parts[1].shape = InvertedV{{"1 m", "0 m", "0 m"}, "12 m", "10 m", "120 deg", "0 deg"};
    CHECK(hasError(expand(d).findings));
}
