#include "app/dialogs/sweep_dialog.h"

#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <cmath>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"

namespace rm::app {

SweepDialog::SweepDialog(double lowHz, double highHz, int points, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Sweep a range"));
    auto* form = new QFormLayout(this);
    low_ = new QLineEdit(QString("%1 MHz").arg(written(lowHz / 1e6, 'f', 3)));
    high_ = new QLineEdit(QString("%1 MHz").arg(written(highHz / 1e6, 'f', 3)));
    points_ = new QSpinBox;
    points_->setRange(2, 1000001);
    points_->setValue(points);
    form->addRow(tr("From"), low_);
    form->addRow(tr("To"), high_);
    form->addRow(tr("Points"), points_);
    step_ = new QLineEdit;
    step_->setToolTip(tr("Distance of the points; sets their number"));
    form->addRow(tr("Step"), step_);
    connect(step_, &QLineEdit::textEdited, this, [this] {
        try {
            const QSignalBlocker quiet(points_);
            points_->setValue(1 + static_cast<int>(std::lround(
                                      std::min(1e6, (this->highHz() - this->lowHz()) / stepHz()))));
        } catch (const Error&) {
            // Not a number yet; the sentence below says so.
        }
        assess();
    });
    const auto showStep = [this] {
        try {
            const double width = this->highHz() - this->lowHz();
            step_->setText(width > 0.0
                               ? QString("%1 kHz").arg(written(width / (points_->value() - 1) / 1e3, 'g', 5))
                               : QString());
        } catch (const Error&) {
            step_->clear();
        }
        assess();
    };
    connect(points_, &QSpinBox::valueChanged, this, showStep);
    for (QLineEdit* end : {low_, high_}) connect(end, &QLineEdit::textChanged, this, showStep);
    sentence_ = new QLabel;
    sentence_->setObjectName("sentence");
    sentence_->setProperty("wrong", true);
    sentence_->setWordWrap(true);
    form->addRow(sentence_);
    const auto buttons = dialogButtons(*this, tr("Sweep"));
    go_ = buttons.main;
    form->addRow(buttons.box);
    showStep();
    low_->selectAll();
}

void SweepDialog::assess() {
    QString wrong;
    try {
        if (!(lowHz() > 0.0) || !(highHz() > lowHz()))
            wrong = tr("The upper end has to be above the lower one.");
        else
            (void)stepHz();
    } catch (const Error& e) {
        wrong = QString::fromUtf8(e.what());
    }
    sentence_->setText(wrong);
    go_->setEnabled(wrong.isEmpty());
}

double SweepDialog::stepHz() const {
    const double step = quantity::evaluate(keptTyped(step_->text()), quantity::Kind::Frequency, {});
    if (!(step > 0.0)) throw Error(say("The step has to be more than nothing: 10 kHz, for example."));
    // A number alone is in MHz: more than the range is one that was meant in kHz.
    if (step > (highHz() - lowHz()) * (1.0 + 1e-9))
        throw Error(say("The step, {}, is wider than the range.", quantity::formatFrequency(step)));
    return step;
}
double SweepDialog::lowHz() const {
    return quantity::evaluate(keptTyped(low_->text()), quantity::Kind::Frequency, {});
}
double SweepDialog::highHz() const {
    return quantity::evaluate(keptTyped(high_->text()), quantity::Kind::Frequency, {});
}

}  // namespace rm::app
