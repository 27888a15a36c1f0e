#include "app/look/text.h"

#include <QCoreApplication>

#include "core/quantity/format.h"

namespace rm::app {

QString tr(const char* english) {
    return QCoreApplication::translate("", english);
}

QString trn(const char* one, const char* many, int n) {
    // Without a catalogue English has its own plural.
    return QCoreApplication::translate("", spoken() || n == 1 ? one : many, nullptr, n);
}

QString written(double value, char format, int digits) {
    return text(decimals(QByteArray::number(value, format, digits).toStdString()));
}

QString lengthWords(double metres, bool feet) {
    return text(quantity::formatLength(
        metres, feet ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric));
}

}  // namespace rm::app
