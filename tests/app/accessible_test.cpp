// What assistive programs find: names of all that has the focus, and the words of views that paint
// themselves.
#include <QAccessible>
#include <QPainter>

#include "app/instruments/band_chart.h"
#include "app/look/key_pointer.h"
#include "app/look/painted_words.h"
#include "app/look/themed.h"
#include "hands.h"

using namespace rm;
using namespace rm::test;
using Catch::Contains;

namespace {

QString nameOf(QAccessibleInterface* one) {
    return one->text(QAccessible::Name);
}

/// Names of the children of a view, one below the other.
std::string rowsOf(QWidget* view) {
    auto* read = QAccessible::queryAccessibleInterface(view);
    REQUIRE(read != nullptr);
    QStringList rows;
    for (int i = 0; i < read->childCount(); ++i) {
        auto* child = read->child(i);
        REQUIRE(child != nullptr);
        CHECK(read->indexOfChild(child) == i);
        CHECK(child->parent()->object() == view);
        if (child->role() == QAccessible::StaticText && child->object() == nullptr) rows << nameOf(child);
    }
    return rows.join('\n').toStdString();
}

/// Everything below that is visible.
void walk(QAccessibleInterface* at, const std::function<void(QAccessibleInterface*)>& visit, int depth = 0) {
    REQUIRE(depth < 60);
    if (at == nullptr || !at->isValid() || at->state().invisible) return;
    visit(at);
    for (int i = 0; i < at->childCount(); ++i) walk(at->child(i), visit, depth + 1);
}

}  // namespace

TEST_CASE("whatever the keyboard can reach has a name, in every view") {
    Window w;
    const auto check = [&](const std::string& where) {
        int reached = 0;
        walk(QAccessible::queryAccessibleInterface(&w.bench), [&](QAccessibleInterface* one) {
            // A cell without words is empty.
            if (!one->state().focusable || one->role() == QAccessible::Cell) return;
            ++reached;
            if (!nameOf(one).isEmpty()) return;
            auto* object = one->object();
            FAIL_CHECK(where << ": no name for " << (object ? object->metaObject()->className() : "a part")
                             << " " << (object ? object->objectName().toStdString() : ""));
        });
        CHECK(reached > 20);
    };
    for (const auto& stage : w.bench.stages()) {
        w.bench.showStage(stage->name());
        w.settle();
        check(stage->name().toStdString());
    }
}

TEST_CASE("views that paint themselves are read row by row, and as they are now") {
    Window w;
    auto* azimuth = viewIn<app::PolarView>(w.bench, "azimuth");
    CHECK_THAT(rowsOf(azimuth), Contains("Azimuth, at ") && Contains("W, E"));
    auto* read = QAccessible::queryAccessibleInterface(azimuth);
    REQUIRE(read != nullptr);
    CHECK(nameOf(read) == "Azimuth");
    CHECK(read->role() == QAccessible::Canvas);
    CHECK(read->text(QAccessible::Value).toStdString() == rowsOf(azimuth));
    // A row is where its words are on the screen.
    auto* first = read->child(0);
    CHECK(read->childAt(first->rect().center().x(), first->rect().center().y()) == first);
    CHECK(azimuth->rect().contains(
        QRect(azimuth->mapFromGlobal(first->rect().topLeft()), first->rect().size())));

    // The plan: a row with its words and its fields.
    auto* outline = viewIn<app::Outline>(w.bench);
    std::string plan;
    for (auto* row : outline->findChildren<QWidget*>())
        if (row->isVisible() && dynamic_cast<app::Themed<QWidget>*>(row) != nullptr)
            plan += rowsOf(row) + "\n";
    CHECK_THAT(plan, Contains("Inverted V, inverted V, 2 mm"));
    CHECK_THAT(plan, Contains("Site, marsh"));

    // What has changed is read as it is now.
    const std::string before = rowsOf(viewIn<app::Yard>(w.bench));
    CHECK_THAT(before, Contains("11.50 m up"));
    w.typeDimension("apex", "14 m");
    w.settle();
    QTest::qWait(150);
    CHECK_THAT(rowsOf(viewIn<app::Yard>(w.bench)), Contains("14.00 m up"));
    w.undo();
}

TEST_CASE("words are put together as they stand beside each other") {
    class Sign : public app::Themed<QWidget> {
        void paintEvent(QPaintEvent*) override {
            QPainter p(this);
            p.fillRect(rect(), Qt::white);
            p.drawText(QPointF(120, 60), "right");
            p.drawText(QPointF(10, 20), "top");
            p.drawText(QPointF(10, 60), "left");
            p.translate(0, 100);
            p.drawText(QRectF(10, 0, 150, 20), Qt::AlignLeft, "50 \u03a9");
        }
    } sign;
    sign.resize(200, 150);
    const auto rows = app::paintedRows(sign);
    REQUIRE(rows.size() == 3);
    CHECK(rows[0].text == "top");
    CHECK(rows[1].text == "left, right");
    CHECK(rows[2].text == "50 \u03a9");
    CHECK(rows[1].place.left() <= 10);
    CHECK(rows[1].place.right() > 120);
    CHECK(rows[2].place.top() >= 95);
}

TEST_CASE("the keyboard moves in a plot as the mouse does, and presses there") {
    Window w;
    auto* chart = viewIn<app::BandChart>(w.bench);
    auto* pointer = chart->findChild<app::KeyPointer*>();
    REQUIRE(pointer != nullptr);
    CHECK_FALSE(pointer->at().has_value());
    w.bench.activateWindow();
    chart->setFocus(Qt::TabFocusReason);
    REQUIRE(waitFor([&] { return pointer->at().has_value(); }));
    const QPointF middle = *pointer->at();
    CHECK(middle == QRectF(chart->rect()).center());
    QTest::keyClick(chart, Qt::Key_Right);
    CHECK(pointer->at()->x() == middle.x() + 10.0);
    QTest::keyClick(chart, Qt::Key_Left, Qt::ShiftModifier);
    CHECK(pointer->at()->x() == middle.x() + 9.0);
    QTest::keyClick(chart, Qt::Key_Home);
    CHECK(pointer->at()->x() == 0.0);
    QTest::keyClick(chart, Qt::Key_Left);
    CHECK(pointer->at()->x() == 0.0);
    QTest::keyClick(chart, Qt::Key_End);
    // Enter works at that frequency, as a click there does.
    const double before = w.session().frequencyHz();
    QTest::keyClick(chart, Qt::Key_Return);
    w.settle();
    const double byKey = w.session().frequencyHz();
    CHECK(byKey > before);
    QTest::mouseClick(chart, Qt::LeftButton, {}, chart->rect().center());
    w.settle();
    CHECK(w.session().frequencyHz() < byKey);
    QTest::mouseClick(chart, Qt::LeftButton, {}, QPoint(chart->width() - 1, chart->height() / 2));
    w.settle();
    CHECK(w.session().frequencyHz() == byKey);
    // The focus goes on, and the cross with it.
    QTest::keyClick(chart, Qt::Key_Tab);
    CHECK_FALSE(pointer->at().has_value());
}

TEST_CASE("with the keyboard something is taken hold of, carried and let go") {
    class Board : public QWidget {
      public:
        QStringList seen;

      protected:
        void note(const char* what, QMouseEvent* e) {
            seen << QString("%1 %2 %3").arg(what).arg(e->position().x()).arg(int(e->buttons()));
        }
        void mousePressEvent(QMouseEvent* e) override { note("press", e); }
        void mouseMoveEvent(QMouseEvent* e) override { note("move", e); }
        void mouseReleaseEvent(QMouseEvent* e) override { note("release", e); }
    } board;
    board.resize(200, 100);
    board.setMouseTracking(true);
    auto* pointer = new app::KeyPointer(board);
    board.show();
    board.activateWindow();
    board.setFocus(Qt::TabFocusReason);
    REQUIRE(waitFor([&] { return pointer->at().has_value(); }));
    board.seen.clear();
    QTest::keyClick(&board, Qt::Key_Space);
    QTest::keyClick(&board, Qt::Key_Right, Qt::ControlModifier);
    QTest::keyClick(&board, Qt::Key_Space);
    QTest::keyClick(&board, Qt::Key_Left);
    CHECK(board.seen.join(", ").toStdString() == "press 100 1, move 150 1, release 150 0, move 140 0");
    // Left while something is held: it is let go.
    QTest::keyClick(&board, Qt::Key_Space);
    board.clearFocus();
    CHECK(board.seen.last() == "release 140 0");
}

TEST_CASE("a press with the keyboard may take its view away") {
    class Door : public QWidget {
      public:
        using QWidget::QWidget;
        QEvent::Type opensAt = QEvent::None;

      protected:
        bool event(QEvent* e) override {
            if (e->type() != opensAt) return QWidget::event(e);
            delete this;
            return true;
        }
    };
    for (const auto at : {QEvent::MouseButtonPress, QEvent::MouseButtonRelease, QEvent::MouseMove})
        for (const auto key : {Qt::Key_Return, Qt::Key_Space, Qt::Key_Left}) {
            QWidget house;
            QPointer<Door> door = new Door(&house);
            door->resize(200, 100);
            door->setMouseTracking(true);
            auto* pointer = new app::KeyPointer(*door);
            house.show();
            house.activateWindow();
            door->setFocus(Qt::TabFocusReason);
            REQUIRE(waitFor([&] { return pointer->at().has_value(); }));
            door->opensAt = at;
            for (int press = 0; press < 2 && !door.isNull(); ++press) QTest::keyClick(door.data(), key);
            CHECK(door.isNull() == ((at == QEvent::MouseMove) == (key == Qt::Key_Left)));
        }
}
