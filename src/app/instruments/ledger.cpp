#include "app/instruments/ledger.h"
#include "app/look/small_fields.h"
#include "app/look/text.h"

#include <QContextMenuEvent>
#include <QHeaderView>
#include <QMenu>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/quantity/format.h"
#include "core/study/lobes.h"

namespace rm::app {

namespace {

constexpr int kRowHeight = 22;
constexpr int kNameColumn = 0;

}  // namespace

/// A figure of the ledger. `watch` is the index of a watch angle where the column is one.
struct Ledger::Column {
    enum class Kind {
        Name,
        Frequency,
        Impedance,
        Swr,
        SwrBand,
        Width,
        Peak,
        Takeoff,
        Watch,
        Needed,
        FrontToBack,
        FrontToRear,
        Beamwidth,
        SideLobe,
        Rdf,
        Efficiency,
        Average,
        Sky,
        Ground,
        Soil,
        Reflection
    };
    Kind kind;
    const char* title;
    const char* tip;
    int better = 0;  ///< 1: more is better, -1: less is better
    bool shown = true;
    int width = 60;
    std::size_t watch = 0;
};

const std::vector<Ledger::Column>& Ledger::columns() {
    using K = Column::Kind;
    static const std::vector<Column> list = {
        {K::Name, later("design"),
         later("Live: the design on the bench; below it the pins (right-click for what can be done)")},
        {K::Frequency, later("frequency"), later("Frequency of the figures"), 0, true, 86},
        {K::Impedance, "R, X in Ω", later("Resistance and reactance at the feed"), 0, true, 116},
        {K::Swr, "SWR", later("Standing wave ratio at this frequency, to the reference impedance"), -1, true,
         48},
        {K::SwrBand, later("SWR in band"), later("Best and worst SWR in the working band"), -1, true, 86},
        {K::Width, "", later("How much of the band has an SWR of at most the second limit"), 1, true, 66},
        {K::Peak, later("peak"), later("Gain of the strongest lobe in dBi"), 1, true, 74},
        {K::Takeoff, later("takeoff"), later("Elevation of the strongest lobe"), 0, true, 52},
        {K::Watch, "", later("Gain in dBi at this elevation, towards the bearing of the elevation cut"), 1,
         true, 46, 0},
        {K::Watch, "", later("Gain in dBi at this elevation"), 1, true, 46, 1},
        {K::Watch, "", later("Gain in dBi at this elevation"), 1, true, 46, 2},
        {K::Watch, "", later("Gain in dBi at this elevation"), 1, true, 46, 3},
        {K::Needed, later("needed"), later("Mean gain in dBi over the angles that the wanted distances need"),
         1, false, 56},
        {K::FrontToBack, later("front-to-back"), later("Strongest lobe against the opposite bearing"), 1,
         true, 80},
        {K::FrontToRear, later("front-to-rear"), later("Strongest lobe against the worst of the rear half"),
         1, false, 88},
        {K::Beamwidth, later("beamwidth"), later("Half-power width in azimuth"), 0, true, 72},
        {K::SideLobe, later("side lobe"), later("Largest side lobe of the azimuth cut against its maximum"),
         -1, false, 68},
        {K::Rdf, "RDF", later("Peak over the mean of all directions: what counts for receiving"), 1, false,
         60},
        {K::Efficiency, later("efficiency"),
         later("What leaves wires and loads, to the sky or into the ground, over the power into the feeds"),
         1, true, 66},
        {K::Average, later("mean gain"),
         later("Mean gain over all directions in dB: what the loss in wires, loads and ground takes"), 1,
         false, 66},
        {K::Sky, later("to the sky"), later("What goes to the sky over the power into the feeds"), 1, true,
         62},
        {K::Ground, later("to ground"), later("Power that heats the ground, over the power into the feeds"),
         -1, true, 66},
        {K::Soil, later("near soil"),
         later(
             "Of what goes to ground, what heats the soil round the wires: more and longer radials, or more "
             "height, "
             "save it"),
         -1, false, 62},
        {K::Reflection, later("reflection"),
         later("Of what goes to ground, what the ground keeps of the waves that it reflects: the soil far "
               "around "
               "decides"),
         -1, false, 66}};
    return list;
}

Ledger::Ledger(QWidget* parent) : Themed(1, static_cast<int>(columns().size()), parent) {
    setTabKeyNavigation(false);
    verticalHeader()->hide();
    verticalHeader()->setDefaultSectionSize(kRowHeight);
    verticalHeader()->setMinimumSectionSize(kRowHeight);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setFixedHeight(22);
    horizontalHeader()->setFont(textFont(kSmallPt));
    horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    horizontalHeader()->setSectionResizeMode(kNameColumn, QHeaderView::Stretch);
    horizontalHeader()->setMinimumSectionSize(40);
    setStyleSheet("QHeaderView::section { padding: 2px 4px; } QTableView::item { padding: 0 3px; }");
    for (int c = 1; c < columnCount(); ++c) setColumnWidth(c, columns()[static_cast<std::size_t>(c)].width);
    horizontalHeader()->setSectionsClickable(true);
    setEditTriggers(QAbstractItemView::DoubleClicked);
    setSelectionMode(QAbstractItemView::NoSelection);
    setFocusPolicy(Qt::StrongFocus);
    setTabKeyNavigation(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setShowGrid(false);
    setFont(textFont(kTextPt));
    setAccessibleName(tr("Ledger"));
    for (int c = 0; c < columnCount(); ++c) setColumnHidden(c, !columns()[static_cast<std::size_t>(c)].shown);
    connect(horizontalHeader(), &QHeaderView::sectionClicked, this, [this](int c) {
        sortColumn_ = c == kNameColumn || c == sortColumn_ ? -1 : c;
        fill();
    });
    connect(this, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (filling_ || item->column() != kNameColumn || item->row() == 0) return;
        // The marks that stand behind a name are not part of it.
        QString name = item->text().trimmed();
        for (const QString& mark : {tr("(baseline)"), tr("(hidden)"), tr("(not for this band)")})
            if (name.endsWith(mark)) name = name.chopped(mark.size()).trimmed();
        Q_EMIT pinRenamed(pinIn(item->row()), name);
    });
    connect(this, &QTableWidget::cellClicked, this, [this](int row, int column) {
        if (row > 0 && column == kNameColumn &&
            visualItemRect(item(row, column)).left() + 22 > viewport()->mapFromGlobal(QCursor::pos()).x())
            Q_EMIT pinToggled(pinIn(row));
    });
    fill();
}

QString Ledger::titleOf(int column) const {
    const Column& c = columns()[static_cast<std::size_t>(column)];
    if (c.kind == Column::Kind::Watch) return QString("%1°").arg(angles_.watchDeg[c.watch]);
    if (c.kind == Column::Kind::Width) return tr("%1:1 width").arg(limits_[1]);
    return tr(c.title);
}

int Ledger::columnOf(const QString& title) const {
    for (int c = 0; c < columnCount(); ++c)
        if (titleOf(c) == title) return c;
    return -1;
}

QString Ledger::figure(const QString& column, int row) const {
    const QTableWidgetItem* cell = item(row, columnOf(column));
    return cell == nullptr ? QString() : cell->text();
}

int Ledger::wantedHeight() const {
    return 24 + kRowHeight * std::min(4, 1 + static_cast<int>(pins_.size())) + 4;
}

void Ledger::themeChanged() {
    fill();
}

void Ledger::show(const ResultsPtr& results) {
    const bool otherRange = now_ && (now_->lowHz != results->lowHz || now_->highHz != results->highHz);
    now_ = results;
    if (results->analysis) figured_ = results;
    if (otherRange) swept_.reset();
    if (results->sweep) swept_ = results;
    // While a dimension is dragged nothing is checked: the doubt of a moment ago stands, and does not
    // flicker.
    const model::Id design = results->design().id;
    if (results->doubt || results->finished || doubtOf_ != design) doubt_ = results->doubt;
    doubtOf_ = design;
    limits_ = results->project->swrLimits;
    angles_ = results->project->angles;
    pins_ = results->project->pins;
    baseline_ = results->project->baseline;
    fill();
}

void Ledger::setStale(bool stale) {
    if (stale_ == stale) return;
    stale_ = stale;
    fill();
}

void Ledger::sortBy(const QString& column) {
    sortColumn_ = columnOf(column);
    fill();
}

void Ledger::setColumnShown(const QString& column, bool shown) {
    setColumnHidden(columnOf(column), !shown);
}

Ledger::Value Ledger::valueOf(const Column& column, const study::Analysis* a, const study::Sweep* s) const {
    using K = Column::Kind;
    const bool ofSweep = column.kind == K::SwrBand || column.kind == K::Width;
    if (ofSweep ? s == nullptr || s->points.empty() : a == nullptr) return {};
    const auto decibel = [](double v, const char* unit = "", int decimals = 1) {
        return Value{text(quantity::formatDb(v, decimals)) + unit, v};
    };
    const auto percent = [](double share) {
        return Value{QString("%1 %").arg(written(100.0 * share, 'f', share < 0.1 ? 1 : 0)), 100.0 * share};
    };
    switch (column.kind) {
        case K::Frequency:
            return {text(quantity::formatFrequency(a->figures.frequencyHz)), std::nullopt};
        case K::Impedance:
            return {text(quantity::formatImpedance(a->figures.antennaOhm)), std::nullopt};
        case K::Swr:
            return {text(quantity::formatSwr(a->figures.swr)), a->figures.swr};
        case K::SwrBand:
            return {QString("%1 – %2").arg(text(quantity::formatSwr(s->bestSwr())),
                                           text(quantity::formatSwr(s->worstSwr()))),
                    s->worstSwr(), theme_.forSwr(s->worstSwr(), limits_)};
        case K::Width: {
            const double width = s->bandwidthHz(limits_[1]);
            const double whole = s->points.back().frequencyHz - s->points.front().frequencyHz;
            return {width <= 0.0            ? tr("none")
                    : width > 0.999 * whole ? tr("all")
                                            : QString("%1 kHz").arg(std::lround(width / 1e3)),
                    width / 1e3};
        }
        case K::Peak:
            return decibel(a->figures.peak.gainDbi, " dBi", 2);
        case K::Takeoff:
            return {QString("%1°").arg(written(a->figures.peak.direction.elevationDeg, 'f', 1)),
                    a->figures.peak.direction.elevationDeg};
        case K::Watch:
            return decibel(a->elevation.at(angles_.watchDeg[column.watch]));
        case K::Needed:
            if (const auto range = study::neededAngles(angles_))
                return decibel(study::meanGainDbi(a->elevation, *range));
            return {};
        case K::FrontToBack:
            return decibel(a->figures.frontToBackDb, " dB");
        case K::FrontToRear:
            return decibel(a->figures.frontToRearDb, " dB");
        case K::Beamwidth:
            return {a->figures.beamwidthDeg > 359.0
                        ? tr("round")
                        : QString("%1°").arg(std::lround(a->figures.beamwidthDeg)),
                    a->figures.beamwidthDeg};
        case K::SideLobe:
            if (const auto side = study::readCut(a->azimuth).sideLobeDb()) return decibel(*side, " dB");
            return {tr("none"), std::nullopt};
        case K::Rdf:
            return decibel(a->figures.directivityDbi, " dB");
        case K::Efficiency:
            return {QString("%1 %").arg(written(100.0 * a->figures.efficiency, 'f', 1)),
                    100.0 * a->figures.efficiency};
        case K::Average:
            return decibel(10.0 * std::log10(std::max(1e-9, a->figures.skyShare)), " dB", 2);
        case K::Sky:
            return percent(a->figures.skyShare);
        case K::Ground:
            return percent(a->figures.groundShare);
        case K::Soil:
            return percent(a->figures.soilShare());
        case K::Reflection:
            return percent(a->figures.reflectionShare);
        default:
            return {};
    }
}

void Ledger::addDoubt(const Column& column, const study::Analysis* a, const study::Doubt* doubt,
                      Value& value) {
    using K = Column::Kind;
    const bool touched = column.kind == K::Impedance || column.kind == K::Peak;
    if (!touched || a == nullptr) return;
    if (doubt == nullptr) {
        value.tip = tr("Not checked against a finer mesh: the antenna is large, or there was no time yet.");
        return;
    }
    value.tip = text(doubt->sentence());
    if (column.kind == K::Impedance && doubt->impedance > study::kSettledImpedance)
        value.text += QString(" ± %1").arg(written(doubt->ofOhm(a->figures.antennaOhm), 'g', 2));
    if (column.kind == K::Peak && doubt->gainDb > study::kSettledGainDb)
        value.text += QString(" ± %1").arg(written(doubt->gainDb, 'g', 1));
}

/// Pins from top to bottom.
std::vector<int> Ledger::order() const {
    std::vector<int> list(pins_.size());
    std::iota(list.begin(), list.end(), 0);
    const PinsPtr results = now_ ? now_->pins : nullptr;
    if (sortColumn_ < 0 || !results || results->size() != pins_.size()) return list;
    const Column& column = columns()[static_cast<std::size_t>(sortColumn_)];
    const auto number = [&](int pin) {
        const auto& r = (*results)[static_cast<std::size_t>(pin)];
        return r ? valueOf(column, r->analysis.get(), r->sweep.get()).number : std::nullopt;
    };
    std::stable_sort(list.begin(), list.end(), [&](int a, int b) {
        const auto x = number(a);
        const auto y = number(b);
        if (!x || !y) return x.has_value();
        return column.better < 0 ? *x < *y : *x > *y;
    });
    return list;
}

model::Id Ledger::pinIn(int row) const {
    const auto list = order();
    if (row < 1 || row > static_cast<int>(list.size())) return 0;
    return pins_[static_cast<std::size_t>(list[static_cast<std::size_t>(row - 1)])].id;
}

int Ledger::rowOf(int pin) const {
    const auto list = order();
    return 1 + static_cast<int>(std::find(list.begin(), list.end(), pin) - list.begin());
}

void Ledger::fill() {
    // What stays as it is is not painted again: cells say nothing where they are given what they have.
    filling_ = true;
    QStringList titles;
    for (int c = 0; c < columnCount(); ++c) titles << titleOf(c);
    if (titles != titles_) {
        setHorizontalHeaderLabels(titles);
        showWholeHeadings(*this);
    }
    for (int c = 0; c < columnCount() && titles != titles_; ++c) {
        horizontalHeaderItem(c)->setToolTip(tr(columns()[static_cast<std::size_t>(c)].tip) +
                                            tr("\nClick to sort the pins; right-click to choose columns."));
        horizontalHeaderItem(c)->setTextAlignment(c == kNameColumn ? Qt::AlignLeft | Qt::AlignVCenter
                                                                   : Qt::AlignRight | Qt::AlignVCenter);
    }
    titles_ = titles;
    setRowCount(1 + static_cast<int>(pins_.size()));
    const auto list = order();
    const PinsPtr results = now_ && now_->pins && now_->pins->size() == pins_.size() ? now_->pins : nullptr;
    const auto resultOf = [&](int pin) -> const PinResult* {
        return results ? (*results)[static_cast<std::size_t>(pin)].get() : nullptr;
    };
    const study::Analysis* analysis = figured_ ? figured_->analysis.get() : nullptr;
    const study::Sweep* sweep = swept_ ? swept_->sweep.get() : nullptr;
    const PinResult* base =
        baseline_ >= 0 && baseline_ < static_cast<int>(pins_.size()) ? resultOf(baseline_) : nullptr;
    for (int c = 0; c < columnCount(); ++c) {
        const Column& column = columns()[static_cast<std::size_t>(c)];
        std::vector<Value> values;
        values.push_back(valueOf(column, analysis, sweep));
        addDoubt(column, analysis, doubt_.get(), values.back());
        const bool ofSweep = column.kind == Column::Kind::SwrBand || column.kind == Column::Kind::Width;
        const bool older = ofSweep ? swept_ != now_ : figured_ != now_;
        for (const int pin : list) {
            const PinResult* r = resultOf(pin);
            values.push_back(r != nullptr ? valueOf(column, r->analysis.get(), r->sweep.get()) : Value{});
            if (r != nullptr) addDoubt(column, r->analysis.get(), r->doubt.get(), values.back());
        }
        std::optional<double> reference;
        if (base != nullptr) reference = valueOf(column, base->analysis.get(), base->sweep.get()).number;
        // The best of several stands out.
        int best = -1;
        int known = 0;
        for (std::size_t i = 0; column.better != 0 && i < values.size(); ++i) {
            if (!values[i].number) continue;
            ++known;
            if (best < 0 ||
                column.better * (*values[i].number - *values[static_cast<std::size_t>(best)].number) > 1e-9)
                best = static_cast<int>(i);
        }
        for (int row = 0; row < rowCount(); ++row) {
            QTableWidgetItem* cell = item(row, c);
            if (cell == nullptr) {
                cell = new QTableWidgetItem;
                cell->setTextAlignment(c == kNameColumn ? Qt::AlignLeft | Qt::AlignVCenter
                                                        : Qt::AlignRight | Qt::AlignVCenter);
                setItem(row, c, cell);
            }
            const bool named = column.kind == Column::Kind::Name;
            const Qt::ItemFlags flags = named && row > 0
                                            ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                                            : Qt::ItemFlags(Qt::ItemIsEnabled);
            if (cell->flags() != flags) cell->setFlags(flags);
            QColor ink = theme_.ink;
            QString words;
            if (named && row == 0) {
                words = tr("live: ") + (now_ ? text(now_->design().name) : QString());
                ink = theme_.copper;
            } else if (named) {
                const int pin = list[static_cast<std::size_t>(row - 1)];
                const auto& p = pins_[static_cast<std::size_t>(pin)];
                words = text(p.name) + (pin == baseline_ ? tr("  (baseline)") : "") +
                        (!p.shown                              ? tr("  (hidden)")
                         : results && resultOf(pin) == nullptr ? tr("  (not for this band)")
                                                               : "");
                ink = p.shown ? theme_.words(theme_.overlay(overlayOf(p, static_cast<std::size_t>(pin))))
                              : theme_.softInk;
            } else {
                const Value& v = values[static_cast<std::size_t>(row)];
                words = v.text;
                if (v.colour.isValid()) ink = v.colour;
                cell->setToolTip(row == 0 && column.kind == Column::Kind::SwrBand && now_ ? now_->rangeName()
                                                                                          : v.tip);
                const bool isBase = row > 0 && list[static_cast<std::size_t>(row - 1)] == baseline_;
                if (reference && v.number && !isBase) {
                    const double d = *v.number - *reference;
                    words =
                        QString("%1%2")
                            .arg(d < 0.0 ? "−" : "+")
                            .arg(written(std::abs(d), 'f',
                                         std::abs(d) < 99.5 ? (column.kind == Column::Kind::Swr ||
                                                                       column.kind == Column::Kind::SwrBand ||
                                                                       column.kind == Column::Kind::Peak
                                                                   ? 2
                                                                   : 1)
                                                            : 0));
                    ink = theme_.ink;
                }
            }
            const bool stands = known > 1 && best == row && !named;
            if (cell->font().bold() != stands) cell->setFont(textFont(kTextPt, stands));
            if (!named && (row == 0 ? older && stale_ : stale_)) ink.setAlphaF(0.35F);
            cell->setForeground(ink);
            cell->setText(words);
        }
    }
    filling_ = false;
}

void Ledger::contextMenuEvent(QContextMenuEvent* event) {
    QMenu menu(this);
    const int row = rowAt(viewport()->mapFromGlobal(event->globalPos()).y());
    if (row > 0 && row < rowCount()) {
        const model::Id pin = pinIn(row);
        const model::Pin* shown = model::find(pins_, pin);
        const bool base = shown != nullptr && static_cast<int>(model::indexOf(pins_, pin)) == baseline_;
        const auto add = [&](const QString& name, auto slot) {
            connect(menu.addAction(name), &QAction::triggered, this, slot);
        };
        add(tr("Compare everything with this (baseline)"), [this, pin, base] {
            if (base)
                Q_EMIT baselineCleared();
            else
                Q_EMIT baselineChosen(pin);
        });
        add(shown != nullptr && !shown->shown ? tr("Show") : tr("Hide"),
            [this, pin] { Q_EMIT pinToggled(pin); });
        add(tr("Rename"), [this, row] {
            if (QTableWidgetItem* name = item(row, kNameColumn)) editItem(name);
        });
        add(tr("Restore: the live design becomes this"), [this, pin] { Q_EMIT pinRestored(pin); });
        add(tr("Branch: a new design from this"), [this, pin] { Q_EMIT pinBranched(pin); });
        QMenu* colours = menu.addMenu(tr("Colour"));
        for (int i = 0; i < static_cast<int>(theme_.overlays.size()); ++i) {
            QPixmap patch(14, 14);
            patch.fill(theme_.overlay(static_cast<std::size_t>(i)));
            connect(colours->addAction(QIcon(patch), tr("Colour %1").arg(i + 1)), &QAction::triggered, this,
                    [this, pin, i] { Q_EMIT pinColoured(pin, i); });
        }
        add(tr("Up"), [this, pin] { Q_EMIT pinMoved(pin, -1); });
        add(tr("Down"), [this, pin] { Q_EMIT pinMoved(pin, 1); });
        add(tr("Remove"), [this, pin] { Q_EMIT pinRemoved(pin); });
        menu.addSeparator();
    }
    if (baseline_ >= 0)
        connect(menu.addAction(tr("No baseline")), &QAction::triggered, this,
                [this] { Q_EMIT baselineCleared(); });
    QMenu* chosen = menu.addMenu(tr("Columns"));
    for (int c = 1; c < columnCount(); ++c) {
        QAction* action = chosen->addAction(titleOf(c));
        action->setCheckable(true);
        action->setChecked(!isColumnHidden(c));
        connect(action, &QAction::toggled, this, [this, c](bool on) { setColumnHidden(c, !on); });
    }
    menu.exec(event->globalPos());
}

}  // namespace rm::app
