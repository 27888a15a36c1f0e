// Runs the window tests without a display.
#include <QApplication>
#include <QTemporaryDir>

#include "app/session/guard.h"
#include "run_tests.h"

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QTemporaryDir recovery;
    qputenv("REEDMAST_RECOVERY", recovery.path().toUtf8());
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    return rm::test::runTests(argc, argv);
}
