#include "app/plan/plan_panel.h"

#include <QFileDialog>
#include <QLabel>
#include <QVBoxLayout>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "app/plan/outline.h"

namespace rm::app {

PlanPanel::PlanPanel(Session& session, Editing& editing, QWidget* parent)
    : QWidget(parent), outline_(new Outline(session)), editor_(new ItemEditor(session)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(5, 6, 5, 5);
    column->setSpacing(4);
    auto* title = new QLabel(tr("  Plan"));
    title->setFont(textFont(kTitlePt, true));
    column->addWidget(title);
    column->addWidget(outline_, 11);
    column->addWidget(editor_, 10);
    connect(outline_, &Outline::addRequested, this, &PlanPanel::addRequested);
    connect(editor_, &ItemEditor::removeRequested, &editing, &Editing::removeSelected);
    connect(editor_, &ItemEditor::duplicateRequested, &editing, &Editing::duplicateSelected);
    connect(editor_, &ItemEditor::adviceRequested, &editing, &Editing::adviseStacking);
    connect(editor_, &ItemEditor::asWireRequested, &editing, &Editing::addAsWire);
    connect(editor_, &ItemEditor::tableRequested, this, [this, &editing](model::Id load) {
        editing.readTable(
            load, QFileDialog::getOpenFileName(this, tr("Read the impedance of a choke"), {},
                                               tr("Measurements (*.s1p *.csv *.txt);;All files (*)")));
    });
    connect(editor_, &ItemEditor::scanRequested, &editing, &Editing::scanRequested);
    connect(&session, &Session::selectionChanged, this, [this] {
        outline_->refresh();
        editor_->refresh();
    });
    connect(&session, &Session::resultsChanged, outline_, &Outline::setResults);
}

}  // namespace rm::app
