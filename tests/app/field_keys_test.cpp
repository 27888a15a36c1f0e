// A field takes no key for itself that is the window's, and gives none away that writes.
#include <QKeyEvent>

#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Whether a field would take a key for itself before any menu sees it.
bool taken(QLineEdit& field, const QKeyCombination& key) {
    QKeyEvent asked(QEvent::ShortcutOverride, key.key(), key.keyboardModifiers());
    asked.ignore();
    QApplication::sendEvent(&field, &asked);
    return asked.isAccepted();
}

}  // namespace

TEST_CASE("undo where one has just typed takes the number back, and what is half typed stays the field's") {
    Window w;
    const std::string before = w.document().design().dimensions.at(0).text;
    QLineEdit* field = w.outline()->dimensionRow("apex")->field();
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "12 m");
    CHECK(taken(*field, Qt::CTRL | Qt::Key_Z));  // half typed: the letters go first
    QTest::keyClick(field, Qt::Key_Return);
    REQUIRE(w.document().design().dimensions.at(0).text == "12 m");
    REQUIRE(field->hasFocus());
    QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.document().design().dimensions.at(0).text == before);
    CHECK(field->text().toStdString() == before);
    QTest::keyClick(field, Qt::Key_Y, Qt::ControlModifier);
    CHECK(w.document().design().dimensions.at(0).text == "12 m");
    CHECK(field->text() == "12 m");
    // With nothing to undo the key does nothing, not even to the letters.
    w.document().undoStack()->clear();
    QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
    CHECK(field->text() == "12 m");
}

TEST_CASE("no key of the menus empties a field that has the focus") {
    Window w;
    QLineEdit* field = w.outline()->dimensionRow("apex")->field();
    field->setFocus();
    const QString typed = field->text();
    int asked = 0;
    for (const QAction* action : w.bench.findChildren<QAction*>())
        for (const QKeySequence& keys : action->shortcuts()) {
            if (keys.count() != 1 ||
                (keys[0].keyboardModifiers() & (Qt::ControlModifier | Qt::AltModifier)) == 0)
                continue;
            INFO(action->text().toStdString() << ", " << keys.toString().toStdString());
            ++asked;
            CHECK_FALSE(taken(*field, keys[0]));
        }
    CHECK(asked > 20);
    QTest::keyClick(field, Qt::Key_U, Qt::ControlModifier);
    CHECK(field->text() == typed);
    CHECK(w.session().project().feetAndInches);
    // What edits text stays the field's.
    for (const auto key : {Qt::Key_C, Qt::Key_X, Qt::Key_V, Qt::Key_A}) CHECK(taken(*field, Qt::CTRL | key));
}
