// Numbers and formulas that are typed. A project keeps them with decimal points, whatever the language:
// fields show and take the decimal mark of the language, and a point as well.
#pragma once

#include <QString>
#include <optional>
#include <string>

#include "core/quantity/formula.h"
#include "core/quantity/number.h"

namespace rm::app {

/// A number, a formula or a list of them as a field shows it: points between digits become the decimal mark
/// of the language, and a comma that divides a list gets a blank behind it.
QString shownTyped(const std::string& kept);

/// What was typed into such a field, as a project keeps it, without blanks around it: where the language has
/// a decimal comma, one between two digits becomes a point.
std::string keptTyped(const QString& typed);

/// The same of a value of this kind, or of several with `between` between them: a number alone gets the unit
/// that fields take (metres, or feet where the project is read in them; mm, degrees, MHz), so that the file
/// and the screen say what was meant.
std::string keptTyped(const QString& typed, quantity::Kind kind, char between = '\0');

/// A number without a unit, by the one reader of numbers (no "nan", no "inf", nothing beyond all measure):
/// with a decimal point or comma, and either kind of minus.
inline std::optional<double> typedNumber(const QString& typed) {
    QString number = typed.trimmed();
    number.replace(QChar(0x2212), '-').replace(',', '.');
    return quantity::readNumber(number.toStdString());
}

/// Whether a text is a number without a unit.
inline bool isBareNumber(const QString& typed) {
    return quantity::readNumber(keptTyped(typed)).has_value();
}

}  // namespace rm::app
