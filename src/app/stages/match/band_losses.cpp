#include "app/stages/match/band_losses.h"

#include <QPainter>
#include <algorithm>

#include "app/look/text.h"

namespace rm::app {

namespace {

constexpr int kRow = 15;
constexpr double kNameWidth = 40.0;
constexpr double kTextWidth = 92.0;

}  // namespace

BandLosses::BandLosses(QWidget* parent) : Themed(parent) {
    setAccessibleName(tr("Losses by band"));
    setToolTip(
        tr("Of the power that the radio puts in, what each block turns to heat in the middle of each band"));
}

void BandLosses::setStudy(std::shared_ptr<const study::PathStudy> study, const model::Project& project) {
    study_ = std::move(study);
    powerW_ = project.powerW;
    names_.clear();
    for (const auto& band : project.bands) names_.push_back(QString::fromStdString(band.name));
    blocks_.clear();
    for (const auto& block : project.active().feedPath)
        if (block.enabled) blocks_.push_back(QString::fromStdString(block.name));
    const auto known = study_ ? std::count_if(study_->bands.begin(), study_->bands.end(),
                                              [](const auto& b) { return b.has_value(); })
                              : 0;
    height_ = blocks_.empty() ? 0 : kRow * static_cast<int>(known) + 16;
    setFixedHeight(height_);
    update();
}

QString BandLosses::lossText(int band) const {
    const auto b = static_cast<std::size_t>(band);
    if (!study_ || b >= study_->bands.size() || !study_->bands[b]) return {};
    const auto& report = *study_->bands[b];
    return QString("%1 dB, %2 W")
        .arg(written(report.joints.back().totalLossDb, 'f', 2))
        .arg(written(powerW_ - report.arrivingW(powerW_), 'f', 0));
}

void BandLosses::paintEvent(QPaintEvent*) {
    if (!study_ || blocks_.empty()) return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    // The key over the bars: which block is which shade.
    double x = kNameWidth;
    p.setFont(textFont(kTinyPt));
    for (std::size_t i = 0; i < blocks_.size(); ++i) {
        p.setPen(Qt::NoPen);
        p.setBrush(theme_.overlay(i));
        p.drawRect(QRectF(x, 3, 8, 8));
        p.setPen(theme_.softInk);
        const double wide = p.fontMetrics().horizontalAdvance(blocks_[i]);
        p.drawText(QRectF(x + 11, 0, wide + 2, 14), Qt::AlignLeft | Qt::AlignVCenter, blocks_[i]);
        x += wide + 24;
    }
    p.drawText(QRectF(x, 0, width() - x - 4, 14), Qt::AlignRight | Qt::AlignVCenter,
               tr("lost of %1 W").arg(powerW_));
    double top = 16;
    const double barWidth = width() - kNameWidth - kTextWidth - 8;
    for (std::size_t b = 0; b < study_->bands.size() && b < names_.size(); ++b) {
        if (!study_->bands[b]) continue;
        const auto lost = study_->bands[b]->lostW(powerW_);
        p.setFont(textFont(kSmallPt, true));
        p.setPen(theme_.ink);
        p.drawText(QRectF(4, top, kNameWidth, kRow), Qt::AlignLeft | Qt::AlignVCenter, names_[b]);
        p.setPen(QPen(theme_.line, 1.0));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(kNameWidth, top + 3, barWidth, kRow - 6));
        double left = kNameWidth;
        p.setPen(Qt::NoPen);
        for (std::size_t i = 0; i < lost.size(); ++i) {
            const double wide = barWidth * std::max(0.0, lost[i]) / powerW_;
            p.setBrush(theme_.overlay(i));
            p.drawRect(QRectF(left, top + 3, wide, kRow - 6));
            left += wide;
        }
        p.setFont(textFont(kSmallPt));
        p.setPen(theme_.ink);
        p.drawText(QRectF(width() - kTextWidth - 4, top, kTextWidth, kRow), Qt::AlignRight | Qt::AlignVCenter,
                   lossText(static_cast<int>(b)));
        top += kRow;
    }
}

}  // namespace rm::app
