// Nothing that was made is lost: unsaved work of windows that ended, files that others change, versions
// before.
#include <QDir>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QTimer>
#include <QToolButton>

#include "app/dialogs/left_work_dialog.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// A copy of the demo that may be written, in a folder that goes with the test.
struct Mine {
    QTemporaryDir folder;
    QString file = folder.filePath("mine.json");
    Mine() {
        REQUIRE(QFile::copy(kDemo, file));
        QFile::setPermissions(file, QFile::ReadOwner | QFile::WriteOwner);
    }
    void write(const QByteArray& text) const {
        QFile out(file);
        REQUIRE(out.open(QIODevice::WriteOnly | QIODevice::Truncate));
        out.write(text);
    }
    QByteArray read() const {
        QFile in(file);
        REQUIRE(in.open(QIODevice::ReadOnly));
        return in.readAll();
    }
};

/// The journal of a window as it would lie there had the window ended now.
void leaveBehind(Window& w, const QString& name) {
    w.document().settleJournal();
    REQUIRE(
        QFile::copy(w.document().journalFile(), app::Document::recoveryFolder() + "/" + name + ".journal"));
}

/// Answers the next dialog by the text of its button.
void answerNext(const QString& button) {
    QTimer::singleShot(0, qApp, [button] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        REQUIRE(box != nullptr);
        for (auto* one : box->buttons())
            if (QString(one->text()).remove('&') == button) return one->click();
        box->reject();
        FAIL("no answer " << button.toStdString());
    });
}

void noneLeft() {
    for (const auto& work : app::Document::leftWork()) io::discardLeft(work);
    REQUIRE(app::Document::leftWork().empty());
}

}  // namespace

TEST_CASE("every edit is on disk within a second, however busy the hand") {
    noneLeft();
    Window w;
    QElapsedTimer clock;
    clock.start();
    int edits = 0;
    // Edits 50 ms apart for three seconds: there is never a rest.
    while (clock.elapsed() < 3000) {
        w.document().editDesign("Drag", [&](model::Design& d) {
            d.dimensions.at(0).text = QString("%1 mm").arg(10000 + ++edits).toStdString();
        });
        QElapsedTimer pause;
        pause.start();
        while (pause.elapsed() < 50) QApplication::processEvents(QEventLoop::AllEvents, 5);
        if (clock.elapsed() < 1200) continue;
        // What lies on disk now is no older than a second.
        const QString copy = app::Document::recoveryFolder() + "/now.journal";
        REQUIRE(QFile::copy(w.document().journalFile(), copy));
        const auto left = app::Document::leftWork();
        REQUIRE(left.size() == 1);
        const auto project = io::readLeft(left[0]);
        const int kept =
            QString::fromStdString(project.active().dimensions.at(0).text).section(' ', 0, 0).toInt();
        CHECK(10000 + edits - kept < 20);
        io::discardLeft(left[0]);
    }
    CHECK(edits > 20);
}

TEST_CASE("undone to the file nothing is kept, and a window that closes leaves nothing") {
    noneLeft();
    QString journal;
    {
        Window w;
        journal = w.document().journalFile();
        w.typeDimension("leg", "14 m");
        w.document().settleJournal();
        CHECK(QFile::exists(journal));
        w.undo();
        w.document().settleJournal();
        CHECK_FALSE(QFile::exists(journal));
        w.document().redo();
        w.document().settleJournal();
        CHECK(QFile::exists(journal));
        answerNext("Discard");
        CHECK(w.bench.close());
    }
    CHECK_FALSE(QFile::exists(journal));
    CHECK(app::Document::leftWork().empty());
}

TEST_CASE("a window that ended is offered with its title, time and last edit, until it is answered") {
    noneLeft();
    const Mine mine;
    {
        Window w(mine.file);
        w.typeDimension("leg", "14 m");
        leaveBehind(w, "one");
    }
    for (int start = 0; start < 2; ++start) {
        Window w(mine.file);
        const QString said = w.notice()->sentence();
        INFO(said.toStdString());
        CHECK(said.contains("Unsaved work was found: Heron Point"));
        CHECK(said.contains("leg"));
        // Other edits overwrite no offer.
        w.typeDimension("leg", "12 m");
        CHECK(app::Document::leftWork().size() == 1);
    }
    Window w(mine.file);
    CHECK(w.dimensionText("leg") == "13.45 m");
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.dimensionText("leg") == "14 m");
    CHECK(w.document().modified());
    CHECK(w.document().path() == mine.file);
    CHECK(app::Document::leftWork().empty());
    // It is this window's now, and kept until it is saved.
    CHECK(QFile::exists(w.document().journalFile()));
    REQUIRE(w.bench.files().save(mine.file));
    w.document().settleJournal();
    CHECK_FALSE(QFile::exists(w.document().journalFile()));
    CHECK_FALSE(w.document().modified());
}

TEST_CASE("several windows, titled or not, are offered side by side and answered one by one") {
    noneLeft();
    const Mine mine;
    {
        Window w(mine.file);
        w.typeDimension("leg", "14 m");
        leaveBehind(w, "one");
        w.typeDimension("leg", "15 m");
        leaveBehind(w, "two");
        w.document().undoStack()->setClean();
        w.bench.files().newProject();
        w.document().edit("Rename project", [](model::Project& p) { p.title = "Never <b>saved</b>"; });
        leaveBehind(w, "three");
    }
    Window w(mine.file);
    CHECK(w.notice()->sentence().contains("Unsaved work of 3 windows"));
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    auto* dialog = w.find<app::LeftWorkDialog>();
    REQUIRE(dialog->isVisible());
    REQUIRE(dialog->count() == 3);
    QString all;
    int untitled = -1;
    for (std::size_t i = 0; i < 3; ++i) {
        all += dialog->textOf(i);
        if (dialog->textOf(i).contains("never saved to a file")) untitled = static_cast<int>(i);
    }
    CHECK(all.count("mine.json") == 2);
    REQUIRE(untitled >= 0);
    CHECK(dialog->textOf(static_cast<std::size_t>(untitled)).contains("Never <b>saved</b>"));
    for (auto* label : dialog->findChildren<QLabel*>()) CHECK(label->textFormat() == Qt::PlainText);
    QTest::mouseClick(dialog->openButton(static_cast<std::size_t>(untitled)), Qt::LeftButton);
    w.settle();
    CHECK(w.document().project().title == "Never <b>saved</b>");
    CHECK(w.document().path().isEmpty());
    CHECK(w.document().modified());
    w.bench.files().showLeftWork();
    REQUIRE(dialog->count() == 2);
    QTest::mouseClick(dialog->discardButton(0), Qt::LeftButton);
    REQUIRE(dialog->count() == 1);
    dialog->close();
    CHECK(app::Document::leftWork().size() == 1);
    noneLeft();
}

TEST_CASE("work that was taken up elsewhere meanwhile is said to be, and nothing changes") {
    noneLeft();
    const Mine mine;
    Window w(mine.file);
    w.typeDimension("leg", "14 m");
    leaveBehind(w, "one");
    const auto left = app::Document::leftWork();
    REQUIRE(left.size() == 1);
    io::discardLeft(left[0]);
    const auto before = w.document().share();
    answerNext("Discard");
    w.bench.files().restore(left[0]);
    CHECK(w.document().project() == *before);
    CHECK(w.notice()->sentence().contains("another window"));
}

TEST_CASE("a file that another program changes is said at once, and never written over without a word") {
    noneLeft();
    const Mine mine;
    Window w(mine.file);
    w.typeDimension("leg", "14 m");
    const QByteArray theirs = mine.read().replace("Heron Point", "Their title");
    mine.write(theirs);
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("changed by another program"); }));
    CHECK(w.dimensionText("leg") == "14 m");
    answerNext("Cancel");
    CHECK_FALSE(w.bench.files().save(mine.file));
    CHECK(mine.read() == theirs);
    CHECK(w.document().modified());
    answerNext("Save over it");
    CHECK(w.bench.files().save(mine.file));
    CHECK(mine.read().contains("14 m"));
    CHECK_FALSE(w.document().modified());
    // Theirs is among the versions before.
    const auto versions = w.bench.files().versions();
    REQUIRE_FALSE(versions.empty());
    w.bench.files().goBackTo(versions.front());
    w.settle();
    CHECK(w.document().project().title == "Their title");
    CHECK(w.document().modified());
    w.undo();
    CHECK(w.dimensionText("leg") == "14 m");
    // Saved by this program it has not changed.
    w.typeDimension("leg", "13 m");
    CHECK(w.bench.files().save(mine.file));
    CHECK(w.document().onDisk() == app::Document::OnDisk::Same);
}

TEST_CASE("read again after another program's change, or gone, or only touched") {
    noneLeft();
    const Mine mine;
    Window w(mine.file);
    QByteArray same = mine.read();
    mine.write(same);
    CHECK(w.document().onDisk() == app::Document::OnDisk::Same);
    mine.write(same.replace("Heron Point", "Their title"));
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("changed by another program"); }));
    QTest::mouseClick(w.notice()->answer(0), Qt::LeftButton);
    w.settle();
    CHECK(w.document().project().title == "Their title");
    CHECK(w.document().onDisk() == app::Document::OnDisk::Same);
    REQUIRE(QFile::remove(mine.file));
    REQUIRE(waitFor([&] { return w.notice()->sentence().contains("has been removed"); }));
    CHECK(w.document().project().title == "Their title");
    CHECK(w.bench.files().save(mine.file));
    CHECK(mine.read().contains("Their title"));
    CHECK(w.notice()->sentence().contains("is there again"));
}

TEST_CASE("where unsaved work cannot be kept it is said, and said again when it can") {
    noneLeft();
    const QByteArray usual = qgetenv("REEDMAST_RECOVERY");
    QTemporaryDir folder;
    const QString inTheWay = folder.filePath("file");
    QFile file(inTheWay);
    REQUIRE(file.open(QIODevice::WriteOnly));
    qputenv("REEDMAST_RECOVERY", (inTheWay + "/recovery").toUtf8());
    {
        Window w;
        w.typeDimension("leg", "14 m");
        REQUIRE(waitFor([&] { return w.notice()->sentence().contains("cannot be kept"); }));
        REQUIRE(QFile::remove(inTheWay));
        w.typeDimension("leg", "15 m");
        REQUIRE(waitFor([&] { return w.notice()->sentence().contains("kept again"); }));
    }
    qputenv("REEDMAST_RECOVERY", usual);
}

TEST_CASE("a file keeps its permissions and its link when it is saved from the window") {
    noneLeft();
    const Mine mine;
    const QString link = mine.folder.filePath("link.json");
    REQUIRE(QFile::link(mine.file, link));
    Window w(link);
    w.typeDimension("leg", "14 m");
    REQUIRE(w.bench.files().save(link));
    CHECK(QFileInfo(link).isSymLink());
    CHECK(mine.read().contains("14 m"));
    CHECK_FALSE(QFileInfo(mine.file).permission(QFile::ReadOther));
}
