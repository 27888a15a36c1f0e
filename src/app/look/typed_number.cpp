#include "app/look/typed_number.h"

#include <QRegularExpression>

#include "app/look/text.h"

namespace rm::app {

namespace {

bool hasDecimalComma() {
    return spoken() != nullptr && spoken()->decimalMark() == ',';
}

}  // namespace

QString shownTyped(const std::string& kept) {
    QString shown = text(kept);
    if (!hasDecimalComma()) return shown;
    static const QRegularExpression list(",(?=\\S)");
    static const QRegularExpression point("(?<=\\d)\\.(?=\\d)");
    return shown.replace(list, ", ").replace(point, ",");
}

std::string keptTyped(const QString& typed) {
    QString kept = typed.trimmed();
    if (hasDecimalComma()) {
        static const QRegularExpression comma("(?<=\\d),(?=\\d)");
        kept.replace(comma, ".");
    }
    return kept.toStdString();
}

}  // namespace rm::app
