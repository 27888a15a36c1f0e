#include "app/stages/heights/height_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/lengths.h"
#include "app/look/text.h"
#include "app/plot/frame.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kLeft = 46.0;
constexpr double kRight = 62.0;
constexpr double kTop = 22.0;
constexpr double kBottom = 36.0;
constexpr double kBetween = 24.0;

QString number(double value, double step) {
    return written(value, 'f', step < 0.1 ? 2 : step < 1.0 ? 1 : 0).replace('-', QChar(0x2212));
}

}  // namespace

HeightPlots::HeightPlots(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Height study"));
    setMinimumSize(320, 320);
    setToolTip(tr("Move the mouse to read values; click to put the antenna at that height."));
}

void HeightPlots::setStudy(std::shared_ptr<const study::HeightStudy> study) {
    study_ = std::move(study);
    if (study_) nowM_ = study_->nowFeedHeightM;
    cursorM_.reset();
    update();
}

void HeightPlots::setNow(double feedHeightM) {
    nowM_ = feedHeightM;
    update();
}

double HeightPlots::topM() const {
    return study_ && !study_->points.empty() ? study_->points.back().feedHeightM : 1.0;
}

double HeightPlots::xOf(double feedHeightM) const {
    return kLeft + (width() - kLeft - kRight) * feedHeightM / topM();
}

double HeightPlots::heightAt(double x) const {
    return (x - kLeft) / (width() - kLeft - kRight) * topM();
}

const study::SitePoint& HeightPlots::nearest(double feedHeightM) const {
    return *std::min_element(study_->points.begin(), study_->points.end(), [&](const auto& a, const auto& b) {
        return std::abs(a.feedHeightM - feedHeightM) < std::abs(b.feedHeightM - feedHeightM);
    });
}

QString HeightPlots::reading() const {
    if (!cursorM_ || !study_ || study_->points.empty()) return {};
    const auto& p = nearest(*cursorM_);
    return tr("%1: %2 Ω, SWR %3, takeoff %4°, %5 % to ground")
        .arg(lengthText(p.feedHeightM, 2))
        .arg(QString::fromStdString(quantity::formatImpedance(p.impedanceOhm)),
             QString::fromStdString(quantity::formatSwr(p.swr)))
        .arg(written(p.peak.direction.elevationDeg, 'f', 0))
        .arg(written(100.0 * p.groundShare, 'f', 0));
}

std::vector<HeightPlots::Plot> HeightPlots::plots() const {
    Plot impedance{
        tr("R and X at the feed, Ω"), 0.0, 1.0, 0.5, {{"R", theme_.copper, {}}, {"X", theme_.water, {}}}};
    Plot takeoff{tr("takeoff angle of the strongest lobe"), 0.0, 90.0, 30.0, {{"", theme_.reed, {}}}};
    Plot gain{tr("gain in dBi at the watch angles"), 0.0, 1.0, 0.5, {}};
    // Low angles in deep water, high ones in copper: one family from the horizon up.
    const QColor hues[] = {theme_.overlay(0), theme_.overlay(1), theme_.overlay(3), theme_.copper};
    for (std::size_t a = 0; a < study_->look.watchDeg.size(); ++a)
        gain.curves.push_back({QString("%1°").arg(study_->look.watchDeg[a]), hues[a], {}});
    for (const auto& p : study_->points) {
        impedance.curves[0].value.push_back(p.impedanceOhm.real());
        impedance.curves[1].value.push_back(p.impedanceOhm.imag());
        takeoff.curves[0].value.push_back(p.peak.direction.elevationDeg);
        for (std::size_t a = 0; a < p.watchGainDbi.size(); ++a)
            gain.curves[a].value.push_back(p.watchGainDbi[a]);
    }
    // Close to the ground the impedance can run away: the scale follows all but the lowest tenth.
    double low = 0.0;
    double high = 10.0;
    for (const auto& curve : impedance.curves)
        for (std::size_t i = curve.value.size() / 10; i < curve.value.size(); ++i) {
            low = std::min(low, curve.value[i]);
            high = std::max(high, curve.value[i]);
        }
    impedance.step = roundStep(high - low, 4);
    // A hair below a line of the grid does not open another field.
    impedance.low = std::floor(low / impedance.step + 0.05) * impedance.step;
    impedance.high = std::ceil(high / impedance.step) * impedance.step;
    double best = -100.0;
    for (const auto& curve : gain.curves)
        for (const double v : curve.value) best = std::max(best, v);
    gain.step = 5.0;
    gain.high = std::ceil(best / 5.0) * 5.0;
    gain.low = gain.high - 25.0;
    return {impedance, takeoff, gain};
}

QRectF HeightPlots::area(std::size_t plot, std::size_t count) const {
    const double each =
        (height() - kTop - kBottom - kBetween * static_cast<double>(count - 1)) / static_cast<double>(count);
    return {kLeft, kTop + static_cast<double>(plot) * (each + kBetween), width() - kLeft - kRight, each};
}

void HeightPlots::paintPlot(QPainter& painter, const QRectF& area, const Plot& plot) const {
    painter.setFont(textFont(kSmallPt));
    painter.setPen(theme_.softInk);
    painter.drawText(QRectF(area.left() + 4, area.top() - 18, area.width(), 16),
                     Qt::AlignLeft | Qt::AlignBottom, plot.title);
    painter.setFont(textFont(kTinyPt));
    const auto yOf = [&](double value) {
        return area.bottom() - area.height() * (value - plot.low) / (plot.high - plot.low);
    };
    for (const double v : ticksBy(plot.low, plot.high, plot.step)) {
        painter.setPen(QPen(theme_.line, std::abs(v) < 1e-9 ? 1.4 : 0.7));
        painter.drawLine(QPointF(area.left(), yOf(v)), QPointF(area.right(), yOf(v)));
        painter.setPen(theme_.softInk);
        painter.drawText(QRectF(0, yOf(v) - 8, kLeft - 6, 16), Qt::AlignRight | Qt::AlignVCenter,
                         number(v, plot.step));
    }
    std::vector<EndName> ends;
    painter.save();
    painter.setClipRect(area.adjusted(-1, -1, 1, 1));
    for (const auto& curve : plot.curves) {
        QPolygonF line;
        for (std::size_t i = 0; i < curve.value.size(); ++i)
            line << QPointF(xOf(study_->points[i].feedHeightM), yOf(curve.value[i]));
        painter.setPen(QPen(curve.colour, 2.0, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(line);
        if (!curve.value.empty())
            ends.push_back(
                {std::clamp(yOf(curve.value.back()), area.top(), area.bottom()), curve.name, curve.colour});
    }
    painter.restore();
    paintEndNames(painter, area, kRight, std::move(ends));
}

void HeightPlots::paintHeights(QPainter& painter, const QRectF& lowest) const {
    painter.setFont(textFont(kTinyPt));
    const double lambda = wavelengthM(study_->frequencyHz);
    const LengthUnit unit = lengthUnit();
    const double step = roundStep(topM() / unit.metres, 8);
    painter.setPen(theme_.softInk);
    for (const double h : ticksBy(0.0, topM() / unit.metres, step))
        painter.drawText(QRectF(xOf(h * unit.metres) - 30, lowest.bottom() + 3, 60, 14), Qt::AlignCenter,
                         number(h, step));
    painter.drawText(QRectF(xOf(topM()) + 8, lowest.bottom() + 3, kRight, 14), Qt::AlignLeft,
                     tr("%1 up").arg(unit.name));
    for (const double h : ticksBy(0.0, topM() / lambda, 0.25)) {
        const double x = xOf(h * lambda);
        painter.setPen(QPen(theme_.line, 1.0));
        painter.drawLine(QPointF(x, lowest.bottom()), QPointF(x, lowest.bottom() + 3));
        painter.setPen(theme_.softInk);
        painter.drawText(QRectF(x - 30, lowest.bottom() + 17, 60, 14), Qt::AlignCenter, written(h));
    }
    painter.drawText(QRectF(xOf(topM()) + 8, lowest.bottom() + 17, kRight, 14), Qt::AlignLeft, tr("wavel."));
}

void HeightPlots::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!study_ || study_->points.empty()) return;
    const auto all = plots();
    for (std::size_t i = 0; i < all.size(); ++i) paintPlot(painter, area(i, all.size()), all[i]);
    const QRectF first = area(0, all.size());
    const QRectF last = area(all.size() - 1, all.size());
    paintHeights(painter, last);
    const auto upright = [&](double heightM, const QColor& colour, Qt::PenStyle style) {
        painter.setPen(QPen(colour, 1.4, style));
        painter.drawLine(QPointF(xOf(heightM), first.top()), QPointF(xOf(heightM), last.bottom()));
    };
    if (nowM_ >= 0.0 && nowM_ <= topM()) {
        upright(nowM_, theme_.ink, Qt::DashLine);
        painter.setFont(textFont(kTinyPt, true));
        painter.setPen(theme_.ink);
        const QString now = tr("now %1").arg(lengthText(nowM_, 1));
        const bool left = xOf(nowM_) > first.right() - 70;
        painter.drawText(QRectF(left ? xOf(nowM_) - 84 : xOf(nowM_) + 4, first.top() + 1, 80, 14),
                         left ? Qt::AlignRight : Qt::AlignLeft, now);
    }
    if (cursorM_) {
        const auto& p = nearest(*cursorM_);
        upright(p.feedHeightM, theme_.heather, Qt::SolidLine);
        painter.setPen(Qt::NoPen);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const QRectF a = area(i, all.size());
            const auto index = static_cast<std::size_t>(&p - study_->points.data());
            for (const auto& curve : all[i].curves) {
                const double y =
                    a.bottom() - a.height() * (curve.value[index] - all[i].low) / (all[i].high - all[i].low);
                if (y < a.top() - 1 || y > a.bottom() + 1) continue;
                painter.setBrush(theme_.heather);
                painter.drawEllipse(QPointF(xOf(p.feedHeightM), y), 3.2, 3.2);
            }
        }
    }
}

void HeightPlots::mouseMoveEvent(QMouseEvent* event) {
    const double h = heightAt(event->position().x());
    cursorM_ = study_ && !study_->points.empty() && h >= 0.0 && h <= topM() ? std::optional<double>(h)
                                                                            : std::nullopt;
    update();
    Q_EMIT cursorMoved();
}

void HeightPlots::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !study_ || study_->points.empty()) return;
    const double h = heightAt(event->position().x());
    if (h < 0.0 || h > topM()) return;
    // Between the points too, but never below the lowest: nothing was worked out there.
    const double feed = std::max(h, study_->points.front().feedHeightM);
    Q_EMIT heightChosen(study_->points.front().siteHeightM + feed - study_->points.front().feedHeightM);
}

void HeightPlots::leaveEvent(QEvent*) {
    cursorM_.reset();
    update();
    Q_EMIT cursorMoved();
}

// ---------------------------------------------------------------------------------------------------------

HeightView::HeightView(QWidget* parent) : PlotStudy(parent) {
    refresh();
}

QString HeightView::old() const {
    return tr("The design has changed since: only the height may differ.");
}

QString HeightView::plain() const {
    return tr("Height of the feed above ground. Click to put the antenna there.");
}

}  // namespace rm::app
