// Something good to begin with: the gallery, the first five steps, and finding any action by a word of it.
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTimer>

#include "app/dialogs/action_finder.h"
#include "app/dialogs/gallery_dialog.h"
#include "app/frame/first_steps.h"
#include "app/look/lengths.h"
#include "hands.h"

using namespace rm;
using namespace rm::test;

namespace {

using Type = app::Selection::Type;

/// Does `act` with the dialog of this kind as soon as it is open.
template <typename Dialog>
void whenOpen(const std::function<void(Dialog&)>& act) {
    auto* timer = new QTimer(qApp);
    QObject::connect(timer, &QTimer::timeout, qApp, [timer, act] {
        auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
        if (dialog == nullptr) return;
        timer->stop();
        timer->deleteLater();
        act(*dialog);
    });
    timer->start(5);
}

struct Empty : Window, Hands {
    Empty() : Window(), Hands{static_cast<Window&>(*this)} {
        action("New project")->trigger();
        settle();
    }
};

}  // namespace

TEST_CASE(
    "a starter from the gallery is on the bench in place of the plain dipole, resonant over this ground") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        CHECK(gallery.list()->count() > 25);
        gallery.choose("inverted-v");
        CHECK(gallery.sentence().contains("One mast"));
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
    });
    w.action("New design…")->trigger();
    w.settle();
    const auto& project = w.document().project();
    CHECK(project.designs.size() == 1);
    CHECK(project.active().name == "Inverted V");
    CHECK(w.analysis()->figures.swr < 1.7);
    CHECK(w.dimensionText("leg").endsWith(" m"));
    // A second one stands beside it.
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        gallery.choose("vertical");
        Q_EMIT gallery.list()->itemActivated(gallery.list()->currentItem());
    });
    w.action("New design…")->trigger();
    w.settle();
    CHECK(project.designs.size() == 1);  // the old value is as it was
    CHECK(w.document().project().designs.size() == 2);
    w.undo();
    w.undo();
    CHECK(w.document().design().name == "Dipole");
}

TEST_CASE("a starter for a band that the project lacks brings the band, and undo takes both away") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        auto* band = gallery.findChild<QComboBox*>("band");
        CHECK(band->currentText() == "20 m");
        CHECK(band->itemText(0) == "40 m");
        CHECK(band->findText("20 m") == band->currentIndex());  // once, though it is a usual one too
        REQUIRE(band->findText("2 m") > 4);
        band->setCurrentText("2 m");
        // A dipole serves one band: the further one asked for does not come into the project.
        gallery.findChild<QComboBox*>("second")->setCurrentText("6 m");
        gallery.choose("dipole");
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
    });
    w.action("New design…")->trigger();
    w.settle();
    const auto names = [&] {
        QStringList list;
        for (const auto& band : w.document().project().bands) list << app::text(band.name);
        return list.join(", ");
    };
    CHECK(names() == "40 m, 20 m, 15 m, 10 m, 2 m");
    CHECK(w.session().band().name == "2 m");
    CHECK(w.document().design().bands == std::vector<std::string>{"2 m"});
    CHECK(w.analysis()->figures.swr < 2.0);
    w.undo();
    CHECK(names() == "40 m, 20 m, 15 m, 10 m");
    CHECK(w.session().band().name == "20 m");
}

TEST_CASE("nothing in the gallery is cut off, beside what else there is to begin with") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        for (auto* field : gallery.findChildren<QLineEdit*>()) {
            INFO(field->text().toStdString());
            CHECK(field->fontMetrics().horizontalAdvance(field->text()) + 12 < field->width());
        }
        for (auto* box : gallery.findChildren<QComboBox*>()) {
            INFO(box->currentText().toStdString());
            CHECK(box->width() >= box->minimumSizeHint().width());
        }
        gallery.close();
    });
    w.action("Start from something good…")->trigger();
    w.settle();
}

TEST_CASE("the gallery says what it cannot do, and Escape takes back what it works out") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        gallery.choose("dipole");
        auto* height = gallery.findChild<QLineEdit*>("height");
        height->setText("3 horses");
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
        CHECK(gallery.sentence().contains("horses"));
        CHECK_FALSE(gallery.working());
        height->setText("10 m");
        gallery.choose("yagi-3");
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
        CHECK(gallery.working());
        gallery.close();
    });
    w.action("New design…")->trigger();
    w.settle();
    CHECK(w.document().design().name == "Dipole");
    CHECK(w.document().project().designs.size() == 1);
}

TEST_CASE("the gallery has a picture of every kind") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        const auto drawn = [&](int i) {
            const QImage picture = gallery.list()->item(i)->icon().pixmap(168, 104).toImage();
            for (int y = 0; y < picture.height(); y += 2)
                for (int x = 0; x < picture.width(); ++x)
                    if (picture.pixelColor(x, y) != picture.pixelColor(0, 0)) return true;
            return false;
        };
        // They come one by one, the sooner the less else there is to do.
        CHECK(gallery.list()->count() > 20);
        for (int i = 0; i < gallery.list()->count(); ++i) {
            INFO(gallery.list()->item(i)->text().toStdString());
            CHECK(waitFor([&] { return drawn(i); }));
        }
        gallery.close();
    });
    w.action("Start from something good…")->trigger();
    w.settle();
}

TEST_CASE("the first antenna: five steps, each recognised when it is done") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        auto* first = gallery.findChild<QPushButton*>("first");
        REQUIRE(first != nullptr);
        QTest::mouseClick(first, Qt::LeftButton);
    });
    w.action("Start from something good…")->trigger();
    w.settle();
    auto* steps = w.find<app::FirstSteps>();
    REQUIRE(steps->active());
    CHECK(steps->isVisible());
    CHECK(steps->step() == 0);
    const auto wire = [&] { return w.session().expansion()->model.wires.front(); };
    w.click(w.at(0.7 * wire().startM + 0.3 * wire().endM));
    CHECK(steps->step() == 1);
    // A grip is dragged inwards until it is good.
    for (int i = 0; i < 16 && steps->step() == 1; ++i) {
        const QPointF end = w.grip("end");
        const QPointF inwards = w.at(0.5 * (wire().startM + wire().endM)) - end;
        w.pull(end, end + 3.2 / std::hypot(inwards.x(), inwards.y()) * inwards);
    }
    CHECK(steps->step() == 2);
    const QPointF handle = *w.yardOf().heightHandle();
    w.pull(handle, handle - QPointF(0, 60));
    CHECK(steps->step() == 3);
    w.bench.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&w.bench));
    w.yardOf().setFocus();
    w.keys("p");
    w.settle();
    CHECK(steps->step() == 4);
    w.bench.showStage("build");
    CHECK(steps->step() == 5);
    CHECK(steps->sentence().contains("Undo"));
}

TEST_CASE("any action is found by a word of it, with its keys, and done") {
    Empty w;
    whenOpen<app::ActionFinder>([](app::ActionFinder& finder) {
        QTest::keyClicks(finder.field(), "radial sys");
        REQUIRE(finder.list()->count() == 1);
        CHECK(finder.list()->item(0)->text().contains("Ctrl+Shift+H"));
        QTest::keyClick(finder.field(), Qt::Key_Return);
    });
    QTest::keyClick(&w.bench, Qt::Key_Space, Qt::ControlModifier);
    w.settle();
    CHECK(w.document().design().parts.size() == 2);
    // A band by its name; those that the project has not are not offered.
    whenOpen<app::ActionFinder>([](app::ActionFinder& finder) {
        QTest::keyClicks(finder.field(), "band:");
        for (int i = 0; i < finder.list()->count(); ++i)
            CHECK_FALSE(finder.list()->item(i)->text().contains("Band 9"));
        finder.field()->setText("15 m");
        CHECK(finder.list()->item(0)->text().contains("Alt+3"));
        finder.reject();
    });
    QTest::keyClick(&w.bench, Qt::Key_Space, Qt::ControlModifier);
    // Undo tells what it undid.
    w.action("Undo add part")->trigger();
    w.settle();
    CHECK(w.notice()->sentence() == "Undone: add part.");
    CHECK(w.document().design().parts.size() == 1);
}

TEST_CASE("files opened before are offered again, and the demo comes with the program") {
    Empty w;
    CHECK(app::Files::recentFiles().contains(QFileInfo(kDemo).absoluteFilePath()));
    w.bench.files().openDemo();
    w.settle();
    CHECK(w.document().path().isEmpty());
    CHECK(w.document().project().designs.size() > 5);
}

TEST_CASE("the gallery says at once what it cannot read, and which field holds it") {
    Empty w;
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        auto* height = gallery.findChild<QLineEdit*>("height");
        const auto type = [&](QLineEdit* field, const QString& typed) {
            field->selectAll();
            QTest::keyClicks(field, typed);
            Q_EMIT field->editingFinished();
        };
        type(height, "33' 6");
        CHECK(gallery.sentence().startsWith("supports reach: \"33' 6\" is not understood"));
        // Another kind is no mend.
        gallery.choose("inverted-v");
        CHECK(gallery.sentence().startsWith("supports reach"));
        type(height, "lambda/2");
        CHECK(gallery.sentence().startsWith("Inverted V"));
        type(gallery.findChild<QLineEdit*>("wire"), "thick");
        CHECK(gallery.sentence().startsWith("wire: "));
        type(gallery.findChild<QLineEdit*>("wire"), "0");
        CHECK(gallery.sentence().startsWith("The wire has no diameter"));
        type(gallery.findChild<QLineEdit*>("wire"), "14 awg");
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
    });
    w.action("New design…")->trigger();
    w.settle();
    CHECK(w.document().design().name == "Inverted V");
    // Half a wave over 20 m.
    CHECK(w.session().expansion()->model.bounds().high.z() == Approx(10.6).margin(0.4));
}

TEST_CASE("in a project in feet a starter comes in feet, and so does the project after it") {
    Empty w;
    w.bench.findChild<QAction*>("feet")->trigger();
    w.settle();
    whenOpen<app::GalleryDialog>([](app::GalleryDialog& gallery) {
        CHECK(gallery.findChild<QLineEdit*>("height")->text() == "33 ft");
        gallery.choose("dipole");
        QTest::mouseClick(gallery.take(), Qt::LeftButton);
    });
    w.action("New design…")->trigger();
    w.settle();
    CHECK(w.document().design().site.height == "33' 0\"");
    CHECK(w.document().design().dimensions.front().text.find('\'') != std::string::npos);
    CHECK(w.analysis()->figures.swr < 1.7);
    w.document().undoStack()->setClean();
    w.action("New project")->trigger();
    w.settle();
    CHECK(w.document().project().feetAndInches);
    CHECK(w.document().design().site.height == "33 ft");
    CHECK(app::inFeet());
    w.bench.findChild<QAction*>("feet")->trigger();
}
