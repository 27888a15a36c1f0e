// The fields of the site in the item editor: ground, height with its slider, heading.
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QSlider>
#include <algorithm>
#include <cmath>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "core/model/expand.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"

namespace rm::app {

using namespace rm::model;
using quantity::Kind;

namespace {

/// One list for all kinds of ground: free space and perfect ground beside the soils.
std::string groundId(const Site& site) {
    if (site.ground == GroundKind::FreeSpace) return "free";
    if (site.ground == GroundKind::Perfect) return "perfect";
    return site.soil;
}

void setGround(Site& site, const std::string& id) {
    if (id == "free" || id == "perfect") {
        site.ground = id == "free" ? GroundKind::FreeSpace : GroundKind::Perfect;
        return;
    }
    // Custom begins where the last soil stood.
    if (const Soil* before = findSoil(site.soil); id == kCustomSoil && before != nullptr) {
        site.permittivity = QString::number(before->relativePermittivity).toStdString();
        site.conductivity = QString::number(before->conductivitySm).toStdString();
    }
    site.ground = GroundKind::Real;
    site.soil = id;
}

constexpr double kSliderStepM = 0.01;

}  // namespace

void ItemEditor::buildSite() {
    title_->setText(tr("Site"));
    const Site& site = document_.design().site;
    QStringList names;
    QStringList ids;
    for (const auto& soil : soils()) {
        names << QString::fromStdString(soil.name);
        ids << QString::fromStdString(soil.id);
    }
    names << tr("Own figures") << tr("Perfect ground") << tr("Free space");
    ids << kCustomSoil << "perfect"
        << "free";
    addChoice(
        tr("Ground"), names, ids, [](const Design& d) { return groundId(d.site); },
        [](Design& d, const std::string& v) { setGround(d.site, v); },
        tr("What the antenna stands on, for miles around"));
    const bool own = site.ground == GroundKind::Real && site.soil == kCustomSoil;
    if (own) {
        addQuantity(
            tr("Permittivity"), Kind::Number, [](const Design& d) { return d.site.permittivity; },
            [](Design& d, const std::string& v) { d.site.permittivity = v; },
            tr("Relative: air 1, dry sand 3 to 10, loam 15 to 30, water 80"));
        addQuantity(
            tr("S per metre"), Kind::Number, [](const Design& d) { return d.site.conductivity; },
            [](Design& d, const std::string& v) { d.site.conductivity = v; },
            tr("Conductivity: city 0.001, pasture 0.005, wet loam 0.01 to 0.03, salt water 5"));
    } else if (const Soil* soil = findSoil(site.soil); soil != nullptr && site.ground == GroundKind::Real) {
        auto* constants = new QLabel(tr("permittivity %1, %2 S/m  (%3)")
                                         .arg(soil->relativePermittivity)
                                         .arg(soil->conductivitySm)
                                         .arg(QString::fromStdString(soil->source)));
        constants->setProperty("soft", true);
        constants->setFont(textFont(kTinyPt));
        constants->setWordWrap(true);
        grid_->addWidget(constants, grid_->rowCount(), 0, 1, 3);
    }
    addQuantity(
        tr("Height"), Kind::Length, [](const Design& d) { return d.site.height; },
        [](Design& d, const std::string& v) { d.site.height = v; },
        tr("Added to every height of the design"));
    addHeightSlider();
    addQuantity(
        tr("Heading"), Kind::Angle, [](const Design& d) { return d.site.heading; },
        [](Design& d, const std::string& v) { d.site.heading = v; },
        tr("Compass bearing that the front points to"));
}

void ItemEditor::addHeightSlider() {
    heightSlider_ = new QSlider(Qt::Horizontal);
    heightSlider_->setAccessibleName(tr("Height slider"));
    heightSlider_->setToolTip(tr("Raise and lower the antenna; the patterns follow"));
    grid_->addWidget(heightSlider_, grid_->rowCount(), 1, 1, 2);
    connect(heightSlider_, &QSlider::valueChanged, this, [this](int value) {
        if (updating_) return;
        edit(
            tr("Change height"),
            [&](Design& d) { d.site.height = quantity::lengthLike(d.site.height, value * kSliderStepM); },
            "height");
    });
    connect(heightSlider_, &QSlider::sliderReleased, this, [this] { document_.finishMerging(); });
}

void ItemEditor::refreshHeightSlider() {
    const model::Expansion& expansion = *session_.expansion();
    const double lambda = expansion.designFrequencyHz > 0.0 ? wavelengthM(expansion.designFrequencyHz) : 20.0;
    const double top = std::max(2.0 * lambda, 1.2 * expansion.heightM);
    // While a finger is on it the scale stays.
    if (!heightSlider_->isSliderDown())
        heightSlider_->setRange(0, static_cast<int>(std::ceil(top / kSliderStepM)));
    heightSlider_->setPageStep(std::max(1, static_cast<int>(0.05 * lambda / kSliderStepM)));
    heightSlider_->setValue(static_cast<int>(std::lround(expansion.heightM / kSliderStepM)));
    heightSlider_->setEnabled(document_.design().site.ground != GroundKind::FreeSpace);
}

}  // namespace rm::app
