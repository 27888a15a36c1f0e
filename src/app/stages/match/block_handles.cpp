#include "app/stages/match/block_handles.h"

#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QSlider>
#include <cmath>

#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/look/typed_number.h"
#include "core/quantity/format.h"

namespace rm::app {

using model::BlockKind;
using model::ElementKind;
using model::FeedBlock;
using quantity::Kind;

namespace {

constexpr int kSteps = 400;

}  // namespace

BlockHandles::BlockHandles(QWidget* parent) : QWidget(parent) {
    grid_ = new QGridLayout(this);
    grid_->setContentsMargins(8, 2, 8, 2);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(1);
    hint_ = new QLabel(tr("Click a block to change its figures here, or a joint (o) to match there."));
    hint_->setProperty("soft", true);
    hint_->setFont(textFont(kSmallPt));
    grid_->addWidget(hint_, 0, 0, 1, 8);
    setFixedHeight(46);
}

std::vector<BlockHandles::Handle> BlockHandles::handlesOf(const FeedBlock& block) {
    const auto of = [](QString label, QString unit, Kind kind, std::string FeedBlock::*member,
                       double factor = 4.0) {
        return Handle{std::move(label), std::move(unit), kind,
                      [member](FeedBlock& b) -> std::string& { return b.*member; }, factor};
    };
    switch (block.kind) {
        case BlockKind::Transformer:
            return {of(tr("ratio"), "", Kind::Number, &FeedBlock::ratio, 2.0),
                    of("C", "pF", Kind::Number, &FeedBlock::compensation),
                    of("L", "µH", Kind::Number, &FeedBlock::magnetising),
                    of(tr("leak"), "µH", Kind::Number, &FeedBlock::leakage)};
        case BlockKind::Cable:
        case BlockKind::Stub:
            return {of(tr("length"), "", Kind::Length, &FeedBlock::length, 2.5)};
        case BlockKind::QuarterWave:
            if (block.line == model::kCustomLine)
                return {of("Z0", "Ω", Kind::Number, &FeedBlock::lineOhm, 2.5),
                        of(tr("cut for"), "", Kind::Frequency, &FeedBlock::tuned, 1.3)};
            return {of(tr("cut for"), "", Kind::Frequency, &FeedBlock::tuned, 1.3)};
        case BlockKind::Element:
            return {of(block.element == ElementKind::Inductor    ? "L"
                       : block.element == ElementKind::Capacitor ? "C"
                                                                 : "R",
                       block.element == ElementKind::Inductor    ? "µH"
                       : block.element == ElementKind::Capacitor ? "pF"
                                                                 : "Ω",
                       Kind::Number, &FeedBlock::value),
                    of("Q", "", Kind::Number, &FeedBlock::q)};
        case BlockKind::Network: {
            std::vector<Handle> handles;
            for (std::size_t a = 0; a < block.arms.size(); ++a) {
                const bool coil = block.arms[a].element == ElementKind::Inductor;
                handles.push_back({QString("%1 %2").arg(coil ? "L" : "C").arg(a + 1), coil ? "µH" : "pF",
                                   Kind::Number,
                                   [a](FeedBlock& b) -> std::string& { return b.arms.at(a).value; }});
            }
            return handles;
        }
        default:
            return {of(tr("loss"), "dB", Kind::Number, &FeedBlock::loss)};
    }
}

void BlockHandles::setBlock(std::optional<FeedBlock> block, const quantity::Scope& scope) {
    block_ = std::move(block);
    scope_ = scope;
    QString shape;
    if (block_) {
        shape = QString("%1 %2").arg(static_cast<int>(block_->kind)).arg(block_->line == model::kCustomLine);
        for (const auto& handle : handlesOf(*block_)) shape += " " + handle.label;
    }
    if (shape != shape_) {
        shape_ = shape;
        rebuild();
    }
    showValues();
}

void BlockHandles::rebuild() {
    for (auto& handle : handles_) {
        for (QWidget* w : {static_cast<QWidget*>(handle.field), static_cast<QWidget*>(handle.slider)}) {
            w->hide();
            w->deleteLater();
        }
    }
    for (QLabel* label : findChildren<QLabel*>())
        if (label != hint_) label->deleteLater();
    handles_.clear();
    hint_->setVisible(!block_);
    if (!block_) return;
    handles_ = handlesOf(*block_);
    for (std::size_t i = 0; i < handles_.size(); ++i) place(handles_[i], 2 * static_cast<int>(i));
}

void BlockHandles::place(Handle& handle, int column) {
    auto* name =
        new QLabel(handle.unit.isEmpty() ? handle.label : QString("%1 in %2").arg(handle.label, handle.unit));
    name->setFont(textFont(kSmallPt));
    name->setProperty("soft", true);
    handle.field = new QLineEdit;
    handle.field->setFont(textFont(kSmallPt));
    handle.field->setMinimumWidth(48);
    handle.field->setAccessibleName(handle.label);
    handle.slider = new QSlider(Qt::Horizontal);
    handle.slider->setRange(0, kSteps);
    handle.slider->setValue(kSteps / 2);
    handle.slider->setAccessibleName(handle.label);
    handle.slider->setToolTip(tr("Drag: everything follows"));
    grid_->addWidget(name, 0, column);
    grid_->addWidget(handle.field, 0, column + 1);
    grid_->addWidget(handle.slider, 1, column, 1, 2);
    const QString label = handle.label;
    const auto self = [this, label]() -> Handle* {
        for (auto& h : handles_)
            if (h.label == label) return &h;
        return nullptr;
    };
    connect(handle.slider, &QSlider::valueChanged, this, [this, self](int step) {
        if (Handle* h = self(); h != nullptr && !updating_) slide(*h, step);
    });
    connect(handle.slider, &QSlider::sliderReleased, this, [this] {
        Q_EMIT slideEnded();
        showValues();
    });
    connect(handle.field, &QLineEdit::editingFinished, this, [this, self] {
        Handle* h = self();
        if (h == nullptr || !h->field->isModified() || !block_) return;
        h->field->setModified(false);
        FeedBlock block = *block_;
        h->value(block) = keptTyped(h->field->text(), h->kind);
        Q_EMIT changed(block, h->label, false);
    });
}

std::optional<double> BlockHandles::valueOf(const Handle& handle) {
    const std::string& text = handle.value(*block_);
    const std::string number = handle.label == tr("ratio") ? text.substr(0, text.find(':')) : text;
    if (number.empty()) return std::nullopt;
    try {
        const double v = quantity::evaluate(number, handle.kind, scope_);
        return v > 0.0 ? std::optional(v) : std::nullopt;
    } catch (const Error&) {
        return std::nullopt;
    }
}

void BlockHandles::showValues() {
    if (!block_) return;
    updating_ = true;
    for (auto& handle : handles_) {
        if (!(handle.field->hasFocus() && handle.field->isModified()))
            handle.field->setText(shownTyped(handle.value(*block_)));
        const auto value = valueOf(handle);
        handle.slider->setEnabled(value.has_value());
        // The value stands in the middle again once the slider is let go.
        if (value && !handle.slider->isSliderDown()) {
            handle.middle = *value;
            handle.slider->setValue(kSteps / 2);
        }
    }
    updating_ = false;
}

void BlockHandles::slide(Handle& handle, int step) {
    if (!block_) return;
    const double value = handle.middle * std::pow(handle.factor, 2.0 * step / kSteps - 1.0);
    FeedBlock block = *block_;
    std::string& text = handle.value(block);
    switch (handle.kind) {
        case Kind::Length:
            text = quantity::lengthLike(text, value);
            break;
        case Kind::Frequency:
            text = QString("%1 MHz").arg(QString::number(value / 1e6, 'g', 5)).toStdString();
            break;
        default:
            text = QString::number(value, 'g', 3).toStdString();
            if (handle.label == tr("ratio")) text += ":1";
    }
    Q_EMIT changed(block, handle.label, handle.slider->isSliderDown());
}

QSlider* BlockHandles::slider(const QString& label) const {
    for (const auto& handle : handles_)
        if (handle.label == label) return handle.slider;
    return nullptr;
}

QLineEdit* BlockHandles::field(const QString& label) const {
    for (const auto& handle : handles_)
        if (handle.label == label) return handle.field;
    return nullptr;
}

}  // namespace rm::app
