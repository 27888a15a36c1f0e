#include "app/ledger.h"

#include <QHeaderView>
#include <cmath>

#include "core/quantity/format.h"

namespace rm::app {

namespace {

const QStringList kColumns = {
    "design", "frequency", "R, X in Ω", "SWR", "SWR in band",   "2:1 width", "peak",       "takeoff",
    "5°",     "10°",       "15°",       "30°", "front-to-back", "beamwidth", "efficiency", "to ground"};
const QStringList kTips = {
    "Live: the design on the bench",
    "Frequency of the figures",
    "Resistance and reactance at the feed",
    "Standing wave ratio at this frequency, to the reference impedance",
    "Best and worst SWR in the working band",
    "How much of the band has an SWR of at most 2",
    "Gain of the strongest lobe in dBi",
    "Elevation of the strongest lobe",
    "Gain in dBi at 5° elevation, towards the strongest lobe",
    "Gain in dBi at 10° elevation",
    "Gain in dBi at 15° elevation",
    "Gain in dBi at 30° elevation",
    "Strongest lobe against the opposite bearing",
    "Half-power width in azimuth",
    "What leaves wires and loads, to the sky or into the ground, over the power into the feeds",
    "Power that heats the ground, over the power into the feeds"};

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

}  // namespace

Ledger::Ledger(QWidget* parent) : QTableWidget(1, static_cast<int>(kColumns.size()), parent) {
    setHorizontalHeaderLabels(kColumns);
    for (int c = 0; c < columnCount(); ++c) {
        horizontalHeaderItem(c)->setToolTip(kTips[c]);
        horizontalHeaderItem(c)->setTextAlignment(c == 0 ? Qt::AlignLeft | Qt::AlignVCenter
                                                         : Qt::AlignRight | Qt::AlignVCenter);
    }
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(24);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setFixedHeight(22);
    horizontalHeader()->setFont(textFont(kSmallPt));
    horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    horizontalHeader()->setSectionResizeMode(0, QHeaderView::Interactive);
    horizontalHeader()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(4, QHeaderView::ResizeToContents);
    for (const int c : {1, 5, 6, 12, 13, 14, 15})
        horizontalHeader()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    horizontalHeader()->setMinimumSectionSize(44);
    setColumnWidth(0, 176);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionMode(QAbstractItemView::NoSelection);
    setFocusPolicy(Qt::NoFocus);
    setShowGrid(false);
    setFont(textFont(kTextPt));
    setAccessibleName("Ledger");
}

int Ledger::columnOf(const QString& title) const {
    return static_cast<int>(kColumns.indexOf(title));
}

void Ledger::put(const QString& column, const QString& value, const QColor& colour) {
    const int c = columnOf(column);
    QTableWidgetItem* cell = item(0, c);
    if (cell == nullptr) {
        cell = new QTableWidgetItem;
        cell->setTextAlignment(c == 0 ? Qt::AlignLeft | Qt::AlignVCenter : Qt::AlignRight | Qt::AlignVCenter);
        setItem(0, c, cell);
    }
    cell->setText(value);
    if (colour.isValid()) cell->setForeground(colour);
}

QString Ledger::figure(const QString& column) const {
    const QTableWidgetItem* cell = item(0, columnOf(column));
    return cell == nullptr ? QString() : cell->text();
}

void Ledger::setTheme(const Theme& theme) {
    theme_ = theme;
    setStale(false);
}

void Ledger::setDesign(const QString& name) {
    put("design", "live: " + name, theme_.copper);
}

void Ledger::setAnalysis(AnalysisPtr analysis) {
    const auto& f = analysis->figures;
    put("frequency", text(quantity::formatFrequency(f.frequencyHz)));
    put("R, X in Ω", text(quantity::formatImpedance(f.impedanceOhm.front())));
    put("SWR", text(quantity::formatSwr(f.swr)));
    put("peak", text(quantity::formatDb(f.peak.gainDbi, 2)) + " dBi");
    put("takeoff", QString("%1°").arg(f.peak.direction.elevationDeg, 0, 'f', 1));
    for (const int angle : {5, 10, 15, 30})
        put(QString("%1°").arg(angle), text(quantity::formatDb(analysis->elevation.at(angle))));
    put("front-to-back", text(quantity::formatDb(f.frontToBackDb)) + " dB");
    put("beamwidth",
        f.beamwidthDeg > 359.0 ? QString("round") : QString("%1°").arg(std::lround(f.beamwidthDeg)));
    put("efficiency", QString("%1 %").arg(100.0 * f.efficiency, 0, 'f', 1));
    put("to ground", QString("%1 %").arg(100.0 * f.groundShare, 0, 'f', f.groundShare < 0.1 ? 1 : 0));
}

void Ledger::setSweep(SweepPtr sweep, const QString& band) {
    if (!sweep || sweep->points.empty()) return;
    put("SWR in band",
        QString("%1 – %2").arg(text(quantity::formatSwr(sweep->bestSwr())),
                               text(quantity::formatSwr(sweep->worstSwr()))),
        theme_.forSwr(sweep->worstSwr(), limits_));
    const double width = sweep->bandwidthHz(2.0);
    const double whole = sweep->points.back().frequencyHz - sweep->points.front().frequencyHz;
    put("2:1 width", width <= 0.0            ? QString("none")
                     : width > 0.999 * whole ? QString("all")
                                             : QString("%1 kHz").arg(std::lround(width / 1e3)));
    item(0, columnOf("SWR in band"))->setToolTip(band);
}

void Ledger::setStale(bool stale) {
    for (int c = 1; c < columnCount(); ++c)
        if (QTableWidgetItem* cell = item(0, c)) {
            QColor ink = theme_.ink;
            if (stale) ink.setAlphaF(0.35F);
            cell->setForeground(ink);
        }
    if (QTableWidgetItem* cell = item(0, 0)) cell->setForeground(theme_.copper);
}

}  // namespace rm::app
