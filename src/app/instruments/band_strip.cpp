#include "app/instruments/band_strip.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <algorithm>
#include <cmath>

#include "app/look/lengths.h"
#include "app/look/text.h"
#include "core/quantity/format.h"

namespace rm::app {

BandChip::BandChip(QWidget* parent) : Themed(parent) {
    setCheckable(true);
    setAutoExclusive(true);
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

void BandChip::show(const Look& look) {
    if (look == look_) return;
    look_ = look;
    setToolTip(tr("%1: %2 to %3 MHz. %4\nClick to work on this band.")
                   .arg(QString::fromStdString(look.band.name))
                   .arg(written(look.band.lowHz / 1e6, 'f', 4))
                   .arg(written(look.band.highHz / 1e6, 'f', 4))
                   .arg(look.meant ? tr("The bar is the worst SWR in the band.")
                                   : tr("This design is not meant for it.")));
    setAccessibleName(QString("%1 %2").arg(QString::fromStdString(look.band.name), swrText()));
    update();
}

QString BandChip::swrText() const {
    if (!look_.sweep || look_.sweep->points.empty()) return {};
    return QString("SWR %1").arg(QString::fromStdString(quantity::formatSwr(look_.sweep->worstSwr())));
}

void BandChip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
    p.setPen(QPen(hasFocus()     ? theme_.heather
                  : isChecked()  ? theme_.reed
                  : underMouse() ? theme_.softInk
                                 : theme_.line,
                  isChecked() || hasFocus() ? 2.0 : 1.0));
    p.setBrush(isChecked() ? theme_.reedTint : theme_.panel);
    p.drawRoundedRect(box, 8, 8);
    p.setFont(textFont(kTitlePt, true));
    p.setPen(look_.meant ? theme_.ink : theme_.softInk);
    p.drawText(QRectF(10, 0, 54, height()), Qt::AlignVCenter | Qt::AlignLeft,
               QString::fromStdString(look_.band.name));
    const double left = 60;
    const double width = box.right() - left - 9;
    if (!look_.meant) {
        p.setFont(textFont(kTinyPt));
        p.drawText(QRectF(left, 0, width, height()), Qt::AlignVCenter | Qt::AlignRight, tr("not for it"));
        return;
    }
    p.setOpacity(look_.stale ? 0.4 : 1.0);
    p.setPen(Qt::NoPen);
    p.setBrush(theme_.line);
    p.drawRoundedRect(QRectF(left, 18, width, 4.5), 2, 2);
    if (look_.sweep && !look_.sweep->points.empty()) {
        const double worst = look_.sweep->worstSwr();
        // Full at an SWR of 5; the logarithm gives the range that matters most of the length.
        const double share = std::clamp(std::log(worst) / std::log(5.0), 0.03, 1.0);
        p.setBrush(theme_.forSwr(worst, look_.limits));
        p.drawRoundedRect(QRectF(left, 18, width * share, 4.5), 2, 2);
        p.setFont(textFont(kSmallPt));
        p.setPen(theme_.forSwr(worst, look_.limits));
        p.drawText(QRectF(left, 3, width, 15), Qt::AlignRight | Qt::AlignVCenter, swrText());
    }
    p.setFont(textFont(6.8));
    p.setPen(theme_.softInk);
    // How far people stay takes the place of the frequency, which the caption of everything else says too.
    p.setOpacity(1.0);
    if (clearM_) p.setPen(*clearM_ > 0.0 ? theme_.clay : theme_.reed);
    p.drawText(QRectF(left, 22, width, 10), Qt::AlignLeft | Qt::AlignVCenter,
               !clearM_         ? QString("%1 MHz").arg(written(look_.band.centreHz() / 1e6, 'f', 2))
               : *clearM_ > 0.0 ? tr("clear of %1").arg(lengthText(*clearM_, 1))
                                : tr("clear everywhere"));
}

void BandChip::setClear(std::optional<double> metres) {
    if (metres == clearM_) return;
    clearM_ = metres;
    update();
}

BandStrip::BandStrip(QWidget* parent) : Themed(parent) {
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    auto* edit = new QToolButton;
    edit->setText(tr("Bands…"));
    edit->setProperty("quiet", true);
    edit->setToolTip(tr("Choose the bands of this project and their edges"));
    edit->setObjectName("editBands");
    connect(edit, &QToolButton::clicked, this, &BandStrip::editBands);
    row_->addWidget(edit);
    row_->addStretch(1);
    auto* caption = new QLabel;
    caption->setProperty("soft", true);
    caption->setFont(textFont(kSmallPt));
    caption_ = caption;
    row_->addWidget(caption);
}

void BandStrip::setCaption(const QString& caption) {
    static_cast<QLabel*>(caption_)->setText(caption);
}

void BandStrip::setProject(const model::Project& project) {
    if (chips_.size() != project.bands.size()) {
        for (BandChip* chip : chips_) delete chip;
        chips_.clear();
        for (std::size_t i = 0; i < project.bands.size(); ++i) {
            auto* chip = new BandChip;
            connect(chip, &QAbstractButton::clicked, this,
                    [this, i] { Q_EMIT bandChosen(static_cast<int>(i)); });
            row_->insertWidget(static_cast<int>(i), chip);
            chips_.push_back(chip);
        }
    }
    const auto& names = project.active().bands;
    for (std::size_t i = 0; i < chips_.size(); ++i) {
        BandChip::Look look;
        look.band = project.bands[i];
        look.limits = project.swrLimits;
        look.meant = names.empty() || std::find(names.begin(), names.end(), look.band.name) != names.end();
        // Another band in the same place: what was known of the old one says nothing.
        if (chips_[i]->look().band == look.band) look.sweep = chips_[i]->look().sweep;
        chips_[i]->show(look);
        chips_[i]->setChecked(i == project.workingBand);
    }
}

void BandStrip::show(const ResultsPtr& results) {
    for (std::size_t i = 0; i < chips_.size() && i < results->bands.size(); ++i) {
        BandChip::Look look = chips_[i]->look();
        if (i >= results->project->bands.size() || !(results->project->bands[i] == look.band)) continue;
        if (results->bands[i]) look.sweep = results->bands[i];
        look.stale = results->bands[i] == nullptr;
        chips_[i]->show(look);
    }
}

void BandStrip::setClear(const ClearPtr& clear) {
    for (auto* chip : chips_) {
        std::optional<double> farthest;
        if (clear)
            for (const auto& row : clear->rows)
                if (row.band == chip->look().band.name && row.person == study::Person::Public)
                    farthest = std::max(row.head.fromMiddleM, row.window.fromMiddleM);
        chip->setClear(farthest);
    }
}

void BandStrip::setAllStale() {
    for (BandChip* chip : chips_) {
        BandChip::Look look = chip->look();
        look.stale = true;
        chip->show(look);
    }
}

}  // namespace rm::app
