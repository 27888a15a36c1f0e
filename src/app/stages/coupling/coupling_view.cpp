#include "app/stages/coupling/coupling_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"
#include "core/model/rename.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kNames = 84.0;
constexpr double kHead = 24.0;
constexpr int kMostFeeds = 8;
/// How much is left of what is of the design before.
constexpr double kWaiting = 0.45;

}  // namespace

CouplingMatrix::CouplingMatrix(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("Impedances and coupling"));
    new KeyPointer(*this);  // of the view
    setMinimumHeight(120);
    setToolTip(tr(
        "On the diagonal the impedance of each feed with the others open; below it the mutual impedances; "
        "above it the coupling in dB between matched ends; at the right each feed as it is driven now. Click "
        "a cell to see it over the band"));
}

void CouplingMatrix::setCoupling(const study::Coupling& coupling, std::vector<Complex> drivenOhm,
                                 const QStringList& feeds) {
    coupling_ = coupling;
    drivenOhm_ = std::move(drivenOhm);
    names_ = feeds.mid(0, kMostFeeds);
    const auto isFeed = [&](int i) { return i >= 0 && i < this->feeds(); };
    if (!isFeed(pair_.first) || !isFeed(pair_.second)) pair_ = {0, 1};
    setFixedHeight(static_cast<int>(kHead) + 40 * std::max(1, this->feeds()) + 4);
    update();
}

QRectF CouplingMatrix::cellRect(int row, int column) const {
    const double w = (width() - kNames) / std::max(1, feeds() + 1);
    const double h = (height() - kHead) / std::max(1, feeds());
    return {kNames + column * w, kHead + row * h, w, h};
}

QString CouplingMatrix::pairName() const {
    const auto [r, c] = pair_;
    const QString both = names_.value(r) + tr(" and ") + names_.value(c);
    return r < c    ? tr("Coupling in dB, ") + both
           : r == c ? tr("Impedance of ") + names_.value(r) + tr(", others open")
                    : tr("Mutual impedance, ") + both;
}

QString CouplingMatrix::cellText(int row, int column) const {
    const QString unit = feeds() > 3 ? "" : " Ω";
    if (column == feeds()) {
        const Complex z = drivenOhm_.at(static_cast<std::size_t>(row));
        return z == Complex(0.0) ? tr("idle") : text(quantity::formatImpedance(z)) + unit;
    }
    if (row > column || row == column)
        return text(quantity::formatImpedance(coupling_.impedanceOhm(row, column))) + unit;
    return text(quantity::formatDb(coupling_.couplingDb(row, column))) + " dB";
}

void CouplingMatrix::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (!isEnabled()) p.setOpacity(kWaiting);
    if (feeds() < 2) {
        // Of the design before, while the next one is worked out.
        if (!isEnabled()) return;
        p.setPen(theme_.softInk);
        p.setFont(textFont(kTextPt));
        p.drawText(rect(), Qt::AlignCenter, tr("This design has fewer than two feeds."));
        return;
    }
    p.setFont(textFont(kSmallPt));
    for (int i = 0; i < feeds(); ++i) {
        p.setPen(theme_.ink);
        const QRectF own = cellRect(i, i);
        const auto elided = [&](double wide) {
            return p.fontMetrics().elidedText(text(model::labelOf(names_[i].toStdString())), Qt::ElideMiddle,
                                              static_cast<int>(wide));
        };
        p.drawText(QRectF(4, own.top(), kNames - 8, own.height()), Qt::AlignLeft | Qt::AlignVCenter,
                   elided(kNames - 8));
        p.drawText(QRectF(own.left(), 0, own.width(), kHead), Qt::AlignCenter, elided(own.width() - 6));
    }
    const QRectF driven = cellRect(0, feeds());
    p.setPen(theme_.softInk);
    p.drawText(QRectF(driven.left(), 0, driven.width(), kHead), Qt::AlignCenter, tr("as driven now"));
    for (int r = 0; r < feeds(); ++r)
        for (int c = 0; c <= feeds(); ++c) {
            const QRectF cell = cellRect(r, c).adjusted(1.5, 1.5, -1.5, -1.5);
            QColor shade = theme_.sunken;
            if (c == feeds()) {
                shade.setAlphaF(0.0F);
            } else if (c > r) {
                // The stronger the coupling, the warmer.
                const double share = std::clamp((coupling_.couplingDb(r, c) + 40.0) / 35.0, 0.0, 1.0);
                shade = theme_.copper;
                shade.setAlphaF(static_cast<float>(0.06 + 0.40 * share));
            } else if (c == r) {
                shade = theme_.reedTint;
            }
            p.setPen(Qt::NoPen);
            p.setBrush(shade);
            p.drawRoundedRect(cell, 4, 4);
            if (std::pair{r, c} == pair_) {
                p.setPen(QPen(theme_.copper, 1.6));
                p.setBrush(Qt::NoBrush);
                p.drawRoundedRect(cell, 4, 4);
            }
            p.setPen(theme_.ink);
            p.setFont(textFont(feeds() > 3 ? kTinyPt : kSmallPt));
            p.drawText(cell, Qt::AlignCenter, cellText(r, c));
        }
}

void CouplingMatrix::mousePressEvent(QMouseEvent* event) {
    for (int r = 0; r < feeds(); ++r)
        for (int c = 0; c < feeds(); ++c)
            if (cellRect(r, c).contains(event->position())) {
                pair_ = {r, c};
                update();
                Q_EMIT pairChosen();
                return;
            }
}

CouplingPlot::CouplingPlot(QWidget* parent) : Themed(parent) {
    setMinimumHeight(130);
    setAccessibleName(tr("Coupling over the band"));
}

void CouplingPlot::setCurves(std::vector<double> hz, std::vector<study::Coupling> all, double workingHz,
                             std::pair<int, int> pair, const QString& name) {
    hz_ = std::move(hz);
    all_ = std::move(all);
    workingHz_ = workingHz;
    setPair(pair, name);
}

void CouplingPlot::setPair(std::pair<int, int> pair, const QString& name) {
    pair_ = pair;
    name_ = name;
    update();
}

std::vector<CouplingPlot::Curve> CouplingPlot::curves() const {
    std::vector<Curve> all;
    const auto add = [&](const QColor& colour, double weight, auto value) {
        Curve curve{colour, weight, {}};
        for (const auto& c : all_) curve.value.push_back(std::max(-100.0, value(c)));
        all.push_back(std::move(curve));
    };
    const auto r = pair_.first;
    const auto c = pair_.second;
    if (r >= c) {
        add(theme_.copper, 2.2, [&](const auto& m) { return m.impedanceOhm(r, c).real(); });
        add(theme_.water, 2.2, [&](const auto& m) { return m.impedanceOhm(r, c).imag(); });
        return all;
    }
    const auto n = static_cast<int>(all_.front().couplingDb.rows());
    for (int a = 0; a < n; ++a)
        for (int b = a + 1; b < n; ++b)
            if (a != r || b != c) add(theme_.softInk, 0.9, [&](const auto& m) { return m.couplingDb(a, b); });
    add(theme_.copper, 2.2, [&](const auto& m) { return m.couplingDb(r, c); });
    return all;
}

void CouplingPlot::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF area = QRectF(rect()).adjusted(44, 22, -12, -22);
    if (hz_.size() < 2) return;
    if (!isEnabled()) p.setOpacity(kWaiting);
    const auto drawn = curves();
    double low = 1e9;
    double high = -1e9;
    for (const auto& curve : drawn)
        for (const double v : curve.value) {
            low = std::min(low, v);
            high = std::max(high, v);
        }
    const double step = roundStep(std::max(4.0, high - low), 4);
    low = std::floor(low / step) * step;
    high = std::ceil(high / step) * step;
    if (high - low < step) high = low + step;
    const auto at = [&](double hz, double db) {
        return QPointF(area.left() + area.width() * (hz - hz_.front()) / (hz_.back() - hz_.front()),
                       area.bottom() - area.height() * (std::max(db, low) - low) / (high - low));
    };
    p.setFont(textFont(kTinyPt));
    for (const double db : ticksBy(low, high, step)) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(at(hz_.front(), db), at(hz_.back(), db));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(0, at(hz_.front(), db).y() - 7, 40, 14), Qt::AlignRight | Qt::AlignVCenter,
                   text(quantity::formatDb(db, 0)));
    }
    const double mhz = (hz_.back() - hz_.front()) / 1e6;
    const double grid = roundStep(mhz, 5);
    for (const double f : ticksBy(hz_.front() / 1e6, hz_.back() / 1e6, grid)) {
        p.setPen(QPen(theme_.line, 0.8));
        p.drawLine(at(f * 1e6, low), at(f * 1e6, high));
        p.setPen(theme_.softInk);
        p.drawText(QRectF(at(f * 1e6, low).x() - 30, area.bottom() + 3, 60, 14), Qt::AlignCenter,
                   written(f, 'g', 6));
    }
    p.setPen(QPen(theme_.sun, 1.0, Qt::DashLine));
    if (workingHz_ >= hz_.front() && workingHz_ <= hz_.back())
        p.drawLine(at(workingHz_, low), at(workingHz_, high));
    for (const auto& c : drawn) {
        QPolygonF curve;
        for (std::size_t i = 0; i < hz_.size(); ++i) curve << at(hz_[i], c.value[i]);
        p.setPen(QPen(c.colour, c.weight));
        p.drawPolyline(curve);
    }
    p.setFont(textFont(kSmallPt, true));
    p.setPen(theme_.copper);
    p.drawText(QRectF(area.left(), 2, area.width(), 16), Qt::AlignLeft, name_);
    if (pair_.first >= pair_.second) {
        p.setPen(theme_.water);
        p.drawText(QRectF(area.left(), 2, area.width() - 40, 16), Qt::AlignRight, tr("R copper, X water"));
    }
    p.setPen(theme_.softInk);
    p.drawText(QRectF(area.left(), 2, area.width(), 16), Qt::AlignRight, "MHz");
}

CouplingView::CouplingView(QWidget* parent) : StudyFrame(parent) {
    setTitle(tr("Feeds: impedances and coupling"));
    matrix_ = new CouplingMatrix;
    addContent(matrix_, 4);
    auto* legend = new QLabel(tr(
        "On the diagonal each feed with the others open; below it mutual impedance; above it coupling. Click "
        "one to see it over the band."));
    legend->setProperty("soft", true);
    legend->setFont(textFont(kTinyPt));
    legend->setWordWrap(true);
    addContent(legend, 0);
    plot_ = new CouplingPlot;
    addContent(plot_, 5);
    auto* tools = new QWidget;
    auto* row = new QHBoxLayout(tools);
    row->setContentsMargins(0, 0, 0, 2);
    auto* label = new QLabel(tr("Patterns of each alone, the others"));
    label->setFont(textFont(kSmallPt));
    row->addWidget(label);
    idle_ = new QComboBox;
    idle_->addItems({tr("open"), tr("shorted"), tr("terminated in 50 Ω")});
    idle_->setObjectName("idle");
    row->addWidget(idle_);
    auto* show = new QToolButton;
    show->setText(tr("Show"));
    show->setObjectName("eachAlone");
    show->setToolTip(tr("Makes drive sets of each feed alone, and lays their patterns over each other"));
    row->addWidget(show);
    row->addStretch(1);
    addContent(tools, 0);
    connect(show, &QToolButton::clicked, this,
            [this] { Q_EMIT eachAlone(static_cast<model::IdleKind>(idle_->currentIndex())); });
    connect(matrix_, &CouplingMatrix::pairChosen, this,
            [this] { plot_->setPair(matrix_->pair(), matrix_->pairName()); });
}

void CouplingView::setResults(const Results& results) {
    const SweepPtr& sweep = results.sweep;
    const double workingHz = results.frequencyHz;
    names_.clear();
    for (const auto& feed : results.expansion->model.feeds) names_ << text(feed.name);
    std::vector<double> hz;
    std::vector<study::Coupling> all;
    const std::size_t count = sweep ? sweep->points.size() : 0;
    const std::size_t stride = 1 + count / 400;
    for (std::size_t i = 0; i < count; i += stride) {
        const auto& p = sweep->points[i];
        if (p.feedAdmittance.rows() < 2) continue;
        hz.push_back(p.frequencyHz);
        all.push_back(study::couplingOf(p.feedAdmittance, sweep->referenceOhm));
    }
    if (hz.empty()) {
        matrix_->setCoupling({}, {}, {});
        plot_->setCurves({}, {}, workingHz, {}, {});
        return;
    }
    setTitle(tr("Feeds: impedances and coupling at %1").arg(text(quantity::formatFrequency(workingHz))));
    const auto here = sweep->at(workingHz);
    matrix_->setCoupling(study::couplingOf(here.feedAdmittance, sweep->referenceOhm), here.impedanceOhm,
                         names_);
    plot_->setCurves(std::move(hz), std::move(all), workingHz, matrix_->pair(), matrix_->pairName());
}

}  // namespace rm::app
