// The monkey takes hold of what the yard shows: grips, feeds, the pen, with keys in the middle of it.
#include <QMouseEvent>
#include <QTest>

#include "app/stages/shape/feed_tool.h"
#include "app/stages/shape/grip_tool.h"
#include "app/stages/shape/pen_tool.h"
#include "app/stages/shape/shape_stage.h"
#include "monkey.h"

namespace rm::test {

namespace {

void send(QWidget* to, QEvent::Type type, const QPointF& at, Qt::KeyboardModifiers keys) {
    const bool moves = type == QEvent::MouseMove;
    QMouseEvent event(type, at, to->mapToGlobal(at), moves ? Qt::NoButton : Qt::LeftButton,
                      type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, keys);
    QApplication::sendEvent(to, &event);
}

}  // namespace

void Monkey::useHands() {
    bench_.showStage("shape");
    auto* shape = static_cast<app::ShapeStage*>(bench_.stage("shape"));
    auto* yard = bench_.findChild<app::Yard*>();
    if (chance(25)) {
        note("pen");
        shape->pen()->start();
        for (int i = 0; i < 1 + pick(6); ++i) {
            const QPointF at(pick(yard->width()), pick(yard->height()));
            send(yard, QEvent::MouseMove, at, Qt::NoModifier);
            send(yard, QEvent::MouseButtonPress, at, Qt::NoModifier);
            send(yard, QEvent::MouseButtonRelease, at, Qt::NoModifier);
            if (chance(30)) QTest::keyClicks(yard, QString("VLGN7.5").mid(pick(7), 1));
            if (chance(20)) QTest::keyClick(yard, chance(50) ? Qt::Key_Backspace : Qt::Key_Return);
        }
        QTest::keyClick(yard, chance(70) ? Qt::Key_Return : Qt::Key_Escape);
        shape->pen()->stop();
        return;
    }
    std::vector<QPointF> places;
    for (const auto& handle : shape->grips()->handles())
        if (const auto at = shape->grips()->handleAt(handle.name)) places.push_back(*at);
    for (const auto& feed : bench_.session().design().feeds)
        if (const auto at = shape->feeds()->markAt(QString::fromStdString(feed.name))) places.push_back(*at);
    if (places.empty()) return selectItem();
    QPointF at = oneOf(places);
    note(QString("hand at %1,%2").arg(at.x()).arg(at.y()));
    send(yard, QEvent::MouseButtonPress, at, chance(10) ? Qt::ShiftModifier : Qt::NoModifier);
    const auto key = [&] {
        const char* const letters[] = {"d", "u", "m", "r", "f", "n", "7", ".", "x"};
        QTest::keyClicks(yard, letters[pick(9)]);
    };
    if (chance(30)) key();
    for (int i = 0; i < pick(6); ++i) {
        at += QPointF(pick(81) - 40, pick(81) - 40);
        send(yard, QEvent::MouseMove, at, chance(20) ? Qt::ShiftModifier : Qt::NoModifier);
        if (chance(20)) key();
        // Something else happens in the middle of it.
        if (chance(5)) undoSome();
        if (chance(3)) switchDesign();
        if (chance(40)) let(0);
    }
    if (chance(10)) QTest::keyClick(yard, Qt::Key_Escape);
    send(yard, QEvent::MouseButtonRelease, at, Qt::NoModifier);
    if (!chance(35)) return;
    // Whatever the letters are: the test library knows some of them only.
    for (const QChar letter : chance(60) ? QString::number(pick(2000) / 100.0) : "3" + nonsense()) {
        QKeyEvent typed(QEvent::KeyPress, 0, Qt::NoModifier, QString(letter));
        QApplication::sendEvent(yard, &typed);
    }
    QTest::keyClick(yard, chance(80) ? Qt::Key_Return : Qt::Key_Escape);
}

}  // namespace rm::test
