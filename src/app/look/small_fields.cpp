#include "app/look/small_fields.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>
#include <algorithm>

#include "app/look/theme.h"
#include "app/look/typed_number.h"

namespace rm::app {

namespace {

constexpr int kNumberPx = 52;

}  // namespace

QLabel* softLabel(const QString& words) {
    auto* label = new QLabel(words);
    label->setProperty("soft", true);
    label->setFont(textFont(kSmallPt));
    return label;
}

QLineEdit* numberField(const QString& name, const QString& tip, double low, double high) {
    auto* field = new QLineEdit;
    field->setAccessibleName(name);
    field->setToolTip(tip);
    field->setFont(textFont(kSmallPt));
    field->setFixedWidth(kNumberPx);
    field->setAlignment(Qt::AlignRight);
    field->setProperty("low", low);
    field->setProperty("high", high);
    return field;
}

std::optional<double> numberIn(const QLineEdit* field) {
    const auto typed = typedNumber(field->text());
    if (!typed || *typed < field->property("low").toDouble() || *typed > field->property("high").toDouble())
        return std::nullopt;
    return typed;
}

void showWholeHeadings(QTableWidget& table) {
    constexpr int kMarginPx = 8;
    const QFontMetrics metrics = table.horizontalHeader()->fontMetrics();
    for (int c = 0; c < table.columnCount(); ++c)
        if (const auto* heading = table.horizontalHeaderItem(c))
            table.setColumnWidth(
                c, std::max(table.columnWidth(c), metrics.horizontalAdvance(heading->text()) + kMarginPx));
}

QComboBox* smallChoice(const QString& name, const QStringList& words, const QString& tip) {
    auto* combo = new QComboBox;
    combo->addItems(words);
    combo->setAccessibleName(name);
    combo->setToolTip(tip);
    combo->setFont(textFont(kSmallPt));
    return combo;
}

}  // namespace rm::app
