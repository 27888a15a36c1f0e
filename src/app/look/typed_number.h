// Plain numbers that are typed, by the one reader of numbers: no "nan", no "inf", nothing beyond all measure.
#pragma once

#include <QString>
#include <optional>

#include "core/quantity/number.h"

namespace rm::app {

/// With a decimal point or comma, and either kind of minus.
inline std::optional<double> typedNumber(const QString& typed) {
    QString number = typed.trimmed();
    number.replace(QChar(0x2212), '-').replace(',', '.');
    return quantity::readNumber(number.toStdString());
}

/// Whether a text is a number without a unit.
inline bool isBareNumber(const QString& typed) {
    return quantity::readNumber(typed.trimmed().toStdString()).has_value();
}

}  // namespace rm::app
