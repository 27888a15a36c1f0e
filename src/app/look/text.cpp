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
    std::string number = QByteArray::number(value, format, digits).toStdString();
    // What rounds to nothing has no sign.
    if (number.starts_with('-') && number.find_first_not_of("-0.") == std::string::npos) number.erase(0, 1);
    return text(decimals(number));
}

QString lengthWords(double metres, bool feet) {
    return text(quantity::formatLength(
        metres, feet ? quantity::LengthStyle::FeetInches : quantity::LengthStyle::Metric));
}

}  // namespace rm::app
