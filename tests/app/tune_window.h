// The Tune mode in the real window, with hands for its forms and tables.
#pragma once

#include <QAction>
#include <QCheckBox>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QToolButton>

#include "app/stages/tune/history_plot.h"
#include "app/stages/tune/matters_view.h"
#include "app/stages/tune/mover_table.h"
#include "app/stages/tune/plan_form.h"
#include "app/stages/tune/scan_view.h"
#include "app/stages/tune/tolerance_view.h"
#include "app/stages/tune/tune_pages.h"
#include "app/stages/tune/tune_stage.h"
#include "app/stages/tune/tune_view.h"
#include "core/model/expand.h"
#include "core/study/varied.h"
#include "window.h"

namespace rm::test {

struct TuneWindow : Window {
    explicit TuneWindow(const QString& design = "Yagi, 70 MHz") {
        chooseDesign(design);
        document().undoStack()->clear();
        click(bench.findChild<QToolButton*>("modeTune"));
        settle();
        REQUIRE(view().isVisible());
    }
    app::TuneView& view() { return *find<app::TuneView>(); }
    const model::TunePlan& plan() { return document().design().tune; }
    void click(QWidget* button) {
        REQUIRE(button != nullptr);
        QTest::mouseClick(button, Qt::LeftButton);
        QApplication::processEvents();
    }
    void chooseRow(int row) {
        QTest::mouseClick(view().rows(), Qt::LeftButton, {}, view().rows()->sentenceOf(row).center());
        QApplication::processEvents();
    }
    QString sentence(int row) { return view().rows()->rows().at(static_cast<std::size_t>(row)).sentence; }
    QString verdict(int row) { return view().rows()->rows().at(static_cast<std::size_t>(row)).verdict; }
    void typeInto(QLineEdit* field, const QString& text) {
        REQUIRE(field != nullptr);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        QApplication::processEvents();
        settle();
    }
    void typeCell(QTableWidget* table, int row, int column, const QString& text) {
        table->setCurrentCell(row, column);
        table->editItem(table->item(row, column));
        QApplication::processEvents();
        auto* field = table->viewport()->findChild<QLineEdit*>();
        REQUIRE(field != nullptr);
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        QApplication::processEvents();
        settle();
    }
    static QAction* actionOf(QMenu* menu, const QString& text) {
        Q_EMIT menu->aboutToShow();
        for (QAction* action : menu->actions()) {
            if (action->text() == text) return action;
            if (action->menu() != nullptr && text.startsWith(action->text() + ": "))
                return actionOf(action->menu(), text.mid(action->text().size() + 2));
        }
        return nullptr;
    }
    void trigger(QMenu* menu, const QString& text) {
        QAction* action = actionOf(menu, text);
        INFO(text.toStdString());
        REQUIRE(action != nullptr);
        action->trigger();
        QApplication::processEvents();
        settle();
    }
    /// Two elements that may move, and a match that two of them can reach.
    void easyPlan() {
        document().editDesign("Plan", [](model::Design& d) {
            d.tune = {};
            model::Goal swr;
            swr.limit = "1.09";
            d.tune.goals = {swr};
            for (const char* name : {"driven", "s2"}) {
                model::Mover mover;
                mover.dimension = name;
                d.tune.movers.push_back(mover);
            }
        });
        settle();
        document().undoStack()->setClean();
    }
    void waitForTune() {
        REQUIRE(waitFor([this] { return !stage<app::TuneStage>("tune").tuning(); }));
        settle();
    }
};

}  // namespace rm::test
