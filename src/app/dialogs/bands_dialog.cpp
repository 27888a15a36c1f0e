#include "app/dialogs/bands_dialog.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

#include "app/dialogs/dialog_buttons.h"
#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "core/model/checks.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"

namespace rm::app {

BandsDialog::BandsDialog(const std::vector<model::Band>& bands, const model::SwrLimits& limits,
                         QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Bands of this project"));
    auto* inside = new QWidget;
    table_ = new QGridLayout(inside);
    table_->setContentsMargins(0, 0, 0, 0);
    table_->setVerticalSpacing(3);
    int column = 0;
    for (const QString& title : {tr("Band"), tr("from"), tr("to"), tr("spot frequencies")}) {
        auto* label = new QLabel(title);
        label->setProperty("soft", true);
        table_->addWidget(label, 0, column++);
    }
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
    for (std::size_t i = 0; i < all.size(); ++i) addLine(all[i], used[i]);
    addEmptyLine();
    // As tall as what is usual; with many bands of one's own it scrolls.
    auto* lines = new QScrollArea;
    lines->setFocusPolicy(Qt::NoFocus);
    lines->setWidgetResizable(true);
    lines->setWidget(inside);
    const QSize wanted = inside->sizeHint();
    constexpr int kBar = 12;
    constexpr int kTallest = 480;
    lines->setMinimumSize(wanted.width() + kBar, std::min(wanted.height() + 2, kTallest));
    auto* rows = new QVBoxLayout(this);
    rows->addWidget(lines);
    auto* limitRow = new QHBoxLayout;
    const char* meaning[] = {later("good up to SWR"), later("usable up to"), later("bad beyond")};
    for (std::size_t i = 0; i < limits.size(); ++i) {
        auto* label = new QLabel(tr(meaning[i]));
        label->setProperty("soft", true);
        limits_[i] = new QLineEdit(written(limits[i]));
        limits_[i]->setFixedWidth(56);
        limits_[i]->setAccessibleName(tr(meaning[i]));
        connect(limits_[i], &QLineEdit::textChanged, this, &BandsDialog::assess);
        if (i > 0) limitRow->addSpacing(14);
        limitRow->addWidget(label);
        limitRow->addSpacing(4);
        limitRow->addWidget(limits_[i]);
    }
    limitRow->addStretch(1);
    limitRow->setSpacing(0);
    rows->addLayout(limitRow);
    sentence_ = new QLabel;
    sentence_->setProperty("wrong", true);
    sentence_->setWordWrap(true);
    rows->addWidget(sentence_);
    const auto buttons = dialogButtons(*this, tr("Use these bands"));
    go_ = buttons.main;
    rows->addWidget(buttons.box);
    assess();
}

void BandsDialog::addLine(const model::Band& band, bool chosen) {
    const auto edge = [](double hz) {
        return hz > 0.0 ? QString("%1 MHz").arg(written(hz / 1e6, 'g', 8)) : QString();
    };
    const bool isNew = band.name.empty();
    Line line{band, new QCheckBox(QString::fromStdString(band.name)), nullptr, nullptr, nullptr, nullptr};
    line.box->setObjectName(QString::fromStdString(band.name));
    line.box->setChecked(chosen);
    line.low = new QLineEdit(edge(band.lowHz));
    line.high = new QLineEdit(edge(band.highHz));
    QStringList spots;
    for (const double s : band.spotsHz) spots << written(s / 1e6, 'g', 8);
    line.spots = new QLineEdit(spots.join("; "));
    line.spots->setPlaceholderText("MHz; MHz");
    const int row = table_->rowCount();
    if (isNew) {
        line.name = new QLineEdit;
        line.name->setPlaceholderText(tr("your own"));
        line.name->setMinimumWidth(84);
        line.name->setAccessibleName(tr("Name of a band of your own"));
        line.low->setPlaceholderText("MHz");
        line.high->setPlaceholderText("MHz");
        auto* both = new QHBoxLayout;
        both->setSpacing(4);
        both->addWidget(line.box, 0);
        both->addWidget(line.name, 1);
        table_->addLayout(both, row, 0);
        line.box->setAccessibleName(tr("A band of your own"));
        connect(line.name, &QLineEdit::textEdited, this, [this, line](const QString& name) {
            // Who names a band wants it; the next one has a place of its own.
            line.box->setChecked(!name.trimmed().isEmpty());
            if (lines_.back().box == line.box && line.box->isChecked()) addEmptyLine();
        });
        connect(line.name, &QLineEdit::textChanged, this, &BandsDialog::assess);
    } else {
        table_->addWidget(line.box, row, 0);
    }
    for (QLineEdit* field : {line.low, line.high, line.spots})
        connect(field, &QLineEdit::textChanged, this, &BandsDialog::assess);
    connect(line.box, &QCheckBox::toggled, this, &BandsDialog::assess);
    table_->addWidget(line.low, row, 1);
    table_->addWidget(line.high, row, 2);
    table_->addWidget(line.spots, row, 3);
    // Tab comes to a later line after the one before, not after the buttons.
    if (isNew && !lines_.empty()) {
        QWidget* before = lines_.back().spots;
        for (QWidget* next :
             std::initializer_list<QWidget*>{line.box, line.name, line.low, line.high, line.spots}) {
            setTabOrder(before, next);
            before = next;
        }
    }
    lines_.push_back(line);
}

void BandsDialog::addEmptyLine() {
    addLine({}, false);
}

model::Band BandsDialog::Line::read() const {
    model::Band read = band;
    if (name != nullptr) read.name = name->text().trimmed().toStdString();
    if (read.name.empty()) throw Error(say("Give the band of your own a name."));
    const auto hz = [](const QString& typed) {
        const double value = quantity::evaluate(keptTyped(typed), quantity::Kind::Frequency, {});
        model::requireFrequency(value);
        return value;
    };
    try {
        read.lowHz = hz(low->text());
        read.highHz = hz(high->text());
        read.spotsHz.clear();
        for (const QString& part : spots->text().split(';', Qt::SkipEmptyParts))
            if (!part.trimmed().isEmpty()) read.spotsHz.push_back(hz(part));
    } catch (const Error& e) {
        throw Error(fmt::format("{}: {}", read.name, e.what()));
    }
    if (!(read.highHz > read.lowHz))
        throw Error(say("{}: the upper edge has to be above the lower one.", read.name));
    for (const double spot : read.spotsHz)
        if (spot < read.lowHz || spot > read.highHz)
            throw Error(say("{}: the spot frequency {} is outside the band.", read.name,
                            quantity::formatFrequency(spot)));
    return read;
}

bool BandsDialog::Line::calledLike(const std::string& other) const {
    return (name == nullptr ? band.name : name->text().trimmed().toStdString()) == other;
}

std::vector<model::Band> BandsDialog::bands() const {
    std::vector<model::Band> chosen;
    for (const auto& line : lines_) {
        if (!line.box->isChecked()) continue;
        chosen.push_back(line.read());
        for (const auto& other : lines_)
            if (&other != &line && other.calledLike(chosen.back().name))
                throw Error(say("There is a band {} already: give yours another name.", chosen.back().name));
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
