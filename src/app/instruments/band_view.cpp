#include "app/instruments/band_view.h"

#include <QChart>
#include <QGraphicsLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/round_step.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

/// Tallest SWR that the axis shows: the best value decides, so that the interesting part fills the height.
double swrCeiling(const study::Sweep& sweep) {
    for (const double ceiling : {2.5, 4.0, 8.0, 20.0, 60.0})
        if (sweep.bestSwr() < 0.45 * ceiling && sweep.worstSwr() < ceiling * 1.5) return ceiling;
    return sweep.bestSwr() < 5.0 ? 10.0 : 100.0;
}

}  // namespace

BandChart::BandChart(QWidget* parent) : QChartView(parent) {
    first_ = new QLineSeries;
    second_ = new QLineSeries;
    limit_ = new QLineSeries;
    xAxis_ = new QValueAxis;
    yAxis_ = new QValueAxis;
    auto* c = new QChart;
    for (QLineSeries* s : {limit_, second_, first_}) c->addSeries(s);
    c->addAxis(xAxis_, Qt::AlignBottom);
    c->addAxis(yAxis_, Qt::AlignLeft);
    for (QLineSeries* s : {limit_, second_, first_}) {
        s->attachAxis(xAxis_);
        s->attachAxis(yAxis_);
    }
    c->legend()->hide();
    c->setMargins({0, 0, 4, 0});
    c->layout()->setContentsMargins(0, 0, 0, 0);
    c->setBackgroundRoundness(0);
    setChart(c);
    setRenderHint(QPainter::Antialiasing);
    setMouseTracking(true);
    setFrameShape(QFrame::NoFrame);
    setAccessibleName("Band");
    setToolTip("Move the mouse to read values; click to work at that frequency.");
}

void BandChart::setTheme(const Theme& theme) {
    theme_ = theme;
    QChart* c = chart();
    c->setBackgroundBrush(Qt::NoBrush);
    c->setPlotAreaBackgroundVisible(false);
    setBackgroundBrush(theme.panel);
    for (QValueAxis* axis : {xAxis_, yAxis_}) {
        axis->setLabelsBrush(theme.softInk);
        axis->setLabelsFont(textFont(kTinyPt));
        axis->setGridLinePen(QPen(theme.line, 0.8));
        axis->setLinePen(QPen(theme.line, 1.0));
        axis->setTitleBrush(theme.softInk);
        axis->setTitleFont(textFont(kTinyPt));
    }
    first_->setPen(QPen(theme.copper, 2.0));
    second_->setPen(QPen(theme.water, 2.0));
    limit_->setPen(QPen(theme.reed, 1.2, Qt::DashLine));
    rebuild();
}

void BandChart::setQuantity(Quantity quantity) {
    quantity_ = quantity;
    rebuild();
}

void BandChart::setSweep(SweepPtr sweep) {
    sweep_ = std::move(sweep);
    rebuild();
}

void BandChart::setRange(double lowHz, double highHz) {
    lowHz_ = lowHz;
    highHz_ = highHz;
    rebuild();
}

void BandChart::setWorkingFrequency(double hz) {
    workingHz_ = hz;
    viewport()->update();
}

void BandChart::setResonance(std::optional<study::Resonance> resonance) {
    resonance_ = resonance;
    viewport()->update();
}

void BandChart::setStale(bool stale) {
    for (QLineSeries* s : {first_, second_}) s->setOpacity(stale ? 0.3 : 1.0);
}

void BandChart::setCursorFrequency(std::optional<double> hz) {
    cursor_ = hz;
    viewport()->update();
}

void BandChart::rebuild() {
    xAxis_->setRange(lowHz_ / 1e6, highHz_ / 1e6);
    const double span = (highHz_ - lowHz_) / 1e6;
    const double step = roundStep(span, 4);
    xAxis_->setTickType(QValueAxis::TicksDynamic);
    xAxis_->setTickAnchor(0.0);
    xAxis_->setTickInterval(step);
    xAxis_->setLabelFormat(step < 0.01 ? "%.3f" : step < 0.1 ? "%.2f" : "%.1f");
    xAxis_->setTitleText("MHz");
    QList<QPointF> a;
    QList<QPointF> b;
    limit_->clear();
    if (sweep_ && !sweep_->points.empty()) {
        double low = 0.0;
        double high = 1.0;
        for (const auto& p : sweep_->points) {
            const double x = p.frequencyHz / 1e6;
            const Complex z = p.impedanceOhm.front();
            if (quantity_ == Quantity::Swr) a << QPointF(x, std::min(p.swr, 1e3));
            if (quantity_ == Quantity::ReturnLoss)
                a << QPointF(x, study::returnLossDb(p.radioOhm, sweep_->referenceOhm));
            if (quantity_ == Quantity::Impedance) {
                a << QPointF(x, z.real());
                b << QPointF(x, z.imag());
            }
        }
        for (const auto* list : {&a, &b})
            for (const QPointF& point : *list) {
                low = std::min(low, point.y());
                high = std::max(high, point.y());
            }
        if (quantity_ == Quantity::Swr) {
            low = 1.0;
            high = swrCeiling(*sweep_);
            limit_->append(lowHz_ / 1e6, 2.0);
            limit_->append(highHz_ / 1e6, 2.0);
            for (QPointF& point : a) point.setY(std::min(point.y(), high));
        }
        const double yStep = roundStep(high - low, 4);
        if (quantity_ != Quantity::Swr) {
            low = std::floor(low / yStep) * yStep;
            high = std::ceil(high / yStep) * yStep;
        }
        if (quantity_ == Quantity::Impedance) {
            limit_->append(lowHz_ / 1e6, 0.0);
            limit_->append(highHz_ / 1e6, 0.0);
        }
        yAxis_->setRange(low, high);
        yAxis_->setTickType(QValueAxis::TicksDynamic);
        yAxis_->setTickAnchor(quantity_ == Quantity::Swr ? 1.0 : 0.0);
        yAxis_->setTickInterval(yStep);
        yAxis_->setLabelFormat(yStep < 1.0 ? "%.1f" : "%.0f");
    }
    yAxis_->setTitleText(quantity_ == Quantity::Swr         ? "SWR"
                         : quantity_ == Quantity::Impedance ? "ohm"
                                                            : "dB");
    first_->replace(a);
    second_->replace(b);
    viewport()->update();
}

double BandChart::xOf(double hz) const {
    return chart()->mapToPosition(QPointF(hz / 1e6, yAxis_->min()), first_).x();
}

double BandChart::frequencyAt(double x) const {
    return chart()->mapToValue(QPointF(x, 0.0), first_).x() * 1e6;
}

QString BandChart::cursorText() const {
    if (!cursor_ || !sweep_ || sweep_->points.empty()) return {};
    const auto& points = sweep_->points;
    auto above = std::lower_bound(points.begin(), points.end(), *cursor_,
                                  [](const study::SweepPoint& p, double f) { return p.frequencyHz < f; });
    if (above == points.end()) --above;
    auto below = above == points.begin() ? above : above - 1;
    const double width = above->frequencyHz - below->frequencyHz;
    const double t = width > 0.0 ? std::clamp((*cursor_ - below->frequencyHz) / width, 0.0, 1.0) : 0.0;
    const Complex z = (1.0 - t) * below->impedanceOhm.front() + t * above->impedanceOhm.front();
    const Complex radio = (1.0 - t) * below->radioOhm + t * above->radioOhm;
    return QString("%1  SWR %2  %3 Ω")
        .arg(QString::fromStdString(quantity::formatFrequency(*cursor_)),
             QString::fromStdString(quantity::formatSwr(study::swr(radio, sweep_->referenceOhm))),
             QString::fromStdString(quantity::formatImpedance(z)));
}

void BandChart::drawForeground(QPainter* painter, const QRectF&) {
    const QRectF plot = chart()->plotArea();
    const auto inside = [&](double hz) { return hz >= lowHz_ && hz <= highHz_; };
    painter->save();
    painter->resetTransform();
    painter->setRenderHint(QPainter::Antialiasing);
    painter->setFont(textFont(kTinyPt));
    if (inside(workingHz_)) {
        const double x = xOf(workingHz_);
        painter->setPen(QPen(theme_.sun, 1.0, Qt::DotLine));
        painter->drawLine(QPointF(x, plot.top()), QPointF(x, plot.bottom()));
        painter->setPen(Qt::NoPen);
        painter->setBrush(theme_.sun);
        painter->drawPolygon(
            QPolygonF({{x, plot.bottom() - 6}, {x - 4.5, plot.bottom()}, {x + 4.5, plot.bottom()}}));
    }
    if (resonance_ && inside(resonance_->frequencyHz)) {
        const double x = xOf(resonance_->frequencyHz);
        painter->setPen(QPen(theme_.water, 1.2));
        painter->drawLine(QPointF(x, plot.top()), QPointF(x, plot.bottom()));
        painter->drawText(QRectF(x + 3, plot.top() + 1, 130, 12), Qt::AlignLeft,
                          QString("X = 0 at %1").arg(resonance_->frequencyHz / 1e6, 0, 'f', 3));
    }
    if (quantity_ == Quantity::Impedance) {
        painter->setPen(theme_.copper);
        painter->drawText(QRectF(plot.left() + 5, plot.bottom() - 15, 20, 12), Qt::AlignLeft, "R");
        painter->setPen(theme_.water);
        painter->drawText(QRectF(plot.left() + 19, plot.bottom() - 15, 20, 12), Qt::AlignLeft, "X");
    }
    if (cursor_ && inside(*cursor_)) {
        painter->setPen(QPen(theme_.heather, 1.2));
        painter->drawLine(QPointF(xOf(*cursor_), plot.top()), QPointF(xOf(*cursor_), plot.bottom()));
    }
    painter->restore();
}

void BandChart::mouseMoveEvent(QMouseEvent* event) {
    Q_EMIT cursorMoved(std::clamp(frequencyAt(event->position().x()), lowHz_, highHz_));
}

void BandChart::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        Q_EMIT frequencyChosen(std::clamp(frequencyAt(event->position().x()), lowHz_, highHz_));
}

void BandChart::leaveEvent(QEvent*) {
    Q_EMIT cursorMoved(std::numeric_limits<double>::quiet_NaN());
}

BandView::BandView(QWidget* parent) : QWidget(parent) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 4, 6, 4);
    layout->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    title_ = new QLabel("Band");
    title_->setFont(textFont(kTitlePt, true));
    row->addWidget(title_);
    row->addSpacing(6);
    const char* names[] = {"SWR", "R, X", "RL"};
    const char* tips[] = {"Standing wave ratio", "Resistance and reactance", "Return loss"};
    for (int i = 0; i < 3; ++i) {
        auto* choice = new QToolButton;
        choice->setText(names[i]);
        choice->setToolTip(tips[i]);
        choice->setAccessibleName(tips[i]);
        choice->setCheckable(true);
        choice->setAutoExclusive(true);
        choice->setProperty("quiet", true);
        choice->setFont(textFont(kSmallPt));
        choice->setChecked(i == 0);
        connect(choice, &QToolButton::clicked, this, [this, i] { showQuantity(i); });
        choices_ << choice;
        row->addWidget(choice);
    }
    row->addStretch(1);
    headline_ = new QLabel;
    headline_->setObjectName("bandHeadline");
    headline_->setFont(textFont(kSmallPt));
    row->addWidget(headline_);
    layout->addLayout(row);
    chart_ = new BandChart;
    layout->addWidget(chart_, 1);
    connect(chart_, &BandChart::cursorMoved, this, [this](double hz) {
        chart_->setCursorFrequency(std::isnan(hz) ? std::nullopt : std::optional<double>(hz));
        refresh();
    });
}

void BandView::showQuantity(int quantity) {
    choices_[quantity]->setChecked(true);
    chart_->setQuantity(static_cast<BandChart::Quantity>(quantity));
}

void BandView::setStale(bool stale) {
    chart_->setStale(stale);
    headline_->setEnabled(!stale);  // greyed with the curve it describes
}

void BandView::setTheme(const Theme& theme) {
    chart_->setTheme(theme);
}

void BandView::setSweep(SweepPtr sweep, const QString& title) {
    sweep_ = std::move(sweep);
    title_->setText(title);
    chart_->setSweep(sweep_);
    refresh();
}

QString BandView::headline() const {
    const QString cursor = chart_->cursorText();
    if (!cursor.isEmpty()) return cursor;
    if (!sweep_ || sweep_->points.empty()) return {};
    const double width = sweep_->bandwidthHz(2.0);
    const double whole = sweep_->points.back().frequencyHz - sweep_->points.front().frequencyHz;
    const QString range =
        QString("%1 – %2").arg(QString::fromStdString(quantity::formatSwr(sweep_->bestSwr())),
                               QString::fromStdString(quantity::formatSwr(sweep_->worstSwr())));
    if (width <= 0.0) return range + ", never 2:1";
    if (width >= 0.999 * whole) return range + ", 2:1 all along";
    return range + QString(", 2:1 over %1 kHz").arg(width / 1e3, 0, 'f', width < 1e5 ? 1 : 0);
}

void BandView::refresh() {
    headline_->setText(headline());
}

}  // namespace rm::app
