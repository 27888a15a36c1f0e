// Build mode through the real window: what to cut, what is typed there, what does not come out of the stock.
#include <QFile>
#include <QLabel>
#include <QScrollBar>
#include <QTableWidget>
#include <QTemporaryDir>

#include "app/stages/build/build_view.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct BuildWindow : Window {
    app::BuildView& view() { return *find<app::BuildView>(); }

    explicit BuildWindow(const QString& design) {
        chooseDesign(design);
        bench.openStage("build");
        settle();
    }

    QString cell(int row, int column) { return view().table()->item(row, column)->text(); }

    int rowOf(const QString& part) {
        for (int r = 0; r < view().table()->rowCount(); ++r)
            if (cell(r, app::BuildView::Part) == part) return r;
        return -1;
    }

    void typeIn(const QString& field, const QString& text) {
        auto* one = view().field(field);
        one->setFocus();
        one->selectAll();
        QTest::keyClicks(one, text);
        QTest::keyClick(one, Qt::Key_Return);
        settle();
    }
};

}  // namespace

TEST_CASE("what a Yagi is cut from: every element with what the boom adds, and the rods it comes out of") {
    BuildWindow w("Yagi, 70 MHz");
    const int reflector = w.rowOf("Yagi, reflector");
    REQUIRE(reflector >= 0);
    CHECK(w.cell(reflector, app::BuildView::Modelled) == "2135 mm");
    CHECK(w.cell(reflector, app::BuildView::Added).contains("mm for the boom"));
    CHECK(w.view().totals().contains("aluminium-6061 8 mm"));
    REQUIRE(w.view().sheet().stock.size() == 2);
    const auto bars = w.view().sheet().stock[0].plan.bars.size();
    CHECK(bars >= 2);
    // A click on a piece of the drawing marks its row, and its part is selected.
    const auto& layout = w.view().sheet().stock[0];
    const auto piece = static_cast<int>(layout.piece[layout.plan.bars[0].pieces[0]]);
    QTest::mouseClick(w.view().drawing(), Qt::LeftButton, {},
                      w.view().drawing()->rectOf(0, 0, 0).center().toPoint());
    CHECK(w.view().table()->currentRow() == piece);
    CHECK(w.session().selectedPart() != nullptr);
    // Shorter stock: more of it, and what it does not hold is said with the mend.
    w.typeIn("stock", "2 m");
    CHECK(w.document().design().build.stock == "2 m");
    CHECK(w.view().line().contains("Yagi, reflector takes 2.1"));
    CHECK(w.view().line().contains("Join it from two"));
    w.undo();
    w.settle();
    CHECK(w.document().design().build.stock == "6 m");
    CHECK_FALSE(w.view().line().contains("Join it"));
    // A length follows the dimension.
    w.typeDimension("refl", "2.2 m");
    CHECK(w.cell(w.rowOf("Yagi, reflector"), app::BuildView::Modelled) == "2200 mm");
}

TEST_CASE("wire is longer than modelled by what is folded back; nonsense is one sentence") {
    BuildWindow w("Inverted V, 60 m");
    REQUIRE(w.rowOf("Inverted V") == 0);
    CHECK(w.cell(0, app::BuildView::Count) == "2");
    CHECK(w.cell(0, app::BuildView::Modelled) == "13.450 m");
    CHECK(w.cell(0, app::BuildView::Cut) == "13.650 m");
    w.typeIn("folded end", "40 cm");
    CHECK(w.cell(0, app::BuildView::Cut) == "13.900 m");
    CHECK(w.cell(0, app::BuildView::Added).contains("40 cm at the free end"));
    w.typeIn("folded end", "-2 m");
    CHECK(w.view().line().contains("Folded at free ends"));
    CHECK(w.view().table()->rowCount() == 0);
    w.undo();
    w.settle();
    CHECK(w.view().table()->rowCount() == 1);
    // A bare number is millimetres here. Half typed it goes to the design it was typed for.
    auto* end = w.view().field("folded end");
    end->setFocus();
    end->selectAll();
    QTest::keyClicks(end, "200");
    const auto typedFor = w.document().design().id;
    w.chooseDesign("End-fed, sloper");
    w.settle();
    CHECK(w.document().design().build.foldedEnd == "15 cm");
    CHECK(model::find(w.document().project().designs, typedFor)->build.foldedEnd == "200 mm");
    // Another design has its own.
    w.chooseDesign("Vertical on radials, 60 m");
    w.settle();
    REQUIRE(w.rowOf("Radials") >= 0);
    CHECK(w.view().field("folded end")->text() == "15 cm");
    // A design that cannot be worked out has nothing to cut, and says why.
    w.document().editDesign("Take the feed", [](model::Design& d) { d.feeds.clear(); });
    w.settle();
    CHECK(w.view().table()->rowCount() == 0);
    CHECK(w.view().line().contains("feed"));
}

TEST_CASE("a cut list is in one unit, and says all that it adds in a window of 1366 pixels") {
    BuildWindow w("End-fed, sloper");
    w.bench.resize(1366, 740);
    QApplication::processEvents();
    CHECK(w.cell(w.rowOf("Radiator"), app::BuildView::Cut) == "42.100 m");
    CHECK(w.cell(w.rowOf("Counterpoise"), app::BuildView::Cut) == "5.700 m");
    // Cut from something else: the elements beside a mast of 19 m.
    // What is to be weighed of them takes long, and is not waited for.
    const model::Id sloper = w.session().design().id;
    for (const auto& design : w.document().share()->designs)
        if (design.name == "Two Yagis stacked, 70 MHz") w.session().chooseDesign(design.id);
    CHECK(w.cell(w.rowOf("Yagi (lower), reflector"), app::BuildView::Cut) == "2137 mm");
    CHECK(w.cell(w.rowOf("Lattice mast"), app::BuildView::Cut) == "19.000 m");
    w.session().chooseDesign(sloper);
    QApplication::processEvents();
    auto* table = w.view().table();
    for (int r = 0; r < table->rowCount(); ++r) {
        const QString added = table->item(r, app::BuildView::Added)->text();
        INFO(added.toStdString());
        CHECK(added.contains("joint"));
        CHECK(QFontMetrics(table->font()).horizontalAdvance(added) + 6 <=
              table->columnWidth(app::BuildView::Added));
        CHECK(table->rowHeight(r) < 30);
    }
    // Where it is narrower still, on a second line, and the list is as tall as that takes.
    table->setColumnWidth(app::BuildView::Part, 190);
    QApplication::processEvents();
    CHECK(table->rowHeight(0) >= 2 * QFontMetrics(table->font()).height());
    CHECK_FALSE(table->verticalScrollBar()->isVisible());
}

TEST_CASE("build mode has tabs for ropes, lines and what to order, and says which lengths are critical") {
    BuildWindow w("Dipole to the hedge, 30 m");
    REQUIRE(waitFor([&] { return w.view().settled(); }));
    CHECK(w.cell(0, app::BuildView::KeepTo).contains("±"));
    const auto tab = [&](const QString& name) {
        for (int i = 0; i < w.view().tabs()->count(); ++i)
            if (w.view().tabs()->tabText(i) == name) return i;
        return -1;
    };
    REQUIRE(tab("What hangs") > 0);
    QTest::mouseClick(w.view().tabs(), Qt::LeftButton, {},
                      w.view().tabs()->tabRect(tab("What hangs")).center());
    CHECK(w.view().others()->isVisible());
    CHECK_FALSE(w.view().table()->isVisible());
    CHECK(w.view().others()->item(0, 2)->text() == "Hawthorn");
    // It follows the design, and stays on its tab.
    w.typeDimension("span", "15 m");
    CHECK(w.view().tabs()->tabText(w.view().tabs()->currentIndex()) == "What hangs");
    CHECK(w.view().others()->item(0, 4)->text().startsWith("15"));
    // A design without ropes falls back to what is cut.
    w.chooseDesign("Yagi, 70 MHz");
    w.settle();
    CHECK(w.view().tabs()->currentIndex() == 0);
    REQUIRE(waitFor([&] { return w.view().settled(); }));
    const int driven = w.rowOf("Yagi, driven");
    CHECK(w.cell(driven, app::BuildView::KeepTo).contains("mm"));
    CHECK(w.view().table()->item(driven, app::BuildView::KeepTo)->toolTip().contains("kHz"));
}

TEST_CASE("the report is written in the background, and stopping it writes nothing") {
    Window w;
    w.chooseDesign("Ground plane, 30 m");
    QTemporaryDir folder;
    const QString path = folder.filePath("report.pdf");
    w.bench.files().exportReportTo(path);
    // The window is not blocked meanwhile.
    CHECK_FALSE(QFile::exists(path));
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("report.pdf"); }));
    QFile file(path);
    REQUIRE(file.open(QIODevice::ReadOnly));
    CHECK(file.read(5) == "%PDF-");
    // Another search of the bench meanwhile does not end it.
    const QString beside = folder.filePath("beside.pdf");
    w.bench.files().exportReportTo(beside);
    w.action("Find the nearest resonance")->trigger();
    REQUIRE(waitFor([&] { return QFile::exists(beside); }));
    const QString second = folder.filePath("second.pdf");
    w.bench.files().exportReportTo(second);
    w.bench.stop();
    waitFor([&] { return w.notice()->sentence().contains("stopped") || QFile::exists(second); });
    w.bench.files().exportReportTo("/nowhere/at/all.pdf");
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("/nowhere"); }));
}

TEST_CASE("journey: a Yagi from numbers to a drilled boom") {
    BuildWindow w("Yagi, 70 MHz");
    w.typeDimension("d1", "1910 mm");
    REQUIRE(waitFor([&] { return w.view().settled(); }));
    const int first = w.rowOf("Yagi, director 1");
    REQUIRE(first >= 0);
    CHECK(w.cell(first, app::BuildView::Modelled) == "1910 mm");
    int holes = -1;
    for (int i = 0; i < w.view().tabs()->count(); ++i)
        if (w.view().tabs()->tabText(i).startsWith("Boom of ")) holes = i;
    REQUIRE(holes > 0);
    w.view().tabs()->setCurrentIndex(holes);
    // Five elements between the two ends of the boom, and where it balances.
    const auto* table = w.view().others();
    REQUIRE(table->rowCount() == 8);
    CHECK(table->item(0, 0)->text() == "end, square 25 mm");
    CHECK(table->item(1, 2)->text() == "0.0 mm");
    const double second = table->item(2, 2)->text().section(' ', 0, 0).toDouble();
    CHECK(second == Approx(1e3 * w.session().expansion()->rows[0].elements[1].positionM).margin(0.06));
    CHECK(table->item(2, 1)->text().section(' ', 0, 0).toDouble() == Approx(second + 50.0).margin(0.11));
    CHECK(table->item(2, 4)->text().contains('"'));
    // The boom a little longer beyond them: from its end everything is further.
    w.typeIn("boom end", "80 mm");
    CHECK(table->item(1, 1)->text() == "80.0 mm");
    // A row leads to the part that it belongs to.
    w.session().select({});
    CHECK(w.session().selectedPart() == nullptr);
    w.view().others()->setCurrentCell(2, 0);
    REQUIRE(w.session().selectedPart() != nullptr);
    CHECK(w.session().selectedPart()->name == "Yagi");
    // And to the drill: the boom on paper at its true size.
    QTemporaryDir folder;
    const QString path = folder.filePath("boom.pdf");
    w.bench.files().exportTemplateTo(path);
    CHECK(w.notice()->sentence().contains("boom.pdf"));
    QFile file(path);
    REQUIRE(file.open(QIODevice::ReadOnly));
    CHECK(file.read(5) == "%PDF-");
    w.chooseDesign("Inverted V, 60 m");
    w.bench.files().exportTemplateTo(folder.filePath("none.pdf"));
    CHECK(w.notice()->sentence().contains("nothing to drill"));
    CHECK_FALSE(QFile::exists(folder.filePath("none.pdf")));
}

TEST_CASE("an element of tubes shows what goes into what; nonsense for its walls is one sentence") {
    BuildWindow w("Yagi, 70 MHz");
    CHECK(w.view().field("overlap")->isVisible());
    w.document().editDesign("tubes", [](model::Design& d) {
        for (auto& part : d.parts)
            if (auto* row = std::get_if<model::ElementRow>(&part.shape))
                row->elements.front().diameter = "16 mm x 0.5 m, 12 mm";
    });
    w.settle();
    const auto tip = [&] {
        for (const auto& piece : w.view().sheet().list.pieces)
            if (piece.part == "Yagi, reflector" && piece.diameterM < 0.0125) return piece;
        return build::Piece{};
    };
    CHECK(tip().overlapM == Approx(0.1));
    w.typeIn("overlap", "8 cm");
    CHECK(tip().overlapM == Approx(0.08));
    w.typeIn("wall", "3 mm");
    CHECK(w.view().line().contains("does not go into one of 16 mm"));
    w.typeIn("wall", "nonsense");
    CHECK(w.view().line().contains("Wall of tubes: "));
    CHECK(w.view().table()->rowCount() == 0);
    w.undo();
    w.chooseDesign("Inverted V, 60 m");
    w.settle();
    CHECK_FALSE(w.view().field("overlap")->isVisible());
}
