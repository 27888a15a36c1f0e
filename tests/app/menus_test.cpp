// Menus, dialogs, designs, units, themes: the rest of what hands can reach.
#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>

#include "app/dialogs/bands_dialog.h"
#include "app/dialogs/scale_dialog.h"
#include "app/dialogs/sweep_dialog.h"
#include "app/plan/quantity_field.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Answers the next modal dialog: `work` gets it when it is up.
template <typename Dialog>
void whenAsked(const std::function<void(Dialog&)>& work) {
    QTimer::singleShot(50, [work] {
        auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
        REQUIRE(dialog != nullptr);
        work(*dialog);
    });
}

void press(QDialog& dialog, const QString& button) {
    for (auto* b : dialog.findChildren<QPushButton*>())
        if (QString(b->text()).remove('&') == button) return b->click();
    FAIL("no button " << button.toStdString());
}

}  // namespace

TEST_CASE("designs are copied, made, chosen and removed") {
    Window w;
    const auto count = w.document().project().designs.size();
    w.action("Copy this design")->trigger();
    w.settle();
    CHECK(w.document().project().designs.size() == count + 1);
    CHECK(w.document().design().name == "Inverted V, 60 m 2");
    w.action("New plain dipole")->trigger();
    w.settle();
    CHECK(w.document().design().name == "Dipole");
    CHECK(w.analysis()->figures.peak.gainDbi > 0.0);
    w.action("Remove this design")->trigger();
    w.settle();
    CHECK(w.document().project().designs.size() == count + 1);
    w.action("Previous design")->trigger();
    w.settle();
    const auto before = w.document().project().activeDesign;
    w.action("Next design")->trigger();
    w.settle();
    CHECK(w.document().project().activeDesign == before + 1);
    while (w.document().undoStack()->canUndo()) w.document().undoStack()->undo();
    w.settle();
    CHECK(w.document().project().designs.size() == count);
}

TEST_CASE("the last design stays") {
    Window w;
    w.document().adopt(edit::starterProject(), {});
    w.settle();
    w.action("Remove this design")->trigger();
    CHECK(w.notice()->sentence().contains("only design"));
    CHECK(w.document().project().designs.size() == 1);
}

TEST_CASE("the scale dialog offers lengths, ticks those that scale, and refuses nonsense") {
    Window w;
    app::ScaleDialog dialog(w.document().design(), 5.36e6);
    REQUIRE(dialog.box("leg") != nullptr);
    CHECK(dialog.box("leg")->isChecked());
    CHECK_FALSE(dialog.box("apex")->isChecked());
    CHECK(dialog.box("spread") == nullptr);  // an angle
    CHECK(dialog.targetHz() == Approx(5.36e6));
    auto* go = [&]() -> QPushButton* {
        for (auto* b : dialog.findChildren<QPushButton*>())
            if (b->text() == "Scale") return b;
        return nullptr;
    }();
    REQUIRE(go != nullptr);
    CHECK(go->isEnabled());
    dialog.frequencyField()->setText("fast");
    CHECK_FALSE(go->isEnabled());
    dialog.frequencyField()->setText("5400 kHz");
    CHECK(go->isEnabled());
    CHECK(dialog.targetHz() == Approx(5.4e6));
    dialog.box("leg")->setChecked(false);
    CHECK_FALSE(go->isEnabled());
}

TEST_CASE("scaling through the menu, as a designer does it") {
    Window w;
    whenAsked<app::ScaleDialog>([](app::ScaleDialog& d) {
        d.frequencyField()->setText("5.355 MHz");
        press(d, "Scale");
    });
    w.action("Scale to frequency…")->trigger();
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("Scaled by"); }));
    w.settle();
    CHECK(w.session().frequencyHz() == Approx(5.355e6));
    CHECK(std::abs(w.analysis()->figures.impedanceOhm[0].imag()) < 0.2);
    // The answer in the notice undoes it.
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.dimensionText("leg") == "13.45 m");
}

TEST_CASE("a range is swept through the menu and the band comes back") {
    Window w;
    whenAsked<app::SweepDialog>([](app::SweepDialog& d) {
        CHECK(d.lowHz() < d.highHz());
        const auto fields = d.findChildren<QLineEdit*>();
        fields[0]->setText("5 MHz");
        fields[1]->setText("6 MHz");
        CHECK(d.lowHz() == Approx(5e6));
        press(d, "Sweep");
    });
    w.action("Sweep a range…")->trigger();
    w.settle();
    CHECK(w.sweep()->points.front().frequencyHz == Approx(5e6));
    CHECK(w.sweep()->points.back().frequencyHz == Approx(6e6));
    CHECK(w.sweep()->points.size() == 201);
    // The curve stands where its frequency is on the axis.
    auto* chart = w.band()->chart();
    CHECK(chart->xOf(5.5e6) > chart->xOf(5.1e6));
    w.action("Back to the band")->trigger();
    w.settle();
    CHECK(w.sweep()->points.front().frequencyHz == Approx(5.3515e6));
}

TEST_CASE("a sweep dialog refuses an empty range and takes a step") {
    app::SweepDialog dialog(7e6, 7.2e6, 11);
    CHECK(dialog.stepField()->text() == "20 kHz");
    dialog.stepField()->clear();
    QTest::keyClicks(dialog.stepField(), "0.5 kHz");
    CHECK(dialog.points() == 401);
    const auto fields = dialog.findChildren<QLineEdit*>();
    auto* go = [&]() -> QPushButton* {
        for (auto* b : dialog.findChildren<QPushButton*>())
            if (b->text() == "Sweep") return b;
        return nullptr;
    }();
    CHECK(go->isEnabled());
    fields[1]->setText("6 MHz");
    CHECK_FALSE(go->isEnabled());
    fields[1]->setText("7,3");
    CHECK(go->isEnabled());
    CHECK(dialog.highHz() == Approx(7.3e6));
    const auto sentence = [&] { return dialog.findChild<QLabel*>("sentence")->text(); };
    CHECK(sentence().isEmpty());
    // What is no step is said, not left aside; a number alone would be MHz.
    for (const auto& [typed, said] : std::vector<std::pair<QString, QString>>{
             {"0 kHz", "more than nothing"}, {"10", "wider than the range"}, {"abc", "abc"}}) {
        dialog.stepField()->clear();
        QTest::keyClicks(dialog.stepField(), typed);
        CHECK(sentence().contains(said));
        CHECK_FALSE(go->isEnabled());
    }
    dialog.stepField()->clear();
    QTest::keyClicks(dialog.stepField(), "10 kHz");
    CHECK(sentence().isEmpty());
    CHECK(dialog.points() == 31);
    // What is typed at once takes the place of the first number.
    app::SweepDialog fresh(7e6, 7.2e6, 11);
    CHECK(fresh.findChildren<QLineEdit*>()[0]->selectedText() == "7.000 MHz");
}

TEST_CASE("a wide range says the best SWR that there is, between its points, too") {
    Window w;
    whenAsked<app::SweepDialog>([](app::SweepDialog& d) {
        const auto fields = d.findChildren<QLineEdit*>();
        fields[0]->setText("3");
        fields[1]->setText("30");
        press(d, "Sweep");
    });
    w.action("Sweep a range…")->trigger();
    w.settle();
    REQUIRE(w.sweep()->points.size() == 201);
    // Steps of 135 kHz: none is near the working frequency, where it is 1.19.
    const double working = w.analysis()->figures.swr;
    CHECK(w.sweep()->bestSwr() <= working + 0.01);
    CHECK(w.band()->headline().contains(QString("best %1").arg(w.sweep()->bestSwr(), 0, 'f', 2)));
    CHECK(w.band()->chart()->notes().join(" ").contains(
        QString("best %1 at").arg(w.sweep()->bestSwr(), 0, 'f', 2)));
}

TEST_CASE("bands are chosen, moved and given spots") {
    Window w;
    whenAsked<app::BandsDialog>([](app::BandsDialog& d) {
        CHECK(d.box("60 m")->isChecked());
        CHECK_FALSE(d.box("40 m")->isChecked());
        d.box("40 m")->setChecked(true);
        d.box("4 m")->setChecked(false);
        d.limitField(0)->setText("1.1");
        press(d, "Use these bands");
    });
    QTest::mouseClick(w.bandStrip()->findChild<QToolButton*>("editBands"), Qt::LeftButton);
    w.settle();
    const auto& bands = w.document().project().bands;
    REQUIRE(bands.size() == 6);
    CHECK(bands[1].name == "40 m");
    CHECK(w.bandStrip()->count() == 6);
    CHECK(bands[0].spotsHz == std::vector<double>{5.357e6});
    CHECK(w.document().project().swrLimits == model::SwrLimits{1.1, 2.0, 3.0});
    w.undo();
    CHECK(w.document().project().bands[5].name == "4 m");
}

TEST_CASE("a band of one's own is named, given edges and kept") {
    Window w;
    whenAsked<app::BandsDialog>([](app::BandsDialog& d) {
        const auto own = [&d] {
            QList<QLineEdit*> names;
            for (auto* f : d.findChildren<QLineEdit*>())
                if (f->accessibleName() == "Name of a band of your own") names << f;
            return names;
        };
        REQUIRE(own().size() == 1);
        QTest::keyClicks(own()[0], "60 m");
        CHECK(own().size() == 2);
        CHECK_THROWS_WITH(d.bands(), Catch::Contains("60 m"));
        const auto fields = d.findChildren<QLineEdit*>();
        auto* low = *std::find_if(fields.begin(), fields.end(), [](auto* f) {
            return f->text().isEmpty() && f->placeholderText() == "MHz";
        });
        low->setText("0.472");
        (*(std::find(fields.begin(), fields.end(), low) + 1))->setText("479 kHz");
        CHECK_THROWS_WITH(d.bands(), Catch::Contains("There is a band 60 m already"));
        own()[0]->clear();
        QTest::keyClicks(own()[0], "630 m");
        CHECK(own().size() == 2);
        press(d, "Use these bands");
    });
    w.action("Bands…")->trigger();
    w.settle();
    const auto& band = w.document().project().bands.at(0);
    CHECK(band.name == "630 m");
    CHECK(band.lowHz == Approx(0.472e6));
    CHECK(band.highHz == Approx(0.479e6));
    CHECK(w.action("630 m")->isEnabled());
    whenAsked<app::BandsDialog>([](app::BandsDialog& d) {
        CHECK(d.box("630 m")->isChecked());
        d.reject();
    });
    w.action("Bands…")->trigger();
}

TEST_CASE("the bands dialog explains edges and spots that cannot be") {
    app::BandsDialog dialog({*model::findAllocatedBand("20 m")}, model::kUsualSwrLimits);
    CHECK(dialog.bands().size() == 1);
    const auto fields = dialog.findChildren<QLineEdit*>();
    const auto fieldWith = [&](const QString& text) -> QLineEdit* {
        for (auto* f : fields)
            if (f->text() == text) return f;
        return nullptr;
    };
    auto* high = fieldWith("14.35 MHz");
    REQUIRE(high != nullptr);
    high->setText("13 MHz");
    CHECK_THROWS_WITH(dialog.bands(), Catch::Contains("20 m"));
    high->setText("14.3 MHz");
    CHECK(dialog.bands()[0].highHz == Approx(14.3e6));
    dialog.box("20 m")->setChecked(false);
    CHECK_THROWS_WITH(dialog.bands(), Catch::Contains("at least one"));
    dialog.limitField(0)->setText("2.5");
    CHECK_THROWS_WITH(dialog.limits(), Catch::Contains("rise"));
    // Whatever is wrong, the band is named.
    dialog.box("20 m")->setChecked(true);
    high->setText("14.35 MHz");
    for (const char* wrong : {"abc", "14,2 14.3", "2 m", "0", "", "1e9 MHz"}) {
        INFO(wrong);
        high->setText(wrong);
        CHECK_THROWS_WITH(dialog.bands(), Catch::StartsWith("20 m: "));
    }
}

TEST_CASE("feet and inches: bare numbers are feet, and metres are translated") {
    Window w;
    w.action("Feet and inches")->setChecked(true);
    w.settle();
    CHECK(w.document().project().feetAndInches);
    w.typeDimension("leg", "44");
    w.settle();
    CHECK(w.dimensionText("leg") == "44 ft");
    CHECK(w.analysis()->mesh->spans.size() > 4);
    w.action("Feet and inches")->setChecked(false);
    w.typeDimension("leg", "13.4");
    CHECK(w.dimensionText("leg") == "13.4 m");
    w.settle();
}

TEST_CASE("what a field comes to") {
    const quantity::Scope scope{{{"h", 10.0}}, 20.0};
    using quantity::Kind;
    CHECK(app::equivalent("12.649 m", Kind::Length, scope, false) == "= 41' 6\"");
    CHECK(app::equivalent("41' 6\"", Kind::Length, scope, false) == "= 12.649 m");
    CHECK(app::equivalent("h/4", Kind::Length, scope, false) == "= 2.500 m");
    CHECK(app::equivalent("h/4", Kind::Length, scope, true) == "= 8' 2 7/16\"");
    CHECK(app::equivalent("14 awg", Kind::Diameter, scope, false).startsWith("= 1.62"));
    CHECK(app::equivalent("10*3", Kind::Angle, scope, false) == "= 30.00°");
    CHECK(app::equivalent("15 MHz", Kind::Frequency, scope, false).startsWith("λ = 19.98"));
    CHECK_THROWS_AS(app::equivalent("hh", Kind::Length, scope, false), Error);
}

TEST_CASE("dark and light, current and lobe change the picture") {
    Window w;
    const QImage light = w.bench.grab().toImage();
    w.action("Dark")->setChecked(true);
    QApplication::processEvents();
    const QImage dark = w.bench.grab().toImage();
    const auto brightness = [](const QImage& image) {
        qint64 sum = 0;
        for (int y = 0; y < image.height(); y += 7)
            for (int x = 0; x < image.width(); x += 7) sum += qGray(image.pixel(x, y));
        return static_cast<double>(sum) / ((image.height() / 7 + 1.0) * (image.width() / 7 + 1.0));
    };
    CHECK(brightness(light) > 200.0);
    CHECK(brightness(dark) < 60.0);
    w.action("Dark")->setChecked(false);
    const QImage with = w.yard()->grab().toImage();
    w.action("Current along the wires")->setChecked(false);
    const QImage without = w.yard()->grab().toImage();
    CHECK(with != without);
    w.action("Lobe in the yard")->setChecked(true);
    w.settle();
    CHECK(w.yard()->grab().toImage() != without);
}

TEST_CASE("the yard turns by keys") {
    Window w;
    w.yard()->setFocus();
    const double azimuth = w.yard()->camera().azimuthDeg;
    const double distance = w.yard()->camera().distanceM;
    QTest::keyClick(w.yard(), Qt::Key_Right);
    CHECK(w.yard()->camera().azimuthDeg == Approx(azimuth + 5.0));
    QTest::keyClick(w.yard(), Qt::Key_Plus);
    CHECK(w.yard()->camera().distanceM < distance);
    for (int i = 0; i < 60; ++i) QTest::keyClick(w.yard(), Qt::Key_Down);
    CHECK(w.yard()->camera().elevationDeg == Approx(-89.0));  // what is in the soil is seen from below
}

TEST_CASE("every menu fits a screen of 768 lines in one column") {
    Window w;
    for (QAction* entry : w.bench.menuBar()->actions()) {
        INFO(entry->text().toStdString());
        CHECK(entry->menu()->sizeHint().height() < 700);
    }
}

TEST_CASE("the modes stay whole whatever else comes into their bar") {
    Window w;
    const auto whole = [&](const char* when) {
        QApplication::processEvents();
        for (const char* mode : {"Shape", "Match", "Tune", "Compare", "Build"}) {
            INFO(when << ": " << mode);
            auto* button = w.bench.findChild<QToolButton*>(QString("mode") + mode);
            REQUIRE(button != nullptr);
            CHECK(button->width() >= button->sizeHint().width());
        }
    };
    auto* match = w.bench.findChild<QToolButton*>("modeMatch");
    const auto place = [&] { return match->mapTo(&w.bench, QPoint(0, 0)).x(); };
    for (const int width : {1280, 1366, 1600, 1366}) {
        w.bench.resize(width, 740);
        whole(std::to_string(width).c_str());
        // Who is about to press one still meets it.
        const int before = place();
        Q_EMIT w.session().progress(0.5);
        whole("while something runs");
        CHECK(place() == before);
        Q_EMIT w.session().progress(1.0);
        whole("when it has ended");
        CHECK(place() == before);
        w.session().setDoing("writing all that there is to write into a report…");
        whole("with much to say");
        w.session().setDoing({});
    }
    w.document().edit("Name", [](model::Project& p) { p.title = "A name of more letters"; });
    whole("with another title");
}

TEST_CASE("all shortcuts are on one screen, those of the menus below menus too") {
    Window w;
    whenAsked<QDialog>([](QDialog& dialog) {
        CHECK(dialog.objectName() == "shortcuts");
        CHECK(dialog.height() <= 768);
        CHECK(dialog.width() <= 1366);
        QString words;
        for (auto* label : dialog.findChildren<QLabel*>()) words += label->text();
        CHECK(words.contains("Ctrl+Shift+H"));  // add a radial system
        CHECK(words.contains("17 m"));
        CHECK(words.contains("Yard from above"));
        dialog.reject();
    });
    w.action("Shortcuts")->trigger();
}

TEST_CASE("the bands of the project are in their menu by name, and follow it") {
    Window w;
    QMenu* menu = nullptr;
    for (QAction* entry : w.bench.menuBar()->actions())
        if (entry->text() == "&Band") menu = entry->menu();
    REQUIRE(menu != nullptr);
    const auto shown = [&](const QString& band) {
        for (QAction* entry : menu->actions())
            if (entry->isVisible() && entry->text() == band) return true;
        return false;
    };
    CHECK(shown("60 m"));
    CHECK(shown("4 m"));
    CHECK_FALSE(shown("2 m"));
    w.action("20 m")->trigger();
    w.settle();
    CHECK(w.session().band().name == "20 m");
    whenAsked<app::BandsDialog>([](app::BandsDialog& dialog) {
        dialog.box("2 m")->setChecked(true);
        dialog.box("60 m")->setChecked(false);
        press(dialog, "Use these bands");
    });
    w.action("Bands…")->trigger();
    w.settle();
    CHECK(shown("2 m"));
    CHECK_FALSE(shown("60 m"));
}

TEST_CASE("the band instrument shows SWR, R and X, and return loss") {
    Window w;
    auto* chart = w.band()->chart();
    QStringList titles;
    for (const char* name : {"R and X", "Return loss", "Loss of the feed path", "SWR"}) {
        w.action(name)->trigger();
        QApplication::processEvents();
        titles << chart->axisTitle();
    }
    CHECK(titles == QStringList{"Ω at the radio", "return loss, dB at the radio", "feed path loss, dB",
                                "SWR at the radio"});
}

TEST_CASE("a load is added, edited and seen in the figures") {
    Window w;
    const double before = w.analysis()->figures.impedanceOhm[0].imag();
    w.action("Add a load")->trigger();
    w.settle();
    CHECK(w.document().design().loads.size() == 1);
    CHECK(w.analysis()->figures.impedanceOhm[0].imag() > before + 20.0);  // a coil
    auto* elements = w.editor()->choice("Elements");
    REQUIRE(elements != nullptr);
    CHECK(w.editor()->field("Percent")->text() == "25");
    auto* coil = w.editor()->field("L in µH");
    coil->setFocus();
    coil->selectAll();
    QTest::keyClicks(coil, "-3");
    QTest::keyClick(coil, Qt::Key_Return);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("below zero"); }));
    w.undo();
    // Switched off by its dot it is out of the circuit.
    QTest::keyClick(w.outline()->row(w.item(app::Selection::Type::Load, 0)), Qt::Key_Space);
    w.settle();
    CHECK(w.analysis()->figures.impedanceOhm[0].imag() == Approx(before).margin(0.5));
}

TEST_CASE("a feed is moved by its place") {
    Window w;
    w.session().select(w.item(app::Selection::Type::Feed, 0));
    auto* place = w.editor()->choice("Place");
    REQUIRE(place != nullptr);
    place->setCurrentIndex(place->findData("percent"));
    Q_EMIT place->activated(place->currentIndex());
    w.settle();
    REQUIRE(w.editor()->field("Percent") != nullptr);
    CHECK(w.document().design().feeds[0].place.value == "5");
    CHECK(w.analysis()->figures.impedanceOhm[0].real() > 300.0);  // near the end of a wire
    place = w.editor()->choice("Place");
    place->setCurrentIndex(place->findData("end"));
    Q_EMIT place->activated(place->currentIndex());
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("open end"); }));
    w.undo();
    w.undo();
    CHECK(w.document().design().feeds[0].place.kind == model::PlaceKind::Middle);
}

TEST_CASE("on a loop a place has one name: a corner, a side, or so far along") {
    Window w;
    w.chooseDesign("Delta loop, 17 m, fed in the corner");
    w.session().select(w.item(app::Selection::Type::Feed, 0));
    auto* place = w.editor()->choice("Place");
    REQUIRE(place != nullptr);
    CHECK(place->findData("middle") == -1);
    CHECK(place->findData("end") == -1);
    place->setCurrentIndex(place->findData("side"));
    Q_EMIT place->activated(place->currentIndex());
    w.settle();
    REQUIRE(w.editor()->field("Side") != nullptr);
    CHECK(w.document().design().feeds[0].place.kind == model::PlaceKind::Side);
    CHECK(w.outline()->row(w.item(app::Selection::Type::Feed, 0)) != nullptr);
    w.undo();
}

TEST_CASE("a row of elements is joined by crossed lines from the menu, in one step") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    w.session().select(w.item(app::Selection::Type::Part, 0));
    w.action("Join elements by crossed lines")->trigger();
    w.settle();
    const auto& design = w.document().design();
    CHECK(design.lines.size() == std::get<model::ElementRow>(design.parts[0].shape).elements.size() - 1);
    CHECK(w.notice()->sentence().contains("crossed lines join"));
    w.undo();
    CHECK(w.document().design().lines.empty());
}

TEST_CASE("renaming a part takes its feeds along") {
    Window w;
    w.session().select(w.item(app::Selection::Type::Part, 0));
    auto* name = w.editor()->field("Name");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Big V");
    QTest::keyClick(name, Qt::Key_Return);
    w.settle();
    CHECK(w.document().design().feeds[0].part == "Big V");
    CHECK(w.notice()->sentence().isEmpty());
    CHECK(w.live());
}

TEST_CASE("the site: free space takes the ground away") {
    Window w;
    w.session().select(w.item(app::Selection::Type::Site, 0));
    w.choose("Ground", "free");
    w.settle();
    CHECK(w.analysis()->elevation.angleDeg.back() == 360.0);
    CHECK_FALSE(w.yard()->heightHandle().has_value());
    CHECK(w.analysis()->figures.peak.gainDbi < 3.0);
    w.undo();
    CHECK(w.analysis()->elevation.angleDeg.back() == 180.0);
}

TEST_CASE("the heading turns the compass and not the antenna") {
    Window w;
    w.chooseDesign("Yagi, 70 MHz");
    CHECK(w.elevation()->headline().contains("bearing 120°"));
    w.document().editDesign("Turn", [](model::Design& d) { d.site.heading = "300 deg"; });
    w.settle();
    CHECK(w.elevation()->headline().contains("bearing 300°"));
    w.undo();
}

TEST_CASE("a file that cannot be written is told, and nothing is lost") {
    Window w;
    w.typeDimension("leg", "13.6 m");
    w.settle();
    CHECK_FALSE(w.bench.files().save("/nonexistent/folder/x.json"));
    CHECK(w.notice()->sentence().contains("/nonexistent/folder/x.json cannot be written"));
    CHECK(w.document().modified());
    CHECK(w.dimensionText("leg") == "13.6 m");
}

TEST_CASE("quick edits never show a picture of an older model as new") {
    Window w;
    // Many edits in a row: the figures that settle belong to the last one.
    for (int i = 0; i < 20; ++i)
        w.document().editDesign(
            "Move", [&](model::Design& d) { d.dimensions[1].text = std::to_string(13.0 + 0.05 * i) + " m"; });
    w.settle();
    const auto shown = w.analysis()->figures.impedanceOhm[0];
    const auto expected = study::analyse(model::expand(w.document().design()), w.session().frequencyHz());
    CHECK(std::abs(shown - expected.figures.impedanceOhm[0]) < 1e-9);
    CHECK_FALSE(w.elevation()->isStale());
}
