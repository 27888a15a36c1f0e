#include "app/look/typed_number.h"

#include <QRegularExpression>
#include <algorithm>

#include "app/look/lengths.h"
#include "app/look/text.h"

namespace rm::app {

namespace {

bool hasDecimalComma() {
    return spoken() != nullptr && spoken()->decimalMark() == ',';
}

const char* unitOf(quantity::Kind kind) {
    switch (kind) {
        case quantity::Kind::Length:
            return inFeet() ? " ft" : " m";
        case quantity::Kind::Diameter:
            return " mm";
        case quantity::Kind::Angle:
            return " deg";
        case quantity::Kind::Frequency:
            return " MHz";
        default:
            return "";
    }
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

std::string keptTyped(const QString& typed, quantity::Kind kind, char between) {
    std::string kept = keptTyped(typed);
    std::string out;
    for (std::size_t from = 0; from <= kept.size();) {
        const std::size_t end =
            between != '\0' ? std::min(kept.find(between, from), kept.size()) : kept.size();
        std::string one = kept.substr(from, end - from);
        if (isBareNumber(text(one))) one += unitOf(kind);
        out += one;
        if (end < kept.size()) out += between;
        from = end + 1;
    }
    return out;
}

}  // namespace rm::app
