// The row of buttons at the foot of a dialog.
#pragma once

#include <QDialogButtonBox>

class QDialog;
class QPushButton;

namespace rm::app {

/// Two buttons: one that leaves the dialog as if it had not been, and one with these words that does what it
/// is for (`main`). Tab comes to both.
struct DialogButtons {
    QDialogButtonBox* box;
    QPushButton* main;
};
DialogButtons dialogButtons(QDialog& dialog, const QString& words,
                            QDialogButtonBox::ButtonRole role = QDialogButtonBox::AcceptRole);

/// One button that closes the dialog.
QDialogButtonBox* closeButton(QDialog& dialog);

}  // namespace rm::app
