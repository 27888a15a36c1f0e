// Measuring from the bench: the made-up analyser runs beside it.
#include <QProcess>
#include <QPushButton>
#include <QTcpServer>
#include <QTemporaryDir>
#include <catch2/catch.hpp>

#include "app/dialogs/analyser_dialog.h"
#include "app/stages/trim/trim_view.h"
#include "core/project/project_file.h"
#include "window.h"

using namespace rm;
using namespace rm::test;

namespace {

/// The program beside the bench; it ends with this.
struct RunningAnalyser {
    QProcess process;
    QString address;

    explicit RunningAnalyser(const QStringList& arguments) {
        process.start(RM_ANALYSER, arguments);
        REQUIRE(process.waitForStarted());
        QString said;
        waitFor([&] {
            said += QString::fromUtf8(process.readAllStandardOutput());
            return said.contains('\n') || process.state() == QProcess::NotRunning;
        });
        INFO(process.readAllStandardError().toStdString());
        INFO(said.toStdString());
        REQUIRE(said.startsWith("listening at "));
        address = said.section("listening at ", 1).trimmed();
    }
    ~RunningAnalyser() {
        process.kill();
        process.waitForFinished();
    }
};

/// Opens the dialog, and lets `act` do something in it; it is closed in the end, whatever happened there.
template <typename Act>
void measuring(Window& w, const Act& act) {
    QTimer::singleShot(0, &w.bench, [&] {
        auto* dialog = qobject_cast<app::AnalyserDialog*>(QApplication::activeModalWidget());
        REQUIRE(dialog != nullptr);
        act(*dialog);
        dialog->close();
    });
    w.action("Measure with an analyser…")->trigger();
}

void press(app::AnalyserDialog& dialog) {
    QTest::mouseClick(dialog.button(), Qt::LeftButton);
}

}  // namespace

TEST_CASE("an inverted V is read from an analyser beside the bench, trimmed, and read again") {
    Window w;
    w.chooseDesign("Inverted V, 60 m");
    QTemporaryDir folder;
    const QString file = folder.filePath("v.json");
    const auto save = [&] { io::writeProject(w.document().project(), file.toStdString()); };
    save();
    const auto measure = [&] {
        // As it was cut: 2 % longer than drawn, with a little noise.
        const RunningAnalyser analyser({file, "--port", "0", "--longer", "2", "--noise", "0.002"});
        const std::size_t before = w.document().design().measured.size();
        measuring(w, [&](app::AnalyserDialog& dialog) {
            dialog.addressField()->setText(analyser.address);
            press(dialog);
            waitFor([&] { return !dialog.isVisible(); });
        });
        REQUIRE(w.document().design().measured.size() == before + 1);
        double best = 99.0;
        double at = 0.0;
        for (const auto& point : w.document().design().measured.back().data.points)
            if (point.swr < best) {
                best = point.swr;
                at = point.frequencyHz;
            }
        return at;
    };
    const double drawnHz = model::expand(w.document().design()).designFrequencyHz;
    const double first = measure();
    CHECK(w.document().design().measured.back().data.points.size() == 41);
    CHECK(w.notice()->sentence().contains("41 points"));
    CHECK(first < 0.99 * drawnHz);
    w.action("Trim by what was measured")->trigger();
    auto* view = w.bench.findChild<app::TrimView*>();
    REQUIRE(view != nullptr);
    REQUIRE(waitFor([&] { return view->answer() != nullptr; }));
    CHECK(view->sentence().contains("horten"));
    QTest::mouseClick(view->takeOver(), Qt::LeftButton);
    w.settle();
    save();
    const double second = measure();
    CHECK(std::abs(second - drawnHz) < std::abs(first - drawnHz) / 3.0);
    // One step to undo, as everything.
    w.undo();
    CHECK(w.document().design().measured.size() == 1);
}

TEST_CASE("a sweep over a pseudo-terminal is that over the network") {
    Window w;
    w.chooseDesign("Inverted V, 60 m");
    for (const bool pseudo : {false, true}) {
        QStringList arguments{RM_SOURCE_DIR "/demo/heron_point.json", "--design", "Inverted V, 60 m"};
        arguments << (pseudo ? QStringList{"--pty"} : QStringList{"--port", "0"});
        const RunningAnalyser analyser(arguments);
        CHECK(analyser.address.startsWith(pseudo ? "/dev/" : "localhost:"));
        measuring(w, [&](app::AnalyserDialog& dialog) {
            dialog.addressField()->setText(analyser.address);
            dialog.pointsField()->setValue(11);
            press(dialog);
            waitFor([&] { return !dialog.isVisible(); });
        });
    }
    const auto& measured = w.document().design().measured;
    REQUIRE(measured.size() == 2);
    CHECK(measured[0].data == measured[1].data);
    CHECK(measured[0].name != measured[1].name);
}

TEST_CASE("an analyser that is not there, is something else, or goes while it measures is one sentence") {
    Window w;
    w.chooseDesign("Inverted V, 60 m");
    QString said;
    const auto tryAt = [&](const QString& address) {
        measuring(w, [&](app::AnalyserDialog& dialog) {
            dialog.addressField()->setText(address);
            press(dialog);
            waitFor([&] { return dialog.button()->isEnabled(); });
            said = dialog.sentence();
        });
        return said;
    };
    CHECK(tryAt("localhost:1").contains("localhost:1 does not answer"));
    CHECK(tryAt("").contains("is no place of an analyser"));
    CHECK(tryAt("localhost:99999").contains("is no place of an analyser"));
    CHECK(tryAt("/dev/null").contains("is no serial device"));
    CHECK(tryAt("/no/such/device").contains("is no serial device"));
    // Something else listens there.
    QTcpServer other;
    REQUIRE(other.listen(QHostAddress::LocalHost));
    QObject::connect(&other, &QTcpServer::newConnection, &other,
                     [&] { other.nextPendingConnection()->write("HTTP/1.1 400 Bad Request\r\n"); });
    CHECK(tryAt(QString("localhost:%1").arg(other.serverPort())).contains("which is no point of a sweep"));
    // It goes after its first point.
    QTcpServer going;
    REQUIRE(going.listen(QHostAddress::LocalHost));
    QObject::connect(&going, &QTcpServer::newConnection, &going, [&] {
        auto* socket = going.nextPendingConnection();
        QObject::connect(socket, &QTcpSocket::readyRead, socket, [socket] {
            const auto sweep = io::readSweepLine(socket->readAll().trimmed().toStdString());
            socket->write(io::pointLine(sweep.lowHz, 50.0).c_str());
            socket->disconnectFromHost();
        });
    });
    CHECK(tryAt(QString("localhost:%1").arg(going.serverPort())).contains("does not answer"));
    CHECK(w.document().design().measured.empty());
    CHECK_FALSE(w.document().undoStack()->canUndo());
}
