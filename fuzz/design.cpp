// Valid projects with a member changed here and there: worked out, checked, and solved where they are small.
// What answers balances its power.
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <random>

#include "core/circuit/port_circuit.h"
#include "core/common.h"
#include "core/em/far_field.h"
#include "core/em/solver.h"
#include "core/model/checks.h"
#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "target.h"

using namespace rm;
using nlohmann::json;

namespace {

/// What takes longer than an instant teaches nothing more: functions, wires, designs of a project.
constexpr std::size_t kSmall = 16;
constexpr std::size_t kFewWires = 8;
constexpr std::size_t kFewDesigns = 2;
constexpr double kFewCopies = 200.0;
/// Wires this far from each other and this thin are no matter of opinion.
constexpr double kBalance = 0.02;

void requireBalance(const model::Expansion& e, double hz, const std::string& text) {
    // Over real ground the rest goes into the ground, and that table takes longer than the fuzzer has.
    if (e.model.ground.kind == model::GroundKind::Real) return;
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(e.model, hz));
    if (mesh->functions.size() > kSmall) return;
    const auto reading = circuit::closePorts(e.model, em::solvePorts(mesh, hz));
    for (const Complex& z : reading.feedImpedance)
        fuzz::require(std::isfinite(z.real()) && std::isfinite(z.imag()), "impedances are finite", text);
    if (!model::findingsAt(e, hz).empty()) return;
    const double radiated = em::averageGain(*mesh, reading.localCurrent, hz, reading.inputPowerW);
    const double balance = radiated + reading.lostPowerW() / reading.inputPowerW - 1.0;
    fuzz::require(std::abs(balance) < kBalance, "what goes in comes out",
                  std::to_string(balance) + " of " + text);
}

/// How many times the copies of a design repeat its parts, as far as plain numbers say so.
double repeats(const json& copies) {
    double all = 1.0;
    for (const auto& copy : copies)
        for (const char* count : {"count", "columns", "rows"})
            if (copy.is_object() && copy.contains(count) && copy[count].is_string())
                all *= std::max(1.0, std::atof(copy[count].get<std::string>().c_str()));
    return all;
}

/// Whether it has so many copies of copies that the sanitizers would look at them for a minute.
bool tooMany(const std::string& text) {
    const json root = json::parse(text, nullptr, false);
    if (!root.is_object() || !root.contains("designs")) return false;
    return std::any_of(root["designs"].begin(), root["designs"].end(), [](const json& design) {
        return design.is_object() && design.contains("copies") && repeats(design["copies"]) > kFewCopies;
    });
}

/// Every place in a JSON text, in order.
void collect(json& node, std::vector<json*>& places) {
    places.push_back(&node);
    if (node.is_structured())
        for (auto& inner : node) collect(inner, places);
}

const char* const kTexts[] = {
    "0",     "1",        "-1",          "10 m",         "0.25 lambda", "1e-30",   "1e30",  "leg",
    "leg/2", "41' 6 in", "90 deg",      "45 deg",       "3",           "100",     "0.001", "",
    "1/0",   "2 mm",     "strip 20 mm", "square 15 mm", "14.1 MHz",    "144 MHz", "60"};

void change(json& root, std::minstd_rand& random) {
    std::vector<json*> places;
    collect(root, places);
    json& place = *places[random() % places.size()];
    switch (random() % 6) {
        case 0:
            if (place.is_array() && !place.empty()) place.push_back(json(place[random() % place.size()]));
            break;
        case 1:
            if (place.is_array() && !place.empty())
                place.erase(place.begin() + static_cast<std::ptrdiff_t>(random() % place.size()));
            break;
        case 2:
            place = *std::vector<json>{json(*places[random() % places.size()])}.begin();
            break;
        case 3:
            if (place.is_number())
                place = place.get<double>() * (1.0 + 0.01 * static_cast<double>(random() % 200));
            if (place.is_boolean()) place = !place.get<bool>();
            break;
        default:
            if (place.is_string()) place = kTexts[random() % std::size(kTexts)];
    }
}

}  // namespace

/// Changes a few members of a project instead of bytes: most of what comes of it is still a project.
extern "C" std::size_t LLVMFuzzerCustomMutator(std::uint8_t* data, std::size_t size, std::size_t most,
                                               unsigned seed) {
    json root = json::parse(data, data + size, nullptr, false);
    if (root.is_discarded()) root = json::object();
    std::minstd_rand random(seed);
    for (unsigned i = 0; i <= seed % 4; ++i) change(root, random);
    const std::string text = io::jsonText(root);
    if (text.size() > most) return size;
    std::copy(text.begin(), text.end(), data);
    return text.size();
}

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text = fuzz::textOf(data, size);
    model::Project project;
    try {
        project = io::parseProject(text, "It");
    } catch (const Error&) {
        return 0;
    }
    if (tooMany(text)) return 0;
    for (std::size_t d = 0; d < std::min(project.designs.size(), kFewDesigns); ++d) {
        const auto e = model::expand(project.designs[d]);
        if (!e.usable() || e.model.wires.size() > kFewWires) continue;
        try {
            requireBalance(e, e.designFrequencyHz, text);
        } catch (const Error&) {
        }
    }
    return 0;
}
