#include "app/frame/field_keys.h"

#include <QEvent>
#include <QKeyEvent>
#include <QLineEdit>

namespace rm::app {

namespace {

constexpr const char* kSettles = "settles";

bool isOfTheWindow(const QLineEdit& field, const QKeyEvent& key) {
    if (key.matches(QKeySequence::Undo) || key.matches(QKeySequence::Redo)) return !field.isModified();
    return key.matches(QKeySequence::DeleteCompleteLine) || key.matches(QKeySequence::DeleteEndOfLine);
}

}  // namespace

bool FieldKeys::eventFilter(QObject* watched, QEvent* event) {
    auto* field = qobject_cast<QLineEdit*>(watched);
    if (field == nullptr) return false;
    switch (event->type()) {
        case QEvent::Polish:
            // What was entered is no longer half typed. A change of style polishes again.
            if (!field->property(kSettles).toBool())
                connect(field, &QLineEdit::editingFinished, field, [field] { field->setModified(false); });
            field->setProperty(kSettles, true);
            return false;
        case QEvent::ShortcutOverride:
        case QEvent::KeyPress:
            if (!isOfTheWindow(*field, *static_cast<QKeyEvent*>(event))) return false;
            // Left to the menus; where no entry takes it now, it does nothing.
            event->ignore();
            return true;
        default:
            return false;
    }
}

}  // namespace rm::app
