// A window on the bench for tests: opens a project, waits for figures, drags, types.
#pragma once

#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSlider>
#include <QTemporaryDir>
#include <QTest>
#include <catch2/catch.hpp>

#include "app/instruments/band_strip.h"
#include "app/frame/bench.h"
#include "app/instruments/band_view.h"
#include "app/instruments/polar_view.h"
#include "app/instruments/ledger.h"
#include "app/frame/notice_bar.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"
#include "app/stages/shape/yard.h"

namespace rm::test {

inline const char* const kDemo = RM_SOURCE_DIR "/demo/heron_point.json";

/// Processes events until `ready`, at most 20 s.
inline bool waitFor(const std::function<bool()>& ready) {
    QElapsedTimer clock;
    clock.start();
    while (!ready() && clock.elapsed() < 20000) QApplication::processEvents(QEventLoop::AllEvents, 5);
    QApplication::processEvents();
    return ready();
}

struct Window {
    app::Bench bench;

    explicit Window(const QString& file = kDemo) {
        bench.show();
        REQUIRE(bench.open(file));
        settle();
    }
    ~Window() {
        // Closing asks nothing when nothing is unsaved.
        bench.document().undoStack()->setClean();
    }
    void settle() {
        REQUIRE(waitFor([this] { return bench.settled(); }));
    }
    void chooseDesign(const QString& name) {
        const auto& designs = bench.document().project().designs;
        for (std::size_t i = 0; i < designs.size(); ++i)
            if (QString::fromStdString(designs[i].name) == name) bench.chooseDesign(static_cast<int>(i));
        settle();
        REQUIRE(QString::fromStdString(bench.document().design().name) == name);
    }
    /// Drags the slider of a dimension by so many pixels with the mouse.
    void dragSlider(const QString& dimension, int pixels) {
        auto* row = bench.outline()->dimensionRow(dimension);
        REQUIRE(row != nullptr);
        drag(row->slider(), pixels);
    }
    /// Drags a slider by so many pixels with the mouse.
    static void drag(QSlider* slider, int pixels) {
        const double share = static_cast<double>(slider->value()) / slider->maximum();
        const QPoint handle(static_cast<int>(5 + share * (slider->width() - 11)), slider->height() / 2);
        QTest::mousePress(slider, Qt::LeftButton, {}, handle);
        for (int step = 1; step <= 5; ++step) {
            QMouseEvent move(QEvent::MouseMove, QPointF(handle + QPoint(pixels * step / 5, 0)),
                             slider->mapToGlobal(QPointF(handle + QPoint(pixels * step / 5, 0))),
                             Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
            QApplication::sendEvent(slider, &move);
            QApplication::processEvents();
        }
        QTest::mouseRelease(slider, Qt::LeftButton, {}, handle + QPoint(pixels, 0));
    }
    /// Chooses from a list of the editor by the name it stores.
    void choose(const QString& label, const QString& id) {
        QComboBox* list = bench.editor()->choice(label);
        REQUIRE(list != nullptr);
        const int index = list->findData(id);
        REQUIRE(index >= 0);
        list->setCurrentIndex(index);
        Q_EMIT list->activated(index);
        settle();
    }
    /// A wire that nobody feeds, a little in front of the Yagi.
    void addRail() {
        bench.document().editDesign("Add rail", [](model::Design& d) {
            model::Part rail;
            rail.name = "Rail";
            rail.shape = model::StraightWire{{"4.4 m", "-0.9 m", "0 m"}, {"4.4 m", "0.9 m", "0 m"}};
            d.parts.push_back(rail);
        });
        settle();
    }
    /// Clicks a row of the outline.
    void select(app::Selection selection) {
        auto* row = bench.outline()->row(selection);
        REQUIRE(row != nullptr);
        QTest::mouseClick(row, Qt::LeftButton, {}, QPoint(60, 11));
        QApplication::processEvents();
    }
    /// Types into a field of the editor and presses Enter.
    void type(const QString& label, const QString& text) {
        QLineEdit* field = bench.editor()->field(label);
        REQUIRE(field != nullptr);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        settle();
    }
    /// Types into the value field of a dimension and presses Enter.
    void typeDimension(const QString& dimension, const QString& text) {
        auto* row = bench.outline()->dimensionRow(dimension);
        REQUIRE(row != nullptr);
        row->field()->setFocus();
        row->field()->selectAll();
        QTest::keyClicks(row->field(), text);
        QTest::keyClick(row->field(), Qt::Key_Return);
    }
    void undo() {
        bench.document().undoStack()->undo();
        settle();
    }
    QString dimensionText(const std::string& name) {
        for (const auto& d : bench.document().design().dimensions)
            if (d.name == name) return QString::fromStdString(d.text);
        return {};
    }
    double frequencyOfBestSwr() { return bench.sweep()->bestFrequencyHz(); }
};

}  // namespace rm::test
