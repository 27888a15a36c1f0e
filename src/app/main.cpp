// reedmast: the bench. Opens the project named on the command line.
#include <spdlog/spdlog.h>

#include <QCommandLineParser>
#include <QTimer>
#include <cstdlib>

#include "app/frame/bench.h"
#include "app/frame/text_size.h"
#include "app/session/guard.h"
#include "core/memory.h"
#include "core/version.h"

int main(int argc, char** argv) {
    rm::keepMemoryTogether();
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setApplicationName("reed-mast");
    QApplication::setApplicationVersion(rm::kVersion);
    QApplication::setApplicationDisplayName({});
    QGuiApplication::setDesktopFileName("org.reedmast.ReedMast");
    QApplication::setWindowIcon(QIcon(":/icon.svg"));
    QApplication::setStyle("Fusion");
    QCommandLineParser parser;
    parser.setApplicationDescription("Reed Mast: antennas at the height where they will hang.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("project", "Project file to open", "[project]");
    const QCommandLineOption dark("dark", "Start with the dark colours.");
    const QCommandLineOption verbose("verbose", "Log timings.");
    parser.addOptions({dark, verbose});
    parser.process(app);
    if (parser.isSet(verbose)) spdlog::set_level(spdlog::level::debug);
    rm::app::followDesktopText(argv);

    int code = 0;
    {
        rm::app::Bench bench;
        app.onFailure([&bench](const QString& sentence) {
            bench.session().document().settleJournal();
            bench.session().bad(sentence);
        });
        if (!parser.positionalArguments().isEmpty()) bench.files().open(parser.positionalArguments().first());
        if (parser.isSet(dark)) bench.setNight(true);
        bench.show();
        bench.files().offerLeftWork();
        // Nothing to work on yet: something good to begin with.
        if (parser.positionalArguments().isEmpty())
            QTimer::singleShot(0, &bench, [&bench] { bench.showGallery(); });
        code = QApplication::exec();
        app.onFailure({});
    }
    // Work that was let go may still be under way: nobody waits for it.
    std::_Exit(code);
}
