#include "app/dialogs/analyser_dialog.h"

#include <QCheckBox>
#include <QFormLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QStyle>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/quantity/formula.h"

namespace rm::app {

AnalyserDialog::AnalyserDialog(double lowHz, double highHz, bool hasFeedPath, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Measure with an analyser"));
    auto* form = new QFormLayout(this);
    address_ = new QLineEdit("localhost:7373");
    address_->setToolTip(
        tr("Where it listens: a machine and a port, or a serial device such as /dev/ttyUSB0. "
           "reedmast-analyser stands in for one"));
    low_ = new QLineEdit(QString("%1 MHz").arg(written(lowHz / 1e6, 'f', 3)));
    high_ = new QLineEdit(QString("%1 MHz").arg(written(highHz / 1e6, 'f', 3)));
    points_ = new QSpinBox;
    points_->setRange(2, io::kMostAnalyserPoints);
    points_->setValue(41);
    atAntenna_ = new QCheckBox(tr("at the antenna, without the feed path"));
    atAntenna_->setVisible(hasFeedPath);
    form->addRow(tr("Analyser at"), address_);
    form->addRow(tr("From"), low_);
    form->addRow(tr("To"), high_);
    form->addRow(tr("Points"), points_);
    if (hasFeedPath) form->addRow(tr("Joined"), atAntenna_);
    progress_ = new QProgressBar;
    progress_->setTextVisible(false);
    progress_->setMaximumHeight(8);
    form->addRow(progress_);
    sentence_ = new QLabel;
    sentence_->setTextFormat(Qt::PlainText);
    sentence_->setWordWrap(true);
    sentence_->setMinimumWidth(360);
    form->addRow(sentence_);
    const auto buttons = dialogButtons(*this, tr("Measure"), QDialogButtonBox::ActionRole);
    read_ = buttons.main;
    read_->setDefault(true);
    connect(read_, &QPushButton::clicked, this, &AnalyserDialog::read);
    form->addRow(buttons.box);
    connect(&link_, &AnalyserLink::progressed, progress_, &QProgressBar::setValue);
    connect(&link_, &AnalyserLink::failed, this, [this](const QString& sentence) {
        read_->setEnabled(true);
        progress_->reset();
        say(sentence, true);
    });
    connect(&link_, &AnalyserLink::finished, this, [this](const model::MeasuredData& data) {
        data_ = data;
        accept();
    });
    say(tr("The antenna is measured as it stands, at so many frequencies."), false);
}

bool AnalyserDialog::atAntenna() const {
    return atAntenna_->isChecked();
}

QString AnalyserDialog::sentence() const {
    return sentence_->text();
}

void AnalyserDialog::say(const QString& sentence, bool wrong) {
    sentence_->setText(sentence);
    sentence_->setProperty("wrong", wrong);
    sentence_->style()->unpolish(sentence_);
    sentence_->style()->polish(sentence_);
}

void AnalyserDialog::read() {
    io::AnalyserSweep sweep;
    try {
        // By the same rules as the other side has them.
        const auto hz = [](const QLineEdit* field) {
            return quantity::evaluate(keptTyped(field->text()), quantity::Kind::Frequency, {});
        };
        sweep = io::readSweepLine(io::sweepLine({hz(low_), hz(high_), points_->value()}));
    } catch (const Error& e) {
        return say(QString::fromUtf8(e.what()), true);
    }
    read_->setEnabled(false);
    progress_->setRange(0, sweep.points);
    progress_->setValue(0);
    say(tr("Measuring…"), false);
    link_.start(address(), sweep);
}

}  // namespace rm::app
