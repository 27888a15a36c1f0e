// Element rows, stacks and drive sets in the real window: table, drawing, copies, drive sets, coupling.
#include <QAction>
#include <QCheckBox>
#include <QImage>
#include <QLabel>
#include <QStackedWidget>
#include <QTableWidget>
#include <QToolButton>

#include "app/stages/boom/boom_view.h"
#include "app/stages/compare/overlay_plots.h"
#include "app/stages/coupling/coupling_view.h"
#include "app/stages/drives/drive_patterns.h"
#include "app/stages/drives/drive_view.h"
#include "app/stages/spacing/spacing_view.h"
#include "core/quantity/format.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

struct BoomWindow : Window {
    BoomWindow() {
        chooseDesign("Yagi, 70 MHz");
        select(item(app::Selection::Type::Part, 0));
        auto* button = editor()->findChild<QToolButton*>("Elements on the boom…");
        REQUIRE(button != nullptr);
        QTest::mouseClick(button, Qt::LeftButton);
        settle();
        REQUIRE(view().isVisible());
    }
    app::BoomView& view() { return *find<app::BoomView>(); }
    QTableWidget& table() { return *view().table(); }
    const model::RowElement& element(std::size_t i) {
        return std::get<model::ElementRow>(document().design().parts.at(0).shape).elements.at(i);
    }
    double lengthM(std::size_t i) {
        return model::expand(document().design()).row("Yagi")->elements.at(i).lengthM;
    }
    double positionM(std::size_t i) {
        return model::expand(document().design()).row("Yagi")->elements.at(i).positionM;
    }
    void typeCell(int row, int column, const QString& text) {
        table().setCurrentCell(row, column);
        table().editItem(table().item(row, column));
        QApplication::processEvents();
        auto* field = table().viewport()->findChild<QLineEdit*>();
        REQUIRE(field != nullptr);
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        QApplication::processEvents();  // the cell hands over what was typed a moment later
        settle();
    }
    void dragDrawing(QPointF from, QPointF by) {
        auto* paper = view().drawing();
        QTest::mousePress(paper, Qt::LeftButton, {}, from.toPoint());
        for (int step = 1; step <= 4; ++step) {
            const QPointF at = from.toPoint() + by * step / 4.0;
            QMouseEvent move(QEvent::MouseMove, at, paper->mapToGlobal(at), Qt::NoButton, Qt::LeftButton,
                             Qt::NoModifier);
            QApplication::sendEvent(paper, &move);
            QApplication::processEvents();
        }
        QTest::mouseRelease(paper, Qt::LeftButton, {}, (from + by).toPoint());
        settle();
    }
};

struct StackWindow : Window {
    StackWindow() { chooseDesign("Two Yagis stacked, 70 MHz"); }
    const model::Design& design() { return document().design(); }
};

}  // namespace

TEST_CASE("the table of an element row: a length typed changes the antenna, a mistake stays to be mended") {
    BoomWindow w;
    CHECK(w.table().rowCount() == 5);
    CHECK(w.table().item(1, app::BoomView::Fed)->checkState() == Qt::Checked);
    CHECK(w.view().figures().contains("dBi"));
    CHECK(w.view().figures().contains("front-to-back"));
    const QString before = w.view().figures();
    w.typeCell(4, app::BoomView::Length, "1.80 m");
    CHECK(w.element(4).length == "1.80 m");
    CHECK(w.lengthM(4) == Approx(1.8));
    CHECK(w.view().figures() != before);
    // Bare numbers are metres; formulas are worked out.
    w.typeCell(4, app::BoomView::Length, "0.97*d2");
    CHECK(w.lengthM(4) == Approx(0.97 * w.lengthM(3)));
    // A mistake is said, nothing is changed, and the text is still there.
    w.typeCell(4, app::BoomView::Length, "1.8 parsec");
    CHECK(w.view().sentence().contains("director 3"));
    CHECK(w.table().item(4, app::BoomView::Length)->text() == "1.8 parsec");
    CHECK(w.element(4).length == "0.97*d2");
    w.typeCell(4, app::BoomView::Length, "1.85 m");
    CHECK(w.view().sentence().isEmpty());
    w.undo();
    CHECK(w.element(4).length == "0.97*d2");
    // Cut lengths are longer on a metal boom.
    CHECK(w.table().item(0, app::BoomView::Cut)->toolTip().contains("mm more for the boom"));
}

TEST_CASE("elements are dragged along the boom and stretched at their tips") {
    BoomWindow w;
    auto* paper = w.view().drawing();
    const double scale = paper->pixelsPerM();
    // The position is a dimension: dragging moves the dimension.
    const double before = w.positionM(3);
    w.dragDrawing(paper->onBoom(3) + QPointF(0, 20), QPointF(24, 0));
    CHECK(w.positionM(3) == Approx(before + 24 / scale).margin(1.1 / scale));
    CHECK(w.element(3).position == "s3");
    CHECK(w.dimensionText("s3").contains("mm"));
    const double length = w.lengthM(2);
    w.dragDrawing(paper->tip(2), QPointF(0, -5));
    CHECK(w.lengthM(2) > length + 3 / scale);
    CHECK(w.lengthM(2) < length + 17 / scale);
    // A whole drag is one step.
    w.undo();
    CHECK(w.lengthM(2) == Approx(length));
    // A formula is not overwritten by the mouse.
    w.typeCell(4, app::BoomView::Length, "0.97*d2");
    const double byFormula = w.lengthM(4);
    w.dragDrawing(paper->tip(4), QPointF(0, -8));
    CHECK(w.lengthM(4) == Approx(byFormula));
    CHECK(w.view().sentence().contains("formula"));
}

TEST_CASE("let it move makes a dimension of a cell; spacings and half lengths leave the antenna as it is") {
    BoomWindow w;
    w.typeCell(4, app::BoomView::Length, "1.86 m");
    w.table().setCurrentCell(4, app::BoomView::Length);
    QTest::mouseClick(w.view().findChild<QToolButton*>("Let it move"), Qt::LeftButton);
    w.settle();
    CHECK(w.element(4).length == "director_3_length");
    CHECK(w.dimensionText("director_3_length") == "1.86 m");
    REQUIRE(w.outline()->dimensionRow("director_3_length") != nullptr);
    CHECK(w.outline()->dimensionRow("director_3_length")->slider()->isVisible());
    const double z = w.analysis()->figures.antennaOhm.real();
    // Plain numbers are converted.
    for (int i = 0; i < 5; ++i)
        w.typeCell(i, app::BoomView::Position,
                   QString("%1 m").arg(w.positionM(static_cast<std::size_t>(i)), 0, 'f', 4));
    auto* counted = w.view().findChild<QComboBox*>("from start");
    counted->setCurrentIndex(1);
    Q_EMIT counted->activated(1);
    auto* half = w.view().findChild<QComboBox*>("whole");
    half->setCurrentIndex(1);
    Q_EMIT half->activated(1);
    w.settle();
    CHECK(w.element(2).position != w.element(1).position);
    CHECK(w.positionM(4) == Approx(3.415).margin(2e-3));
    CHECK(w.lengthM(4) == Approx(1.86).margin(2e-3));
    CHECK(w.analysis()->figures.antennaOhm.real() == Approx(z).margin(0.8));
}

TEST_CASE("elements come and go, are bent, and are fed with a tick") {
    BoomWindow w;
    w.table().setCurrentCell(4, 0);
    QTest::mouseClick(w.view().findChild<QToolButton*>("Add"), Qt::LeftButton);
    w.settle();
    CHECK(w.table().rowCount() == 6);
    CHECK(w.positionM(5) > w.positionM(4));
    w.table().setCurrentCell(5, 0);
    QTest::mouseClick(w.view().findChild<QToolButton*>("Remove one"), Qt::LeftButton);
    w.settle();
    CHECK(w.table().rowCount() == 5);
    auto* form = qobject_cast<QComboBox*>(w.table().cellWidget(1, app::BoomView::Form));
    REQUIRE(form != nullptr);
    form->setCurrentIndex(0);
    Q_EMIT form->activated(0);
    w.settle();
    CHECK(w.element(1).form == model::ElementForm::Straight);
    // Without a feed there are no figures, and the notice says so; with it they are back.
    w.table().item(1, app::BoomView::Fed)->setCheckState(Qt::Unchecked);
    w.settle();
    CHECK(w.document().design().feeds.empty());
    CHECK(w.notice()->sentence().contains("No feed"));
    w.table().item(1, app::BoomView::Fed)->setCheckState(Qt::Checked);
    w.settle();
    REQUIRE(w.document().design().feeds.size() == 1);
    CHECK(w.document().design().feeds[0].place.element == "driven");
    CHECK(w.live());
}

TEST_CASE("from an empty project: an element row, stacked, with the spacing that is advised") {
    Window w;
    w.document().startNew();
    w.settle();
    w.document().editDesign("Clear", [](model::Design& d) {
        d.parts.clear();
        d.feeds.clear();
    });
    w.editing().addPart(edit::PartKind::Row);
    w.settle();
    CHECK(w.find<app::BoomView>()->isVisible());
    CHECK(w.live());
    CHECK(w.analysis()->figures.frontToBackDb > 3.0);
    w.editing().addCopy(model::CopyKind::Stack);
    w.settle();
    const auto& design = w.document().design();
    REQUIRE(design.copies.size() == 1);
    CHECK(w.analysis()->figures.impedanceOhm.size() == 2);
    w.type("Rows", "4");
    CHECK(w.analysis()->figures.impedanceOhm.size() == 4);
    w.type("Rows", "2");
    QTest::mouseClick(w.editor()->findChild<QToolButton*>("Advise the spacing…"), Qt::LeftButton);
    w.settle();
    REQUIRE(w.notice()->sentence().contains("half-power rule"));
    const auto typed = w.document().design().copies[0].rowSpacing;
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.document().design().copies[0].rowSpacing != typed);
    // The scan: a click sets the spacing.
    QTest::mouseClick(w.editor()->findChild<QToolButton*>("Scan the spacing…"), Qt::LeftButton);
    w.settle();
    auto* plot = w.find<app::SpacingView>()->plot();
    REQUIRE(plot->isVisible());
    REQUIRE(plot->points().size() > 20);
    const double wanted = plot->points()[10].spacingM;
    QTest::mouseClick(plot, Qt::LeftButton, {}, plot->at(wanted).toPoint());
    w.settle();
    const double set =
        quantity::evaluate(w.document().design().copies[0].rowSpacing, quantity::Kind::Length, {});
    CHECK(set == Approx(wanted).margin(0.1));
}

TEST_CASE("a stack: its distance dragged, its mast left out, its copies switched off") {
    StackWindow w;
    CHECK(w.analysis()->figures.impedanceOhm.size() == 2);
    const double gain = w.analysis()->figures.peak.gainDbi;
    w.dragSlider("stack", 8);
    w.settle();
    WARN("stacking distance: edit to picture " << w.bench.latencyMs() << " ms");
    CHECK(w.dimensionText("stack") != "3.2 m");
    CHECK(w.analysis()->figures.peak.gainDbi != gain);
    // Clicking a wire of the upper antenna selects the part that it is a copy of.
    w.select(w.item(app::Selection::Type::Copy, 0));
    auto* of = w.editor()->findChild<QCheckBox*>("of Yagi");
    REQUIRE(of != nullptr);
    CHECK(of->isChecked());
    auto* row = w.outline()->row(w.item(app::Selection::Type::Copy, 0));
    REQUIRE(row != nullptr);
    QTest::mouseClick(row, Qt::LeftButton, {}, QPoint(14, 11));
    w.settle();
    CHECK_FALSE(w.design().copies[0].enabled);
    // The drive sets name feeds that are not there now: said, with the set by name.
    CHECK(w.notice()->sentence().contains("Both in phase drives"));
    w.undo();
    CHECK(w.live());
}

TEST_CASE("drive sets: the table, the overlay, a click that drives, and no new field solution") {
    StackWindow w;
    w.bench.openStage("drives");
    w.settle();
    auto* table = w.find<app::DriveView>()->table();
    REQUIRE(table->rowCount() == 5);
    const auto gainOf = [&](int row) {
        return table->item(row, app::DriveView::Gain)->text().replace("−", "-").toDouble();
    };
    CHECK(gainOf(1) == Approx(w.analysis()->figures.peak.gainDbi).margin(0.06));
    CHECK(gainOf(3) < gainOf(1));
    const int before = w.session().solutions();
    const auto clickRow = [&](int row) {
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                          table->visualItemRect(table->item(row, 1)).center());
        w.settle();
    };
    clickRow(2);
    CHECK(w.design().driveSet == 1);
    CHECK(w.analysis()->figures.peak.gainDbi == Approx(gainOf(2)).margin(0.06));
    CHECK(w.analysis()->figures.peak.direction.elevationDeg > 12.0);
    CHECK(w.session().solutions() == before);
    CHECK(w.bench.latencyMs() > 0.0);
    CHECK(w.find<app::DriveView>()->plots()->differenceDb(1, 6.0).value() > 3.0);
    // Pinned, a set is named after itself and keeps its figures when another one is driven.
    const auto pins = w.document().project().pins.size();
    w.editing().pin();
    w.settle();
    REQUIRE(w.document().project().pins.size() == pins + 1);
    const auto pinned = w.document().project().pins.back();
    CHECK(pinned.design.driveSet == 1);
    INFO(pinned.name);
    clickRow(1);
    w.editing().pin();
    w.settle();
    CHECK(w.document().project().pins.back().name == "Both in phase");
    const auto rows = static_cast<int>(pins);
    CHECK(w.ledger()->figure("peak", rows + 1) != w.ledger()->figure("peak", rows + 2));
    CHECK(w.ledger()->figure("peak", rows + 2) == w.ledger()->figure("peak"));
    // More sets by pattern; the same again changes nothing.
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::SingleOnes, 0.0);
    w.settle();
    CHECK(w.design().driveSets.size() == 6);
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::SingleOnes, 0.0);
    w.settle();
    CHECK(w.design().driveSets.size() == 6);
    // A pattern that the feeds cannot follow is refused with a reason.
    app::addDrivePattern(w.session(), w.editing(), study::DrivePattern::LeftHalfReversed, 0.0);
    CHECK(w.notice()->sentence().contains("another pattern"));
    // A set edited by hand.
    w.select(w.item(app::Selection::Type::Drive, 1));
    w.type("   phase", "90 deg");
    CHECK(w.design().driveSets[1].driven[0].phase == "90 deg");
    auto* drives = w.editor()->findChild<QCheckBox*>("drives Feed (upper)");
    REQUIRE(drives != nullptr);
    QTest::mouseClick(drives, Qt::LeftButton, {}, QPoint(8, drives->height() / 2));
    w.settle();
    CHECK(w.design().driveSets[1].driven.size() == 1);
    w.choose("Idle feeds", "2");
    w.type("With, Ω", "75");
    CHECK(w.design().driveSets[1].idle == model::IdleKind::Terminated);
    CHECK(w.design().driveSets[1].termination == "75");
}

TEST_CASE("a harness brings both feeds to one point, and the feed path starts there") {
    StackWindow w;
    const auto feeds = w.analysis()->figures.impedanceOhm;
    w.select(w.item(app::Selection::Type::Harness, 0));
    w.choose("Divider", "yes");
    w.type("Length", "0 m");
    // No cable: the two side by side.
    const auto z = w.analysis()->figures.antennaOhm;
    CHECK(std::abs(z - 1.0 / (1.0 / feeds[0] + 1.0 / feeds[1])) < 0.5);
    w.type("Length", "3 m");
    CHECK(w.analysis()->figures.harnessLossDb > 0.01);
    w.choose("   wires", "yes");
    CHECK(w.analysis()->figures.peak.direction.elevationDeg > 12.0);
}

TEST_CASE("that a design has one feed only is not said while the next one is worked out") {
    app::CouplingMatrix matrix;
    matrix.resize(400, 120);
    const auto written = [&matrix] {
        const QImage image = matrix.grab().toImage();
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                if (image.pixel(x, y) != image.pixel(0, 0)) return true;
        return false;
    };
    CHECK(written());
    matrix.setEnabled(false);
    CHECK_FALSE(written());
}

TEST_CASE("coupling between feeds, and the patterns of each alone") {
    StackWindow w;
    w.bench.openStage("coupling");
    w.settle();
    auto* matrix = w.find<app::CouplingView>()->matrix();
    REQUIRE(matrix->isVisible());
    CHECK(matrix->cellText(0, 0).contains("Ω"));
    CHECK(matrix->cellText(0, 1).contains("dB"));
    QTest::mouseClick(matrix, Qt::LeftButton, {}, matrix->cellRect(0, 1).center().toPoint());
    CHECK(matrix->pair() == std::pair{0, 1});
    // At the right each feed as it is driven; a click on an impedance shows that over the band.
    CHECK(matrix->cellText(0, 2) ==
          QString::fromStdString(quantity::formatImpedance(w.analysis()->figures.impedanceOhm[0])) + " Ω");
    QTest::mouseClick(matrix, Qt::LeftButton, {}, matrix->cellRect(1, 0).center().toPoint());
    CHECK(matrix->pairName() == "Mutual impedance, Feed (upper) and Feed (lower)");
    w.editing().chooseDriveSet(2);
    w.settle();
    CHECK(matrix->cellText(0, 2) == "idle");
    w.editing().chooseDriveSet(0);
    w.settle();
    auto* idle = w.find<app::CouplingView>()->findChild<QComboBox*>("idle");
    idle->setCurrentIndex(1);
    QTest::mouseClick(w.find<app::CouplingView>()->findChild<QToolButton*>("eachAlone"), Qt::LeftButton);
    w.settle();
    CHECK(w.find<app::DriveView>()->isVisible());
    REQUIRE(w.design().driveSets.size() == 6);
    CHECK(w.design().driveSets[4].idle == model::IdleKind::Shorted);
    CHECK(w.design().driveSets[4].name == "Only lower, others shorted");
}

TEST_CASE("free space for now is one switch, is said, and leaves the ground as it was") {
    StackWindow w;
    const double over = w.analysis()->figures.peak.gainDbi;
    auto* quick = w.bench.findChild<QAction*>("quick");
    REQUIRE(quick != nullptr);
    quick->trigger();
    w.settle();
    CHECK(w.analysis()->figures.peak.gainDbi < over - 3.0);
    CHECK(w.yard()->caption().contains("FREE SPACE FOR NOW"));
    CHECK(w.design().site.ground == model::GroundKind::Real);
    quick->trigger();
    w.settle();
    CHECK(w.analysis()->figures.peak.gainDbi == Approx(over).margin(1e-6));
    CHECK_FALSE(w.yard()->caption().contains("FREE SPACE"));
    // Loose wires only when asked for; undo brings the stack back.
    w.editing().loosen();
    w.settle();
    CHECK(w.design().copies.empty());
    CHECK(w.design().parts.size() > 10);
    CHECK(w.analysis()->figures.peak.gainDbi == Approx(over).margin(1e-3));
    w.undo();
    CHECK(w.design().copies.size() == 1);
}
