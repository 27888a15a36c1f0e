#include "app/dialogs/dialog_buttons.h"

#include <QDialog>
#include <QPushButton>

namespace rm::app {

namespace {

QDialogButtonBox* boxWith(QDialog& dialog, QDialogButtonBox::StandardButton leave) {
    auto* box = new QDialogButtonBox(leave);
    QObject::connect(box, &QDialogButtonBox::accepted, &dialog, &QDialog::accept);
    QObject::connect(box, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
    return box;
}

/// A box that hands the focus on to one of its buttons is passed by on the way to the others.
void letTabIn(QDialogButtonBox& box) {
    box.setFocusProxy(nullptr);
}

}  // namespace

DialogButtons dialogButtons(QDialog& dialog, const QString& words, QDialogButtonBox::ButtonRole role) {
    auto* box = boxWith(dialog, QDialogButtonBox::Cancel);
    auto* main = box->addButton(words, role);
    main->setProperty("main", true);
    letTabIn(*box);
    return {box, main};
}

QDialogButtonBox* closeButton(QDialog& dialog) {
    auto* box = boxWith(dialog, QDialogButtonBox::Close);
    letTabIn(*box);
    return box;
}

}  // namespace rm::app
