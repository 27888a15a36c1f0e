// Runs the window tests without a display.
#include <QApplication>
#include <QTemporaryDir>

#include "app/session/guard.h"
#include "run_tests.h"

namespace {

QtMessageHandler usual = nullptr;

/// What the platform without a display says of every window would fill the reports of failing runs.
void withoutNoise(QtMsgType type, const QMessageLogContext& context, const QString& message) {
    if (!message.contains("propagateSizeHints")) usual(type, context, message);
}

}  // namespace

int main(int argc, char** argv) {
    usual = qInstallMessageHandler(withoutNoise);
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QTemporaryDir recovery;
    qputenv("REEDMAST_RECOVERY", recovery.path().toUtf8());
    rm::app::GuardedApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    return rm::test::runTests(argc, argv);
}
