#include "app/stages/field/field_view.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/look/small_fields.h"
#include "app/look/text.h"

namespace rm::app {

FieldView::FieldView(QWidget* parent) : StudyFrame(parent), canvas_(new FieldCanvas) {
    setTitle(tr("Field close to the antenna"));
    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* first = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    auto* third = new QHBoxLayout;
    for (auto* row : {first, second, third}) row->setSpacing(5);
    kind_ =
        smallChoice(tr("What is shown"), {tr("electric field"), tr("magnetic field"), tr("flow of power")},
                    tr("V/m, A/m or W/m², with the radio at full power"));
    part_ = smallChoice(tr("Part of it"), {tr("all of it"), tr("forward"), tr("to the left"), tr("upright")},
                        tr("The whole, or its part along one axis of the design"));
    values_ = smallChoice(tr("Values"), {tr("rms"), tr("peak")},
                          tr("Limits are rms; a peak is what it comes to in each period"));
    colours_ = smallChoice(tr("Colours"), {tr("colours in dB"), tr("colours in even steps")},
                           tr("Over 40 dB, or from nothing to the largest value"));
    plane_ = smallChoice(tr("Plane"), {tr("level"), tr("upright")}, tr("Seen from above, or from the side"));
    height_ = numberField(tr("Height in m"), tr("Of a level plane above the ground: 1.8 m is that of a head"),
                          -100.0, 1e4);
    azimuth_ = numberField(tr("Azimuth"),
                           tr("Along which an upright plane runs, degrees from the front to the left"),
                           -360.0, 360.0);
    reach_ = numberField(tr("Reach in m"),
                         tr("From the middle of the antenna to the sides of the map; empty: by its size"),
                         0.05, 1e5);
    reach_->setPlaceholderText(tr("all"));
    animate_ = new QCheckBox(tr("through the period"));
    animate_->setToolTip(tr("Shows the field as it comes and goes, slowed down"));
    limits_ = new QCheckBox(tr("limits for people"));
    limits_->setToolTip(
        tr("Where the field reaches the limit: of the public drawn through, of the operator dashed"));
    auto* rules = new QToolButton;
    rules->setText(tr("Keep clear..."));
    rules->setObjectName("keepClear");
    rules->setToolTip(tr("Which limits, at which power, and the distances on all bands"));
    auto* csv = new QToolButton;
    csv->setText("CSV...");
    csv->setObjectName("fieldCsv");
    csv->setToolTip(tr("Every point of the map, total and parts"));
    for (QWidget* w : std::initializer_list<QWidget*>{kind_, part_, values_, colours_}) first->addWidget(w);
    first->addStretch(1);
    second->addWidget(plane_);
    second->addWidget(softLabel(tr("at")));
    second->addWidget(height_);
    second->addWidget(softLabel(tr("m, along")));
    second->addWidget(azimuth_);
    second->addWidget(softLabel(tr("°, reaching")));
    second->addWidget(reach_);
    second->addWidget(softLabel("m"));
    second->addStretch(1);
    third->addWidget(animate_);
    third->addWidget(limits_);
    third->addStretch(1);
    third->addWidget(rules);
    third->addWidget(csv);
    column->addLayout(first);
    column->addLayout(second);
    column->addLayout(third);
    column->addWidget(canvas_, 1);
    addContent(content, 1);
    for (QComboBox* combo : {kind_, part_, values_, colours_, plane_})
        connect(combo, &QComboBox::activated, this, &FieldView::choose);
    for (QLineEdit* field : {height_, azimuth_, reach_})
        connect(field, &QLineEdit::editingFinished, this, &FieldView::choose);
    connect(animate_, &QCheckBox::toggled, canvas_, &FieldCanvas::setAnimated);
    connect(limits_, &QCheckBox::toggled, this, [this] { setRules(rules_); });
    connect(rules, &QToolButton::clicked, this, &FieldView::clearRequested);
    connect(csv, &QToolButton::clicked, this, &FieldView::csvRequested);
    connect(canvas_, &FieldCanvas::pointerMoved, this, &FieldView::refreshLine);
    setLook(look_);
}

void FieldView::setLook(const NearLook& look) {
    look_ = look;
    updating_ = true;
    kind_->setCurrentIndex(static_cast<int>(look.kind));
    part_->setCurrentIndex(static_cast<int>(look.part));
    values_->setCurrentIndex(look.peak ? 1 : 0);
    colours_->setCurrentIndex(look.even ? 1 : 0);
    plane_->setCurrentIndex(look.place.upright ? 1 : 0);
    height_->setText(written(look.place.heightM));
    azimuth_->setText(written(look.place.azimuthDeg));
    reach_->setText(look.place.reachM > 0.0 ? written(look.place.reachM) : QString());
    azimuth_->setEnabled(look.place.upright);
    updating_ = false;
}

/// What is no number, or none that makes sense, is put back as it was.
void FieldView::choose() {
    if (updating_) return;
    NearLook look = look_;
    look.kind = static_cast<study::FieldKind>(kind_->currentIndex());
    look.part = static_cast<study::FieldPart>(part_->currentIndex());
    look.peak = values_->currentIndex() == 1;
    look.even = colours_->currentIndex() == 1;
    look.place.upright = plane_->currentIndex() == 1;
    const auto read = [](const QLineEdit* field, double& value) { value = numberIn(field).value_or(value); };
    read(height_, look.place.heightM);
    read(azimuth_, look.place.azimuthDeg);
    if (reach_->text().trimmed().isEmpty())
        look.place.reachM = 0.0;
    else
        read(reach_, look.place.reachM);
    const bool changed = !(look == look_);
    setLook(look);
    if (changed) Q_EMIT lookChosen(look);
}

void FieldView::setMap(const FieldMapPtr& map, const ExpansionPtr& expansion) {
    canvas_->setMap(map, expansion, look_);
    refreshLine();
}

void FieldView::setRules(const model::KeepClear& rules) {
    rules_ = rules;
    canvas_->setRules(limits_->isChecked() ? std::optional(rules) : std::nullopt);
    refreshLine();
}

bool FieldView::showsLimits() const {
    return limits_->isChecked();
}

void FieldView::refreshLine() {
    QString plain = tr("The pointer reads the field; drag a line to see it along that.");
    if (canvas_->map() != nullptr)
        plain = tr("%1 W into the antenna. %2").arg(written(canvas_->map()->antennaW, 'g', 3)).arg(plain);
    if (showsLimits())
        plain += tr(" Drawn through: %1; dashed: the operator.")
                     .arg(QString::fromStdString(study::nameOf(rules_, study::Person::Public)));
    setLine(canvas_->reading(), tr("This is the field of the antenna before the last change."), plain);
}

}  // namespace rm::app
