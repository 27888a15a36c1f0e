#include "app/stages/drives/drive_view.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPixmap>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/small_fields.h"
#include "app/look/text.h"
#include "app/stages/compare/compare_matrix.h"
#include "app/stages/compare/overlay_plots.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

QString degrees(double value) {
    return QString("%1°").arg(written(value, 'f', 0)).replace('-', QChar(0x2212));
}

QIcon swatch(const Theme& theme, int row) {
    QPixmap pixmap(18, 12);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setPen(QPen(rowColour(theme, row), 3.0, rowDash(row) == Qt::DashLine ? Qt::DotLine : Qt::SolidLine));
    p.drawLine(1, 6, 17, 6);
    return pixmap;
}

}  // namespace

DriveView::DriveView(QWidget* parent) : Themed(parent) {
    setObjectName("panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 8, 6);
    column->setSpacing(4);
    auto* top = new QHBoxLayout;
    auto* title = new QLabel(tr("Drive sets"));
    title->setFont(textFont(kTitlePt, true));
    top->addWidget(title);
    state_ = new QLabel;
    state_->setProperty("soft", true);
    state_->setFont(textFont(kSmallPt));
    top->addWidget(state_, 1);
    patterns_ = new QToolButton;
    patterns_->setText(tr("Add sets"));
    patterns_->setObjectName("addSets");
    patterns_->setToolTip(tr("Make drive sets by pattern, from where the feeds are"));
    patterns_->setPopupMode(QToolButton::InstantPopup);
    top->addWidget(patterns_);
    column->addLayout(top);
    table_ = new QTableWidget(0, kColumns);
    table_->setTabKeyNavigation(false);
    table_->setHorizontalHeaderLabels({tr("Set"), tr("Gain"), tr("Takeoff"), "−3 dB", tr("Side lobe"),
                                       tr("Nulls"), tr("Antenna, Ω"), "SWR"});
    const char* const tips[] = {
        later("Click to drive the antenna so"),
        later("Strongest lobe, dBi"),
        later("Elevation of the strongest lobe"),
        later("Elevations between which the main lobe is within 3 dB"),
        later("Largest other lobe of the elevation cut, dB below, and where"),
        later("Elevations of the nulls in front"),
        later("Where the feed path begins: the first driven feed, or the common point"),
        later("At the radio, at the working frequency")};
    for (int c = 0; c < kColumns; ++c) table_->horizontalHeaderItem(c)->setToolTip(tr(tips[c]));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(22);
    // Whole numbers; the names have what is left, and of many nulls the first ones are seen.
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(Set, QHeaderView::Stretch);
    table_->horizontalHeader()->setSectionResizeMode(Nulls, QHeaderView::Fixed);
    table_->setFont(textFont(kSmallPt));
    table_->horizontalHeader()->setFont(textFont(kTinyPt, true));
    table_->setColumnWidth(Nulls, 38);
    showWholeHeadings(*table_);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    table_->setIconSize(QSize(18, 12));
    table_->setAccessibleName(tr("Drive sets"));
    table_->setMinimumHeight(90);
    column->addWidget(table_, 4);
    plots_ = new OverlayPlots;
    column->addWidget(plots_, 6);
    connect(table_, &QTableWidget::cellClicked, this, [this](int row) {
        if (rows_ && row < static_cast<int>(rows_->size()))
            Q_EMIT chosen((*rows_)[static_cast<std::size_t>(row)].index);
    });
    table_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(table_, &QTableWidget::customContextMenuRequested, this, [this](const QPoint& where) {
        const int row = table_->rowAt(where.y());
        if (!rows_ || row < 0 || row >= static_cast<int>(rows_->size())) return;
        QMenu menu(this);
        const int index = (*rows_)[static_cast<std::size_t>(row)].index;
        connect(menu.addAction(tr("Pin this set")), &QAction::triggered, this,
                [this, index] { Q_EMIT pinRequested(index); });
        menu.exec(table_->viewport()->mapToGlobal(where));
    });
}

void DriveView::setStale(bool stale) {
    state_->setText(stale ? tr("  working…") : QString());
    table_->setEnabled(!stale);
}

void DriveView::setRows(DrivesPtr rows, int inUse, const model::Angles& angles) {
    rows_ = std::move(rows);
    setStale(false);
    const auto count = static_cast<int>(rows_->size());
    table_->setRowCount(count);
    auto comparison = std::make_shared<study::Comparison>();
    comparison->bands.resize(1);
    comparison->angles = angles;
    int baseline = 0;
    for (int r = 0; r < count; ++r) {
        const auto& row = (*rows_)[static_cast<std::size_t>(r)];
        const bool used = row.index == inUse;
        if (used) baseline = r;
        const auto put = [&](int column, const QString& value, const QString& tip = {}) {
            auto* item = new QTableWidgetItem(value);
            item->setFont(textFont(kSmallPt, used));
            item->setToolTip(tip.isEmpty() ? value : tip);
            if (column != Set) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            table_->setItem(r, column, item);
            return item;
        };
        put(Set, (used ? QString("✓ ") : QString()) + text(row.name))->setIcon(swatch(theme_, r));
        study::CompareRow compared;
        compared.name = row.name;
        compared.headingDeg = row.expansion ? row.expansion->headingDeg : 0.0;
        study::CompareCell cell;
        cell.analysis = row.analysis;
        compared.cells.push_back(cell);
        comparison->rows.push_back(compared);
        if (!row.known()) {
            for (int c = Gain; c < kColumns; ++c) put(c, c == Gain ? "–" : "", text(row.problem));
            continue;
        }
        const auto& f = row.analysis->figures;
        put(Gain, text(quantity::formatDb(f.peak.gainDbi)));
        put(Takeoff, degrees(f.peak.direction.elevationDeg));
        const auto& cut = row.elevation;
        put(Beam, cut.lowDeg && cut.highDeg
                      ? QString("%1 – %2").arg(written(*cut.lowDeg, 'f', 0)).arg(degrees(*cut.highDeg))
                  : cut.highDeg ? tr("to ") + degrees(*cut.highDeg)
                                : QString("–"));
        put(SideLobe, cut.sideLobe ? text(quantity::formatDb(*cut.sideLobeDb())) + tr(" at ") +
                                         degrees(cut.sideLobe->angleDeg)
                                   : QString("–"));
        QStringList nulls;
        for (const auto& null : cut.nulls)
            if (null.angleDeg > 0.5 && null.angleDeg <= 90.0) nulls << degrees(null.angleDeg);
        put(Nulls, nulls.isEmpty() ? QString("–") : nulls.join(" "));
        put(Impedance, text(quantity::formatImpedance(f.antennaOhm)));
        put(Swr, text(quantity::formatSwr(f.swr)));
    }
    constexpr int kWidestNulls = 128;
    table_->resizeColumnToContents(Nulls);
    table_->setColumnWidth(Nulls, std::min(table_->columnWidth(Nulls), kWidestNulls));
    // No taller than its rows: the patterns need the room.
    table_->setMaximumHeight(table_->horizontalHeader()->sizeHint().height() + 22 * count + 6);
    comparison->live = static_cast<std::size_t>(baseline);
    comparison->complete = true;
    plots_->setTitles(tr("Elevation"), tr("Azimuth"));
    plots_->setPatterns(comparison, 0, baseline);
}

}  // namespace rm::app
