// Match mode in the real window: the chain, the walk, dragging values, and putting a match in.
#include <QComboBox>
#include <QScrollArea>
#include <QSlider>
#include <QToolButton>

#include "app/instruments/smith_chart.h"
#include "app/plan/block_choices.h"
#include "app/stages/match/band_losses.h"
#include "app/stages/match/block_handles.h"
#include "app/stages/match/chain_view.h"
#include "app/stages/match/match_rows.h"
#include "app/stages/match/match_view.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct MatchWindow : Window {
    MatchWindow() {
        chooseDesign("End-fed, inverted L");
        auto* mode = bench.findChild<QToolButton*>("modeMatch");
        REQUIRE(mode != nullptr);
        QTest::mouseClick(mode, Qt::LeftButton);
        settle();
    }
    app::MatchView& match() { return *find<app::MatchView>(); }
    app::ChainView& chain() { return *match().chain(); }
    const std::vector<model::FeedBlock>& path() { return document().design().feedPath; }
    QPoint card(int block) { return chain().cardRect(block).center().toPoint(); }
    void drag(QPoint from, QPoint to) {
        QTest::mousePress(&chain(), Qt::LeftButton, {}, from);
        for (int step = 1; step <= 4; ++step) {
            const QPointF at = QPointF(from) + QPointF(to - from) * step / 4.0;
            QMouseEvent event(QEvent::MouseMove, at, chain().mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                              Qt::NoModifier);
            QApplication::sendEvent(&chain(), &event);
        }
        QTest::mouseRelease(&chain(), Qt::LeftButton, {}, to);
        settle();
    }
    int firstRow(const QString& part) {
        for (int row = 0; row < match().rows()->count(); ++row)
            if (match().rows()->title(row).contains(part)) return row;
        return -1;
    }
    void clickRow(int row) {
        QTest::mouseClick(match().rows(), Qt::LeftButton, {}, match().rows()->rowRect(row).center());
        settle();
    }
};

}  // namespace

TEST_CASE("Match mode shows the chain with its values and where every band loses power") {
    MatchWindow w;
    REQUIRE(w.match().isVisible());
    REQUIRE(w.path().size() == 3);
    const auto& joints = w.analysis()->figures.joints;
    REQUIRE(joints.size() == 4);
    for (int j = 0; j < 4; ++j) CHECK(w.chain().jointLines(j).size() == 3);
    CHECK(w.chain().jointLines(3)[2] ==
          QString("SWR %1").arg(QString::number(w.analysis()->figures.swr, 'f', 2)));
    CHECK(w.chain().lossText(1).contains(QString("%1 dB").arg(joints[2].blockLossDb, 0, 'f', 2)));
    // All four bands, each with the whole loss of its path.
    int known = 0;
    for (int b = 0; b < 6; ++b) known += w.match().losses()->lossText(b).isEmpty() ? 0 : 1;
    CHECK(known == 4);
    // The walk begins at the antenna and ends at the radio.
    const auto& marks = w.match().smith()->marks();
    REQUIRE(marks.size() == 4);
    CHECK(std::abs(marks.front().ohm - joints.front().impedanceOhm) < 1e-9);
    CHECK(std::abs(marks.back().ohm - joints.back().impedanceOhm) < 1e-9);
}

TEST_CASE("hovering a block lights its arc, hovering the arc lights the block") {
    MatchWindow w;
    QTest::mouseMove(&w.chain(), w.card(1));
    QMouseEvent over(QEvent::MouseMove, w.card(1), w.chain().mapToGlobal(w.card(1)), Qt::NoButton,
                     Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&w.chain(), &over);
    CHECK(w.match().smith()->highlight() == 1);
    // The middle of the arc of the cable.
    const auto& traces = w.match().smith()->traces();
    const auto cable = std::find_if(traces.begin(), traces.end(), [](const auto& t) { return t.block == 1; });
    REQUIRE(cable != traces.end());
    QMouseEvent away(QEvent::MouseMove, QPointF(2, 2), w.match().smith()->mapToGlobal(QPointF(2, 2)),
                     Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(w.match().smith(), &away);
    CHECK_FALSE(w.match().smith()->highlight());
    const QPointF at = w.match().smith()->pointOf(cable->ohm[cable->ohm.size() / 2]);
    QMouseEvent on(QEvent::MouseMove, at, w.match().smith()->mapToGlobal(at), Qt::NoButton, Qt::NoButton,
                   Qt::NoModifier);
    QApplication::sendEvent(w.match().smith(), &on);
    CHECK(w.match().smith()->highlight() == 1);
}

TEST_CASE("a capacitor is dragged and every band follows without a field solution") {
    MatchWindow w;
    QTest::mouseClick(&w.chain(), Qt::LeftButton, {}, w.card(0));
    w.settle();
    QSlider* slider = w.match().handles()->slider("C");
    REQUIRE(slider != nullptr);
    const int solved = w.session().solutions();
    std::vector<double> before;
    for (int b = 1; b < 5; ++b) before.push_back(w.bandStrip()->sweep(b)->worstSwr());
    Window::drag(slider, 30);
    w.settle();
    const double c = std::stod(w.path()[0].compensation);
    CHECK(c > 120.0);
    for (int b = 1; b < 5; ++b)
        CHECK(w.bandStrip()->sweep(b)->worstSwr() != before[static_cast<std::size_t>(b - 1)]);
    CHECK(w.session().solutions() == solved);
    // One undo for the whole drag.
    w.undo();
    CHECK(w.path()[0].compensation == "100");
    // And typed in place.
    QLineEdit* field = w.match().handles()->field("C");
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, "150");
    QTest::keyClick(field, Qt::Key_Return);
    w.settle();
    CHECK(w.path()[0].compensation == "150");
}

TEST_CASE("blocks are dragged to another place, switched off and removed in the chain") {
    MatchWindow w;
    w.drag(w.card(0), w.card(2));
    CHECK(w.path()[2].kind == model::BlockKind::Transformer);
    w.undo();
    CHECK(w.path()[0].kind == model::BlockKind::Transformer);
    const QRectF card = w.chain().cardRect(2);
    QTest::mouseClick(&w.chain(), Qt::LeftButton, {},
                      QPoint(static_cast<int>(card.left()) + 9, static_cast<int>(card.top()) + 8));
    w.settle();
    CHECK_FALSE(w.path()[2].enabled);
    CHECK(w.chain().lossText(2).isEmpty());
    QTest::mouseClick(&w.chain(), Qt::LeftButton, {}, w.card(2));
    QTest::keyClick(&w.chain(), Qt::Key_Left, Qt::ControlModifier);
    w.settle();
    CHECK_FALSE(w.path()[1].enabled);
    QTest::keyClick(&w.chain(), Qt::Key_Delete);
    w.settle();
    CHECK(w.path().size() == 2);
}

TEST_CASE("matching at the radio: an L network is chosen, put in, and undone") {
    MatchWindow w;
    // The radio end is the last joint.
    QTest::mouseClick(&w.chain(), Qt::LeftButton, {}, w.chain().jointPoint(3).toPoint());
    w.settle();
    const double before = w.analysis()->figures.swr;
    REQUIRE(before > 1.3);
    const int row = w.firstRow("across");
    REQUIRE(row >= 0);
    w.clickRow(row);
    REQUIRE(w.path().size() == 4);
    CHECK(w.path()[3].kind == model::BlockKind::Network);
    CHECK(w.analysis()->figures.swr < 1.1);
    CHECK(w.notice()->sentence().startsWith("Put in:"));
    w.undo();
    CHECK(w.path().size() == 3);
    CHECK(w.analysis()->figures.swr == Approx(before));
    // Standard values, another target, and a joint in the middle.
    w.match().values()->setCurrentIndex(1);
    Q_EMIT w.match().values()->activated(1);
    w.settle();
    w.clickRow(w.firstRow("across"));
    CHECK(w.analysis()->figures.swr < before);
    w.undo();
    QTest::mouseClick(&w.chain(), Qt::LeftButton, {}, w.chain().jointPoint(0).toPoint());
    w.match().target()->setText("2450");
    Q_EMIT w.match().target()->editingFinished();
    w.settle();
    w.clickRow(w.firstRow("in series"));
    CHECK(w.path()[0].kind == model::BlockKind::Network);
    CHECK(std::abs(w.analysis()->figures.joints[1].impedanceOhm - 2450.0) < 400.0);
}

TEST_CASE("the best transformer ratio is offered for all bands and put in") {
    MatchWindow w;
    w.document().editDesign("Spoil", [](model::Design& d) { d.feedPath[0].ratio = "1:1"; });
    w.settle();
    int row = -1;
    for (int r = 0; r < w.match().rows()->count(); ++r)
        if (w.match().rows()->title(r).contains("Best transformer")) row = r + 1;
    REQUIRE(row > 0);
    const QString ratio = w.match().rows()->title(row);
    CHECK(ratio.endsWith(":1"));
    w.clickRow(row);
    CHECK(w.path()[0].ratio == ratio.toStdString());
    CHECK(std::stod(ratio.toStdString()) > 15.0);
}

TEST_CASE("blocks are added at a joint; the power of the radio sets the watts") {
    MatchWindow w;
    const QString before = w.chain().lossText(1);
    auto* power = w.match().findChild<QLineEdit*>();
    REQUIRE(power != nullptr);
    REQUIRE(power->accessibleName() == "Power in W");
    power->setText("1000");
    Q_EMIT power->editingFinished();
    w.settle();
    CHECK(w.document().project().powerW == 1000.0);
    for (const char* const nonsense : {"inf", "nan", "1e999", "-5", "much"}) {
        power->setText(nonsense);
        Q_EMIT power->editingFinished();
        CHECK(w.document().project().powerW == 1000.0);
        CHECK(power->text() == "1000");
    }
    CHECK(w.chain().lossText(1) != before);
    for (const auto& choice : app::blockChoices()) {
        w.editing().addBlock(choice.block, 1);
        w.settle();
        CHECK(w.path()[1].kind == choice.block.kind);
        CHECK(w.live());
        CHECK(w.notice()->sentence().isEmpty());
    }
    CHECK(w.path().size() == 3 + app::blockChoices().size());
}
