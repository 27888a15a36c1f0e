#include "app/stages/band/band_page.h"
#include "app/look/text.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QToolButton>
#include <algorithm>

#include "core/quantity/format.h"
#include "core/study/measured_curve.h"

namespace rm::app {

BandPage::BandPage(QWidget* parent) : StudyFrame(parent) {
    setTitle(tr("Band"));
    view_ = new BandView;
    view_->setLarge();
    addContent(view_, 7);
    notes_ = new QLabel;
    notes_->setProperty("soft", true);
    notes_->setFont(textFont(kSmallPt));
    notes_->setWordWrap(true);
    addContent(notes_, 0);
    table_ = new QTableWidget;
    table_->setTabKeyNavigation(false);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(21);
    table_->horizontalHeader()->setFont(textFont(kTinyPt));
    table_->horizontalHeader()->setHighlightSections(false);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionMode(QAbstractItemView::NoSelection);
    table_->setShowGrid(false);
    table_->setFont(textFont(kTinyPt));
    table_->setStyleSheet("QHeaderView::section { padding: 2px 1px; } QTableView::item { padding: 0 2px; }");
    table_->setAccessibleName(tr("Values at frequencies"));
    table_->setToolTip(tr("Click a row to work at its frequency"));
    addContent(table_, 4);
    auto* buttons = new QWidget;
    auto* row = new QHBoxLayout(buttons);
    row->setContentsMargins(0, 2, 0, 2);
    for (const auto& [name, tip, signal] :
         {std::tuple{tr("Import measurements…"), tr("Touchstone or tables from an analyser (Ctrl+Shift+I)"),
                     &BandPage::importRequested},
          std::tuple{tr("Sweep a range…"), tr("Any range at any step (Ctrl+M)"), &BandPage::sweepRequested},
          std::tuple{tr("Export…"),
                     tr("The modelled curve as CSV or Touchstone, seen from the plane shown (Ctrl+E)"),
                     &BandPage::exportRequested}}) {
        auto* button = new QToolButton;
        button->setText(name);
        button->setToolTip(tip);
        button->setFont(textFont(kSmallPt));
        connect(button, &QToolButton::clicked, this, signal);
        row->addWidget(button);
    }
    row->addStretch(1);
    addContent(buttons, 0);
    connect(view_, &BandView::chosen, this, [this] { fillTable(); });
    connect(table_, &QTableWidget::cellClicked, this, [this](int r, int) {
        const auto list = frequencies();
        if (r < static_cast<int>(list.size()))
            Q_EMIT frequencyChosen(list[static_cast<std::size_t>(r)].first);
    });
}

void BandPage::themeChanged() {
    fillTable();
}

void BandPage::setData(const BandData& shown) {
    data_ = shown;
    setTitle(tr("Band: %1").arg(shown.title));
    if (!isVisible()) return;  // filled when it is looked at
    view_->setData(shown);
    fillTable();
    setStale(false);
}

void BandPage::showEvent(QShowEvent* event) {
    StudyFrame::showEvent(event);
    setData(BandData(data_));
}

void BandPage::setStale(bool stale) {
    // It is worked out again by itself: no button.
    view_->setStale(stale);
    table_->setEnabled(!stale);
}

std::vector<std::pair<double, QString>> BandPage::frequencies() const {
    std::vector<std::pair<double, QString>> list;
    if (!data_.sweep || data_.sweep->points.empty()) return list;
    const double low = data_.sweep->points.front().frequencyHz;
    const double high = data_.sweep->points.back().frequencyHz;
    list.emplace_back(low, tr("lower end"));
    list.emplace_back(high, tr("upper end"));
    for (const double spot : data_.band.spotsHz)
        if (spot >= low && spot <= high) list.emplace_back(spot, tr("spot"));
    list.emplace_back(data_.sweep->bestFrequencyHz(), tr("best SWR"));
    for (const double hz : data_.sweep->resonancesHz()) list.emplace_back(hz, "X = 0");
    if (data_.workingHz >= low && data_.workingHz <= high) list.emplace_back(data_.workingHz, tr("working"));
    std::stable_sort(list.begin(), list.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    return list;
}

void BandPage::put(int row, int column, const QString& words, const QColor& colour) {
    auto* item = new QTableWidgetItem(words);
    item->setTextAlignment(column == 1 ? Qt::AlignLeft | Qt::AlignVCenter
                                       : Qt::AlignRight | Qt::AlignVCenter);
    if (colour.isValid()) item->setForeground(colour);
    table_->setItem(row, column, item);
}

void BandPage::fillTable() {
    const auto rows = frequencies();
    const auto plane = view_->plane();
    const bool radio = plane == study::Plane::Radio;
    QStringList titles = {
        "MHz", "", tr("SWR radio"), tr("SWR ant."), radio ? tr("Ω radio") : tr("Ω antenna"), tr("loss dB")};
    const int own = static_cast<int>(titles.size());
    QStringList tips(titles.size());
    for (const auto& curve : data_.measured) {
        const QString which = data_.measured.size() > 1 ? QString(" %1").arg(curve.index + 1) : QString();
        titles << tr("meas. SWR") + which << "ΔSWR" + which << "|Δρ|" + which << tr("meas. Ω") + which;
        for (int c = 0; c < 4; ++c) tips << curve.name;
    }
    table_->clear();
    table_->setColumnCount(static_cast<int>(titles.size()));
    table_->setRowCount(static_cast<int>(rows.size()));
    table_->setHorizontalHeaderLabels(titles);
    for (int c = 0; c < titles.size(); ++c)
        table_->horizontalHeaderItem(c)->setTextAlignment(c == 1 ? Qt::AlignLeft | Qt::AlignVCenter
                                                                 : Qt::AlignRight | Qt::AlignVCenter);
    for (int c = 0; c < titles.size(); ++c) table_->horizontalHeaderItem(c)->setToolTip(tips[c]);
    for (int r = 0; r < static_cast<int>(rows.size()); ++r) {
        const auto& [hz, what] = rows[static_cast<std::size_t>(r)];
        const study::SweepPoint p = data_.sweep->at(hz);
        const double atAntenna = study::swr(p.antennaOhm, data_.sweep->referenceOhm);
        put(r, 0, written(hz / 1e6, 'f', 4));
        put(r, 1, what, theme_.softInk);
        put(r, 2, text(quantity::formatSwr(p.swr)), theme_.forSwr(p.swr, data_.limits));
        put(r, 3, text(quantity::formatSwr(atAntenna)), theme_.softInk);
        put(r, 4, text(quantity::formatImpedance(radio ? p.radioOhm : p.antennaOhm)));
        if (data_.expansion)
            put(r, 5,
                written(study::feedPathJoints(*data_.expansion, p.antennaOhm, hz, p.harnessLossDb)
                            .back()
                            .totalLossDb,
                        'f', 2));
        int column = own;
        for (const auto& curve : data_.measured) {
            const auto found = study::differences(curve.at(plane), *data_.sweep, plane, {hz});
            if (!found.empty()) {
                const auto& d = found.front();
                const QColor hue = theme_.measured(curve.index);
                put(r, column, text(quantity::formatSwr(d.measuredSwr)), hue);
                put(r, column + 1,
                    QString::asprintf("%+.2f", d.measuredSwr - d.modelledSwr).replace('-', "−"));
                put(r, column + 2, d.reflection ? written(*d.reflection, 'f', 3) : "–");
                put(r, column + 3, d.measuredOhm ? text(quantity::formatImpedance(*d.measuredOhm)) : "–",
                    hue);
            }
            column += 4;
        }
    }
    table_->resizeColumnsToContents();
    QStringList said = view_->chart()->notes();
    for (const auto& curve : data_.measured) {
        if (!data_.sweep || curve.at(plane).empty()) {
            said << curve.name + tr(": nothing to show from here");
            continue;
        }
        // Over the whole band.
        std::vector<double> all;
        for (const auto& p : data_.sweep->curve()) all.push_back(p.frequencyHz);
        double worst = 0.0;
        for (const auto& d : study::differences(curve.at(plane), *data_.sweep, plane, all))
            worst = std::max(worst, d.reflection.value_or(0.0));
        if (worst > 0.0) said << tr("%1: |Δρ| up to %2").arg(curve.name).arg(written(worst, 'f', 3));
    }
    notes_->setText(said.join("     "));
}

QString BandPage::cell(int row, const QString& column) const {
    for (int c = 0; c < table_->columnCount(); ++c)
        if (table_->horizontalHeaderItem(c)->text() == column && table_->item(row, c) != nullptr)
            return table_->item(row, c)->text();
    return {};
}

}  // namespace rm::app
