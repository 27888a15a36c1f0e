// Hands in the yard for tests: real mouse and keys on grips, feeds and the pen.
#pragma once

#include "app/stages/shape/feed_tool.h"
#include "app/stages/shape/grip_tool.h"
#include "app/stages/shape/pen_tool.h"
#include "app/stages/shape/shape_stage.h"
#include "window.h"

namespace rm::test {

/// What hands do in the yard of a window.
struct Hands {
    Window& w;

    app::ShapeStage& shape() { return w.stage<app::ShapeStage>("shape"); }
    app::Yard& yardOf() { return *w.yard(); }

    void mouse(QEvent::Type type, const QPointF& at, Qt::KeyboardModifiers keys = {}) {
        const bool moves = type == QEvent::MouseMove;
        const bool down = type != QEvent::MouseButtonRelease && held;
        QMouseEvent event(type, at, yardOf().mapToGlobal(at), moves ? Qt::NoButton : Qt::LeftButton,
                          down || type == QEvent::MouseButtonPress ? Qt::LeftButton : Qt::NoButton, keys);
        QApplication::sendEvent(&yardOf(), &event);
        QApplication::processEvents();
    }
    void press(const QPointF& at, Qt::KeyboardModifiers keys = {}) {
        held = true;
        mouse(QEvent::MouseButtonPress, at, keys);
    }
    void move(const QPointF& at, Qt::KeyboardModifiers keys = {}) { mouse(QEvent::MouseMove, at, keys); }
    void release(const QPointF& at, Qt::KeyboardModifiers keys = {}) {
        held = false;
        mouse(QEvent::MouseButtonRelease, at, keys);
        w.settle();
    }
    void click(const QPointF& at, Qt::KeyboardModifiers keys = {}) {
        press(at, keys);
        release(at, keys);
    }
    void doubleClick(const QPointF& at) { mouse(QEvent::MouseButtonDblClick, at); }
    /// From one place to the other, by way of a few between.
    void pull(const QPointF& from, const QPointF& to, Qt::KeyboardModifiers keys = {}) {
        press(from, keys);
        for (int i = 1; i <= 4; ++i) move(from + 0.25 * i * (to - from), keys);
        release(to, keys);
    }
    void keys(const QString& text) { QTest::keyClicks(&yardOf(), text); }
    void enter() {
        QTest::keyClick(&yardOf(), Qt::Key_Return);
        w.settle();
    }
    QPointF grip(const QString& name) {
        const auto at = shape().grips()->handleAt(name);
        INFO("grip " << name.toStdString());
        REQUIRE(at.has_value());
        return *at;
    }
    QString tag() { return shape().grips()->tag().join('\n'); }
    /// Where a point of the site appears.
    QPointF at(const Vec3& point) { return yardOf().screenPoint(point); }
    /// Clicks a grip and types a number for it.
    void set(const QString& name, const QString& typed) {
        click(grip(name));
        keys(typed);
        enter();
    }

    bool held = false;
};

}  // namespace rm::test
