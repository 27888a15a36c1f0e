// Texts of the model in the window.
#pragma once

#include <QString>
#include <string>

namespace rm::app {

inline QString text(const std::string& utf8) {
    return QString::fromStdString(utf8);
}

/// A length as the project writes lengths.
QString lengthWords(double metres, bool feet);

}  // namespace rm::app
