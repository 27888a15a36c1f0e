#include "app/instruments/band_view.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/instruments/smith_chart.h"
#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

struct Choice {
    BandQuantity quantity;
    const char* button;
    const char* tip;
};

constexpr Choice kQuick[] = {{BandQuantity::Swr, "SWR", later("Standing wave ratio")},
                             {BandQuantity::Impedance, "R, X", later("Resistance and reactance")},
                             {BandQuantity::Smith, later("Smith"), later("Smith chart")}};
constexpr Choice kMore[] = {{BandQuantity::ReturnLoss, later("Return loss"), ""},
                            {BandQuantity::Phase, later("Phase of the reflection"), ""},
                            {BandQuantity::Loss, later("Loss of the feed path"), ""},
                            {BandQuantity::Gain, later("Peak gain"), ""},
                            {BandQuantity::FrontToBack, later("Front-to-back"), ""},
                            {BandQuantity::Takeoff, later("Takeoff angle"), ""}};

}  // namespace

BandView::BandView(QWidget* parent) : Themed(parent) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 4, 6, 4);
    layout->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(1);
    title_ = new QLabel(tr("Band"));
    title_->setObjectName("bandTitle");
    title_->setFont(textFont(kTitlePt, true));
    row->addWidget(title_);
    row->addSpacing(4);
    const auto quiet = [&](const QString& name, const QString& tip) {
        auto* button = new QToolButton;
        button->setText(name);
        button->setToolTip(tip);
        button->setAccessibleName(tip);
        button->setProperty("quiet", true);
        button->setFont(textFont(kSmallPt));
        button->setStyleSheet("padding-left: 4px; padding-right: 4px;");
        row->addWidget(button);
        return button;
    };
    for (const auto& choice : kQuick) {
        auto* button = quiet(tr(choice.button), tr(choice.tip));
        button->setCheckable(true);
        connect(button, &QToolButton::clicked, this, [this, q = choice.quantity] { choose(q, plane_); });
        choices_ << button;
    }
    more_ = quiet(tr("More"), tr("Other quantities"));
    more_->setCheckable(true);
    more_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(more_);
    for (const auto& choice : kMore)
        connect(menu->addAction(tr(choice.button)), &QAction::triggered, this,
                [this, q = choice.quantity] { choose(q, plane_); });
    menu->addSeparator();
    other_ = menu->addAction(tr("Seen from the antenna"));
    connect(other_, &QAction::triggered, this, &BandView::turnPlane);
    more_->setMenu(menu);
    where_ = quiet(tr("at radio"), tr("Seen from the radio or from the antenna: click to change"));
    where_->setObjectName("plane");
    connect(where_, &QToolButton::clicked, this, &BandView::turnPlane);
    headline_ = new QLabel;
    headline_->setObjectName("bandHeadline");
    headline_->setFont(textFont(kTinyPt));
    // It takes what room there is and never asks for more.
    headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headline_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    // As much as fits: with every width that the others leave for it.
    headline_->installEventFilter(this);
    row->addWidget(headline_, 1);
    enlarge_ = quiet("⤢", tr("The band in the middle of the bench, with a table and measurements (Ctrl+3)"));
    enlarge_->setObjectName("enlargeBand");
    layout->addLayout(row);
    chart_ = new BandChart;
    smith_ = new SmithChart;
    stack_ = new QStackedWidget;
    stack_->addWidget(chart_);
    stack_->addWidget(smith_);
    layout->addWidget(stack_, 1);
    connect(chart_, &BandChart::cursorMoved, this, [this](double hz) {
        chart_->setCursorFrequency(std::isnan(hz) ? std::nullopt : std::optional<double>(hz));
        refresh();
    });
    showQuantity(quantity_, plane_);
}

void BandView::turnPlane() {
    choose(quantity_, plane_ == study::Plane::Radio ? study::Plane::Antenna : study::Plane::Radio);
}

void BandView::setLarge() {
    large_ = true;
    enlarge_->hide();
    title_->hide();
    showQuantity(quantity_, plane_);
}

void BandView::choose(BandQuantity quantity, study::Plane plane) {
    showQuantity(quantity, plane);
    Q_EMIT chosen(quantity, plane);
}

void BandView::showQuantity(BandQuantity quantity, study::Plane plane) {
    quantity_ = quantity;
    plane_ = plane;
    bool quick = false;
    for (int i = 0; i < choices_.size(); ++i) {
        choices_[i]->setChecked(kQuick[i].quantity == quantity);
        quick = quick || choices_[i]->isChecked();
    }
    more_->setChecked(!quick);
    // The small one says it on its axis and changes it in the menu.
    where_->setText(plane == study::Plane::Radio ? tr("at the radio") : tr("at the antenna"));
    where_->setVisible(large_ && !ofPattern(quantity) && quantity != BandQuantity::Loss);
    other_->setText(plane == study::Plane::Radio ? tr("Seen from the antenna") : tr("Seen from the radio"));
    chart_->setQuantity(quantity, plane);
    stack_->setCurrentWidget(quantity == BandQuantity::Smith ? static_cast<QWidget*>(smith_) : chart_);
    showSmith();
    refresh();
}

void BandView::setStale(bool stale) {
    chart_->setStale(stale);
    smith_->setStale(stale);
    headline_->setEnabled(!stale);  // greyed with the curve it describes
}

bool BandView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == headline_ && event->type() == QEvent::Resize) refresh();
    return Themed::eventFilter(watched, event);
}

void BandView::themeChanged() {
    showSmith();
}

void BandView::setData(const BandData& shown) {
    data_ = shown;
    title_->setText(shown.title);
    chart_->setData(shown);
    smith_->setLimits(shown.limits);
    if (shown.sweep) smith_->setReference(shown.sweep->referenceOhm);
    showSmith();
    refresh();
}

void BandView::showSmith() {
    if (quantity_ != BandQuantity::Smith || !data_.sweep || data_.sweep->points.empty()) return;
    const bool radio = plane_ == study::Plane::Radio;
    std::vector<SmithTrace> traces;
    std::vector<SmithMark> marks;
    for (const auto& source : data_.measured) {
        SmithTrace trace{{}, theme_.measured(source.index), 1.2, true, source.name, -1};
        for (const auto& p : source.at(plane_))
            if (p.impedanceOhm && p.frequencyHz >= data_.sweep->points.front().frequencyHz &&
                p.frequencyHz <= data_.sweep->points.back().frequencyHz)
                trace.ohm.push_back(*p.impedanceOhm);
        traces.push_back(std::move(trace));
    }
    SmithTrace model{{}, theme_.copper, 2.0, false, radio ? tr("At the radio") : tr("At the antenna"), -1};
    for (const auto& p : data_.sweep->curve()) model.ohm.push_back(radio ? p.radioOhm : p.antennaOhm);
    const auto name = [](double hz) { return written(hz / 1e6, 'f', 3); };
    marks.push_back({model.ohm.front(), theme_.copper, name(data_.sweep->points.front().frequencyHz), false});
    marks.push_back({model.ohm.back(), theme_.copper, name(data_.sweep->points.back().frequencyHz), false});
    const study::SweepPoint here = data_.sweep->at(data_.workingHz);
    marks.push_back({radio ? here.radioOhm : here.antennaOhm, theme_.sun, name(data_.workingHz), true});
    traces.push_back(std::move(model));
    smith_->setTraces(std::move(traces), std::move(marks));
}

QString BandView::headline() const {
    const QString cursor = chart_->cursorText();
    if (!cursor.isEmpty()) return cursor;
    if (!data_.sweep || data_.sweep->points.empty()) return {};
    const auto& sweep = *data_.sweep;
    const double limit = data_.limits[1];
    const double width = sweep.bandwidthHz(limit);
    const double whole = sweep.points.back().frequencyHz - sweep.points.front().frequencyHz;
    const QString best = text(quantity::formatSwr(sweep.bestSwr()));
    // Far beside every band the worst says nothing.
    constexpr double kBeyondUse = 99.0;
    const QString range = sweep.worstSwr() > kBeyondUse
                              ? tr("best %1").arg(best)
                              : QString("%1 – %2").arg(best, text(quantity::formatSwr(sweep.worstSwr())));
    const QString ratio = QString("%1:1").arg(limit);
    if (width <= 0.0) return range + tr(", never ") + ratio;
    if (width >= 0.999 * whole) return range + tr(", all ") + ratio;
    return range + tr(", %1 over %2 kHz").arg(ratio).arg(written(width / 1e3, 'f', width < 1e5 ? 1 : 0));
}

void BandView::refresh() {
    QStringList pieces = headline().split("  ");
    // Where it is narrow, what comes last is left away; the large one has it.
    const QFontMetrics metrics = headline_->fontMetrics();
    while (pieces.size() > 2 && metrics.horizontalAdvance(pieces.join("  ")) > headline_->width())
        pieces.removeLast();
    QString line = pieces.join("  ");
    while (line.contains(", ") && metrics.horizontalAdvance(line) > headline_->width())
        line.truncate(line.lastIndexOf(", "));
    headline_->setText(metrics.elidedText(line, Qt::ElideRight, headline_->width()));
}

}  // namespace rm::app
