#include "app/stages/compare/compare_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/look/text.h"
#include "app/stages/compare/overlay_plots.h"

namespace rm::app {

CompareView::CompareView(QWidget* parent) : QFrame(parent) {
    setObjectName("panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 6, 8, 6);
    column->setSpacing(4);
    auto* top = new QHBoxLayout;
    auto* title = new QLabel(tr("Compare"));
    title->setFont(textFont(kTitlePt, true));
    top->addWidget(title);
    state_ = new QLabel;
    state_->setProperty("soft", true);
    state_->setFont(textFont(kSmallPt));
    top->addWidget(state_, 1);
    quantity_ = new QComboBox;
    quantity_->setAccessibleName(tr("Figure compared"));
    quantity_->setMinimumWidth(190);
    top->addWidget(quantity_);
    column->addLayout(top);
    matrix_ = new CompareMatrix;
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(matrix_);
    scroll->setMinimumHeight(110);
    column->addWidget(scroll, 4);
    plots_ = new OverlayPlots;
    column->addWidget(plots_, 6);
    connect(quantity_, &QComboBox::activated, this,
            [this] { matrix_->setQuantity(static_cast<study::CompareQuantity>(quantity_->currentIndex())); });
    connect(matrix_, &CompareMatrix::bandChosen, this, [this](int band) {
        matrix_->setBand(band);
        refresh();
    });
    connect(matrix_, &CompareMatrix::baselineChosen, this, [this](int row) {
        matrix_->setBaseline(row);
        refresh();
    });
    connect(matrix_, &CompareMatrix::cellChosen, this, &CompareView::cellChosen);
}

void CompareView::setComparison(ComparisonPtr comparison, const model::SwrLimits& limits, int band) {
    const bool first = !comparison_;
    comparison_ = std::move(comparison);
    const int chosen = std::max(0, quantity_->currentIndex());
    quantity_->clear();
    quantity_->addItem(tr("Worst SWR at the radio"));
    for (const double angle : comparison_->angles.watchDeg)
        quantity_->addItem(tr("Gain at %1°, dBi").arg(angle));
    quantity_->addItems({tr("Peak gain, dBi"), tr("Takeoff angle"), tr("Efficiency")});
    quantity_->setCurrentIndex(chosen);
    matrix_->setQuantity(static_cast<study::CompareQuantity>(chosen));
    matrix_->setComparison(comparison_, limits);
    if (first) matrix_->setBand(band);
    live_ = static_cast<int>(comparison_->live);
    setStale(false);
    refresh();
}

void CompareView::setStale(bool stale) {
    state_->setText(stale ? tr("  the project has changed: working…") : QString());
    matrix_->setEnabled(!stale);
}

void CompareView::refresh() {
    plots_->setPatterns(comparison_, matrix_->band(), matrix_->baseline() >= 0 ? matrix_->baseline() : live_);
}

}  // namespace rm::app
