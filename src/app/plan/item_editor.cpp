#include "app/plan/item_editor.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/look/text.h"
#include "app/look/typed_number.h"
#include "app/plan/quantity_field.h"
#include "core/edit/spots.h"
#include "core/model/dimension_kind.h"
#include "core/model/expand.h"
#include "core/model/rename.h"

namespace rm::app {

namespace {

using namespace rm::model;
using quantity::Kind;

/// Where something can sit on a part. On a closed one its start, its end and corner 1 are one place, and half
/// the way round is the middle of nothing: there it is a corner, a side, or so far along.
/// Room for the words before a field.
constexpr int kLabelPx = 84;

struct PlaceChoice {
    PlaceKind kind;
    const char* id;
    const char* name;
    const char* value;  ///< to begin with
    bool closed;        ///< offered on loops
    bool open;          ///< and on what has ends
};
constexpr PlaceChoice kPlaces[] = {
    {PlaceKind::Middle, "middle", later("middle"), "", false, true},
    {PlaceKind::Start, "start", later("start"), "", false, true},
    {PlaceKind::End, "end", later("end"), "", false, true},
    {PlaceKind::Corner, "corner", later("corner number"), "1", true, true},
    {PlaceKind::Side, "side", later("middle of side"), "1", true, true},
    {PlaceKind::Distance, "distance", later("distance from the start"), "1 m", true, true},
    {PlaceKind::Percent, "percent", later("percent of the length"), "5", true, true}};

const PlaceChoice& choiceOf(PlaceKind kind) {
    return *std::find_if(std::begin(kPlaces), std::end(kPlaces),
                         [&](const auto& c) { return c.kind == kind; });
}

bool isClosed(const Design& design, const std::string& partName) {
    for (const auto& part : design.parts) {
        if (part.name != partName) continue;
        if (std::holds_alternative<RegularLoop>(part.shape)) return true;
        if (const auto* bent = std::get_if<BentWire>(&part.shape)) return bent->closed;
    }
    return false;
}

}  // namespace

ItemEditor::ItemEditor(Session& session, QWidget* parent)
    : QFrame(parent), session_(session), document_(session.document()) {
    setObjectName("editor");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(9, 6, 6, 6);
    layout->setSpacing(3);
    auto* top = new QHBoxLayout;
    title_ = new QLabel;
    title_->setFont(textFont(kTextPt, true));
    top->addWidget(title_, 1);
    for (const auto& [label, tip, signal] :
         {std::tuple{tr("Duplicate"), tr("Add a copy of this"), &ItemEditor::duplicateRequested},
          std::tuple{tr("Remove"), tr("Remove this (undo brings it back)"), &ItemEditor::removeRequested}}) {
        auto* button = new QToolButton;
        button->setText(label);
        button->setToolTip(tip);
        button->setObjectName(label);
        button->setProperty("quiet", true);
        button->setFont(textFont(kSmallPt));
        connect(button, &QToolButton::clicked, this, signal);
        top->addWidget(button);
    }
    layout->addLayout(top);
    auto* scroll = new QScrollArea;
    scroll->setObjectName("editorScroll");
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setAccessibleName(tr("Editor"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(scroll, 1);
    sentence_ = new QLabel;
    sentence_->setObjectName("sentence");
    sentence_->setWordWrap(true);
    sentence_->setProperty("wrong", true);
    sentence_->setFont(textFont(kSmallPt));
    sentence_->hide();
    layout->addWidget(sentence_);
    refresh();
}

QString ItemEditor::shapeKey() const {
    const auto& d = document_.design();
    const model::Id id = selection_.id;
    QString key = QString("%1 %2 %3").arg(d.id).arg(static_cast<int>(selection_.type)).arg(id);
    if (const Part* part = model::find(d.parts, id)) {
        key += QString(" %1").arg(part->shape.index());
        if (const auto* bent = std::get_if<BentWire>(&part->shape))
            key += QString(" %1").arg(bent->points.size());
        if (const auto* row = std::get_if<ElementRow>(&part->shape))
            key += tr(" boom %1").arg(static_cast<int>(row->boom.kind));
        key += part->conductor.coat.empty() ? tr(" bare") : tr(" coated");
    }
    const auto placeKey = [](const Place& p) { return QString(" %1").arg(static_cast<int>(p.kind)); };
    if (const Feed* feed = model::find(d.feeds, id)) {
        key += placeKey(feed->place);
        for (std::size_t f = 0; f < session_.expansion()->model.feeds.size(); ++f)
            key += " " + text(edit::sidesOf(*session_.expansion(), f));
    }
    if (const Load* load = model::find(d.loads, id))
        key += placeKey(load->place) + QString(" %1").arg(static_cast<int>(load->form));
    if (const PhasingLine* line = model::find(d.lines, id))
        key += placeKey(line->from) + placeKey(line->to) + QString(" %1").arg(line->line == kCustomLine);
    if (const Measured* m = model::find(d.measured, id))
        key += QString(" %1 %2 %3 %4")
                   .arg(m->hasLead)
                   .arg(static_cast<int>(m->lead.kind))
                   .arg(m->lead.line == kCustomLine)
                   .arg(m->data.points.size());
    if (const FeedBlock* block = model::find(d.feedPath, id)) {
        key += QString(" %1 %2 %3 %4 %5")
                   .arg(static_cast<int>(block->kind))
                   .arg(static_cast<int>(block->element))
                   .arg(block->line == kCustomLine)
                   .arg(d.feedPath.size())
                   .arg(model::indexOf(d.feedPath, id));
        for (const auto& arm : block->arms)
            key += QString(" %1%2").arg(static_cast<int>(arm.element)).arg(arm.shunt);
    }
    key += arrayKey() + supportKey() + cableKey();
    if (selection_.type == Selection::Type::Site)
        key += QString(" %1 %2").arg(static_cast<int>(d.site.ground)).arg(d.site.soil == kCustomSoil);
    key += " " + partNames().join("|");
    return key;
}

QStringList ItemEditor::partNames() const {
    QStringList names;
    for (const auto& part : document_.design().parts) names << text(part.name);
    // Of what is multiplied each copy can be meant alone.
    if (!document_.design().copies.empty())
        for (const auto& unit : session_.expansion()->units)
            if (!names.contains(text(unit))) names << text(unit);
    return names;
}

void ItemEditor::refresh() {
    selection_ = session_.selection();
    if (key_ != shapeKey()) rebuild();
    updating_ = true;
    const auto& d = document_.design();
    const auto scope = model::scopeOf(d);
    for (auto& row : rows_) {
        const QString value = text(row.read(d));
        if (row.quantity != nullptr) {
            row.quantity->setCommitted(value);
            row.quantity->setScope(scope, document_.project().feetAndInches);
        } else if (row.combo != nullptr) {
            row.combo->setCurrentIndex(std::max(0, row.combo->findData(value)));
        } else if (!(row.plain->hasFocus() && row.plain->isModified())) {
            row.plain->setText(
                row.label != tr("Name") && row.label != tr("Note") ? shownTyped(value.toStdString()) : value);
            row.plain->setCursorPosition(0);
        }
    }
    if (heightSlider_ != nullptr) refreshHeightSlider();
    if (hungNote_ != nullptr) refreshHungNote();
    updating_ = false;
}

void ItemEditor::rebuild() {
    key_ = shapeKey();
    designId_ = document_.design().id;
    axesNamed_ = false;
    rows_.clear();
    heightSlider_ = nullptr;
    hungNote_ = nullptr;
    sentence_->hide();
    content_ = new QWidget;
    grid_ = new QGridLayout(content_);
    grid_->setContentsMargins(0, 0, 4, 0);
    grid_->setHorizontalSpacing(6);
    grid_->setVerticalSpacing(4);
    grid_->setColumnStretch(1, 1);
    const bool removable =
        selection_.type == Selection::Type::Dimension || selection_.type == Selection::Type::Part ||
        selection_.type == Selection::Type::Feed || selection_.type == Selection::Type::Load ||
        selection_.type == Selection::Type::Line || selection_.type == Selection::Type::Block ||
        selection_.type == Selection::Type::Copy || selection_.type == Selection::Type::Drive ||
        selection_.type == Selection::Type::Support;
    const bool measured = selection_.type == Selection::Type::Measured;
    findChild<QToolButton*>(tr("Duplicate"))->setVisible(removable);
    findChild<QToolButton*>(tr("Remove"))->setVisible(removable || measured);
    switch (selection_.type) {
        case Selection::Type::Dimension:
            buildDimension();
            break;
        case Selection::Type::Part:
            buildPart();
            break;
        case Selection::Type::Feed:
            buildFeed();
            break;
        case Selection::Type::Copy:
            buildCopy();
            break;
        case Selection::Type::Drive:
            buildDrive();
            break;
        case Selection::Type::Harness:
            buildHarness();
            break;
        case Selection::Type::Load:
            buildLoad();
            break;
        case Selection::Type::Line:
            buildLine();
            break;
        case Selection::Type::Block:
            buildBlock();
            break;
        case Selection::Type::Measured:
            buildMeasured();
            break;
        case Selection::Type::Site:
            buildSite();
            break;
        case Selection::Type::Support:
            buildSupport();
            break;
        case Selection::Type::Design:
            buildDesign();
            break;
        case Selection::Type::None: {
            title_->setText(tr("Nothing selected"));
            auto* hint = new QLabel(
                tr("Select a dimension, a part, a feed or the site above, or click a wire in the yard, to "
                   "change it here."));
            hint->setWordWrap(true);
            hint->setProperty("soft", true);
            hint->setFont(textFont(kSmallPt));
            grid_->addWidget(hint, 0, 0, 1, 3);
        }
    }
    grid_->setRowStretch(grid_->rowCount(), 1);
    // The old fields may be the ones whose signal led here: they go when control returns to the event loop.
    auto* scroll = findChild<QScrollArea*>("editorScroll");
    if (QWidget* old = scroll->takeWidget()) old->deleteLater();
    scroll->setWidget(content_);
}

void ItemEditor::apply(const QString& label, const std::string& value, const FieldChange& change) {
    if (updating_) return;
    edit(tr("Change ") + label.trimmed().toLower(), [&](Design& d) { change(d, value); });
}

/// Of the design that the fields were made for, whatever is on the bench by now.
void ItemEditor::edit(const QString& label, const DesignChange& change, const QString& mergeKey) {
    if (model::find(document_.project().designs, designId_) != nullptr)
        document_.editDesign(designId_, label, change, mergeKey);
}

int ItemEditor::addLabel(const QString& label) {
    const int row = grid_->rowCount();
    auto* name = new QLabel(label);
    name->setFont(textFont(kSmallPt));
    // Long ones go on in a second line rather than push the fields out of the panel.
    if (name->fontMetrics().horizontalAdvance(label) > kLabelPx) {
        name->setWordWrap(true);
        name->setFixedWidth(kLabelPx);
    }
    grid_->addWidget(name, row, 0);
    return row;
}

void ItemEditor::watch(QuantityField* field, const QString& label, const FieldChange& change) {
    // One sentence for all fields: it belongs to the field that was wrong last.
    connect(field, &QuantityField::assessed, this, [this, field](const QString& what, bool wrong) {
        if (wrong) {
            sentence_->setText(what);
            sentence_->setProperty("field", QVariant::fromValue<QObject*>(field));
            sentence_->show();
        } else if (sentence_->property("field").value<QObject*>() == field) {
            sentence_->hide();
        }
    });
    connect(field, &QuantityField::committed, this,
            [this, label, change](const QString& value) { apply(label, value.toStdString(), change); });
}

void ItemEditor::addQuantity(const QString& label, Kind kind, Read read, FieldChange change,
                             const QString& tip, bool optional) {
    const int row = addLabel(label);
    auto* field = new QuantityField(kind);
    field->setOptional(optional);
    field->setToolTip(tip);
    field->setAccessibleName(label);
    auto* said = new QLabel;
    said->setProperty("soft", true);
    said->setFont(textFont(kTinyPt));
    said->setMinimumWidth(66);
    grid_->addWidget(field, row, 1);
    grid_->addWidget(said, row, 2);
    connect(field, &QuantityField::assessed, said,
            [said](const QString& what, bool wrong) { said->setText(wrong ? QString() : what); });
    watch(field, label, change);
    rows_.push_back({label, field, field, nullptr, std::move(read)});
}

void ItemEditor::addText(const QString& label, Read read, FieldChange change, const QString& tip) {
    const int row = addLabel(label);
    auto* field = new QLineEdit;
    field->setToolTip(tip);
    field->setAccessibleName(label);
    grid_->addWidget(field, row, 1, 1, 2);
    connect(field, &QLineEdit::editingFinished, this, [this, field, label, change] {
        if (!field->isModified()) return;
        field->setModified(false);
        // Names and notes are words, whatever digits are in them.
        const bool number = label != tr("Name") && label != tr("Note");
        apply(label, number ? keptTyped(field->text()) : field->text().trimmed().toStdString(), change);
    });
    rows_.push_back({label, nullptr, field, nullptr, std::move(read)});
}

void ItemEditor::addChoice(const QString& label, const QStringList& names, const QStringList& ids, Read read,
                           FieldChange change, const QString& tip) {
    const int row = addLabel(label);
    auto* combo = new QComboBox;
    combo->setToolTip(tip);
    combo->setAccessibleName(label);
    for (int i = 0; i < names.size(); ++i) combo->addItem(names[i], ids[i]);
    combo->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    combo->setMinimumContentsLength(10);
    grid_->addWidget(combo, row, 1, 1, 2);
    connect(combo, &QComboBox::activated, this, [this, combo, label, change] {
        apply(label, combo->currentData().toString().toStdString(), change);
    });
    rows_.push_back({label, nullptr, nullptr, combo, std::move(read)});
}

void ItemEditor::addPoint(const QString& label, std::function<PointText&(Design&)> point) {
    const char* axes[] = {later("forward"), later("left"), later("up")};
    if (!axesNamed_) {
        // The three columns say once which way they run.
        auto* titles = new QHBoxLayout;
        for (const char* axis : axes) {
            auto* title = new QLabel(tr(axis));
            title->setFont(textFont(kTinyPt));
            title->setProperty("soft", true);
            titles->addWidget(title);
        }
        grid_->addLayout(titles, grid_->rowCount(), 1, 1, 2);
        axesNamed_ = true;
    }
    const int row = addLabel(label);
    auto* line = new QHBoxLayout;
    line->setSpacing(3);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        auto* field = new QuantityField(Kind::Length);
        const QString full = QString("%1, %2").arg(label, tr(axes[axis]));
        field->setAccessibleName(full);
        field->setToolTip(tr("%1: how far %2")
                              .arg(label, axis == 0   ? tr("forward of the middle")
                                          : axis == 1 ? tr("to the left")
                                                      : tr("above the site's height")));
        field->setPlaceholderText(tr(axes[axis]));
        field->setFont(textFont(kSmallPt));
        line->addWidget(field);
        watch(field, full, [point, axis](Design& d, const std::string& v) { point(d)[axis] = v; });
        rows_.push_back({full, field, field, nullptr,
                         [point, axis](const Design& d) { return point(const_cast<Design&>(d))[axis]; }});
    }
    grid_->addLayout(line, row, 1, 1, 2);
}

void ItemEditor::addPlace(const QString& prefix, std::function<Place&(Design&)> place, const Read& partOf) {
    const auto read = [place](const Design& d) -> const Place& { return place(const_cast<Design&>(d)); };
    addElementChoice(prefix, place, partOf(document_.design()));
    const bool closed = isClosed(document_.design(), partOf(document_.design()));
    QStringList names, ids;
    for (const auto& choice : kPlaces) {
        // What the file says stays in the list, whatever it is.
        if (!(closed ? choice.closed : choice.open) && choice.kind != read(document_.design()).kind) continue;
        names << (closed && choice.kind == PlaceKind::Start ? tr("start (corner 1)") : tr(choice.name));
        ids << choice.id;
    }
    addChoice(
        prefix + tr("Place"), names, ids,
        [read](const Design& d) { return std::string(choiceOf(read(d).kind).id); },
        [place](Design& d, const std::string& id) {
            for (const auto& choice : kPlaces)
                if (id == choice.id) {
                    place(d).kind = choice.kind;
                    place(d).value = choice.value;
                }
        },
        closed ? tr("Where on the loop; corner 1 is its first point, side 1 runs from there")
               : tr("Where along the part; the start is where its first point is"));
    const PlaceKind kind = read(document_.design()).kind;
    const char* label = kind == PlaceKind::Corner     ? later("Corner")
                        : kind == PlaceKind::Side     ? later("Side")
                        : kind == PlaceKind::Distance ? later("Distance")
                        : kind == PlaceKind::Percent  ? later("Percent")
                                                      : nullptr;
    if (label == nullptr) return;
    addQuantity(
        prefix + tr(label), kind == PlaceKind::Distance ? Kind::Length : Kind::Number,
        [read](const Design& d) { return read(d).value; },
        [place](Design& d, const std::string& v) { place(d).value = v; },
        kind == PlaceKind::Distance ? tr("From the start; below zero counts from the end") : QString());
}

void ItemEditor::buildDimension() {
    const model::Id i = selection_.id;
    const auto& dimension = model::at(document_.design().dimensions, i);
    title_->setText(tr("Dimension"));
    const Kind kind = model::kindOf(dimension.kind);
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.dimensions, i).name; },
        [i](Design& d, const std::string& v) { model::at(d.dimensions, i).name = v; },
        tr("Used in formulas: letters, digits, underscores"));
    addQuantity(
        tr("Value"), kind, [i](const Design& d) { return model::at(d.dimensions, i).text; },
        [i](Design& d, const std::string& v) { model::at(d.dimensions, i).text = v; },
        tr("A number with any unit (12.5 m, 41' 6 1/2\"), or a formula (lambda/4, apex - 4 m)"));
    addQuantity(
        tr("Slider from"), kind, [i](const Design& d) { return model::at(d.dimensions, i).low; },
        [i](Design& d, const std::string& v) { model::at(d.dimensions, i).low = v; },
        tr("Lower end of the slider"), true);
    addQuantity(
        tr("Slider to"), kind, [i](const Design& d) { return model::at(d.dimensions, i).high; },
        [i](Design& d, const std::string& v) { model::at(d.dimensions, i).high = v; },
        tr("Upper end of the slider"), true);
    addChoice(
        tr("Kind"), {tr("length"), tr("angle"), tr("plain number")}, {"length", "angle", "number"},
        [i](const Design& d) {
            const auto k = model::at(d.dimensions, i).kind;
            return std::string(k == DimensionKind::Angle    ? "angle"
                               : k == DimensionKind::Number ? "number"
                                                            : "length");
        },
        [i](Design& d, const std::string& v) {
            model::at(d.dimensions, i).kind = v == "angle"    ? DimensionKind::Angle
                                              : v == "number" ? DimensionKind::Number
                                                              : DimensionKind::Length;
        });
    addText(
        tr("Note"), [i](const Design& d) { return model::at(d.dimensions, i).note; },
        [i](Design& d, const std::string& v) { model::at(d.dimensions, i).note = v; },
        tr("What it measures"));
}

void ItemEditor::buildFeed() {
    const model::Id i = selection_.id;
    title_->setText(tr("Feed"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.feeds, i).name; },
        [i](Design& d, const std::string& v) { model::renameFeed(d, model::indexOf(d.feeds, i), v); });
    addChoice(
        tr("On part"), partNames(), partNames(), [i](const Design& d) { return model::at(d.feeds, i).part; },
        [i](Design& d, const std::string& v) { model::at(d.feeds, i).part = v; });
    addPlace(
        {}, [i](Design& d) -> Place& { return model::at(d.feeds, i).place; },
        [i](const Design& d) { return model::at(d.feeds, i).part; });
    addSides(i);
    addQuantity(
        tr("Amplitude"), Kind::Number, [i](const Design& d) { return model::at(d.feeds, i).amplitude; },
        [i](Design& d, const std::string& v) { model::at(d.feeds, i).amplitude = v; },
        tr("Voltage relative to the other feeds"));
    addQuantity(
        tr("Phase"), Kind::Angle, [i](const Design& d) { return model::at(d.feeds, i).phase; },
        [i](Design& d, const std::string& v) { model::at(d.feeds, i).phase = v; }, tr("Positive leads"));
}

/// Between what and what the feed sits, and which other wire of its joint is fed together with its own.
void ItemEditor::addSides(model::Id feed) {
    const auto expansion = session_.expansion();
    const auto& design = document_.design();
    const auto placed =
        std::find_if(expansion->model.feeds.begin(), expansion->model.feeds.end(), [&](const auto& plain) {
            const std::string& name = model::at(design.feeds, feed).name;
            return plain.name == name || plain.name.rfind(name + " (", 0) == 0;
        });
    if (placed == expansion->model.feeds.end()) return;
    const auto index = static_cast<std::size_t>(placed - expansion->model.feeds.begin());
    const auto others = edit::meetingAt(*expansion, index);
    if (others.empty()) return;
    QStringList names{tr("nothing")};
    QStringList ids{""};
    for (const auto& name : others) {
        names << text(name);
        ids << text(name);
    }
    if (others.size() > 1) {
        names << tr("all that meet there");
        ids << "*";
    }
    addChoice(
        tr("Together with"), names, ids,
        [feed](const Design& d) -> std::string {
            const auto& with = model::at(d.feeds, feed).with;
            return with.empty() ? "" : with.size() == 1 ? with.front() : "*";
        },
        [feed, others](Design& d, const std::string& v) {
            auto& with = model::at(d.feeds, feed).with;
            if (v.empty())
                with.clear();
            else if (v == "*")
                with = others;
            else
                with = {v};
        },
        tr("Of other wires in this joint one side is fed with that of this part: two halves against the two "
           "others"));
    auto* sides = new QLabel(text(edit::sidesOf(*expansion, index)));
    sides->setObjectName("sides");
    sides->setTextFormat(Qt::PlainText);
    sides->setWordWrap(true);
    sides->setProperty("soft", true);
    sides->setFont(textFont(kSmallPt));
    grid_->addWidget(sides, grid_->rowCount(), 1, 1, 2);
}

void ItemEditor::buildDesign() {
    title_->setText(tr("Design"));
    addText(
        tr("Name"), [](const Design& d) { return d.name; },
        [](Design& d, const std::string& v) { d.name = v; });
    addQuantity(
        tr("Frequency"), Kind::Frequency, [](const Design& d) { return d.designFrequency; },
        [](Design& d, const std::string& v) { d.designFrequency = v; },
        tr("The design frequency: lambda in formulas belongs to it"));
    addQuantity(
        tr("SWR to"), Kind::Number, [](const Design& d) { return d.reference; },
        [](Design& d, const std::string& v) { d.reference = v; },
        tr("Reference impedance in ohm: 50, 200 through 4:1, 2450 through 49:1"));
}

QLineEdit* ItemEditor::field(const QString& label) const {
    for (const auto& row : rows_)
        if (row.label == label) return row.plain;
    return nullptr;
}

QComboBox* ItemEditor::choice(const QString& label) const {
    for (const auto& row : rows_)
        if (row.label == label) return row.combo;
    return nullptr;
}

QString ItemEditor::sentence() const {
    return sentence_->isHidden() ? QString() : sentence_->text();
}

void ItemEditor::focusFirst() {
    for (const auto& row : rows_)
        if (row.plain != nullptr && row.label != tr("Name")) {
            row.plain->setFocus();
            row.plain->selectAll();
            return;
        }
}

}  // namespace rm::app
