#include "app/dialogs/angles_dialog.h"
#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "core/study/lobes.h"

namespace rm::app {

namespace {

double numberIn(const QLineEdit* field, const std::string& what, double low, double high) {
    const auto v = typedNumber(field->text());
    if (!v || *v < low || *v > high)
        throw Error(say("{} has to be a number from {:g} to {:g}.", what, low, high));
    return *v;
}

}  // namespace

AnglesDialog::AnglesDialog(const model::Angles& angles, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Angles and distances"));
    auto* form = new QFormLayout(this);
    auto* row = new QHBoxLayout;
    for (std::size_t i = 0; i < watch_.size(); ++i) {
        watch_[i] = new QLineEdit(written(angles.watchDeg[i]));
        watch_[i]->setFixedWidth(52);
        row->addWidget(watch_[i]);
    }
    form->addRow(tr("Watch angles in degrees"), row);
    layer_ = new QLineEdit(written(angles.layerKm));
    layer_->setToolTip(tr("Virtual height: 110 km for E, 250 to 350 km for F2"));
    form->addRow(tr("Layer, km up"), layer_);
    nearest_ = new QLineEdit(written(angles.nearestKm));
    farthest_ = new QLineEdit(written(angles.farthestKm));
    form->addRow(tr("Nearest distance wanted, km"), nearest_);
    form->addRow(tr("Farthest distance wanted, km"), farthest_);
    sentence_ = new QLabel;
    sentence_->setWordWrap(true);
    sentence_->setMinimumWidth(360);
    form->addRow(sentence_);
    const auto buttons = dialogButtons(*this, tr("Use these"));
    go_ = buttons.main;
    form->addRow(buttons.box);
    for (QLineEdit* field : findChildren<QLineEdit*>())
        connect(field, &QLineEdit::textChanged, this, &AnglesDialog::assess);
    assess();
}

model::Angles AnglesDialog::angles() const {
    model::Angles angles;
    for (std::size_t i = 0; i < watch_.size(); ++i)
        angles.watchDeg[i] = numberIn(watch_[i], say("A watch angle"), 0, 90);
    angles.layerKm = numberIn(layer_, say("The height of the layer"), 50, 1000);
    angles.nearestKm = numberIn(nearest_, say("The nearest distance"), 0, 20000);
    angles.farthestKm = numberIn(farthest_, say("The farthest distance"), 0, 20000);
    if (angles.farthestKm < angles.nearestKm)
        throw Error(say("The farthest distance has to be beyond the nearest."));
    return angles;
}

void AnglesDialog::assess() {
    bool wrong = false;
    QString words;
    try {
        const model::Angles now = angles();
        if (!now.wanted()) {
            words = tr("No distances are wanted: nothing is shaded.");
        } else if (const auto range = study::neededAngles(now)) {
            words = tr("One hop needs %1° to %2°. Geometry, not a forecast.")
                        .arg(written(range->lowDeg, 'f', 0))
                        .arg(written(range->highDeg, 'f', 0));
        } else {
            words = tr("One hop off this layer does not reach that far.");
        }
    } catch (const Error& e) {
        wrong = true;
        words = QString::fromUtf8(e.what());
    }
    sentence_->setText(words);
    sentence_->setProperty("wrong", wrong);
    go_->setEnabled(!wrong);
}

}  // namespace rm::app
