// verify: reference cases against their expected values, as a table and as JSON.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/output.h"
#include "core/project/json_text.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "core/study/verify.h"

namespace rm::cli {

namespace {

using nlohmann::json;
using study::CaseResult;
using study::Verdict;

std::string verdictText(Verdict verdict) {
    switch (verdict) {
        case Verdict::Pass:
            return "pass";
        case Verdict::Fail:
            return "FAIL";
        default:
            return "no expected values";
    }
}

json toJson(const CaseResult& r) {
    json j = {{"name", r.name}, {"verdict", verdictText(r.verdict)}};
    if (!r.reason.empty()) j["reason"] = r.reason;
    j["z"] = json::array();
    for (const Complex z : r.impedanceOhm) j["z"].push_back({z.real(), z.imag()});
    j["gain_dbi"] = r.gainDbi;
    j["max_dbi"] = r.maxDbi;
    j["average_gain"] = r.averageGain;
    j["power_balance"] = r.powerBalance;
    j["unknowns"] = r.unknowns;
    j["seconds"] = r.seconds;
    return j;
}

std::string impedanceText(Complex z) {
    return fmt::format("{:.2f} {:+.2f}j", z.real(), z.imag());
}

void printRow(const io::ReferenceCase& c, const CaseResult& r) {
    const double zTolerance = c.expected ? c.expected->impedanceToleranceOhm : 0.0;
    const double gTolerance = c.expected ? c.expected->gainToleranceDb : 0.0;
    fmt::print("{:<28}  {:<20} {:>8.3f} {:>7.2f}  {:>8.3f} {:>7.3f} {:>6.3f}  {:>8.5f} {:>5} {:>8.2f}  {}\n",
               r.name, impedanceText(r.impedanceOhm.front()), r.impedanceErrorOhm, zTolerance, r.maxDbi,
               r.gainErrorDb, gTolerance, r.averageGain, r.unknowns, r.seconds * 1e3, verdictText(r.verdict));
    if (r.verdict == Verdict::Fail) fmt::print("{:<28}  {}\n", "", r.reason);
}

int verify(const std::string& file, const std::string& out, bool asJson, int fineness) {
    const auto cases = io::readReferenceCases(file);
    json results = json::array();
    int failed = 0;
    int passed = 0;
    if (!asJson)
        fmt::print("{:<28}  {:<20} {:>8} {:>7}  {:>8} {:>7} {:>6}  {:>8} {:>5} {:>8}  {}\n", "case",
                   "Z at first feed, ohm", "off by", "allowed", "max dBi", "off by", "allow.", "avg gain",
                   "N", "ms", "verdict");
    for (const auto& c : cases) {
        CaseResult r;
        try {
            r = study::verifyCase(c, em::meshOptions(fineness));
        } catch (const Error& e) {
            r.name = c.name;
            r.verdict = Verdict::Fail;
            r.reason = e.what();
            r.impedanceOhm.assign(1, 0.0);
        }
        failed += r.verdict == Verdict::Fail ? 1 : 0;
        passed += r.verdict == Verdict::Pass ? 1 : 0;
        if (!asJson) printRow(c, r);
        results.push_back(toJson(r));
    }
    if (asJson)
        printJson(json{{"results", results}});
    else
        fmt::print("\n{} pass, {} fail.\n", passed, failed);
    if (!out.empty()) io::writeTextAtomically(out, io::jsonText(json{{"results", results}}, 2) + "\n");
    return failed == 0 ? kDone : kFound;
}

}  // namespace

void addVerifyCommand(CLI::App& app, int& exitCode) {
    struct VerifyOptions {
        std::string file;
        std::string out;
        bool json = false;
        int fineness = 0;
    };
    auto options = std::make_shared<VerifyOptions>();
    CLI::App* command =
        app.add_subcommand("verify", "Solve reference cases and compare with their expected values");
    command->add_option("cases", options->file, "Reference cases in the neutral JSON form")->required();
    command->add_option("--out", options->out, "Write the results to this JSON file");
    command->add_flag("--json", options->json, "Print JSON instead of a table");
    command
        ->add_option("--fineness", options->fineness, "Level of the mesh: 0 the default, 1 and 2 finer ones")
        ->check(CLI::Range(0, em::kFinest));
    command->callback([options, &exitCode] {
        exitCode = verify(options->file, options->out, options->json, options->fineness);
    });
}

}  // namespace rm::cli
