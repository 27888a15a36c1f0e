// The small words, numbers and choices that stand in rows above a view.
#pragma once

#include <QStringList>
#include <optional>

class QComboBox;
class QLabel;
class QLineEdit;
class QTableWidget;

namespace rm::app {

/// Words beside a field, softer than what they are about.
QLabel* softLabel(const QString& words);

/// A field for a number between two limits, known to screen readers and tests by its name.
QLineEdit* numberField(const QString& name, const QString& tip, double low, double high);

/// What stands in such a field; nothing where that is no number, or none within its limits.
std::optional<double> numberIn(const QLineEdit* field);

/// Widens columns whose headings, in whatever language, would be cut off.
void showWholeHeadings(QTableWidget& table);

QComboBox* smallChoice(const QString& name, const QStringList& words, const QString& tip);

}  // namespace rm::app
