// reedmast: the bench. Opens the project named on the command line.
#include <spdlog/spdlog.h>

#include <QCommandLineParser>
#include <QTimer>
#include <cstdlib>

#include "app/frame/bench.h"
#include "app/frame/text_size.h"
#include "app/look/language.h"
#include "app/look/text.h"
#include "app/session/guard.h"
#include "core/edit/designs.h"
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
    // Before a word is said.
    const QString chosen = rm::app::chosenSpeech();
    rm::app::speakAs(chosen.isEmpty() ? rm::app::speechFor(QLocale::system().uiLanguages()) : chosen);
    QCommandLineParser parser;
    parser.setApplicationDescription(rm::app::tr("Reed Mast: antennas at the height where they will hang."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("project", rm::app::tr("Project file to open"), "[project]");
    const QCommandLineOption dark("dark", rm::app::tr("Start with the dark colours."));
    const QCommandLineOption verbose("verbose", rm::app::tr("Log timings."));
    const QCommandLineOption language("language", rm::app::tr("Language of the window, such as en or de."),
                                      rm::app::tr("code"));
    parser.addOptions({dark, verbose, language});
    parser.process(app);
    if (parser.isSet(language) && !rm::app::speakAs(parser.value(language))) parser.showHelp(1);
    if (parser.isSet(verbose)) spdlog::set_level(spdlog::level::debug);
    rm::app::followDesktopText(argv);

    int code = 0;
    {
        rm::app::Bench bench;
        app.onFailure([&bench](const QString& sentence) {
            bench.session().document().settleJournal();
            bench.session().alarm(sentence);
        });
        if (!parser.positionalArguments().isEmpty())
            bench.files().open(parser.positionalArguments().first());
        else if (QLocale::system().measurementSystem() == QLocale::ImperialUSSystem)
            // Where a tape has inches a new project has them, too.
            bench.session().document().adopt(rm::edit::starterProject(true), {});
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
