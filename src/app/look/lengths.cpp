#include "app/look/lengths.h"

#include <QApplication>
#include <QEvent>
#include <QPointer>
#include <QWidget>
#include <cmath>
#include <vector>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kFootM = 0.3048;
/// Of a metre: what is told as exactly as this is measured with a tape.
constexpr int kTapeDecimals = 2;

bool& feetNow() {
    static bool feet = false;
    return feet;
}

}  // namespace

bool inFeet() {
    return feetNow();
}

quantity::LengthStyle lengthStyle() {
    return feetNow() ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric;
}

void writeInFeet(bool feet) {
    if (feetNow() == feet) return;
    feetNow() = feet;
    // A view that fills itself anew may do away with others.
    std::vector<QPointer<QWidget>> all;
    for (QWidget* widget : QApplication::allWidgets()) all.emplace_back(widget);
    for (const auto& widget : all) {
        QEvent changed(QEvent::LocaleChange);
        if (widget != nullptr) QApplication::sendEvent(widget, &changed);
    }
}

QString lengthText(double metres, int decimals) {
    const double size = std::abs(metres);
    const QString sign = metres < 0.0 ? QString(QChar(0x2212)) : QString();
    if (!inFeet()) return sign + written(size, 'f', decimals) + " m";
    if (decimals >= kTapeDecimals) return lengthWords(metres, true);
    return sign + written(size / kFootM, 'f', decimals) + " ft";
}

QString LengthUnit::text(double count) const {
    return written(count, 'g', 4).replace('-', QChar(0x2212)) + " " + name;
}

QString LengthUnit::near(double lengthM) const {
    return text(std::round(10.0 * lengthM / metres) / 10.0);
}

LengthUnit lengthUnit() {
    return inFeet() ? LengthUnit{kFootM, "ft", tr("feet")} : LengthUnit{1.0, "m", tr("metres")};
}

}  // namespace rm::app
