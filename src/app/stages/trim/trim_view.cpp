#include "app/stages/trim/trim_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

#include "app/look/lengths.h"
#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr double kTrimLeft = 54.0;
constexpr double kTrimRight = 118.0;
constexpr double kTrimTop = 14.0;
constexpr double kTrimBottom = 36.0;
/// Beyond this an SWR is only high.
constexpr double kTallest = 6.0;

}  // namespace

TrimPlot::TrimPlot(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("Curves of the trim"));
    setMinimumSize(320, 200);
}

void TrimPlot::setAnswer(std::shared_ptr<const build::TrimAnswer> answer) {
    answer_ = std::move(answer);
    update();
}

void TrimPlot::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!answer_ || answer_->curve.hz.size() < 2) return;
    const auto& curve = answer_->curve;
    Frame frame;
    frame.area = {kTrimLeft, kTrimTop, width() - kTrimLeft - kTrimRight, height() - kTrimTop - kTrimBottom};
    frame.x = {curve.hz.front() / 1e6, curve.hz.back() / 1e6};
    Range values = Range::nothing();
    values.include(1.0);
    for (const auto* one : {&curve.measuredSwr, &curve.fittedSwr, &curve.cutSwr})
        for (const double swr : *one)
            if (swr > 0.0) values.include(std::min(swr, kTallest));
    frame.y = {1.0, std::max(2.0, values.high)};
    frame.paintGrid(painter, theme_, 5, 5);
    frame.paintTitles(painter, theme_, "MHz", tr("SWR at the radio"));
    painter.setClipRect(frame.area.adjusted(-2, -2, 2, 2));
    std::vector<EndName> ends;
    const struct {
        const std::vector<double>& swr;
        QColor colour;
        Qt::PenStyle style;
        double width;
        QString name;
    } lines[] = {{curve.drawnSwr, theme_.softInk, Qt::DotLine, 1.4, tr("as drawn")},
                 {curve.measuredSwr, theme_.water, Qt::SolidLine, 3.4, tr("measured")},
                 {curve.fittedSwr, theme_.ink, Qt::DashLine, 1.4, tr("fitted to it")},
                 {curve.cutSwr, theme_.copper, Qt::SolidLine, 2.2, tr("after the cut")}};
    for (const auto& line : lines) {
        QPolygonF path;
        for (std::size_t i = 0; i < curve.hz.size(); ++i)
            if (line.swr[i] > 0.0) path << frame.at(curve.hz[i] / 1e6, std::min(line.swr[i], 1.5 * kTallest));
        if (path.isEmpty()) continue;
        painter.setPen(QPen(line.colour, line.width, line.style, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(path);
        ends.push_back(
            {std::clamp(path.back().y(), frame.area.top(), frame.area.bottom()), line.name, line.colour});
    }
    painter.setClipping(false);
    paintEndNames(painter, frame.area, kTrimRight, std::move(ends));
}

// ---------------------------------------------------------------------------------------------------------

TrimView::TrimView(QWidget* parent) : StudyFrame(parent) {
    auto* top = new QWidget;
    auto* row = new QHBoxLayout(top);
    row->setContentsMargins(0, 0, 0, 0);
    auto* label = new QLabel(tr("Cut"));
    dimensions_ = new QComboBox;
    dimensions_->setAccessibleName(tr("Dimension to cut"));
    dimensions_->setToolTip(tr("The length that is cut or lengthened; another one is worked out anew"));
    label->setBuddy(dimensions_);
    take_ = new QPushButton(tr("Take the cut over"));
    take_->setToolTip(tr("Sets the dimension to what the advice says; undo brings it back"));
    row->addWidget(label);
    row->addWidget(dimensions_);
    row->addStretch(1);
    row->addWidget(take_);
    addContent(top, 0);
    sentence_ = new QLabel;
    sentence_->setObjectName("advice");
    sentence_->setTextFormat(Qt::PlainText);
    sentence_->setWordWrap(true);
    sentence_->setFont(textFont(kTitlePt, true));
    addContent(sentence_, 0);
    causes_ = new QLabel;
    causes_->setObjectName("causes");
    causes_->setTextFormat(Qt::PlainText);
    causes_->setWordWrap(true);
    addContent(causes_, 0);
    plot_ = new TrimPlot;
    addContent(plot_, 1);
    connect(dimensions_, &QComboBox::activated, this, &TrimView::dimensionChosen);
    connect(take_, &QPushButton::clicked, this, &TrimView::takeOverRequested);
    refresh();
}

void TrimView::setDimensions(const QStringList& names) {
    const QString kept = dimensions_->currentText();
    QStringList before;
    for (int i = 0; i < dimensions_->count(); ++i) before << dimensions_->itemText(i);
    if (before == names) return;
    const QSignalBlocker quiet(dimensions_);
    dimensions_->clear();
    dimensions_->addItems(names);
    if (names.contains(kept)) dimensions_->setCurrentText(kept);
}

QString TrimView::dimension() const {
    return dimensions_->currentText();
}

void TrimView::setAnswer(std::shared_ptr<const build::TrimAnswer> answer, const QString& title) {
    answer_ = std::move(answer);
    setTitle(title);
    if (answer_) {
        const QSignalBlocker quiet(dimensions_);
        if (dimensions_->findText(text(answer_->dimension)) < 0)
            dimensions_->addItem(text(answer_->dimension));
        dimensions_->setCurrentText(text(answer_->dimension));
    }
    plot_->setAnswer(answer_);
    setStale(false);
}

QString TrimView::sentence() const {
    return sentence_->text();
}

QString TrimView::causes() const {
    return causes_->text();
}

void TrimView::setStale(bool stale) {
    StudyFrame::setStale(stale);
    refresh();
}

void TrimView::refresh() {
    setLine({}, tr("The design has changed since: work it out again before you cut."), {});
    sentence_->setText(answer_ ? text(build::trimSentence(*answer_, inFeet())) : QString());
    take_->setEnabled(answer_ != nullptr && !stale());
    if (!answer_) return causes_->clear();
    QStringList lines;
    for (const auto& cause : answer_->causes) lines << "• " + text(cause.words);
    causes_->setText(
        tr("What differs from the drawing, as far as the curve can tell:\n%1\nThe fit is %2 off in the "
           "reflection coefficient; the drawing was %3 off.")
            .arg(lines.join('\n'))
            .arg(written(answer_->misfit, 'f', 3))
            .arg(written(answer_->misfitDrawn, 'f', 3)));
}

}  // namespace rm::app
