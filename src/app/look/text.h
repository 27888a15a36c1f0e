// Texts of the model in the window, and what the window says itself, in the language of the user.
#pragma once

#include <QString>
#include <QStringList>
#include <cstddef>
#include <string>

#include "core/words/words.h"

namespace rm::app {

inline QString text(const std::string& utf8) {
    return QString::fromStdString(utf8);
}

/// `english` in the language of the window. Members of a QObject have one of that name, which comes to the
/// same.
QString tr(const char* english);
/// A sentence about `n` things, in which %n stands for their number: `one` for one of them, `many` for any
/// other.
QString trn(const char* one, const char* many, int n);

/// Words of a table, each as `tr` has it.
template <std::size_t N>
QStringList trAll(const char* const (&english)[N]) {
    QStringList all;
    for (const char* one : english) all << tr(one);
    return all;
}

/// A number with the decimal mark of the language: `format` and `digits` as QString::number has them.
QString written(double value, char format = 'g', int digits = 6);

/// A length as the project writes lengths.
QString lengthWords(double metres, bool feet);

}  // namespace rm::app
