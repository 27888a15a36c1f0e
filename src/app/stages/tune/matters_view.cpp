#include "app/stages/tune/matters_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr int kHead = 32;
constexpr int kRow = 24;
constexpr int kNames = 128;

QString signedText(double value, int decimals) {
    if (std::abs(value) < 0.5 * std::pow(10.0, -decimals)) return "0";
    return (value < 0.0 ? QString(QChar(0x2212)) : QString("+")) + written(std::abs(value), 'f', decimals);
}

}  // namespace

MattersPlot::MattersPlot(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("What matters"));
    new KeyPointer(*this);  // of the view
    setToolTip(
        tr("What each dimension changes when it grows by one step. Click a row to go to the dimension, a "
           "heading to sort by it"));
}

double MattersPlot::valueOf(const study::Sensitivity& row, Figure figure) {
    switch (figure) {
        case Swr:
            return row.swr;
        case Resonance:
            return row.resonanceHz / 1e3;
        case Gain:
            return row.gainDb;
        default:
            return row.frontToRearDb;
    }
}

void MattersPlot::setRows(std::vector<study::Sensitivity> rows, study::SensitivityStep step) {
    rows_ = std::move(rows);
    step_ = step;
    sort();
}

void MattersPlot::sortBy(Figure figure) {
    by_ = figure;
    sort();
}

void MattersPlot::sort() {
    std::stable_sort(rows_.begin(), rows_.end(), [this](const auto& a, const auto& b) {
        return std::abs(valueOf(a, by_)) > std::abs(valueOf(b, by_));
    });
    updateGeometry();
    update();
}

QRect MattersPlot::rowRect(int row) const {
    return {0, kHead + row * kRow, width(), kRow};
}

QRect MattersPlot::headRect(Figure figure) const {
    const int column = (width() - kNames) / kFigures;
    return {kNames + column * figure, 0, column, kHead};
}

QSize MattersPlot::sizeHint() const {
    return {420, kHead + kRow * static_cast<int>(rows_.size()) + 4};
}

void MattersPlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const char* const heads[] = {"SWR", later("resonance, kHz"), later("gain, dB"),
                                 later("front-to-rear, dB")};
    const int decimals[] = {3, 1, 3, 2};
    p.setFont(textFont(kTinyPt, true));
    p.setPen(theme_.softInk);
    p.drawText(QRect(4, 0, kNames, kHead), Qt::AlignLeft | Qt::AlignVCenter,
               step_ == study::SensitivityStep::Percent      ? tr("1 % more of")
               : step_ == study::SensitivityStep::Centimetre ? tr("1 cm more of")
                                                             : tr("1 mm more of"));
    for (int f = 0; f < kFigures; ++f) {
        const auto figure = static_cast<Figure>(f);
        p.setPen(figure == by_ ? theme_.copper : theme_.softInk);
        p.drawText(headRect(figure), Qt::AlignCenter, tr(heads[f]) + (figure == by_ ? " ▾" : ""));
        double most = 0.0;
        for (const auto& row : rows_) most = std::max(most, std::abs(valueOf(row, figure)));
        const QRect head = headRect(figure);
        const double middle = head.center().x();
        const double half = 0.5 * head.width() - 8.0;
        for (int r = 0; r < static_cast<int>(rows_.size()); ++r) {
            const double value = valueOf(rows_[static_cast<std::size_t>(r)], figure);
            const QRect line = rowRect(r);
            // What is written as nothing gets no bar.
            const bool shows = most > 0.0 && std::abs(value) >= 0.5 * std::pow(10.0, -decimals[f]);
            const double length = shows ? half * value / most : 0.0;
            p.setPen(Qt::NoPen);
            p.setBrush(value < 0.0 ? theme_.water : theme_.copper);
            p.setOpacity(0.35);
            p.drawRect(QRectF(std::min(middle, middle + length), line.top() + 4.0, std::abs(length),
                              line.height() - 8.0));
            p.setOpacity(1.0);
            p.setPen(theme_.ink);
            p.setFont(textFont(kSmallPt));
            p.drawText(QRect(head.left(), line.top(), head.width(), line.height()), Qt::AlignCenter,
                       signedText(value, decimals[f]));
            p.setFont(textFont(kTinyPt, true));
        }
        p.setPen(QPen(theme_.line, 1.0));
        p.drawLine(QPointF(middle, kHead), QPointF(middle, kHead + kRow * static_cast<double>(rows_.size())));
    }
    p.setFont(textFont(kTextPt));
    for (int r = 0; r < static_cast<int>(rows_.size()); ++r) {
        const auto& row = rows_[static_cast<std::size_t>(r)];
        // Only lengths step by what the heading says.
        const QString name =
            QString::fromStdString(row.dimension) + (row.kind == model::DimensionKind::Angle    ? ", 1°"
                                                     : row.kind == model::DimensionKind::Number ? ", 1 %"
                                                                                                : "");
        p.setPen(QPen(theme_.line, 0.6));
        p.drawLine(rowRect(r).bottomLeft(), rowRect(r).bottomRight());
        p.setPen(theme_.ink);
        p.drawText(QRect(4, rowRect(r).top(), kNames - 8, kRow), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(name, Qt::ElideRight, kNames - 8));
    }
    if (!rows_.empty()) return;
    p.setPen(theme_.softInk);
    p.drawText(rect(), Qt::AlignCenter, tr("No dimension of this design has a number of its own."));
}

void MattersPlot::mousePressEvent(QMouseEvent* event) {
    const QPoint at = event->position().toPoint();
    if (at.y() < kHead) {
        for (int f = 0; f < kFigures; ++f)
            if (headRect(static_cast<Figure>(f)).contains(at)) sortBy(static_cast<Figure>(f));
        return;
    }
    const int row = (at.y() - kHead) / kRow;
    if (row < static_cast<int>(rows_.size()))
        Q_EMIT dimensionChosen(QString::fromStdString(rows_[static_cast<std::size_t>(row)].dimension));
}

MattersView::MattersView(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* top = new QHBoxLayout;
    said_ = new QLabel;
    said_->setProperty("soft", true);
    said_->setFont(textFont(kSmallPt));
    top->addWidget(said_, 1);
    auto* per = new QLabel(tr("a step is"));
    per->setFont(textFont(kSmallPt));
    top->addWidget(per);
    steps_ = new QComboBox;
    steps_->addItems({"1 mm", "1 cm", "1 %"});
    steps_->setObjectName("matterStep");
    steps_->setToolTip(tr("Of lengths; angles step by one degree, plain numbers by one percent"));
    steps_->setFont(textFont(kSmallPt));
    top->addWidget(steps_);
    column->addLayout(top);
    plot_ = new MattersPlot;
    auto* scroll = new QScrollArea;
    scroll->setFocusPolicy(Qt::NoFocus);  // what is in it has it
    scroll->setWidgetResizable(true);
    scroll->setWidget(plot_);
    column->addWidget(scroll, 1);
    connect(steps_, &QComboBox::activated, this, &MattersView::stepChanged);
}

study::SensitivityStep MattersView::step() const {
    return static_cast<study::SensitivityStep>(steps_->currentIndex());
}

void MattersView::setWorking(bool working) {
    if (working) said_->setText(tr("working…"));
    plot_->setEnabled(!working);
}

void MattersView::setRows(std::vector<study::Sensitivity> rows, double frequencyHz) {
    setWorking(false);
    said_->setText(tr("At %1: what one step more of each dimension changes")
                       .arg(QString::fromStdString(quantity::formatFrequency(frequencyHz))));
    plot_->setRows(std::move(rows), step());
}

}  // namespace rm::app
