#include "app/stages/grounds/ground_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/look/key_pointer.h"
#include "app/look/text.h"
#include "app/plot/ticks.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"

namespace rm::app {

namespace {

constexpr double kHead = 40.0;
constexpr double kScaleShare = 0.5;  ///< of the width, for the gains

QString nameOf(const std::string& soil) {
    if (const auto* known = model::findSoil(soil)) return QString::fromStdString(known->name);
    return soil == model::kCustomSoil ? tr("Own figures") : tr("Perfect ground");
}

}  // namespace

GroundRows::GroundRows(QWidget* parent) : Themed(parent) {
    setMouseTracking(true);
    new KeyPointer(*this);  // of the view
    setAccessibleName(tr("Ground study"));
    setMinimumSize(320, 260);
    setToolTip(tr("Click a row to put the antenna on that ground."));
}

void GroundRows::setStudy(study::GroundStudy study) {
    study_ = std::move(study);
    update();
}

void GroundRows::setNow(const QString& soil) {
    now_ = soil;
    update();
}

QRectF GroundRows::rowRect(std::size_t row) const {
    const double each = std::min(
        68.0, (height() - kHead - 6.0) / std::max<double>(1.0, static_cast<double>(study_.points.size())));
    return {0.0, kHead + each * static_cast<double>(row), static_cast<double>(width()), each};
}

QRectF GroundRows::scaleArea() const {
    const double left = width() * (1.0 - kScaleShare) + 8.0;
    return {left, kHead, width() - left - 22.0, static_cast<double>(height()) - kHead};
}

void GroundRows::paintRow(QPainter& painter, std::size_t row, double low, double high) const {
    const auto& p = study_.points[row];
    const QRectF r = rowRect(row);
    const bool now = QString::fromStdString(p.soil) == now_;
    if (now || static_cast<int>(row) == hover_)
        painter.fillRect(r.adjusted(0, 1, 0, -1), now ? theme_.reedTint : theme_.sunken);
    painter.setPen(QPen(theme_.line, 0.7));
    painter.drawLine(r.bottomLeft(), r.bottomRight());
    const double textWidth = width() * (1.0 - kScaleShare) - 10.0;
    painter.setPen(theme_.ink);
    painter.setFont(textFont(kTextPt, now));
    const double middle = r.center().y();
    painter.drawText(QRectF(8, middle - 27, textWidth, 18), Qt::AlignLeft | Qt::AlignVCenter,
                     nameOf(p.soil) + (now ? tr("  (here)") : ""));
    painter.setFont(textFont(kSmallPt));
    painter.setPen(theme_.softInk);
    painter.drawText(QRectF(8, middle - 9, textWidth, 16), Qt::AlignLeft | Qt::AlignVCenter,
                     tr("%1 Ω  SWR %2  takeoff %3°")
                         .arg(QString::fromStdString(quantity::formatImpedance(p.impedanceOhm)),
                              QString::fromStdString(quantity::formatSwr(p.swr)))
                         .arg(std::lround(p.peak.direction.elevationDeg)));
    // Where the power goes: what heats the ground is filled.
    const QRectF bar(8, middle + 11, 110, 8);
    painter.setPen(QPen(theme_.line, 1.0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(bar, 3, 3);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme_.clay);
    painter.drawRoundedRect(QRectF(bar.left(), bar.top(), bar.width() * p.groundShare, bar.height()), 3, 3);
    painter.setPen(theme_.softInk);
    painter.setFont(textFont(kTinyPt));
    painter.drawText(QRectF(bar.right() + 8, middle + 7, textWidth - 126, 16),
                     Qt::AlignLeft | Qt::AlignVCenter,
                     tr("%1 % to ground").arg(std::lround(100.0 * p.groundShare)));
    const QRectF scale = scaleArea();
    const QColor hues[] = {theme_.overlay(0), theme_.overlay(1), theme_.overlay(3), theme_.copper};
    // A lane for every angle, so that equal gains do not hide each other.
    const double lane = (r.height() - 8.0) / static_cast<double>(p.watchGainDbi.size());
    for (std::size_t a = 0; a < p.watchGainDbi.size(); ++a) {
        const double x =
            scale.left() + scale.width() * (std::max(low, p.watchGainDbi[a]) - low) / (high - low);
        const double y = r.top() + 4.0 + lane * (static_cast<double>(a) + 0.5);
        painter.setPen(QPen(hues[a], 2.2, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(QPointF(scale.left(), y), QPointF(x, y));
        painter.setPen(Qt::NoPen);
        painter.setBrush(hues[a]);
        painter.drawEllipse(QPointF(x, y), 3.4, 3.4);
        painter.setPen(theme_.ink);
        painter.setFont(textFont(kTinyPt));
        painter.drawText(QRectF(x + 7, y - 8, 40, 16), Qt::AlignLeft | Qt::AlignVCenter,
                         QString::fromStdString(quantity::formatDb(p.watchGainDbi[a])));
    }
}

void GroundRows::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (study_.points.empty()) return;
    double best = -100.0;
    for (const auto& p : study_.points)
        for (const double g : p.watchGainDbi) best = std::max(best, g);
    const double high = std::ceil((best + 3.0) / 5.0) * 5.0;
    const double low = high - 30.0;
    const QRectF scale = scaleArea();
    const double bottom = rowRect(study_.points.size() - 1).bottom();
    for (const double g : ticksBy(low, high, 5.0)) {
        const double x = scale.left() + scale.width() * (g - low) / (high - low);
        painter.setPen(QPen(theme_.line, 0.7));
        painter.drawLine(QPointF(x, kHead), QPointF(x, bottom));
        painter.setPen(theme_.softInk);
        painter.setFont(textFont(kTinyPt));
        painter.drawText(QRectF(x - 20, kHead - 16, 40, 14), Qt::AlignCenter,
                         written(g).replace('-', QChar(0x2212)));
    }
    // The key to the colours stands over the scale.
    const QColor hues[] = {theme_.overlay(0), theme_.overlay(1), theme_.overlay(3), theme_.copper};
    double x = scale.left();
    painter.setFont(textFont(kSmallPt));
    painter.setPen(theme_.softInk);
    painter.drawText(QRectF(x, 2, 96, 16), Qt::AlignLeft | Qt::AlignVCenter, tr("gain in dBi at"));
    x += 98;
    painter.setFont(textFont(kSmallPt, true));
    for (std::size_t a = 0; a < study_.look.watchDeg.size(); ++a) {
        painter.setPen(theme_.words(hues[a]));
        painter.drawText(QRectF(x, 2, 36, 16), Qt::AlignLeft | Qt::AlignVCenter,
                         QString("%1°").arg(study_.look.watchDeg[a]));
        x += 36;
    }
    for (std::size_t row = 0; row < study_.points.size(); ++row) paintRow(painter, row, low, high);
}

void GroundRows::mouseMoveEvent(QMouseEvent* event) {
    hover_ = -1;
    for (std::size_t row = 0; row < study_.points.size(); ++row)
        if (rowRect(row).contains(event->position())) hover_ = static_cast<int>(row);
    update();
}

void GroundRows::mousePressEvent(QMouseEvent* event) {
    for (std::size_t row = 0; row < study_.points.size(); ++row)
        if (event->button() == Qt::LeftButton && rowRect(row).contains(event->position())) {
            Q_EMIT groundChosen(QString::fromStdString(study_.points[row].soil));
            return;
        }
}

void GroundRows::leaveEvent(QEvent*) {
    hover_ = -1;
    update();
}

// ---------------------------------------------------------------------------------------------------------

GroundView::GroundView(QWidget* parent) : StudyFrame(parent) {
    rows_ = new GroundRows;
    addContent(rows_, 1);
}

void GroundView::setStudy(study::GroundStudy study, const QString& title) {
    setTitle(title);
    rows_->setStudy(std::move(study));
    setStale(false);
}

}  // namespace rm::app
