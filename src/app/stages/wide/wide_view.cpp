#include "app/stages/wide/wide_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QSplitter>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/small_fields.h"
#include "app/look/text.h"

namespace rm::app {

WideView::WideView(QWidget* parent) : StudyFrame(parent) {
    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 2, 0, 0);
    column->setSpacing(4);
    auto* row = new QHBoxLayout;
    auto* open = new QToolButton;
    open->setText(tr("Open a result…"));
    open->setObjectName("openResult");
    open->setToolTip(tr("A .csv or .jsonl that reedmast-cli study has written"));
    filter_ = new QLineEdit;
    filter_->setAccessibleName(tr("Conditions"));
    filter_->setPlaceholderText(tr("only cases with, for instance, worst SWR < 1.6 and gain > 7"));
    filter_->setToolTip(
        tr("Columns, signs and values, joined by \"and\": what does not meet them is left out"));
    filter_->setClearButtonEnabled(true);
    filter_->setFont(textFont(kSmallPt));
    row->addWidget(open);
    row->addWidget(filter_, 1);
    column->addLayout(row);
    trouble_ = new QLabel;
    trouble_->setObjectName("filterTrouble");
    trouble_->setFont(textFont(kSmallPt));
    trouble_->setTextFormat(Qt::PlainText);
    trouble_->setWordWrap(true);
    trouble_->hide();
    column->addWidget(trouble_);

    auto* middle = new QSplitter(Qt::Vertical);
    model_ = new WideModel(this);
    rows_ = new QTableView;
    rows_->setTabKeyNavigation(false);
    rows_->setModel(model_);
    rows_->setAccessibleName(tr("Cases"));
    rows_->setFont(textFont(kSmallPt));
    rows_->verticalHeader()->hide();
    rows_->verticalHeader()->setDefaultSectionSize(22);
    rows_->horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    rows_->setSortingEnabled(true);
    rows_->setSelectionBehavior(QAbstractItemView::SelectRows);
    rows_->setSelectionMode(QAbstractItemView::SingleSelection);
    rows_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    auto* upper = new QWidget;
    auto* side = new QVBoxLayout(upper);
    side->setContentsMargins(0, 0, 0, 0);
    auto* choices = new QHBoxLayout;
    const char* const names[] = {later("across"), later("up"), later("colour")};
    const char* const tips[] = {
        later("What the marks stand over"), later("How high they stand"),
        later("What their colour says: with what was varied across and up it is a map")};
    for (int i = 0; i < 3; ++i) {
        columns_[i] = smallChoice(tr(names[i]), {}, tr(tips[i]));
        choices->addWidget(softLabel(tr(names[i])));
        choices->addWidget(columns_[i], 1);
        connect(columns_[i], &QComboBox::activated, this, &WideView::applyColumns);
    }
    side->addLayout(choices);
    plot_ = new WidePlot;
    side->addWidget(plot_, 1);
    middle->addWidget(upper);
    middle->addWidget(rows_);
    middle->setSizes({330, 200});
    middle->setChildrenCollapsible(false);
    auto* below = new QHBoxLayout;
    below->addStretch(1);
    take_ = new QToolButton;
    take_->setText(tr("Put it on the bench"));
    take_->setObjectName("takeCase");
    take_->setToolTip(tr("The antenna of the chosen case becomes a design of this project"));
    below->addWidget(take_);
    column->addWidget(middle, 1);
    column->addLayout(below);
    addContent(content, 1);

    connect(open, &QToolButton::clicked, this, &WideView::openRequested);
    connect(filter_, &QLineEdit::textChanged, this, &WideView::applyFilter);
    connect(plot_, &WidePlot::cursorMoved, this, &WideView::refresh);
    connect(plot_, &WidePlot::rowChosen, this, &WideView::choose);
    connect(rows_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &WideView::showChosen);
    connect(rows_, &QTableView::doubleClicked, this, [this] {
        if (const auto which = chosen()) Q_EMIT taken(*which);
    });
    connect(take_, &QToolButton::clicked, this, [this] {
        if (const auto which = chosen()) Q_EMIT taken(*which);
    });
    setTable(nullptr, {});
}

void WideView::setTable(std::shared_ptr<const wide::Table> table, const QString& name) {
    table_ = std::move(table);
    setTitle(table_ ? tr("Study of %1, %2").arg(text(table_->result().cases.given().design.name), name)
                    : tr("Results of studies"));
    {
        const QSignalBlocker quiet(filter_);
        filter_->clear();
    }
    model_->setTable(table_);
    rows_->sortByColumn(0, Qt::AscendingOrder);
    rows_->resizeColumnsToContents();
    for (auto* choice : columns_) choice->clear();
    if (table_) {
        columns_[2]->addItem(tr("nothing"), -1);
        std::size_t firstFigure = table_->columns();
        std::vector<std::size_t> varied;
        for (std::size_t c = 0; c < table_->columns(); ++c) {
            const QString heading = text(table_->heading(c));
            for (auto* choice : columns_) choice->addItem(heading, static_cast<int>(c));
            if (table_->varied(c)) varied.push_back(c);
            if (c > 0 && !table_->varied(c)) firstFigure = std::min(firstFigure, c);
        }
        // Two things varied make a map of the first figure, one a curve of it.
        const bool map = varied.size() >= 2;
        columns_[0]->setCurrentIndex(static_cast<int>(varied.empty() ? 0 : varied[0]));
        columns_[1]->setCurrentIndex(
            static_cast<int>(map ? varied[1] : std::min(firstFigure, table_->columns() - 1)));
        columns_[2]->setCurrentIndex(
            map && firstFigure < table_->columns() ? static_cast<int>(firstFigure) + 1 : 0);
    }
    applyColumns();
    applyFilter();
}

void WideView::applyColumns() {
    WidePlot::Columns columns;
    if (table_) {
        columns.across = static_cast<std::size_t>(columns_[0]->currentData().toInt());
        columns.up = static_cast<std::size_t>(columns_[1]->currentData().toInt());
        if (const int colour = columns_[2]->currentData().toInt(); colour >= 0)
            columns.colour = static_cast<std::size_t>(colour);
    }
    plot_->setTable(table_, columns);
}

void WideView::applyFilter() {
    const auto before = chosen();
    try {
        model_->setFilter(filter_->text());
        trouble_->hide();
    } catch (const std::exception& e) {
        // Half typed: the last conditions that could be read stay.
        trouble_->setText(QString::fromUtf8(e.what()));
        trouble_->show();
    }
    plot_->setRows(model_->rows());
    if (before && model_->lineOf(*before) >= 0) choose(*before);
    showChosen();
}

std::optional<std::size_t> WideView::chosen() const {
    const auto current = rows_->selectionModel()->currentIndex();
    if (!table_ || !current.isValid() || current.row() >= model_->rowCount()) return std::nullopt;
    return model_->rowAt(current.row());
}

void WideView::choose(std::size_t row) {
    const int line = model_->lineOf(row);
    if (line < 0) return;
    rows_->selectRow(line);
    rows_->scrollTo(model_->index(line, 0));
}

void WideView::showChosen() {
    const auto row = chosen();
    plot_->setChosen(row);
    take_->setEnabled(row && table_->result().rows[*row].problem.empty());
    refresh();
}

void WideView::refresh() {
    QString plain = tr(
        "reedmast-cli study works out thousands of variants, builds or searches; here their result is sorted "
        "and sifted, and any case goes to the bench.");
    if (table_) {
        const auto& result = table_->result();
        const auto row = chosen();
        plain = tr("%1 of %2 cases meet the conditions").arg(model_->rowCount()).arg(table_->rows());
        if (result.rows.size() < result.range.count())
            plain +=
                tr("; %1 of the study are not worked out yet").arg(result.range.count() - result.rows.size());
        if (!result.program.empty()) plain += tr(" · worked out by %1").arg(text(result.program));
        if (row && !result.rows[*row].problem.empty())
            plain = tr("Case %1: %2").arg(result.rows[*row].number + 1).arg(text(result.rows[*row].problem));
    }
    setLine(plot_->reading(), {}, plain);
}

}  // namespace rm::app
