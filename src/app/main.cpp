// reedmast: the bench. Opens the project named on the command line.
#include <spdlog/spdlog.h>

#include <map>

#include <QAction>
#include <QApplication>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QTemporaryDir>

#include "app/frame/bench.h"
#include "app/instruments/polar_view.h"
#include "app/stages/tune/scan_view.h"

namespace {

/// Waits for the figures of the window, at most this long.
void settle(const rm::app::Bench& bench, int milliseconds) {
    QElapsedTimer clock;
    clock.start();
    while (!bench.settled() && clock.elapsed() < milliseconds)
        QApplication::processEvents(QEventLoop::AllEvents, 20);
    QApplication::processEvents();
}

}  // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName("reed-mast");
    QApplication::setApplicationDisplayName({});
    QApplication::setStyle("Fusion");
    QCommandLineParser parser;
    parser.setApplicationDescription("Reed Mast: antennas at the height where they will hang.");
    parser.addHelpOption();
    parser.addPositionalArgument("project", "Project file to open", "[project]");
    const QCommandLineOption dark("dark", "Start with the dark colours.");
    const QCommandLineOption design("design", "Start with the design of this number.", "number");
    const QCommandLineOption picture("picture", "Write a PNG of the window to this file and end.", "file");
    const QCommandLineOption study("study", "Start with the height or the ground study.", "height|ground");
    const QCommandLineOption site("site", "Start with the site selected.");
    const QCommandLineOption path("feed-path", "Start with the feed path selected.");
    const QCommandLineOption view("view", "Start with this in the middle of the bench.",
                                  "match|band|compare|currents|boom|drives|coupling|spacing|tune|tuning|"
                                  "proposal|matters|tolerance|scan");
    const QCommandLineOption quantity("quantity", "Start with this quantity in the band instrument.",
                                      "swr|smith|gain");
    const QCommandLineOption band("band", "Start with the band of this number.", "number");
    const QCommandLineOption over("over-baseline", "Start with the cuts as differences from the baseline.");
    const QCommandLineOption lobe("lobe", "Start with the lobe in the yard.");
    const QCommandLineOption verbose("verbose", "Log timings.");
    parser.addOptions({dark, design, picture, study, site, path, view, quantity, band, over, lobe, verbose});
    parser.process(app);
    if (parser.isSet(verbose)) spdlog::set_level(spdlog::level::debug);

    // A picture is taken of the file as it is, and leaves nothing behind.
    const QTemporaryDir nowhere;
    if (parser.isSet(picture)) qputenv("REEDMAST_RECOVERY", nowhere.path().toLocal8Bit());

    rm::app::Bench bench;
    if (!parser.positionalArguments().isEmpty()) bench.open(parser.positionalArguments().first());
    if (parser.isSet(design)) bench.chooseDesign(parser.value(design).toInt() - 1);
    if (parser.isSet(band)) bench.chooseBand(parser.value(band).toInt() - 1);
    bench.setNight(parser.isSet(dark));
    bench.show();
    if (parser.isSet(site)) bench.showSite();
    if (parser.isSet(path)) bench.showFeedPath();
    if (parser.value(view) == "match") bench.showMatch();
    if (parser.value(view) == "band") bench.showBand();
    if (parser.value(view) == "compare") bench.showCompare();
    if (parser.value(view) == "tune") bench.showTune();
    // What rests on the figures of the design waits for them.
    const std::map<QString, void (rm::app::Bench::*)()> arrays = {
        {"currents", &rm::app::Bench::showCurrents},
        {"boom", &rm::app::Bench::showBoom},
        {"drives", &rm::app::Bench::showDrives},
        {"coupling", &rm::app::Bench::showCoupling}};
    if (const auto chosen = arrays.find(parser.value(view)); chosen != arrays.end()) {
        settle(bench, 20000);
        (bench.*chosen->second)();
    }
    if (parser.value(view) == "spacing") {
        settle(bench, 20000);
        bench.scanStacking(0);
    }
    if (QStringList{"tuning", "proposal"}.contains(parser.value(view))) {
        settle(bench, 20000);
        bench.showTune();
        bench.tuneNow();
        QElapsedTimer clock;
        clock.start();
        const int most = parser.value(view) == "tuning" ? 2500 : 60000;
        while (bench.tuning() && clock.elapsed() < most)
            QApplication::processEvents(QEventLoop::AllEvents, 20);
    }
    const std::map<QString, std::pair<void (rm::app::Bench::*)(), void (rm::app::Bench::*)()>> studies = {
        {"matters", {&rm::app::Bench::showMatters, nullptr}},
        {"tolerance", {&rm::app::Bench::showTolerance, &rm::app::Bench::buildMany}},
        {"scan", {&rm::app::Bench::showScan, &rm::app::Bench::runScan}}};
    if (const auto chosen = studies.find(parser.value(view)); chosen != studies.end()) {
        settle(bench, 20000);
        (bench.*chosen->second.first)();
        if (chosen->second.second != nullptr) (bench.*chosen->second.second)();
    }
    if (parser.value(view) == "map") {
        settle(bench, 20000);
        bench.showScan();
        bench.scanView()->chooseSecond(1);
        bench.runScan();
    }
    if (parser.isSet(over))
        for (auto* cut : {bench.elevation(), bench.azimuth()})
            cut->setLabels(rm::app::PolarView::Labels::OverBaseline);
    if (parser.isSet(lobe)) bench.findChild<QAction*>("lobe")->setChecked(true);
    if (parser.isSet(quantity))
        bench.showQuantity(parser.value(quantity) == "smith"  ? rm::app::BandQuantity::Smith
                           : parser.value(quantity) == "gain" ? rm::app::BandQuantity::Gain
                                                              : rm::app::BandQuantity::Swr,
                           rm::study::Plane::Radio);
    if (parser.isSet(study)) {
        settle(bench, 20000);
        parser.value(study) == "ground" ? bench.studyGrounds() : bench.studyHeights();
    }
    if (!parser.isSet(picture)) return QApplication::exec();
    settle(bench, 20000);
    return bench.grab().save(parser.value(picture)) ? 0 : 1;
}
