#include "app/plan/outline.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QSlider>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/plan/block_choices.h"
#include "app/plan/quantity_field.h"
#include "core/model/dimension_kind.h"
#include "core/model/materials.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"
#include "core/study/figures.h"

namespace rm::app {

namespace {

constexpr int kSteps = 1000;
constexpr int kRowHeight = 23;

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

QString copyText(const model::Copy& copy) {
    switch (copy.kind) {
        case model::CopyKind::Mirror:
            return "mirrored";
        case model::CopyKind::Rotate:
            return QString("%1 round an axis").arg(text(copy.count));
        case model::CopyKind::Shift:
            return QString("%1 in steps").arg(text(copy.count));
        default:
            return QString("%1 × %2, %3")
                .arg(text(copy.rows), text(copy.columns),
                     text(copy.rows == "1" ? copy.columnSpacing : copy.rowSpacing));
    }
}

QString partText(const model::Part& part) {
    if (const auto* row = std::get_if<model::ElementRow>(&part.shape))
        return QString("%1 elements").arg(row->elements.size());
    return QString("%1, %2").arg(text(model::shapeName(part.shape)), text(part.conductor.diameter));
}

QString placeText(const model::Place& place) {
    if (!place.element.empty() && place.kind == model::PlaceKind::Middle) return text(place.element);
    switch (place.kind) {
        case model::PlaceKind::Start:
            return "start";
        case model::PlaceKind::End:
            return "end";
        case model::PlaceKind::Corner:
            return "corner " + text(place.value);
        case model::PlaceKind::Distance:
            return text(place.value) + " along";
        case model::PlaceKind::Percent:
            return text(place.value) + (place.value.find('%') == std::string::npos ? " % along" : " along");
        default:
            return "middle";
    }
}

QString groundText(const model::Site& site) {
    if (site.quick) return "free space for now";
    if (site.ground == model::GroundKind::FreeSpace) return "free space";
    if (site.ground == model::GroundKind::Perfect) return "perfect ground";
    const model::Soil* soil = model::findSoil(site.soil);
    return soil != nullptr ? text(soil->name).section(',', 0, 0).section(':', 0, 0).toLower()
                           : QString("own ground");
}

}  // namespace

// ---------------------------------------------------------------------------------------------------------

OutlineRow::OutlineRow(Selection selection, QWidget* parent) : QWidget(parent), selection_(selection) {
    setFocusPolicy(Qt::TabFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setCursor(Qt::PointingHandCursor);
}

QSize OutlineRow::sizeHint() const {
    return {200, second_.isEmpty() ? kRowHeight : kRowHeight + 12};
}

void OutlineRow::setTexts(const QString& name, const QString& detail, const QString& second) {
    if (second.isEmpty() != second_.isEmpty()) updateGeometry();
    name_ = name;
    detail_ = detail;
    second_ = second;
    setAccessibleName(name + " " + detail);
    update();
}

void OutlineRow::setSelected(bool selected) {
    selected_ = selected;
    update();
}

void OutlineRow::setTheme(const Theme& theme) {
    theme_ = theme;
    update();
}

void OutlineRow::setDot(bool visible, bool on) {
    dot_ = visible;
    on_ = on;
    update();
}

void OutlineRow::setOffText(const QString& text) {
    offText_ = text;
}

void OutlineRow::setWrong(bool wrong) {
    wrong_ = wrong;
    update();
}

void OutlineRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (selected_) {
        p.setPen(Qt::NoPen);
        p.setBrush(theme_.reedTint);
        p.drawRoundedRect(rect().adjusted(0, 0, 0, -1), 5, 5);
    }
    if (hasFocus()) {
        p.setPen(QPen(theme_.reed, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -1.5), 5, 5);
    }
    double left = 10;
    if (dot_) {
        p.setPen(QPen(on_ ? theme_.copper : theme_.softInk, 1.4));
        p.setBrush(on_ ? QBrush(theme_.copper) : Qt::NoBrush);
        p.drawEllipse(QPointF(14, 0.5 * kRowHeight), 4, 4);
        left = 25;
    }
    p.setFont(textFont(kTextPt));
    p.setPen(wrong_ ? theme_.clay : on_ ? theme_.ink : theme_.softInk);
    const QRectF line(left, 0, width() - left - 8, kRowHeight);
    const QString name = p.fontMetrics().elidedText(
        name_, Qt::ElideRight, static_cast<int>(line.width() * (detail_.isEmpty() ? 1.0 : 0.62)));
    p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, name);
    const double used = p.fontMetrics().horizontalAdvance(name) + 10;
    p.setFont(textFont(kSmallPt));
    p.setPen(theme_.softInk);
    p.drawText(line, Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(on_ ? detail_ : offText_, Qt::ElideRight,
                                          static_cast<int>(line.width() - used)));
    if (!second_.isEmpty()) {
        p.setFont(textFont(kTinyPt));
        p.setPen(theme_.water);
        p.drawText(QRectF(left, kRowHeight - 4, width() - left - 8, 13), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(second_, Qt::ElideRight, static_cast<int>(width() - left - 8)));
    }
}

void OutlineRow::mousePressEvent(QMouseEvent* event) {
    if (dot_ && event->position().x() < 24)
        Q_EMIT dotClicked(selection_);
    else
        Q_EMIT chosen(selection_);
}

void OutlineRow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && dot_)
        Q_EMIT dotClicked(selection_);
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        Q_EMIT chosen(selection_);
    else
        QWidget::keyPressEvent(event);
}

void OutlineRow::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    update();
}

// ---------------------------------------------------------------------------------------------------------

DimensionRow::DimensionRow(std::size_t index, QWidget* parent)
    : OutlineRow({Selection::Type::Dimension, index}, parent), index_(index) {
    slider_ = new QSlider(Qt::Horizontal, this);
    slider_->setRange(0, kSteps);
    slider_->setPageStep(kSteps / 20);
    field_ = new QLineEdit(this);
    field_->setAlignment(Qt::AlignRight);
    field_->setFont(textFont(kTextPt));
    field_->setStyleSheet("QLineEdit { padding: 0 4px; min-height: 17px; }");
    connect(slider_, &QSlider::valueChanged, this, [this](int step) {
        if (updating_) return;
        const double value = low_ + (high_ - low_) * step / kSteps;
        // Lengths move in whole millimetres, or finer where the whole slider is short; angles in tenths.
        if (dimension_.kind == model::DimensionKind::Length) {
            const double grain = high_ - low_ < 0.5 ? 1e-4 : high_ - low_ < 5.0 ? 1e-3 : 0.01;
            Q_EMIT slid(index_,
                        text(quantity::lengthLike(dimension_.text, std::round(value / grain) * grain)));
        } else if (dimension_.kind == model::DimensionKind::Angle) {
            Q_EMIT slid(index_, QString("%1 deg").arg(std::round(value * 10.0) / 10.0));
        } else {
            Q_EMIT slid(index_, QString::number(value, 'g', 4));
        }
    });
    connect(slider_, &QSlider::sliderReleased, this, &DimensionRow::slideEnded);
    connect(slider_, &QSlider::sliderPressed, this, [this] { Q_EMIT chosen(selection()); });
    connect(field_, &QLineEdit::editingFinished, this, [this] {
        if (!field_->isModified()) return;
        field_->setModified(false);
        Q_EMIT typed(index_, field_->text().trimmed());
    });
}

void DimensionRow::resizeEvent(QResizeEvent*) {
    const int fieldWidth = 92;
    field_->setGeometry(width() - fieldWidth - 4, 2, fieldWidth, kRowHeight - 4);
    const int left = 96;
    slider_->setGeometry(left, 2, width() - fieldWidth - left - 14, kRowHeight - 4);
}

void DimensionRow::setDimension(const model::Dimension& dimension, const quantity::Scope& scope,
                                bool feetAndInches) {
    dimension_ = dimension;
    setTexts(text(dimension.name), {});
    const quantity::Kind kind = model::kindOf(dimension.kind);
    const bool plain = quantity::isPlainNumber(dimension.text);
    slider_->setVisible(plain);
    bool wrong = scope.values.count(dimension.name) == 0;
    if (!(field_->hasFocus() && field_->isModified())) field_->setText(text(dimension.text));
    QString tip = text(dimension.note);
    try {
        const double value = quantity::evaluate(dimension.text, kind, scope);
        tip += QString("%1%2").arg(tip.isEmpty() ? "" : "\n",
                                   equivalent(text(dimension.text), kind, scope, feetAndInches));
        const auto limit = [&](const std::string& given, double fallback) {
            return given.empty() ? fallback : quantity::evaluate(given, kind, scope);
        };
        if (!slider_->isSliderDown()) {
            low_ = limit(dimension.low, value * 0.5);
            high_ = limit(dimension.high, value * 1.5);
            if (high_ < low_) std::swap(low_, high_);
            if (high_ - low_ < 1e-9) high_ = low_ + 1.0;
            low_ = std::min(low_, value);
            high_ = std::max(high_, value);
            updating_ = true;
            slider_->setValue(static_cast<int>(std::lround((value - low_) / (high_ - low_) * kSteps)));
            updating_ = false;
        }
    } catch (const Error& e) {
        wrong = true;
        tip = QString::fromUtf8(e.what());
    }
    setWrong(wrong);
    setToolTip(tip);
    slider_->setAccessibleName(text(dimension.name));
    field_->setAccessibleName(text(dimension.name));
}

// ---------------------------------------------------------------------------------------------------------

Outline::Outline(Document& document, QWidget* parent) : QScrollArea(parent), document_(document) {
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    refresh();
}

QString Outline::shapeOf() const {
    const auto& d = document_.design();
    return QString("%1 %2 %3 %4 %5")
        .arg(d.dimensions.size())
        .arg(d.parts.size() + 1000 * d.copies.size())
        .arg(d.feeds.size() + 1000 * d.driveSets.size())
        .arg(isArray())
        .arg(d.loads.size() + 100 * d.lines.size() + 10000 * d.feedPath.size() + 1000000 * d.measured.size());
}

/// Whether there is a choice of feeds to drive.
bool Outline::isArray() const {
    const auto& d = document_.design();
    return !d.driveSets.empty() || d.harness.enabled || d.feeds.size() > 1 ||
           (expansion_ && expansion_->model.feeds.size() > 1);
}

QWidget* Outline::heading(const QString& title, Selection::Type type, const QString& addTip) {
    auto* line = new QWidget;
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(4, 5, 2, 0);
    auto* label = new QLabel(title);
    label->setFont(textFont(kSmallPt, true));
    label->setProperty("soft", true);
    row->addWidget(label);
    row->addStretch(1);
    if (!addTip.isEmpty()) {
        auto* add = new QToolButton;
        add->setText("+");
        add->setToolTip(addTip);
        add->setAccessibleName(addTip);
        add->setProperty("quiet", true);
        add->setFixedHeight(17);
        connect(add, &QToolButton::clicked, this, [this, type] { Q_EMIT addRequested(type); });
        row->addWidget(add);
    }
    return line;
}

void Outline::rebuild() {
    shape_ = shapeOf();
    rows_.clear();
    content_ = new QWidget;
    layout_ = new QVBoxLayout(content_);
    layout_->setContentsMargins(6, 0, 6, 4);
    layout_->setSpacing(0);
    const auto& d = document_.design();
    const auto add = [&](OutlineRow* row) {
        row->setTheme(theme_);
        connect(row, &OutlineRow::chosen, this, [this](Selection s) {
            select(s);
            Q_EMIT selected(s);
        });
        connect(row, &OutlineRow::dotClicked, this, [this](Selection s) {
            document_.editDesign("Switch on or off", [&](model::Design& design) {
                if (s.type == Selection::Type::Part)
                    design.parts.at(s.index).enabled = !design.parts.at(s.index).enabled;
                if (s.type == Selection::Type::Block)
                    design.feedPath.at(s.index).enabled = !design.feedPath.at(s.index).enabled;
                if (s.type == Selection::Type::Load)
                    design.loads.at(s.index).enabled = !design.loads.at(s.index).enabled;
                if (s.type == Selection::Type::Line)
                    design.lines.at(s.index).enabled = !design.lines.at(s.index).enabled;
                if (s.type == Selection::Type::Copy)
                    design.copies.at(s.index).enabled = !design.copies.at(s.index).enabled;
                if (s.type == Selection::Type::Harness) design.harness.enabled = !design.harness.enabled;
                if (s.type == Selection::Type::Drive)
                    design.driveSet =
                        design.driveSet == static_cast<int>(s.index) ? -1 : static_cast<int>(s.index);
                if (s.type == Selection::Type::Measured)
                    design.measured.at(s.index).shown = !design.measured.at(s.index).shown;
            });
        });
        rows_.push_back(row);
        layout_->addWidget(row);
    };
    layout_->addWidget(heading("Dimensions", Selection::Type::Dimension, "Add a dimension"));
    for (std::size_t i = 0; i < d.dimensions.size(); ++i) {
        auto* row = new DimensionRow(i);
        add(row);
        const auto change = [this](std::size_t index, const QString& value, const QString& key) {
            const QString name = text(document_.design().dimensions.at(index).name);
            document_.editDesign(
                "Change " + name,
                [&](model::Design& design) { design.dimensions.at(index).text = value.toStdString(); }, key);
        };
        connect(row, &DimensionRow::slid, this, [change](std::size_t index, const QString& value) {
            change(index, value, QString("slide %1").arg(index));
        });
        connect(row, &DimensionRow::slideEnded, this, [this] { document_.finishMerging(); });
        connect(row, &DimensionRow::typed, this, [this, change](std::size_t index, QString value) {
            bool bare = false;
            value.toDouble(&bare);
            if (bare) {
                const auto kind = document_.design().dimensions.at(index).kind;
                value += kind == model::DimensionKind::Length
                             ? (document_.project().feetAndInches ? " ft" : " m")
                         : kind == model::DimensionKind::Angle ? " deg"
                                                               : "";
            }
            document_.finishMerging();
            change(index, value, {});
        });
    }
    layout_->addWidget(heading("Parts", Selection::Type::Part, "Add a part"));
    for (std::size_t i = 0; i < d.parts.size(); ++i) add(new OutlineRow({Selection::Type::Part, i}));
    layout_->addWidget(heading("Copies", Selection::Type::Copy, "Stack, shift, rotate or mirror"));
    for (std::size_t i = 0; i < d.copies.size(); ++i) add(new OutlineRow({Selection::Type::Copy, i}));
    layout_->addWidget(heading("Feeds", Selection::Type::Feed, "Add a feed"));
    for (std::size_t i = 0; i < d.feeds.size(); ++i) add(new OutlineRow({Selection::Type::Feed, i}));
    if (isArray()) {
        layout_->addWidget(
            heading("Drive sets", Selection::Type::Drive, "Add drive sets, by hand or by pattern"));
        for (std::size_t i = 0; i < d.driveSets.size(); ++i) add(new OutlineRow({Selection::Type::Drive, i}));
    }
    layout_->addWidget(heading("Loads and lines", Selection::Type::Load, "Add a load, a trap or a line"));
    for (std::size_t i = 0; i < d.loads.size(); ++i) add(new OutlineRow({Selection::Type::Load, i}));
    for (std::size_t i = 0; i < d.lines.size(); ++i) add(new OutlineRow({Selection::Type::Line, i}));
    layout_->addWidget(
        heading("Feed path, antenna to radio", Selection::Type::Block, "Add a block towards the radio"));
    if (isArray()) add(new OutlineRow({Selection::Type::Harness, 0}));
    for (std::size_t i = 0; i < d.feedPath.size(); ++i) add(new OutlineRow({Selection::Type::Block, i}));
    layout_->addWidget(heading("Measured", Selection::Type::Measured, "Import what an analyser measured"));
    for (std::size_t i = 0; i < d.measured.size(); ++i) add(new OutlineRow({Selection::Type::Measured, i}));
    layout_->addWidget(heading("Site and reference", Selection::Type::Site, {}));
    add(new OutlineRow({Selection::Type::Site, 0}));
    add(new OutlineRow({Selection::Type::Design, 0}));
    layout_->addStretch(1);
    // The old rows may be the ones whose signal led here: they go when control returns to the event loop.
    if (QWidget* old = takeWidget()) old->deleteLater();
    setWidget(content_);
}

void Outline::refresh() {
    if (shape_ != shapeOf()) rebuild();
    const auto& d = document_.design();
    const auto scope = model::scopeOf(d);
    for (OutlineRow* row : rows_) {
        const std::size_t i = row->selection().index;
        row->setSelected(row->selection() == selection_);
        switch (row->selection().type) {
            case Selection::Type::Dimension:
                static_cast<DimensionRow*>(row)->setDimension(d.dimensions[i], scope,
                                                              document_.project().feetAndInches);
                break;
            case Selection::Type::Part: {
                const auto& part = d.parts[i];
                QStringList joined;
                if (expansion_)
                    for (const auto& joint : expansion_->joints) {
                        const bool here =
                            std::find(joint.parts.begin(), joint.parts.end(), part.name) != joint.parts.end();
                        for (const auto& other : joint.parts)
                            if (here && other != part.name && !joined.contains(text(other)))
                                joined << text(other);
                    }
                row->setDot(true, part.enabled);
                row->setTexts(
                    text(part.name), partText(part),
                    joined.isEmpty() || !part.enabled ? QString() : "joined to " + joined.join(", "));
                row->setToolTip("Click the dot to switch the part on or off");
                break;
            }
            case Selection::Type::Copy:
                row->setDot(true, d.copies[i].enabled);
                row->setTexts(text(d.copies[i].name), copyText(d.copies[i]));
                row->setToolTip("Click the dot to switch the copies on or off");
                break;
            case Selection::Type::Drive:
                row->setDot(true, d.driveSet == static_cast<int>(i));
                row->setOffText("idle");
                row->setTexts(text(d.driveSets[i].name),
                              QString("%1 driven").arg(d.driveSets[i].driven.size()));
                row->setToolTip("Click the dot to drive the antenna so; again: every feed as it says itself");
                break;
            case Selection::Type::Harness:
                row->setDot(true, d.harness.enabled);
                row->setTexts("Harness", text(d.harness.line.length) + " to each feed");
                row->setToolTip(
                    "Cables from the feeds to a common point; click the dot to switch it on or off");
                break;
            case Selection::Type::Feed:
                row->setTexts(text(d.feeds[i].name),
                              QString("%1, %2").arg(text(d.feeds[i].part), placeText(d.feeds[i].place)));
                break;
            case Selection::Type::Load:
                row->setDot(true, d.loads[i].enabled);
                row->setTexts(text(d.loads[i].name),
                              QString("%1, %2").arg(text(d.loads[i].part), placeText(d.loads[i].place)));
                break;
            case Selection::Type::Line:
                row->setDot(true, d.lines[i].enabled);
                row->setTexts(text(d.lines[i].name),
                              QString("%1 to %2%3")
                                  .arg(text(d.lines[i].fromPart), text(d.lines[i].toPart),
                                       d.lines[i].crossed ? ", crossed" : ""));
                break;
            case Selection::Type::Measured:
                row->setDot(true, d.measured[i].shown);
                row->setTexts(text(d.measured[i].name),
                              d.measured[i].atAntenna ? "at the antenna" : "at the radio");
                break;
            case Selection::Type::Block:
                row->setDot(true, d.feedPath[i].enabled);
                row->setTexts(text(d.feedPath[i].name), blockText(d.feedPath[i]), jointText(i));
                break;
            case Selection::Type::Site:
                row->setTexts("Site",
                              QString("%1, %2 up, heading %3")
                                  .arg(groundText(d.site), text(d.site.height), text(d.site.heading)));
                break;
            default:
                row->setTexts("Design",
                              QString("%1, SWR to %2 Ω").arg(text(d.designFrequency), text(d.reference)));
        }
    }
}

void Outline::setExpansion(std::shared_ptr<const model::Expansion> expansion) {
    expansion_ = std::move(expansion);
    refresh();
}

void Outline::setJoints(std::vector<circuit::Joint> joints, double referenceOhm) {
    joints_ = std::move(joints);
    referenceOhm_ = referenceOhm;
    refresh();
}

QString Outline::jointText(std::size_t block) const {
    const auto& path = document_.design().feedPath;
    const auto enabled = [](const model::FeedBlock& b) { return b.enabled; };
    const auto end = path.begin() + static_cast<std::ptrdiff_t>(block);
    const auto joint = static_cast<std::size_t>(std::count_if(path.begin(), end, enabled)) + 1;
    const auto all = static_cast<std::size_t>(std::count_if(path.begin(), path.end(), enabled)) + 1;
    if (!path[block].enabled || joints_.size() != all) return {};
    const auto& j = joints_[joint];
    return QString("%1 Ω, SWR %2, loses %3 dB")
        .arg(text(quantity::formatImpedance(j.impedanceOhm)),
             text(quantity::formatSwr(study::swr(j.impedanceOhm, referenceOhm_))))
        .arg(j.blockLossDb, 0, 'f', 2);
}

void Outline::setTheme(const Theme& theme) {
    theme_ = theme;
    for (OutlineRow* row : rows_) row->setTheme(theme);
}

void Outline::select(Selection selection) {
    selection_ = selection;
    for (OutlineRow* row : rows_) row->setSelected(row->selection() == selection);
}

DimensionRow* Outline::dimensionRow(const QString& name) {
    for (OutlineRow* row : rows_)
        if (row->selection().type == Selection::Type::Dimension && row->name() == name)
            return static_cast<DimensionRow*>(row);
    return nullptr;
}

OutlineRow* Outline::row(Selection selection) {
    for (OutlineRow* row : rows_)
        if (row->selection() == selection) return row;
    return nullptr;
}

}  // namespace rm::app
