#include "app/stages/clear/clear_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "app/stages/clear/zone_view.h"
#include "core/export/clear_table.h"

namespace rm::app {

namespace {

QToolButton* buttonOf(const QString& words, const QString& name, const QString& tip) {
    auto* button = new QToolButton;
    button->setText(words);
    button->setObjectName(name);
    button->setToolTip(tip);
    return button;
}

}  // namespace

ClearView::ClearView(QWidget* parent) : StudyFrame(parent) {
    setTitle(tr("Keep clear"));
    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    limits_ = smallChoice(tr("Limits"),
                          {tr("ICNIRP 1998"), tr("ICNIRP 2020"), tr("47 CFR 1.1310"), tr("limits of my own")},
                          tr("Whose limits count; what your authority asks for you have to look up there"));
    QStringList modes;
    for (const auto mode : {model::SendMode::Carrier, model::SendMode::SpeechSsb,
                            model::SendMode::ProcessedSsb, model::SendMode::Morse})
        modes << text(study::nameOf(mode));
    mode_ = smallChoice(tr("Mode"), modes, tr("Mean over peak power: 100, 20, 50 and 40 %"));
    power_ = numberField(tr("Power in W"), tr("Of the radio"), 1e-6, 1e7);
    duty_ = numberField(tr("Sent in %"), tr("How much of the averaging time is sent"), 0.1, 100.0);
    margin_ =
        numberField(tr("Margin in dB"), tr("On top of the power, for what a model does not know"), 0.0, 30.0);
    head_ = numberField(tr("Head in m"), tr("Height at which people walk"), 0.0, 100.0);
    window_ = numberField(tr("Window in m"), tr("Height of a chosen window or roof"), 0.0, 1000.0);
    ownVm_ = numberField("V/m", tr("Electric field, rms"), 1e-3, 1e6);
    ownAm_ = numberField("A/m", tr("Magnetic field, rms"), 1e-6, 1e4);
    auto* first = new QHBoxLayout;
    first->setSpacing(5);
    first->addWidget(limits_);
    own_ = new QWidget;
    auto* own = new QHBoxLayout(own_);
    own->setContentsMargins(0, 0, 0, 0);
    own->addWidget(ownVm_);
    own->addWidget(softLabel("V/m"));
    own->addWidget(ownAm_);
    own->addWidget(softLabel("A/m"));
    first->addWidget(own_);
    first->addWidget(mode_);
    first->addWidget(duty_);
    first->addWidget(softLabel(tr("% of the time")));
    first->addStretch(1);
    auto* second = new QHBoxLayout;
    second->setSpacing(5);
    second->addWidget(power_);
    second->addWidget(softLabel(tr("W, people walk at")));
    second->addWidget(head_);
    second->addWidget(softLabel(tr("m, a window at")));
    second->addWidget(window_);
    second->addWidget(softLabel(tr("m, margin")));
    second->addWidget(margin_);
    second->addWidget(softLabel("dB"));
    second->addStretch(1);
    column->addLayout(first);
    column->addLayout(second);
    auto* third = new QHBoxLayout;
    third->setSpacing(5);
    third->addStretch(1);
    third->addWidget(
        buttonOf(tr("Map"), "clearMap", tr("The field at the height of a head, with the limits")));
    third->addWidget(
        buttonOf("PDF...", "clearPdf", tr("The table with what it rests on, to hang up or hand in")));
    third->addWidget(buttonOf("CSV...", "clearCsv", tr("The table for a spreadsheet")));
    column->addLayout(third);
    rows_ = new QTableWidget;
    rows_->setTabKeyNavigation(false);
    rows_->setAccessibleName(tr("Distances on all bands"));
    rows_->verticalHeader()->hide();
    rows_->verticalHeader()->setDefaultSectionSize(22);
    rows_->setFont(textFont(kSmallPt));
    rows_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    rows_->setSelectionBehavior(QAbstractItemView::SelectRows);
    rows_->setSelectionMode(QAbstractItemView::SingleSelection);
    column->addWidget(rows_, 3);
    zones_ = new ZoneView;
    column->addWidget(zones_, 4);
    notes_ = softLabel({});
    notes_->setWordWrap(true);
    notes_->setTextFormat(Qt::PlainText);
    column->addWidget(notes_);
    addContent(content, 1);
    for (QComboBox* box : {limits_, mode_}) connect(box, &QComboBox::activated, this, &ClearView::choose);
    for (QLineEdit* field : {duty_, margin_, head_, window_, ownVm_, ownAm_})
        connect(field, &QLineEdit::editingFinished, this, &ClearView::choose);
    connect(power_, &QLineEdit::editingFinished, this, [this] {
        const double before = powerW_;
        setPower(numberIn(power_).value_or(before));
        if (powerW_ != before) Q_EMIT powerChosen(powerW_);
    });
    connect(findChild<QToolButton*>("clearMap"), &QToolButton::clicked, this, &ClearView::mapRequested);
    connect(findChild<QToolButton*>("clearPdf"), &QToolButton::clicked, this, &ClearView::pdfRequested);
    connect(findChild<QToolButton*>("clearCsv"), &QToolButton::clicked, this, &ClearView::csvRequested);
    connect(rows_, &QTableWidget::cellClicked, this, [this](int row) {
        zones_->setRows(shown_, row, expansion_);
        if (shown_ && row >= 0 && row < static_cast<int>(shown_->rows.size()))
            Q_EMIT bandChosen(text(shown_->rows[static_cast<std::size_t>(row)].band));
    });
    setRules({});
    setPower(100.0);
}

void ClearView::setPower(double watts) {
    powerW_ = watts;
    power_->setText(written(watts));
}

void ClearView::setRules(const model::KeepClear& rules) {
    rules_ = rules;
    limits_->setCurrentIndex(static_cast<int>(rules.limits));
    mode_->setCurrentIndex(static_cast<int>(rules.mode));
    for (const auto& [field, value] : {std::pair{duty_, rules.dutyPercent},
                                       {margin_, rules.marginDb},
                                       {head_, rules.headM},
                                       {window_, rules.windowM},
                                       {ownVm_, rules.ownVm},
                                       {ownAm_, rules.ownAm}})
        field->setText(written(value));
    own_->setVisible(rules.limits == model::LimitSet::Own);
}

/// What is no number, or none that makes sense, is put back as it was.
void ClearView::choose() {
    model::KeepClear rules = rules_;
    rules.limits = static_cast<model::LimitSet>(limits_->currentIndex());
    rules.mode = static_cast<model::SendMode>(mode_->currentIndex());
    for (const auto& [field, member] : {std::pair{duty_, &model::KeepClear::dutyPercent},
                                        {margin_, &model::KeepClear::marginDb},
                                        {head_, &model::KeepClear::headM},
                                        {window_, &model::KeepClear::windowM},
                                        {ownVm_, &model::KeepClear::ownVm},
                                        {ownAm_, &model::KeepClear::ownAm}}) {
        rules.*member = numberIn(field).value_or(rules.*member);
    }
    const bool changed = !(rules == rules_);
    setRules(rules);
    if (changed) Q_EMIT rulesChosen(rules);
}

void ClearView::showBand(const QString& band) {
    if (!shown_ || zones_->band() == band) return;
    const auto& rows = shown_->rows;
    const auto row =
        std::find_if(rows.begin(), rows.end(), [&](const auto& r) { return text(r.band) == band; });
    if (row != rows.end()) zones_->setRows(shown_, static_cast<int>(row - rows.begin()), expansion_);
}

void ClearView::setTable(ClearPtr table, ExpansionPtr expansion, const QString& title, bool feetAndInches) {
    shown_ = std::move(table);
    expansion_ = std::move(expansion);
    zones_->setRows(shown_, 0, expansion_);
    setTitle(title);
    feet_ = feetAndInches;
    layRows();
}

void ClearView::setFeet(bool feetAndInches) {
    if (std::exchange(feet_, feetAndInches) != feetAndInches && shown_) layRows();
}

void ClearView::layRows() {
    const io::Table laid = io::clearTable(*shown_, feet_);
    rows_->setRowCount(static_cast<int>(laid.rows.size()));
    rows_->setColumnCount(static_cast<int>(laid.columns.size()));
    QStringList heads;
    for (const auto& column : laid.columns) heads << text(column.head);
    rows_->setHorizontalHeaderLabels(heads);
    for (int r = 0; r < rows_->rowCount(); ++r)
        for (int c = 0; c < rows_->columnCount(); ++c) {
            auto* cell = new QTableWidgetItem(
                text(laid.rows[static_cast<std::size_t>(r)][static_cast<std::size_t>(c)]));
            if (laid.columns[static_cast<std::size_t>(c)].align == io::Align::Right)
                cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            rows_->setItem(r, c, cell);
        }
    // All of it in view: the distances share what the rest leaves.
    rows_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    for (const int words : {0, 1, 2, 3, 4})
        rows_->horizontalHeader()->setSectionResizeMode(words, QHeaderView::ResizeToContents);
    QStringList notes;
    for (const auto& problem : shown_->problems) notes << text(problem);
    for (const auto& note : shown_->notes()) notes << text(note);
    notes_->setText(notes.join("\n"));
}

}  // namespace rm::app
