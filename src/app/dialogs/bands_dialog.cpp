#include "app/dialogs/bands_dialog.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <algorithm>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/quantity/formula.h"

namespace rm::app {

BandsDialog::BandsDialog(const std::vector<model::Band>& bands, const model::SwrLimits& limits,
                         QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Bands of this project"));
    auto* grid = new QGridLayout(this);
    grid->setVerticalSpacing(3);
    int row = 0;
    for (const QString& title : {tr("Band"), tr("from"), tr("to"), tr("spot frequencies")}) {
        auto* label = new QLabel(title);
        label->setProperty("soft", true);
        grid->addWidget(label, 0, row++);
    }
    row = 1;
    std::vector<model::Band> all = model::allocatedBands();
    // The project's own bands stand where their namesakes do, or at the end.
    std::vector<bool> used(all.size(), false);
    for (const auto& own : bands) {
        const auto same =
            std::find_if(all.begin(), all.end(), [&](const model::Band& b) { return b.name == own.name; });
        if (same == all.end()) {
            all.push_back(own);
            used.push_back(true);
        } else {
            used[static_cast<std::size_t>(same - all.begin())] = true;
            *same = own;
        }
    }
    for (std::size_t i = 0; i < all.size(); ++i) {
        Line line;
        line.band = all[i];
        line.box = new QCheckBox(QString::fromStdString(all[i].name));
        line.box->setObjectName(QString::fromStdString(all[i].name));
        line.box->setChecked(used[i]);
        line.low = new QLineEdit(QString("%1 MHz").arg(written(all[i].lowHz / 1e6, 'g', 8)));
        line.high = new QLineEdit(QString("%1 MHz").arg(written(all[i].highHz / 1e6, 'g', 8)));
        QStringList spots;
        for (const double s : all[i].spotsHz) spots << written(s / 1e6, 'g', 8);
        line.spots = new QLineEdit(spots.join("; "));
        line.spots->setPlaceholderText("MHz; MHz");
        for (QLineEdit* field : {line.low, line.high, line.spots})
            connect(field, &QLineEdit::textChanged, this, &BandsDialog::assess);
        connect(line.box, &QCheckBox::toggled, this, &BandsDialog::assess);
        grid->addWidget(line.box, row, 0);
        grid->addWidget(line.low, row, 1);
        grid->addWidget(line.high, row, 2);
        grid->addWidget(line.spots, row, 3);
        lines_.push_back(line);
        ++row;
    }
    auto* limitRow = new QHBoxLayout;
    const char* meaning[] = {later("good up to SWR"), later("usable up to"), later("bad beyond")};
    for (std::size_t i = 0; i < limits.size(); ++i) {
        auto* label = new QLabel(tr(meaning[i]));
        label->setProperty("soft", true);
        limits_[i] = new QLineEdit(written(limits[i]));
        limits_[i]->setFixedWidth(56);
        limits_[i]->setAccessibleName(tr(meaning[i]));
        connect(limits_[i], &QLineEdit::textChanged, this, &BandsDialog::assess);
        limitRow->addWidget(label);
        limitRow->addWidget(limits_[i]);
    }
    limitRow->addStretch(1);
    grid->addLayout(limitRow, row++, 0, 1, 4);
    sentence_ = new QLabel;
    sentence_->setProperty("wrong", true);
    sentence_->setWordWrap(true);
    grid->addWidget(sentence_, row++, 0, 1, 4);
    const auto buttons = dialogButtons(*this, tr("Use these bands"));
    go_ = buttons.main;
    grid->addWidget(buttons.box, row, 0, 1, 4);
    assess();
}

std::vector<model::Band> BandsDialog::bands() const {
    std::vector<model::Band> chosen;
    for (const auto& line : lines_) {
        if (!line.box->isChecked()) continue;
        model::Band band = line.band;
        band.lowHz = quantity::evaluate(keptTyped(line.low->text()), quantity::Kind::Frequency, {});
        band.highHz = quantity::evaluate(keptTyped(line.high->text()), quantity::Kind::Frequency, {});
        if (!(band.lowHz > 0.0) || !(band.highHz > band.lowHz))
            throw Error(say("{}: the upper edge has to be above the lower one.", band.name));
        band.spotsHz.clear();
        for (const QString& part : line.spots->text().split(';', Qt::SkipEmptyParts)) {
            const double spot = quantity::evaluate(keptTyped(part), quantity::Kind::Frequency, {});
            if (spot < band.lowHz || spot > band.highHz)
                throw Error(say("{}: the spot frequency {} is outside the band.", band.name,
                                part.trimmed().toStdString()));
            band.spotsHz.push_back(spot);
        }
        chosen.push_back(band);
    }
    if (chosen.empty()) throw Error(say("Choose at least one band."));
    std::sort(chosen.begin(), chosen.end(), [](const auto& a, const auto& b) { return a.lowHz < b.lowHz; });
    return chosen;
}

model::SwrLimits BandsDialog::limits() const {
    model::SwrLimits limits{};
    double before = 1.0;
    for (std::size_t i = 0; i < limits.size(); ++i) {
        limits[i] = quantity::evaluate(keptTyped(limits_[i]->text()), quantity::Kind::Number, {});
        if (!(limits[i] > before)) throw Error(say("The SWR limits have to rise from above 1."));
        before = limits[i];
    }
    return limits;
}

void BandsDialog::assess() {
    QString wrong;
    try {
        (void)bands();
        (void)limits();
    } catch (const Error& e) {
        wrong = QString::fromUtf8(e.what());
    }
    sentence_->setText(wrong);
    go_->setEnabled(wrong.isEmpty());
}

QCheckBox* BandsDialog::box(const QString& name) const {
    for (const auto& line : lines_)
        if (line.box->objectName() == name) return line.box;
    return nullptr;
}

}  // namespace rm::app
