// Runs the window tests without a display.
#define CATCH_CONFIG_RUNNER
#include <QApplication>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

#include "app/session/guard.h"

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QTemporaryDir recovery;
    qputenv("REEDMAST_RECOVERY", recovery.path().toUtf8());
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    return Catch::Session().run(argc, argv);
}
