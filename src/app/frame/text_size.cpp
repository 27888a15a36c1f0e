#include "app/frame/text_size.h"

#include <spdlog/spdlog.h>
#include <unistd.h>

#include <QApplication>
#include <QScreen>
#include <algorithm>
#include <cmath>

namespace rm::app {

namespace {

/// Text of most desktops where nothing was chosen, points at 96 dots per inch.
constexpr double kUsualPoints = 10.0;
constexpr double kUsualDots = 96.0;
/// The least window that shows everything, with its frame.
constexpr QSize kLeastRoom(1180, 740);
constexpr double kScaleSteps = 20.0;
constexpr const char* kScale = "QT_SCALE_FACTOR";
/// That the scale in the environment is ours.
constexpr const char* kOurs = "REEDMAST_SCALED";

}  // namespace

double desktopScale(double points, double dotsPerInch, QSize room) {
    if (!(points > 0.0) || !(dotsPerInch > 0.0)) return 1.0;
    const double wanted = points * dotsPerInch / (kUsualPoints * kUsualDots);
    const double fits = std::min(static_cast<double>(room.width()) / kLeastRoom.width(),
                                 static_cast<double>(room.height()) / kLeastRoom.height());
    return std::max(1.0, std::floor(std::min(wanted, fits) * kScaleSteps + 1e-9) / kScaleSteps);
}

void followDesktopText(char** arguments) {
    // What is opened from here (a browser for the guide) has a scale of its own.
    if (qEnvironmentVariableIsSet(kOurs)) {
        spdlog::debug("text of the desktop: drawn {} times as large",
                      qEnvironmentVariable(kScale).toStdString());
        for (const char* name : {kOurs, kScale}) qunsetenv(name);
        return;
    }
    if (qEnvironmentVariableIsSet(kScale)) return;
    const QScreen* screen = QGuiApplication::primaryScreen();
    if (screen == nullptr) return;
    const double scale = desktopScale(QApplication::font().pointSizeF(), screen->logicalDotsPerInch(),
                                      screen->availableSize());
    if (scale <= 1.0) return;
    qputenv(kScale, QByteArray::number(scale));
    qputenv(kOurs, "1");
    execv("/proc/self/exe", arguments);
    // It could not: as large as drawn.
    for (const char* name : {kOurs, kScale}) qunsetenv(name);
}

}  // namespace rm::app
