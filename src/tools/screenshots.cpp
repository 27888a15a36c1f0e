// Takes one picture of the bench: opens a project, brings a view to the front, waits for its figures, and
// writes a PNG. scripts/make_screenshots.sh calls it for every picture in docs/screenshots.
#include <QAction>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QSvgRenderer>
#include <QTableView>
#include <QTemporaryDir>
#include <cstdlib>

#include "app/dialogs/gallery_dialog.h"
#include "app/frame/bench.h"
#include "app/instruments/instruments.h"
#include "app/instruments/polar_view.h"
#include "app/look/language.h"
#include "app/look/text.h"
#include "app/session/guard.h"
#include "app/stages/shape/grip_tool.h"
#include "app/stages/shape/shape_stage.h"
#include "app/stages/spacing/spacing_stage.h"
#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/trade_view.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/wide/wide_stage.h"
#include "app/stages/wide/wide_view.h"

#include "core/export/build_drawing.h"
#include "core/export/report.h"

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
    waitFor([&] { return bench.settled(); }, 120000);
}

void mouse(QWidget& on, QEvent::Type type, const QPointF& at) {
    const bool moves = type == QEvent::MouseMove;
    QMouseEvent event(type, at, on.mapToGlobal(at), moves ? Qt::NoButton : Qt::LeftButton,
                      type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&on, &event);
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
    } else if (view == "trade") {
        bench.openStage("tune", 4);
        auto* trade = bench.findChild<rm::app::TradeView*>();
        trade->run()->click();
        waitFor([&] { return trade->run()->text() == "Trade"; }, 90000);
        Q_EMIT trade->plot()->pointChosen(4);
    } else if (view != "gallery" && view != "paper") {
        bench.openStage(view);
    }
}

/// With the mouse, as a designer turns it.
void turn(Bench& bench, const QString& degrees) {
    auto* yard = bench.findChild<rm::app::Yard*>();
    const auto& camera = yard->camera();
    const double across = -(degrees.section(',', 0, 0).toDouble() - camera.azimuthDeg) / 0.4;
    const double up = (degrees.section(',', 1, 1).toDouble() - camera.elevationDeg) / 0.4;
    const QPointF from(20, 60);
    mouse(*yard, QEvent::MouseButtonPress, from);
    mouse(*yard, QEvent::MouseMove, from + QPointF(across, up));
    mouse(*yard, QEvent::MouseButtonRelease, from + QPointF(across, up));
    settle(bench);
}

/// Takes hold of a grip and moves it a little.
void hold(Bench& bench, const QString& grip) {
    auto* shape = static_cast<rm::app::ShapeStage*>(bench.stage("shape"));
    const auto at = shape->grips()->handleAt(grip);
    if (!at) return;
    auto* yard = bench.findChild<rm::app::Yard*>();
    mouse(*yard, QEvent::MouseButtonPress, *at);
    for (int step = 1; step <= 4; ++step) {
        mouse(*yard, QEvent::MouseMove, *at + step * QPointF(5, -4));
        settle(bench);
    }
}

/// The result of a study, sifted and sorted by its first figure.
void study(Bench& bench, const QString& file) {
    static_cast<rm::app::WideStage*>(bench.stage("wide"))->open(file);
    auto* view = bench.findChild<rm::app::WideView*>();
    waitFor([&] { return view->table() != nullptr; }, 20000);
    const auto* table = view->table();
    if (table == nullptr) return;
    int figure = 1;
    while (table->varied(static_cast<std::size_t>(figure))) ++figure;
    view->filter()->setText(rm::app::text(table->titles()[static_cast<std::size_t>(figure)] + " < 2"));
    Q_EMIT view->filter()->textEdited(view->filter()->text());
    view->rows()->sortByColumn(figure, Qt::AscendingOrder);
    view->rows()->selectRow(0);
}

/// The gallery of starters, with all its pictures.
bool gallery(Bench& bench, const QString& file) {
    rm::app::GalleryDialog dialog(
        {bench.session().project().bands, "20 m", bench.session().design().site, {}}, &bench);
    dialog.choose("delta-loop");
    dialog.show();
    waitFor([] { return false; }, 1500);
    return dialog.grab().save(file);
}

/// Sheets of the drawing and of the report, four on one picture.
bool paper(Bench& bench, const QString& file) {
    namespace io = rm::io;
    const auto& project = bench.session().project();
    io::DrawingOptions drawn;
    drawn.project = project.title;
    drawn.date = "2026-11-28";
    const auto drawing = io::buildDrawing(bench.session().design(), drawn);
    io::ReportOptions told;
    told.date = drawn.date;
    const auto report = io::report(project, bench.session().design(), told);
    QImage picture(1280, 908, QImage::Format_RGB32);
    picture.fill(QColor(0x80, 0x84, 0x80));
    QPainter painter(&picture);
    const io::Sheet* const sheets[] = {&drawing.at(0), &drawing.at(1), &report.at(0), &report.at(1)};
    for (int i = 0; i < 4; ++i) {
        const QRectF at(4 + 638 * (i % 2), 4 + 452 * (i / 2), 634, 448);
        painter.fillRect(at, Qt::white);
        QSvgRenderer(QByteArray::fromStdString(io::svgOf(*sheets[i]))).render(&painter, at);
    }
    return picture.save(file);
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
    const QCommandLineOption part("part", "The part of this number is selected.", "number");
    const QCommandLineOption grip("grip", "The grip of this name is dragged a little and held.", "name");
    const QCommandLineOption look("look", "The yard seen from azimuth,elevation.", "degrees");
    const QCommandLineOption result("result", "This result of a study, with its best case chosen.", "file");
    const QCommandLineOption smith("smith", "The band on the Smith chart.");
    const QCommandLineOption lobe("lobe", "With the lobe in the yard.");
    const QCommandLineOption size("size", "Of the window.", "WxH", "1280x800");
    const QCommandLineOption language("language", "In this language.", "code", "en");
    parser.addOptions(
        {dark, design, band, view, select, part, grip, look, smith, lobe, size, result, language});
    parser.process(app);
    if (!rm::app::speakAs(parser.value(language))) parser.showHelp(2);
    const QStringList files = parser.positionalArguments();
    if (files.size() != 2) parser.showHelp(2);

    const auto take = [&] {
        // A picture is taken of the file as it is, and leaves nothing behind.
        const QTemporaryDir nowhere;
        qputenv("REEDMAST_RECOVERY", nowhere.path().toLocal8Bit());
        Bench bench;
        const QStringList wide = parser.value(size).split('x');
        bench.resize(wide.value(0).toInt(), wide.value(1).toInt());
        if (!bench.files().open(files[0])) return false;
        bench.setNight(parser.isSet(dark));
        bench.show();
        const auto& designs = bench.session().project().designs;
        bench.session().chooseDesign(
            designs.at(static_cast<std::size_t>(parser.value(design).toInt() - 1)).id);
        if (parser.isSet(band)) bench.session().chooseBand(parser.value(band).toInt() - 1);
        if (parser.value(select) == "site") bench.session().select({Selection::Type::Site});
        if (parser.value(select) == "path") bench.showFeedPath();
        if (parser.isSet(part))
            bench.session().select(
                rm::edit::itemAt(bench.session().design(), Selection::Type::Part,
                                 static_cast<std::size_t>(parser.value(part).toInt() - 1)));
        if (parser.isSet(smith))
            bench.session().showQuantity(rm::app::BandQuantity::Smith, rm::study::Plane::Radio);
        if (parser.isSet(lobe)) bench.findChild<QAction*>("lobe")->setChecked(true);
        settle(bench);
        if (parser.isSet(view)) open(bench, parser.value(view));
        if (parser.isSet(result)) study(bench, parser.value(result));
        if (parser.isSet(look)) turn(bench, parser.value(look));
        if (parser.isSet(grip)) hold(bench, parser.value(grip));
        settle(bench);
        if (parser.value(view) == "paper") return paper(bench, files[1]);
        if (parser.value(view) == "gallery") return gallery(bench, files[1]);
        return bench.grab().save(files[1]);
    };
    const bool taken = take();
    // Work that was let go may still be under way: nobody waits for it, nor takes away what it stands on.
    std::_Exit(taken ? 0 : 1);
}
