// A window on the bench for tests: opens a project, waits for figures, drags, types.
#pragma once

#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSlider>
#include <QTemporaryDir>
#include <QTest>
#include <catch2/catch.hpp>

#include "app/frame/bench.h"
#include "app/frame/notice_bar.h"
#include "app/instruments/band_strip.h"
#include "app/instruments/band_view.h"
#include "app/instruments/instruments.h"
#include "app/instruments/ledger.h"
#include "app/instruments/polar_view.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"
#include "app/plan/plan_panel.h"
#include "app/stages/shape/yard.h"
#include "core/edit/designs.h"

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

/// The view of this kind that the bench has; by its object name where it has several.
template <typename View>
View* viewIn(app::Bench& bench, const QString& name = {}) {
    auto* view = name.isEmpty() ? bench.findChild<View*>() : bench.findChild<View*>(name);
    REQUIRE(view != nullptr);
    return view;
}

struct Window {
    app::Bench bench;

    explicit Window(const QString& file = kDemo) {
        bench.show();
        REQUIRE(bench.files().open(file));
        settle();
    }
    ~Window() {
        // Closing asks nothing when nothing is unsaved.
        document().undoStack()->setClean();
    }
    app::Session& session() { return bench.session(); }
    app::Document& document() { return session().document(); }
    app::Editing& editing() { return bench.editing(); }
    app::AnalysisPtr analysis() { return session().results()->analysis; }
    app::SweepPtr sweep() { return session().results()->sweep; }
    bool live() { return session().live(); }
    app::Yard* yard() { return viewIn<app::Yard>(bench); }
    app::Outline* outline() { return bench.plan()->outline(); }
    app::ItemEditor* editor() { return bench.plan()->editor(); }
    app::PolarView* elevation() { return bench.instruments()->elevation(); }
    app::PolarView* azimuth() { return bench.instruments()->azimuth(); }
    app::BandView* band() { return bench.instruments()->band(); }
    app::BandStrip* bandStrip() { return viewIn<app::BandStrip>(bench); }
    app::Ledger* ledger() { return viewIn<app::Ledger>(bench); }
    app::NoticeBar* notice() { return viewIn<app::NoticeBar>(bench); }
    /// An entry of a menu by its text.
    QAction* action(const QString& text) {
        for (auto* action : bench.findChildren<QAction*>())
            if (QString(action->text()).remove('&') == text) return action;
        FAIL("no entry " << text.toStdString());
        return nullptr;
    }
    template <typename View>
    View* find() {
        return viewIn<View>(bench);
    }
    template <typename Kind>
    Kind& stage(const QString& name) {
        auto* found = dynamic_cast<Kind*>(bench.stage(name));
        REQUIRE(found != nullptr);
        return *found;
    }
    /// The item of the design on the bench at a place in its list.
    app::Selection item(app::Selection::Type type, std::size_t index = 0) {
        return edit::itemAt(document().design(), type, index);
    }
    void settle() {
        REQUIRE(waitFor([this] { return bench.settled(); }));
    }
    void chooseDesign(const QString& name) {
        const auto project = document().share();
        for (const auto& design : project->designs)
            if (QString::fromStdString(design.name) == name) session().chooseDesign(design.id);
        settle();
        REQUIRE(QString::fromStdString(document().design().name) == name);
    }
    /// Drags the slider of a dimension by so many pixels with the mouse.
    void dragSlider(const QString& dimension, int pixels) {
        auto* row = outline()->dimensionRow(dimension);
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
        QComboBox* list = editor()->choice(label);
        REQUIRE(list != nullptr);
        const int index = list->findData(id);
        REQUIRE(index >= 0);
        list->setCurrentIndex(index);
        Q_EMIT list->activated(index);
        settle();
    }
    /// A wire that nobody feeds, a little in front of the Yagi.
    void addRail() {
        document().editDesign("Add rail", [](model::Design& d) {
            model::Part rail;
            rail.name = "Rail";
            rail.shape = model::StraightWire{{"4.4 m", "-0.9 m", "0 m"}, {"4.4 m", "0.9 m", "0 m"}};
            d.parts.push_back(rail);
        });
        settle();
    }
    /// Clicks a row of the outline.
    void select(app::Selection selection) {
        auto* row = outline()->row(selection);
        REQUIRE(row != nullptr);
        QTest::mouseClick(row, Qt::LeftButton, {}, QPoint(60, 11));
        QApplication::processEvents();
    }
    /// Types into a field of the editor and presses Enter.
    void type(const QString& label, const QString& text) {
        QLineEdit* field = editor()->field(label);
        REQUIRE(field != nullptr);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        settle();
    }
    /// Types into the value field of a dimension and presses Enter.
    void typeDimension(const QString& dimension, const QString& text) {
        auto* row = outline()->dimensionRow(dimension);
        REQUIRE(row != nullptr);
        row->field()->setFocus();
        row->field()->selectAll();
        QTest::keyClicks(row->field(), text);
        QTest::keyClick(row->field(), Qt::Key_Return);
    }
    void undo() {
        document().undoStack()->undo();
        settle();
    }
    QString dimensionText(const std::string& name) {
        for (const auto& d : document().design().dimensions)
            if (d.name == name) return QString::fromStdString(d.text);
        return {};
    }
    double frequencyOfBestSwr() { return sweep()->bestFrequencyHz(); }
};

}  // namespace rm::test
