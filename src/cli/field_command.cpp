// field: E, H and the flow of power close to an antenna; clear: how far people have to stay.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/loaded.h"
#include "cli/output.h"
#include "cli/values.h"
#include "core/export/clear_table.h"
#include "core/export/field_text.h"
#include "core/export/page.h"
#include "core/study/keep_clear.h"

namespace rm::cli {

namespace {

using nlohmann::json;

struct FieldOptions {
    Options project;
    std::vector<double> at;
    std::vector<double> from;
    std::vector<double> to;
    double levelM = 0.0;
    double uprightDeg = 0.0;
    double acrossM = 0.0;
    double reachM = 0.0;
    int points = 101;
    double powerW = 0.0;
    bool peak = false;
    bool level = false;
    bool upright = false;
};

struct ClearOptions {
    Options project;
    double powerW = 0.0;
    std::string limits;
    std::string mode;
    double duty = 0.0;
    double margin = -1.0;
    double head = -1.0;
    double window = -1.0;
    std::string pdf;
};

json toJson(const io::FieldPoint& p, bool peak) {
    const auto vector = [](const Eigen::Vector3cd& v) {
        json j = json::array();
        for (int i = 0; i < 3; ++i) j.push_back({v(i).real(), v(i).imag()});
        return j;
    };
    using study::FieldKind;
    using study::FieldPart;
    const Vec3 flow = p.field.powerFlow();
    return {{"at_m", {p.atM.x(), p.atM.y(), p.atM.z()}},
            {"e_vm", study::fieldValue(p.field, FieldKind::Electric, FieldPart::Total, peak)},
            {"h_am", study::fieldValue(p.field, FieldKind::Magnetic, FieldPart::Total, peak)},
            {"s_wm2", study::fieldValue(p.field, FieldKind::Power, FieldPart::Total, peak)},
            {"e_phasor_vm", vector(p.field.electricVm)},
            {"h_phasor_am", vector(p.field.magneticAm)},
            {"flow_wm2", {flow.x(), flow.y(), flow.z()}}};
}

Vec3 pointOf(const std::vector<double>& numbers, std::size_t from = 0) {
    return {numbers[from], numbers[from + 1], numbers[from + 2]};
}

int runField(const FieldOptions& o) {
    const Loaded loaded = load(o.project);
    requireUsable(o.project, loaded);
    const double hz = frequenciesHz(o.project, loaded).front();
    warn(loaded, {hz});
    const double radioW = o.powerW > 0.0 ? o.powerW : loaded.project.powerW;
    const auto analysis = study::analyse(loaded.expansion, hz);
    const study::FieldAround around(analysis, radioW);
    std::vector<Vec3> points;
    if (o.at.size() % 3 != 0 || o.from.size() % 3 != 0 || o.to.size() % 3 != 0)
        throw Error("A point needs three numbers: forward, left and up in m, as 3,0,1.8.");
    for (std::size_t i = 0; i < o.at.size(); i += 3) points.push_back(pointOf(o.at, i));
    if (!o.from.empty()) {
        if (o.to.empty()) throw Error("A line needs --from and --to.");
        for (int i = 0; i < o.points; ++i)
            points.push_back(pointOf(o.from) +
                             (pointOf(o.to) - pointOf(o.from)) * i / std::max(1, o.points - 1));
    }
    if (o.level || o.upright) {
        study::MapPlace place;
        place.upright = o.upright;
        place.heightM = o.levelM;
        place.azimuthDeg = o.uprightDeg;
        place.acrossM = o.acrossM;
        place.reachM = o.reachM;
        place.points = o.points;
        const auto plane = study::mapPlane(loaded.expansion.model, hz, place);
        for (int row = 0; row < plane.rows; ++row)
            for (int column = 0; column < plane.columns; ++column) points.push_back(plane.at(column, row));
    }
    if (points.empty())
        throw Error("Say where: --at X,Y,Z, --from and --to, --level HEIGHT or --upright AZIMUTH.");
    const auto fields = around.at(points);
    std::vector<io::FieldPoint> rows;
    for (std::size_t i = 0; i < points.size(); ++i) rows.push_back({points[i], fields[i]});
    if (o.project.csv) {
        fmt::print("{}", io::fieldCsv(rows, o.peak));
        return kDone;
    }
    if (o.project.json) {
        json all = json::array();
        for (const auto& row : rows) all.push_back(toJson(row, o.peak));
        printJson({{"frequency_hz", hz},
                   {"radio_w", radioW},
                   {"antenna_w", around.antennaW()},
                   {"values", o.peak ? "peak" : "rms"},
                   {"points", all}});
        return kDone;
    }
    fmt::print("{}, {} at {:.3f} MHz: {:.4g} W from the radio, {:.4g} W into the antenna, {} values\n",
               loaded.project.title, loaded.design.name, hz / 1e6, radioW, around.antennaW(),
               o.peak ? "peak" : "rms");
    fmt::print("{:>9} {:>9} {:>9} {:>11} {:>11} {:>11}\n", "forward m", "left m", "up m", "E, V/m", "H, A/m",
               "S, W/m²");
    for (const auto& row : rows) {
        const auto value = [&](study::FieldKind kind) {
            return study::fieldValue(row.field, kind, study::FieldPart::Total, o.peak);
        };
        fmt::print("{:>9.3f} {:>9.3f} {:>9.3f} {:>11.4g} {:>11.4g} {:>11.4g}\n", row.atM.x(), row.atM.y(),
                   row.atM.z(), value(study::FieldKind::Electric), value(study::FieldKind::Magnetic),
                   value(study::FieldKind::Power));
    }
    return kDone;
}

json toJson(const study::ClearZone& zone) {
    return {{"height_m", zone.heightM},
            {"from_middle_m", zone.fromMiddleM},
            {"from_wire_m", zone.fromWireM},
            {"largest_share_of_limit", zone.most},
            {"clipped", zone.clipped}};
}

int runClear(const ClearOptions& o) {
    Loaded loaded = load(o.project);
    requireUsable(o.project, loaded);
    model::Project& project = loaded.project;
    model::KeepClear& rules = project.keepClear;
    if (o.powerW > 0.0) project.powerW = o.powerW;
    if (!o.limits.empty())
        rules.limits = o.limits == "icnirp1998"   ? model::LimitSet::Icnirp1998
                       : o.limits == "icnirp2020" ? model::LimitSet::Icnirp2020
                                                  : model::LimitSet::Fcc;
    if (!o.mode.empty())
        rules.mode = o.mode == "speech"      ? model::SendMode::SpeechSsb
                     : o.mode == "processed" ? model::SendMode::ProcessedSsb
                     : o.mode == "morse"     ? model::SendMode::Morse
                                             : model::SendMode::Carrier;
    if (o.duty > 0.0) rules.dutyPercent = o.duty;
    if (o.margin >= 0.0) rules.marginDb = o.margin;
    if (o.head >= 0.0) rules.headM = o.head;
    if (o.window >= 0.0) rules.windowM = o.window;
    if (!o.project.band.empty()) project.bands = {bandOf(o.project, loaded)};
    const auto table = study::keepClear(project, loaded.design);
    if (!o.pdf.empty())
        io::writePdf(io::clearSheets(table, {loaded.design.name, project.title, "Keep clear", today(), ""},
                                     project.feetAndInches),
                     o.pdf);
    if (o.project.csv) {
        fmt::print("{}", io::clearCsv(table));
    } else if (o.project.json) {
        json rows = json::array();
        for (const auto& r : table.rows)
            rows.push_back({{"band", r.band},
                            {"frequency_hz", r.frequencyHz},
                            {"person", r.person == study::Person::Public ? "public" : "operator"},
                            {"antenna_w", r.antennaW},
                            {"limit_vm", r.limits.electricVm.value_or(0.0)},
                            {"limit_am", r.limits.magneticAm.value_or(0.0)},
                            {"head", toJson(r.head)},
                            {"window", toJson(r.window)}});
        printJson({{"radio_w", table.radioW},
                   {"counted_share", study::countedShare(rules)},
                   {"rows", rows},
                   {"problems", table.problems},
                   {"notes", table.notes()}});
    } else if (o.pdf.empty()) {
        fmt::print("{}", io::clearText(table, project.feetAndInches));
    }
    for (const auto& problem : table.problems) fmt::print(stderr, "{}\n", problem);
    return kDone;
}

}  // namespace

void addFieldCommands(CLI::App& app, int& exitCode) {
    auto options = std::make_shared<FieldOptions>();
    CLI::App* field = app.add_subcommand("field", "E, H and the flow of power close to the antenna");
    addProjectOptions(field, options->project);
    field->add_option("--freq", options->project.frequencyMhz, "MHz; the design frequency if left out")
        ->check(frequencyMhz());
    field->add_option("--at", options->at, "Points: forward,left,up in m; again for more")
        ->delimiter(',')
        ->check(number(-1e5, 1e5, "m"));
    field->add_option("--from", options->from, "A line from this point")
        ->delimiter(',')
        ->expected(3)
        ->check(number(-1e5, 1e5, "m"));
    field->add_option("--to", options->to, "to this one")
        ->delimiter(',')
        ->expected(3)
        ->check(number(-1e5, 1e5, "m"));
    CLI::Option* level = field->add_option("--level", options->levelM, "A level plane at this height, m")
                             ->check(number(-100.0, 1e4, "m"));
    CLI::Option* upright =
        field->add_option("--upright", options->uprightDeg, "An upright plane along this azimuth, degrees")
            ->check(number(-360.0, 360.0, "degrees"))
            ->excludes(level);
    field->add_option("--across", options->acrossM, "The upright plane this far to the left, m")
        ->check(number(-1e4, 1e4, "m"));
    field->add_option("--reach", options->reachM, "From the middle of the antenna to the sides of a plane, m")
        ->check(number(0.01, 1e5, "m"));
    field->add_option("--points", options->points, "Points of a line, or along a side of a plane")
        ->check(CLI::Range(2, 1001));
    field->add_option("--power", options->powerW, "Of the radio in W; that of the project if left out")
        ->check(number(1e-6, 1e7, "W"));
    field->add_flag("--peak", options->peak, "Peak values instead of rms");
    field->add_flag("--csv", options->project.csv, "CSV with the parts along all axes");
    field->add_flag("--json", options->project.json, "JSON with the phasors");
    field->callback([&exitCode, options, level, upright] {
        options->level = level->count() > 0;
        options->upright = upright->count() > 0;
        exitCode = runField(*options);
    });

    auto clear = std::make_shared<ClearOptions>();
    CLI::App* keep =
        app.add_subcommand("clear", "How far people have to stay from the antenna, on all bands");
    addProjectOptions(keep, clear->project);
    keep->add_option("--band", clear->project.band, "This band alone");
    keep->add_option("--power", clear->powerW, "Of the radio in W")->check(number(1e-6, 1e7, "W"));
    keep->add_option("--limits", clear->limits, "Whose limits")
        ->check(CLI::IsMember({"icnirp1998", "icnirp2020", "fcc"}));
    keep->add_option("--mode", clear->mode, "What is sent")
        ->check(CLI::IsMember({"carrier", "speech", "processed", "morse"}));
    keep->add_option("--duty", clear->duty, "Percent of the averaging time that is sent")
        ->check(number(0.1, 100.0, "%"));
    keep->add_option("--margin", clear->margin, "On top, dB of power")->check(number(0.0, 30.0, "dB"));
    keep->add_option("--head", clear->head, "Height at which people walk, m")->check(number(0.0, 100.0, "m"));
    keep->add_option("--window", clear->window, "Height of a window, m")->check(number(0.0, 1000.0, "m"));
    keep->add_option("--pdf", clear->pdf, "Writes the table as a page");
    keep->add_flag("--csv", clear->project.csv, "CSV");
    keep->add_flag("--json", clear->project.json, "JSON");
    keep->callback([&exitCode, clear] { exitCode = runClear(*clear); });
}

}  // namespace rm::cli
