#include "app/dialogs/scale_dialog.h"

#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/look/typed_number.h"
#include "core/quantity/formula.h"
#include "core/study/resonance.h"

namespace rm::app {

ScaleDialog::ScaleDialog(const model::Design& design, double targetHz, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Scale to frequency"));
    auto* layout = new QVBoxLayout(this);
    auto* about = new QLabel(
        tr("Multiplies the chosen dimensions by one factor until the antenna is resonant at this frequency, "
           "where it hangs: what is not chosen, such as the height, stays."));
    about->setWordWrap(true);
    about->setMinimumWidth(380);
    layout->addWidget(about);
    auto* form = new QFormLayout;
    frequency_ = new QLineEdit(QString("%1 MHz").arg(written(targetHz / 1e6, 'f', 3)));
    frequency_->setAccessibleName(tr("Resonant at"));
    form->addRow(tr("Resonant at"), frequency_);
    layout->addLayout(form);
    const auto names = study::scalableDimensions(design);
    for (const auto& d : design.dimensions) {
        if (std::find(names.begin(), names.end(), d.name) == names.end()) continue;
        auto* box = new QCheckBox(QString::fromStdString(d.name + "   " + d.text));
        box->setObjectName(QString::fromStdString(d.name));
        box->setToolTip(QString::fromStdString(d.note));
        box->setChecked(d.scales);
        connect(box, &QCheckBox::toggled, this, &ScaleDialog::assess);
        boxes_.push_back(box);
        layout->addWidget(box);
    }
    sentence_ = new QLabel;
    sentence_->setProperty("wrong", true);
    sentence_->setWordWrap(true);
    layout->addWidget(sentence_);
    const auto buttons = dialogButtons(*this, tr("Scale"));
    go_ = buttons.main;
    layout->addWidget(buttons.box);
    connect(frequency_, &QLineEdit::textChanged, this, &ScaleDialog::assess);
    assess();
    frequency_->selectAll();
}

void ScaleDialog::assess() {
    QString wrong;
    try {
        if (targetHz() <= 0.0) wrong = tr("The frequency has to be above zero.");
    } catch (const Error& e) {
        wrong = QString::fromUtf8(e.what());
    }
    if (boxes_.empty())
        wrong =
            tr("This design has no dimension that is a plain length: name the lengths that should scale.");
    else if (chosen().empty())
        wrong = tr("Choose at least one dimension.");
    sentence_->setText(wrong);
    go_->setEnabled(wrong.isEmpty());
}

std::vector<std::string> ScaleDialog::chosen() const {
    std::vector<std::string> names;
    for (const QCheckBox* box : boxes_)
        if (box->isChecked()) names.push_back(box->objectName().toStdString());
    return names;
}

double ScaleDialog::targetHz() const {
    return quantity::evaluate(keptTyped(frequency_->text()), quantity::Kind::Frequency, {});
}

QCheckBox* ScaleDialog::box(const QString& name) const {
    for (QCheckBox* box : boxes_)
        if (box->objectName() == name) return box;
    return nullptr;
}

}  // namespace rm::app
