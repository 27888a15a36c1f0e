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

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plan/block_choices.h"
#include "app/plan/quantity_field.h"
#include "core/edit/items.h"
#include "core/model/dimension_kind.h"
#include "core/model/materials.h"
#include "core/model/soils.h"
#include "core/quantity/format.h"
#include "core/study/figures.h"

namespace rm::app {

namespace {

constexpr int kSteps = 1000;
constexpr int kRowHeight = 23;

QString copyText(const model::Copy& copy) {
    switch (copy.kind) {
        case model::CopyKind::Mirror:
            return tr("mirrored");
        case model::CopyKind::Rotate:
            return tr("%1 round an axis").arg(text(copy.count));
        case model::CopyKind::Shift:
            return tr("%1 in steps").arg(text(copy.count));
        default:
            return QString("%1 × %2, %3")
                .arg(text(copy.rows), text(copy.columns),
                     shownTyped(copy.rows == "1" ? copy.columnSpacing : copy.rowSpacing));
    }
}

QString partText(const model::Part& part) {
    if (const auto* row = std::get_if<model::ElementRow>(&part.shape))
        return tr("%1 elements").arg(row->elements.size());
    return QString("%1, %2").arg(text(model::shapeName(part.shape)), shownTyped(part.conductor.diameter));
}

QString placeText(const model::Place& place) {
    if (!place.element.empty() && place.kind == model::PlaceKind::Middle) return text(place.element);
    switch (place.kind) {
        case model::PlaceKind::Start:
            return tr("start");
        case model::PlaceKind::End:
            return tr("end");
        case model::PlaceKind::Corner:
            return tr("corner ") + shownTyped(place.value);
        case model::PlaceKind::Side:
            return tr("middle of side ") + shownTyped(place.value);
        case model::PlaceKind::Distance:
            return shownTyped(place.value) + tr(" along");
        case model::PlaceKind::Percent:
            return shownTyped(place.value) +
                   (place.value.find('%') == std::string::npos ? tr(" % along") : tr(" along"));
        default:
            return tr("middle");
    }
}

QString groundText(const model::Site& site) {
    if (site.quick) return tr("free space for now");
    if (site.ground == model::GroundKind::FreeSpace) return tr("free space");
    if (site.ground == model::GroundKind::Perfect) return tr("perfect ground");
    const model::Soil* soil = model::findSoil(site.soil);
    return soil != nullptr ? text(soil->name).section(',', 0, 0).section(':', 0, 0).toLower()
                           : tr("own ground");
}

}  // namespace

// ---------------------------------------------------------------------------------------------------------

OutlineRow::OutlineRow(Selection selection, QWidget* parent) : Themed(parent), selection_(selection) {
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

DimensionRow::DimensionRow(model::Id id, QWidget* parent)
    : OutlineRow({Selection::Type::Dimension, id}, parent) {
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
            Q_EMIT slid(text(quantity::lengthLike(dimension_.text, std::round(value / grain) * grain)));
        } else if (dimension_.kind == model::DimensionKind::Angle) {
            Q_EMIT slid(QString("%1 deg").arg(std::round(value * 10.0) / 10.0));
        } else {
            Q_EMIT slid(QString::number(value, 'g', 4));
        }
    });
    connect(slider_, &QSlider::sliderReleased, this, &DimensionRow::slideEnded);
    connect(slider_, &QSlider::sliderPressed, this, [this] { Q_EMIT chosen(selection()); });
    connect(field_, &QLineEdit::editingFinished, this, [this] {
        if (!field_->isModified()) return;
        field_->setModified(false);
        Q_EMIT typed(text(keptTyped(field_->text(), model::kindOf(dimension_.kind))));
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
    if (!(field_->hasFocus() && field_->isModified())) field_->setText(shownTyped(dimension.text));
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

Outline::Outline(Session& session, QWidget* parent)
    : Themed(parent), session_(session), document_(session.document()) {
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    refresh();
}

/// Names the rows that have to be there.
QString Outline::shapeOf() const {
    const auto& d = document_.design();
    QString shape = QString("%1 %2").arg(d.id).arg(isArray());
    for (const auto type :
         {Selection::Type::Dimension, Selection::Type::Part, Selection::Type::Copy, Selection::Type::Feed,
          Selection::Type::Drive, Selection::Type::Load, Selection::Type::Line, Selection::Type::Block,
          Selection::Type::Measured, Selection::Type::Support})
        edit::withList(d, type, [&](const auto& list) {
            shape += "|";
            for (const auto& item : list) shape += QString(" %1").arg(item.id);
        });
    return shape;
}

/// Whether there is a choice of feeds to drive.
bool Outline::isArray() const {
    const auto& d = document_.design();
    return !d.driveSets.empty() || d.harness.enabled || d.feeds.size() > 1 ||
           session_.expansion()->model.feeds.size() > 1;
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
        connect(row, &OutlineRow::chosen, &session_, &Session::select);
        connect(row, &OutlineRow::dotClicked, this, [this](Selection s) {
            document_.edit(tr("Switch on or off"),
                           [&](model::Project& p) { p = edit::toggle(std::move(p), s); });
        });
        rows_.push_back(row);
        layout_->addWidget(row);
    };
    const auto addAll = [&](const auto& list, Selection::Type type) {
        for (const auto& item : list) add(new OutlineRow({type, item.id}));
    };
    layout_->addWidget(heading(tr("Dimensions"), Selection::Type::Dimension, tr("Add a dimension")));
    for (const auto& dimension : d.dimensions) {
        auto* row = new DimensionRow(dimension.id);
        add(row);
        const auto change = [this, design = d.id, id = dimension.id](const QString& value,
                                                                     const QString& key) {
            const auto* now = model::find(document_.design().dimensions, id);
            if (now == nullptr) return;
            document_.editDesign(
                design, tr("Change ") + text(now->name),
                [&](model::Design& changed) { model::at(changed.dimensions, id).text = value.toStdString(); },
                key);
        };
        connect(row, &DimensionRow::slid, this,
                [change, id = dimension.id](const QString& value) { change(value, tr("slide %1").arg(id)); });
        connect(row, &DimensionRow::slideEnded, this, [this] { document_.finishMerging(); });
        connect(row, &DimensionRow::typed, this, [change](const QString& value) { change(value, {}); });
    }
    layout_->addWidget(heading(tr("Parts"), Selection::Type::Part, tr("Add a part")));
    addAll(d.parts, Selection::Type::Part);
    layout_->addWidget(heading(tr("Copies"), Selection::Type::Copy, tr("Stack, shift, rotate or mirror")));
    addAll(d.copies, Selection::Type::Copy);
    layout_->addWidget(heading(tr("Feeds"), Selection::Type::Feed, tr("Add a feed")));
    addAll(d.feeds, Selection::Type::Feed);
    if (isArray()) {
        layout_->addWidget(
            heading(tr("Drive sets"), Selection::Type::Drive, tr("Add drive sets, by hand or by pattern")));
        addAll(d.driveSets, Selection::Type::Drive);
    }
    layout_->addWidget(
        heading(tr("Loads and lines"), Selection::Type::Load, tr("Add a load, a trap or a line")));
    addAll(d.loads, Selection::Type::Load);
    addAll(d.lines, Selection::Type::Line);
    layout_->addWidget(heading(tr("Feed path, antenna to radio"), Selection::Type::Block,
                               tr("Add a block towards the radio")));
    if (isArray()) add(new OutlineRow(Selection(Selection::Type::Harness)));
    addAll(d.feedPath, Selection::Type::Block);
    layout_->addWidget(
        heading(tr("Measured"), Selection::Type::Measured, tr("Import what an analyser measured")));
    addAll(d.measured, Selection::Type::Measured);
    layout_->addWidget(heading(tr("Site and reference"), Selection::Type::Support,
                               tr("Add a support that wires hang from: mast, tree, roof edge, wall, peg")));
    add(new OutlineRow(Selection(Selection::Type::Site)));
    addAll(d.site.supports, Selection::Type::Support);
    add(new OutlineRow(Selection(Selection::Type::Design)));
    layout_->addStretch(1);
    // The old rows may be the ones whose signal led here: they go when control returns to the event loop.
    if (QWidget* old = takeWidget()) old->deleteLater();
    setWidget(content_);
}

void Outline::refresh() {
    if (shape_ != shapeOf()) rebuild();
    const auto scope = model::scopeOf(document_.design());
    const Selection selection = session_.selection();
    for (OutlineRow* row : rows_) {
        row->setSelected(row->selection() == selection);
        showRow(row, scope);
    }
    // What has just been selected or added is brought into view, once.
    if (seen_ == selection) return;
    seen_ = selection;
    // Rows that have just been made have no place yet.
    QMetaObject::invokeMethod(
        this,
        [this] {
            if (OutlineRow* chosen = row(seen_)) ensureWidgetVisible(chosen, 0, kRowHeight);
        },
        Qt::QueuedConnection);
}

QString Outline::joinedTo(const model::Part& part) const {
    QStringList joined;
    for (const auto& joint : session_.expansion()->joints) {
        if (std::find(joint.parts.begin(), joint.parts.end(), part.name) == joint.parts.end()) continue;
        for (const auto& other : joint.parts)
            if (other != part.name && !joined.contains(text(other))) joined << text(other);
    }
    return joined.isEmpty() || !part.enabled ? QString() : tr("joined to ") + joined.join(", ");
}

void Outline::showRow(OutlineRow* row, const quantity::Scope& scope) {
    const auto& d = document_.design();
    const model::Id id = row->selection().id;
    switch (row->selection().type) {
        case Selection::Type::Dimension:
            static_cast<DimensionRow*>(row)->setDimension(model::at(d.dimensions, id), scope,
                                                          document_.project().feetAndInches);
            break;
        case Selection::Type::Part: {
            const auto& part = model::at(d.parts, id);
            row->setDot(true, part.enabled);
            row->setTexts(text(part.name), partText(part), joinedTo(part));
            row->setToolTip(tr("Click the dot to switch the part on or off"));
            break;
        }
        case Selection::Type::Copy: {
            const auto& copy = model::at(d.copies, id);
            row->setDot(true, copy.enabled);
            row->setTexts(text(copy.name), copyText(copy));
            row->setToolTip(tr("Click the dot to switch the copies on or off"));
            break;
        }
        case Selection::Type::Drive: {
            const auto& set = model::at(d.driveSets, id);
            row->setDot(true, d.driveSet == static_cast<int>(model::indexOf(d.driveSets, id)));
            row->setOffText(tr("idle"));
            row->setTexts(text(set.name), tr("%1 driven").arg(set.driven.size()));
            row->setToolTip(tr("Click the dot to drive the antenna so; again: every feed as it says itself"));
            break;
        }
        case Selection::Type::Harness:
            row->setDot(true, d.harness.enabled);
            row->setTexts(tr("Harness"), shownTyped(d.harness.line.length) + tr(" to each feed"));
            row->setToolTip(
                tr("Cables from the feeds to a common point; click the dot to switch it on or off"));
            break;
        case Selection::Type::Feed: {
            const auto& feed = model::at(d.feeds, id);
            row->setTexts(text(feed.name), QString("%1, %2").arg(text(feed.part), placeText(feed.place)));
            break;
        }
        case Selection::Type::Load: {
            const auto& load = model::at(d.loads, id);
            row->setDot(true, load.enabled);
            row->setTexts(text(load.name), QString("%1, %2").arg(text(load.part), placeText(load.place)));
            break;
        }
        case Selection::Type::Line: {
            const auto& line = model::at(d.lines, id);
            row->setDot(true, line.enabled);
            row->setTexts(text(line.name), tr("%1 to %2%3")
                                               .arg(text(line.fromPart), text(line.toPart),
                                                    line.crossed ? tr(", crossed") : ""));
            break;
        }
        case Selection::Type::Measured: {
            const auto& measured = model::at(d.measured, id);
            row->setDot(true, measured.shown);
            row->setTexts(text(measured.name),
                          measured.atAntenna ? tr("at the antenna") : tr("at the radio"));
            break;
        }
        case Selection::Type::Block: {
            const auto& block = model::at(d.feedPath, id);
            row->setDot(true, block.enabled);
            row->setTexts(text(block.name), blockText(block), jointText(model::indexOf(d.feedPath, id)));
            break;
        }
        case Selection::Type::Support: {
            const auto& support = model::at(d.site.supports, id);
            row->setTexts(
                text(support.name),
                tr("%1, %2 high").arg(text(model::supportName(support.kind)), shownTyped(support.height)));
            break;
        }
        case Selection::Type::Site:
            row->setTexts(tr("Site"), tr("%1, %2 up, heading %3")
                                          .arg(groundText(d.site), shownTyped(d.site.height),
                                               shownTyped(d.site.heading)));
            break;
        default:
            row->setTexts(tr("Design"),
                          tr("%1, SWR to %2 Ω").arg(shownTyped(d.designFrequency), shownTyped(d.reference)));
    }
}

void Outline::setResults(const ResultsPtr& results) {
    if (results_ && results_->analysis == results->analysis && results_->project == results->project) return;
    results_ = results;
    const auto scope = model::scopeOf(document_.design());
    for (OutlineRow* row : rows_)
        if (row->selection().type == Selection::Type::Block) showRow(row, scope);
}

QString Outline::jointText(std::size_t block) const {
    const auto& path = document_.design().feedPath;
    // Of the feed path that is shown, and no other.
    if (!results_ || !results_->analysis || !(results_->design().feedPath == path)) return {};
    const auto& joints = results_->analysis->figures.joints;
    const auto enabled = [](const model::FeedBlock& b) { return b.enabled; };
    const auto end = path.begin() + static_cast<std::ptrdiff_t>(block);
    const auto joint = static_cast<std::size_t>(std::count_if(path.begin(), end, enabled)) + 1;
    if (!path[block].enabled || joint >= joints.size()) return {};
    const auto& j = joints[joint];
    return tr("%1 Ω, SWR %2, loses %3 dB")
        .arg(text(quantity::formatImpedance(j.impedanceOhm)),
             text(quantity::formatSwr(study::swr(j.impedanceOhm, results_->expansion->referenceOhm))))
        .arg(written(j.blockLossDb, 'f', 2));
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
