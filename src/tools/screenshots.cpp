// Takes one picture of the bench: opens a project, brings a view to the front, waits for its figures, and
// writes a PNG. scripts/make_screenshots.sh calls it for every picture in docs/screenshots.
#include <QAction>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QTemporaryDir>

#include "app/frame/bench.h"
#include "app/instruments/instruments.h"
#include "app/instruments/polar_view.h"
#include "app/session/guard.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/tune_stage.h"

#include <QPushButton>

namespace {

using rm::app::Bench;
using rm::app::Selection;

template <typename Ready>
void waitFor(Ready ready, int milliseconds) {
    QElapsedTimer clock;
    clock.start();
    while (!ready() && clock.elapsed() < milliseconds) QApplication::processEvents(QEventLoop::AllEvents, 20);
    QApplication::processEvents();
}

void settle(const Bench& bench) {
    waitFor([&] { return bench.settled(); }, 30000);
}

/// A stage by its name, or one of the views that take more than that.
void open(Bench& bench, const QString& view) {
    auto* tune = static_cast<rm::app::TuneStage*>(bench.stage("tune"));
    if (view == "spacing") {
        const auto& copies = bench.session().design().copies;
        if (!copies.empty())
            static_cast<rm::app::SpacingStage*>(bench.stage("spacing"))->scan(copies.front().id);
    } else if (view == "tuning" || view == "proposal") {
        bench.openStage("tune");
        settle(bench);
        tune->tune();
        waitFor([&] { return !tune->tuning(); }, view == "tuning" ? 2500 : 60000);
    } else if (view == "matters" || view == "tolerance" || view == "scan" || view == "map") {
        bench.openStage("tune", view == "matters" ? 1 : view == "tolerance" ? 2 : 3);
        if (view == "tolerance") bench.findChild<rm::app::ToleranceView*>()->run()->click();
        auto* scan = bench.findChild<rm::app::ScanView*>();
        if (view == "map") scan->chooseSecond(1);
        if (view == "map" || view == "scan") scan->run()->click();
    } else {
        bench.openStage(view);
    }
}

}  // namespace

int main(int argc, char** argv) {
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    QCommandLineParser parser;
    parser.addHelpOption();
    parser.addPositionalArgument("project", "Project file to open");
    parser.addPositionalArgument("picture", "PNG to write");
    const QCommandLineOption dark("dark", "In the dark colours.");
    const QCommandLineOption design("design", "The design of this number.", "number", "1");
    const QCommandLineOption band("band", "The band of this number.", "number");
    const QCommandLineOption view(
        "view", "A stage by its name, or spacing, tuning, proposal, matters, tolerance, scan, map.", "name");
    const QCommandLineOption select("select", "What is selected: site or path.", "what");
    const QCommandLineOption smith("smith", "The band on the Smith chart.");
    const QCommandLineOption lobe("lobe", "With the lobe in the yard.");
    const QCommandLineOption size("size", "Of the window.", "WxH", "1280x800");
    parser.addOptions({dark, design, band, view, select, smith, lobe, size});
    parser.process(app);
    const QStringList files = parser.positionalArguments();
    if (files.size() != 2) parser.showHelp(2);

    // A picture is taken of the file as it is, and leaves nothing behind.
    const QTemporaryDir nowhere;
    qputenv("REEDMAST_RECOVERY", nowhere.path().toLocal8Bit());
    Bench bench;
    const QStringList wide = parser.value(size).split('x');
    bench.resize(wide.value(0).toInt(), wide.value(1).toInt());
    if (!bench.files().open(files[0])) return 1;
    bench.setNight(parser.isSet(dark));
    bench.show();
    const auto& designs = bench.session().project().designs;
    bench.session().chooseDesign(designs.at(static_cast<std::size_t>(parser.value(design).toInt() - 1)).id);
    if (parser.isSet(band)) bench.session().chooseBand(parser.value(band).toInt() - 1);
    if (parser.value(select) == "site") bench.session().select({Selection::Type::Site});
    if (parser.value(select) == "path") bench.showFeedPath();
    if (parser.isSet(smith))
        bench.session().showQuantity(rm::app::BandQuantity::Smith, rm::study::Plane::Radio);
    if (parser.isSet(lobe)) bench.findChild<QAction*>("lobe")->setChecked(true);
    settle(bench);
    if (parser.isSet(view)) open(bench, parser.value(view));
    settle(bench);
    return bench.grab().save(files[1]) ? 0 : 1;
}
