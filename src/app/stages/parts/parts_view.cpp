#include "app/stages/parts/parts_view.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

PartsView::PartsView(QWidget* parent) : StudyFrame(parent) {
    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    table_ = new QTableWidget;
    table_->setTabKeyNavigation(false);
    table_->setAccessibleName(tr("What each part does"));
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(24);
    table_->setFont(textFont(kSmallPt));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    column->addWidget(table_, 1);
    auto* row = new QHBoxLayout;
    row->addStretch(1);
    pin_ = new QToolButton;
    pin_->setObjectName("pinWithout");
    pin_->setText(tr("Pin it without the ticked ones"));
    pin_->setToolTip(tr("Its SWR curve, cuts and figures without these parts, beside those of the whole"));
    row->addWidget(pin_);
    column->addLayout(row);
    addContent(content, 1);
    connect(pin_, &QToolButton::clicked, this, &PartsView::pinRequested);
    connect(table_, &QTableWidget::currentCellChanged, this, &PartsView::refresh);
    connect(table_, &QTableWidget::itemChanged, this, [this] { pin_->setEnabled(!ticked().empty()); });
}

void PartsView::setEffects(std::shared_ptr<const study::PartEffects> effects, const QString& title) {
    effects_ = std::move(effects);
    setTitle(title);
    const QStringList heads = {tr("without"), tr("current"),    "SWR",           tr("peak"), tr("takeoff"),
                               "F/B",         tr("efficiency"), tr("to the sky")};
    table_->clear();
    table_->setColumnCount(static_cast<int>(heads.size()));
    table_->setHorizontalHeaderLabels(heads);
    table_->setRowCount(static_cast<int>(effects_->rows.size()) + 1);
    const auto put = [&](int r, int c, const QString& words) {
        auto* cell = new QTableWidgetItem(words);
        if (c > 0) cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        table_->setItem(r, c, cell);
        return cell;
    };
    // Of the whole the figures, of the rest by how much they differ from these.
    const auto figures = [&](int r, const study::Figures& f, double worst, bool whole) {
        const auto& w = effects_->whole;
        const auto differs = [&](double value, double of, int decimals, const QString& unit) {
            const double shown = whole ? of : value - of;
            const QString sign = !whole && shown > 0.0 ? "+" : "";
            return QString(sign + written(shown, 'f', decimals) + unit).replace('-', QChar(0x2212));
        };
        put(r, 2, text(quantity::formatSwr(worst)));
        put(r, 3, differs(f.peak.gainDbi, w.peak.gainDbi, 2, whole ? " dBi" : " dB"));
        put(r, 4, differs(f.peak.direction.elevationDeg, w.peak.direction.elevationDeg, 1, "°"));
        put(r, 5, differs(f.frontToBackDb, w.frontToBackDb, 1, " dB"));
        put(r, 6, differs(100.0 * f.efficiency, 100.0 * w.efficiency, 1, " %"));
        put(r, 7, differs(100.0 * f.skyShare, 100.0 * w.skyShare, 1, " %"));
    };
    put(0, 0, tr("nothing: the whole"));
    figures(0, effects_->whole, effects_->worstSwr, true);
    for (std::size_t i = 0; i < effects_->rows.size(); ++i) {
        const auto& effect = effects_->rows[i];
        const int r = static_cast<int>(i) + 1;
        auto* name = put(r, 0, effect.without.size() > 1 ? tr("all of these") : text(effect.name()));
        if (effect.without.size() == 1) {
            name->setFlags(name->flags() | Qt::ItemIsUserCheckable);
            name->setCheckState(Qt::Unchecked);
        }
        put(r, 1, QString("%1 %").arg(written(100.0 * effect.share, 'f', 0)));
        if (effect.problem.empty())
            figures(r, effect.figures, effect.worstSwr, false);
        else
            put(r, 2, tr("none"));
    }
    // All of it in view: the figures share what the names leave.
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    pin_->setEnabled(false);
    refresh();
}

std::vector<std::string> PartsView::ticked() const {
    std::vector<std::string> parts;
    for (int r = 1; effects_ && r < table_->rowCount(); ++r)
        if (const auto* cell = table_->item(r, 0); cell != nullptr && cell->checkState() == Qt::Checked)
            parts.push_back(effects_->rows[static_cast<std::size_t>(r) - 1].without.front());
    return parts;
}

void PartsView::setStale(bool stale) {
    StudyFrame::setStale(stale);
    refresh();
}

/// The row under the hand in words; without one all of them.
void PartsView::refresh() {
    if (!effects_) return;
    const int row = table_->currentRow();
    QStringList words;
    for (std::size_t i = 0; i < effects_->rows.size(); ++i)
        if (row <= 0 || row == static_cast<int>(i) + 1) words << text(effects_->sentence(effects_->rows[i]));
    if (words.isEmpty()) words << tr("Nothing stands here but what is fed.");
    setLine({}, tr("The antenna has changed since: these are the figures before."), words.join(" "));
}

}  // namespace rm::app
