// The feed path on the bench: blocks added, read, moved and edited as a designer would.
#include <QToolButton>

#include "app/plan/block_choices.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

TEST_CASE("a wire of 2450 ohm gets a transformer and a cable, and the SWR is that at the radio") {
    Window w;
    w.chooseDesign("End-fed, inverted L");
    w.document().editDesign("Empty", [](model::Design& d) { d.feedPath.clear(); });
    w.settle();
    const double bare = w.analysis()->figures.swr;
    CHECK(bare > 20.0);
    w.editing().addBlock(app::blockChoices()[0].block);
    w.settle();
    CHECK(w.analysis()->figures.swr < 0.2 * bare);
    CHECK(w.session().selection() == w.item(app::Selection::Type::Block, 0));
    w.editing().addBlock(app::blockChoices()[1].block);
    w.settle();
    auto* cable = w.outline()->row(w.item(app::Selection::Type::Block, 1));
    REQUIRE(cable != nullptr);
    CHECK(cable->second().contains("SWR"));
    CHECK(cable->second().contains("dB"));
    // A longer cable hides more.
    const double before = w.analysis()->figures.joints.back().totalLossDb;
    w.type("Length", "80 m");
    CHECK(w.analysis()->figures.joints.back().totalLossDb > 2.0 * before);
    w.type("Length", "nonsense");
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("Cable"); }));
    w.undo();
    CHECK(w.notice()->sentence().isEmpty());
}

TEST_CASE("the demo's end-fed wires are judged through their path; blocks change places") {
    Window w;
    w.chooseDesign("End-fed, sloper");
    REQUIRE(w.document().design().feedPath.size() == 3);
    w.session().select(w.item(app::Selection::Type::Block, 1));
    const double before = w.analysis()->figures.swr;
    auto* button = w.editor()->findChild<QToolButton*>("To antenna");
    REQUIRE(button != nullptr);
    QTest::mouseClick(button, Qt::LeftButton);
    w.settle();
    CHECK(w.document().design().feedPath[0].kind == model::BlockKind::Cable);
    CHECK(w.session().selection() == w.item(app::Selection::Type::Block, 0));
    CHECK(w.analysis()->figures.swr != Approx(before));
    w.undo();
    CHECK(w.analysis()->figures.swr == Approx(before));
    // Removed and switched off.
    w.session().select(w.item(app::Selection::Type::Block, 2));
    w.editing().removeSelected();
    w.settle();
    CHECK(w.document().design().feedPath.size() == 2);
    auto* transformer = w.outline()->row(w.item(app::Selection::Type::Block, 0));
    transformer->setFocus();
    QTest::keyClick(transformer, Qt::Key_Space);
    w.settle();
    CHECK_FALSE(w.document().design().feedPath[0].enabled);
    CHECK(w.analysis()->figures.swr > 2.0 * before);
}
