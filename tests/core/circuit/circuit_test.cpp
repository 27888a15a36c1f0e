// The feed path and its networks against tests/reference/circuit.json.
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "core/circuit/chain.h"
#include "core/circuit/matching.h"
#include "core/circuit/port_circuit.h"
#include "core/study/figures.h"
#include "json_number.h"

using namespace rm;
using namespace rm::circuit;
using nlohmann::json;

namespace {

const json& reference() {
    static const json file = [] {
        json j;
        std::ifstream(RM_SOURCE_DIR "/tests/reference/circuit.json") >> j;
        return j;
    }();
    return file;
}

void near(Complex value, Complex expected) {
    CHECK(std::abs(value - expected) < 1e-6 * std::abs(expected));
}

/// A line with this matched loss at one frequency.
LineKind lineWith(double ohm, double velocityFactor, double lossDbPer100m, double frequencyHz) {
    return {ohm, velocityFactor, lossDbPer100m / std::sqrt(frequencyHz / 1e6), 0.0};
}

Transformer transformerOf(const json& j) {
    return {j["impedance_ratio"], j["L_magnetising_H"].get<double>(), j["R_core_parallel_ohm"].get<double>(),
            j["L_leakage_H"].get<double>(), j["C_compensation_F"].get<double>()};
}

/// The elements of a network with coils of Q 200 and capacitors of Q 1000.
std::vector<Block> withQ(const LumpedMatch& network) {
    std::vector<Block> blocks;
    for (Element e : network.elements) {
        e.q = e.kind == ElementKind::Inductor ? 200.0 : 1000.0;
        blocks.push_back(e);
    }
    return blocks;
}

const Element* elementOf(const LumpedMatch& network, bool shunt) {
    for (const auto& e : network.elements)
        if (e.shunt == shunt) return &e;
    return nullptr;
}

}  // namespace

TEST_CASE("lossy lines") {
    for (const auto& c : reference()["a_lossy_line"]["cases"]) {
        INFO(c["id"]);
        const double f = c["f_hz"];
        const double length = c["length_m"];
        const auto line = lineWith(c["Z0_ohm"], c["velocity_factor"], c["matched_loss_dB_per_100m"], f);
        const Complex load = test::number(c["ZL_ohm"]);
        const auto joints = walkChain({Cable{line, length}}, load, f);
        const auto& expected = c["real_Z0"];
        near(joints.back().impedanceOhm, test::number(expected["Zin_ohm"]));
        CHECK(joints.back().totalLossDb == Approx(expected["total_loss_dB"].get<double>()).epsilon(1e-6));
        CHECK(line.matchedLossDb(length, f) ==
              Approx(expected["matched_loss_dB"].get<double>()).epsilon(1e-6));
        CHECK(study::swr(joints.back().impedanceOhm, c["Z0_ohm"].get<double>()) ==
              Approx(expected["SWR_input"].get<double>()).epsilon(1e-6));
    }
    for (const auto& c : reference()["g_reflection"]["cases"]) {
        INFO(c["id"]);
        const Complex z = test::number(c["Z_ohm"]);
        CHECK(std::abs(study::reflection(z, 50.0)) == Approx(c["gamma_abs"].get<double>()).margin(1e-9));
        CHECK(study::swr(z, 50.0) == Approx(c["SWR"].get<double>()).epsilon(1e-6));
        if (!c["return_loss_dB"].is_null())
            CHECK(study::returnLossDb(z, 50.0) == Approx(c["return_loss_dB"].get<double>()).epsilon(1e-6));
        for (const auto& l : c["lines"]) {
            const auto line = lineWith(50.0, 1.0, l["matched_loss_dB"], 10e6);
            const auto end = walkChain({Cable{line, 100.0}}, z, 10e6).back();
            CHECK(end.totalLossDb == Approx(l["total_loss_dB"].get<double>()).epsilon(1e-6));
            CHECK(study::swr(end.impedanceOhm, 50.0) ==
                  Approx(l["SWR_at_input"].get<double>()).epsilon(1e-6));
        }
    }
}

TEST_CASE("transformers, ideal and real") {
    for (const auto& c : reference()["b_ideal_transformer"]["cases"]) {
        const auto joints =
            walkChain({Transformer{c["impedance_ratio"], {}, {}, {}, {}}}, test::number(c["ZL_ohm"]), 7e6);
        near(joints.back().impedanceOhm, test::number(c["Zin_ohm"]));
        CHECK(joints.back().totalLossDb == Approx(0.0).margin(1e-9));
    }
    for (const auto& c : reference()["b_real_transformer"]["cases"])
        for (const auto& p : c["points"]) {
            INFO(c["id"] << " " << p["f_hz"]);
            const auto joints = walkChain({transformerOf(c)}, test::number(c["ZL_ohm"]), p["f_hz"]);
            near(joints.back().impedanceOhm, test::number(p["Zin_ohm"]));
            CHECK(joints.back().totalLossDb == Approx(p["loss_dB"].get<double>()).epsilon(1e-6));
        }
}

TEST_CASE("every L network, exact and with lossy elements") {
    for (const auto& c : reference()["c_L_network"]["cases"]) {
        INFO(c["id"]);
        const double f = c["f_hz"];
        const Complex load = test::number(c["ZL_ohm"]);
        const auto found = lNetworks(load, c["target_ohm"], f);
        REQUIRE(found.size() == c["n_solutions"].get<std::size_t>());
        for (const auto& network : found) {
            std::vector<Block> blocks(network.elements.begin(), network.elements.end());
            near(walkChain(blocks, load, f).back().impedanceOhm, c["target_ohm"].get<double>());
            CHECK(walkChain(blocks, load, f).back().totalLossDb == Approx(0.0).margin(1e-9));
        }
        for (const auto& s : c["solutions"]) {
            const bool shuntFirst = s["topology"] == "shunt_at_load";
            const auto same = std::find_if(found.begin(), found.end(), [&](const LumpedMatch& n) {
                const auto matches = [](const Element* e, const json& want) {
                    const auto kind = want["type"] == "L" ? ElementKind::Inductor : ElementKind::Capacitor;
                    return e != nullptr && e->kind == kind &&
                           std::abs(e->value / want["value"].get<double>() - 1.0) < 1e-6;
                };
                return n.elements.front().shunt == shuntFirst && matches(elementOf(n, false), s["series"]) &&
                       matches(elementOf(n, true), s["shunt"]);
            });
            REQUIRE(same != found.end());
            const auto end = walkChain(withQ(*same), load, f).back();
            near(end.impedanceOhm, test::number(s["finite_Q"]["Zin_ohm"]));
            CHECK(end.totalLossDb == Approx(s["finite_Q"]["loss_dB"].get<double>()).epsilon(1e-6));
        }
    }
    // Where the resistance is right already, one element does it.
    const auto one = lNetworks({50.0, 30.0}, 50.0, 7e6);
    CHECK(std::count_if(one.begin(), one.end(), [](const auto& n) { return n.elements.size() == 1; }) == 1);
    CHECK(lNetworks(50.0, 50.0, 7e6).empty());
    CHECK_THROWS_AS(lNetworks({0.0, 30.0}, 50.0, 7e6), Error);
}

TEST_CASE("pi and T networks by their Q") {
    for (const auto& c : reference()["d_pi_T"]["cases"]) {
        INFO(c["id"]);
        const double f = c["f_hz"];
        const auto kind = c["kind"] == "pi_lowpass"   ? ThreeElements::PiLowPass
                          : c["kind"] == "T_lowpass"  ? ThreeElements::TLowPass
                          : c["kind"] == "T_highpass" ? ThreeElements::THighPass
                                                      : ThreeElements::PiHighPass;
        const double load = c["R_load_ohm"];
        const auto network = threeElementNetwork(kind, load, c["R_source_side_ohm"], c["Q"], f);
        REQUIRE(network.elements.size() == 3);
        // The file counts from the radio: its output side is at the load.
        const auto& v = c["values"];
        const auto check = [&](std::size_t at, const std::string& place) {
            const Element& e = network.elements[at];
            const std::string key = (e.kind == ElementKind::Inductor ? "L_" : "C_") + place +
                                    (e.kind == ElementKind::Inductor ? "_H" : "_F");
            REQUIRE(v.contains(key));
            CHECK(e.value == Approx(v[key].get<double>()).epsilon(1e-6));
        };
        check(0, "output");
        check(1, network.elements[1].shunt ? "shunt" : "series");
        check(2, "input");
        std::vector<Block> blocks(network.elements.begin(), network.elements.end());
        near(walkChain(blocks, load, f).back().impedanceOhm, c["R_source_side_ohm"].get<double>());
        const auto end = walkChain(withQ(network), load, f).back();
        near(end.impedanceOhm, test::number(c["finite_Q"]["Zin_ohm"]));
        CHECK(end.totalLossDb == Approx(c["finite_Q"]["loss_dB"].get<double>()).epsilon(1e-6));
    }
    CHECK_THROWS_AS(threeElementNetwork(ThreeElements::PiLowPass, 2450.0, 50.0, 2.0, 7e6), Error);
}

TEST_CASE("stubs and quarter-wave sections") {
    for (const auto& c : reference()["e_stub"]["cases"]) {
        INFO(c["id"]);
        const double z0 = c["Z0_ohm"];
        const Complex load = test::number(c["ZL_ohm"]);
        const auto stubs = singleStubs(load, z0);
        REQUIRE(stubs.size() == 2);
        for (const auto& s : c["single_stub"]) {
            const auto same = std::find_if(stubs.begin(), stubs.end(), [&](const StubMatch& m) {
                return std::abs(m.distance - s["distance_from_load_wl"].get<double>()) < 1e-9;
            });
            REQUIRE(same != stubs.end());
            CHECK(same->susceptance ==
                  Approx(s["normalised_susceptance_at_stub_point"].get<double>()).epsilon(1e-6));
            CHECK(same->openLength == Approx(s["open_stub_length_wl"].get<double>()).epsilon(1e-6));
            CHECK(same->shortedLength == Approx(s["shorted_stub_length_wl"].get<double>()).epsilon(1e-6));
            // And it matches: the line to the stub, then the stub, in a chain.
            const LineKind line{z0, 1.0, 0.0, 0.0};
            const double f = 10e6;
            const double wave = wavelengthM(f);
            for (const bool shorted : {false, true}) {
                const double length = (shorted ? same->shortedLength : same->openLength) * wave;
                near(walkChain({Cable{line, same->distance * wave}, Stub{line, length, shorted}}, load, f)
                         .back()
                         .impedanceOhm,
                     z0);
            }
        }
        const auto sections = quarterWaves(load, z0);
        for (const auto& q : c["quarter_wave_transformer"]) {
            const auto& mine = sections[q["at"] == "voltage_maximum" ? 0 : 1];
            CHECK(mine.distance == Approx(q["distance_from_load_wl"].get<double>()).margin(1e-9));
            CHECK(mine.resistanceOhm == Approx(q["resistance_there_ohm"].get<double>()).epsilon(1e-6));
            CHECK(mine.sectionOhm == Approx(q["quarter_wave_Z_ohm"].get<double>()).epsilon(1e-6));
        }
    }
}

TEST_CASE("traps: a coil with its Q beside a capacitor") {
    for (const auto& c : reference()["f_trap"]["cases"])
        for (const auto& p : c["points"]) {
            INFO(c["id"] << " " << p["f_hz"]);
            model::LumpedCircuit trap;
            trap.kind = model::LoadKind::Parallel;
            trap.inductanceH = c["L_H"].get<double>();
            trap.capacitanceF = c["C_F"].get<double>();
            trap.coilQ = c["Q"].get<double>();
            near(lumpedImpedance(trap, p["f_hz"]), test::number(p["Z_series_R_constant_Q_ohm"]));
        }
}

TEST_CASE("a whole feed path: transformer, cable, L network") {
    for (const auto& c : reference()["h_feed_path"]["cases"]) {
        INFO(c["id"]);
        const double f = c["f_hz"];
        const auto& l = c["line"];
        const auto element = [&](const char* name, bool shunt) {
            const auto& e = c["tuner"][name];
            const bool coil = e["type"] == "L";
            return Element{coil ? ElementKind::Inductor : ElementKind::Capacitor, e["value"], shunt,
                           c["tuner"][coil ? "Q_L" : "Q_C"].get<double>()};
        };
        std::vector<Block> blocks = {
            c["transformer"].is_null() ? Transformer{} : transformerOf(c["transformer"]),
            Cable{lineWith(l["Z0_ohm"], l["velocity_factor"], l["matched_loss_dB_per_100m"], f),
                  l["length_m"]}};
        if (c["tuner"]["topology"] == "shunt_at_load") {
            blocks.push_back(element("shunt", true));
            blocks.push_back(element("series", false));
        } else {
            blocks.push_back(element("series", false));
            blocks.push_back(element("shunt", true));
        }
        const auto joints = walkChain(blocks, test::number(c["Z_antenna_ohm"]), f);
        REQUIRE(joints.size() == 5);
        near(joints[1].impedanceOhm, test::number(c["Z_after_transformer_ohm"]));
        near(joints[2].impedanceOhm, test::number(c["Z_line_input_ohm"]));
        near(joints[4].impedanceOhm, test::number(c["Z_tuner_input_ohm"]));
        const auto& loss = c["loss_dB"];
        CHECK(joints[1].blockLossDb == Approx(loss["transformer"].get<double>()).epsilon(1e-6));
        CHECK(joints[2].blockLossDb == Approx(loss["line"].get<double>()).epsilon(1e-6));
        CHECK(joints[3].blockLossDb + joints[4].blockLossDb ==
              Approx(loss["tuner"].get<double>()).epsilon(1e-6));
        CHECK(joints[4].totalLossDb == Approx(loss["total"].get<double>()).epsilon(1e-6));
    }
}

TEST_CASE("a choke loses what it says when matched; standard values are the nearest") {
    const auto joints = walkChain({Choke{0.3}}, 50.0, 7e6);
    near(joints.back().impedanceOhm, 50.0);
    CHECK(joints.back().totalLossDb == Approx(0.3));
    CHECK(standardValue(108e-12, 12) == Approx(100e-12));
    CHECK(standardValue(108e-12, 24) == Approx(110e-12));
    CHECK(standardValue(9.7e-6, 12) == Approx(10e-6));
    // An open end and a short stay what they are through a lossless line of half a wavelength.
    const double f = 10e6;
    const Cable halfWave{{50.0, 1.0, 0.0, 0.0}, 0.5 * wavelengthM(f)};
    CHECK(std::abs(twoPort(halfWave, f).impedanceInto(std::numeric_limits<double>::infinity())) > 1e10);
    CHECK(std::abs(twoPort(halfWave, f).impedanceInto(0.0)) < 1e-8);
}
