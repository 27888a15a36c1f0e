// A designer's way through the real window, from an empty project to the answer: menus, fields, lists, the
// ledger.
#pragma once

#include <QAction>
#include <QToolButton>

#include "window.h"

namespace rm::test {

struct Journey : Window {
    using Type = app::Selection::Type;

    Journey() {
        menu("New project");
        settle();
        REQUIRE(document().path().isEmpty());
    }
    /// Chooses an entry of a menu by its text.
    void menu(const QString& text) {
        REQUIRE(action(text)->isEnabled());
        action(text)->trigger();
        QApplication::processEvents();
    }
    /// Takes out what a new project begins with.
    void clear() {
        select(item(Type::Part));
        menu("Remove selected");  // its feed goes with it
        settle();
        REQUIRE(document().design().parts.empty());
        REQUIRE(document().design().feeds.empty());
    }
    void band(const QString& name) {
        const auto& bands = document().project().bands;
        for (std::size_t i = 0; i < bands.size(); ++i)
            if (QString::fromStdString(bands[i].name) == name)
                QTest::mouseClick(bandStrip()->chip(static_cast<int>(i)), Qt::LeftButton);
        settle();
    }
    void site(const QString& ground, const QString& height) {
        select(item(Type::Site));
        choose("Ground", ground);
        type("Height", height);
    }
    void designFrequency(const QString& text) {
        select(item(Type::Design));
        type("Frequency", text);
    }
    /// Presses a button of the editor.
    void press(const QString& button) {
        auto* found = editor()->findChild<QToolButton*>(button);
        REQUIRE(found != nullptr);
        QTest::mouseClick(found, Qt::LeftButton);
        settle();
    }
    /// A figure of the live row as a number.
    double figure(const QString& column, int row = 0) {
        QString text = ledger()->figure(column, row);
        INFO(column.toStdString());
        REQUIRE_FALSE(text.isEmpty());
        return text.replace(QChar(0x2212), '-').section(' ', 0, 0).remove(QChar(0xb0)).toDouble();
    }
    double swr() { return figure("SWR"); }
    const model::Design& design() { return document().design(); }
    /// Nothing is wrong and the figures are there.
    void sound() {
        INFO(notice()->sentence().toStdString());
        CHECK_FALSE(model::hasError(session().expansion()->findings));
        CHECK(live());
    }
    /// Back to the beginning, step by step, and forward again: nothing is lost on the way.
    void thereAndBack() {
        const auto end = document().share();
        int steps = 0;
        for (; document().undoStack()->canUndo(); ++steps) document().undo();
        CHECK(steps > 0);
        for (; steps > 0; --steps) document().redo();
        CHECK(document().project() == *end);
        settle();
    }
};

}  // namespace rm::test
