// Fields of the editor for what arrays are made of: element rows, copies, drive sets and the harness.
#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>
#include <algorithm>

#include "app/look/text.h"
#include "app/plan/item_editor.h"
#include "app/plan/quantity_field.h"
#include "core/model/expand.h"
#include "core/model/rename.h"

namespace rm::app {

namespace {

using namespace rm::model;
using quantity::Kind;

ElementRow& rowOf(Design& d, Id part) {
    return std::get<ElementRow>(model::at(d.parts, part).shape);
}
const ElementRow& rowOf(const Design& d, Id part) {
    return std::get<ElementRow>(model::at(d.parts, part).shape);
}

template <typename Enum>
std::string number(Enum value) {
    return std::to_string(static_cast<int>(value));
}

}  // namespace

QStringList ItemEditor::feedNames() const {
    QStringList names;
    for (const auto& feed : session_.expansion()->model.feeds) names << text(feed.name);
    return names;
}

QString ItemEditor::arrayKey() const {
    const auto& d = document_.design();
    QString key;
    if (selection_.type == Selection::Type::Copy)
        if (const Copy* copy = model::find(d.copies, selection_.id))
            key += QString(" %1").arg(static_cast<int>(copy->kind));
    if (selection_.type == Selection::Type::Drive || selection_.type == Selection::Type::Harness) {
        key += feedNames().join("|");
        key += QString(" %1").arg(d.harness.line.line == kCustomLine);
        if (const DriveSet* set = model::find(d.driveSets, selection_.id)) {
            key += QString(" %1").arg(static_cast<int>(set->idle));
            for (const auto& entry : set->driven) key += "|" + text(entry.feed);
        }
    }
    // The elements that a place can be on.
    const auto elements = [&](const std::string& name) {
        const Part* part = model::partMeant(d, name);
        const auto* row = part != nullptr ? std::get_if<ElementRow>(&part->shape) : nullptr;
        if (row == nullptr) return;
        for (const auto& element : row->elements) key += "|" + text(element.name);
    };
    if (const Feed* feed = model::find(d.feeds, selection_.id)) elements(feed->part);
    if (const Load* load = model::find(d.loads, selection_.id)) elements(load->part);
    if (const PhasingLine* line = model::find(d.lines, selection_.id)) {
        elements(line->fromPart);
        elements(line->toPart);
    }
    return key;
}

std::pair<QToolButton*, QToolButton*> ItemEditor::addMoreAndLess(const QString& more, const QString& less,
                                                                 bool removable) {
    auto* line = new QHBoxLayout;
    auto* add = new QToolButton;
    auto* remove = new QToolButton;
    add->setText(more);
    remove->setText(less);
    for (auto* button : {add, remove}) {
        button->setObjectName(button->text());
        line->addWidget(button);
    }
    remove->setEnabled(removable);
    line->addStretch(1);
    // From the edge of the labels: behind them there is not room for both.
    grid_->addLayout(line, grid_->rowCount(), 0, 1, 3);
    return {add, remove};
}

QToolButton* ItemEditor::addButton(const QString& label, const QString& tip) {
    auto* button = new QToolButton;
    button->setText(label);
    button->setObjectName(label);
    button->setToolTip(tip);
    button->setFont(textFont(kSmallPt));
    grid_->addWidget(button, grid_->rowCount(), 1, 1, 2);
    return button;
}

void ItemEditor::addElementChoice(const QString& prefix, std::function<Place&(Design&)> place,
                                  const std::string& part) {
    const Part* found = model::partMeant(document_.design(), part);
    const auto* row = found != nullptr ? std::get_if<ElementRow>(&found->shape) : nullptr;
    if (row == nullptr) return;
    QStringList names;
    for (const auto& element : row->elements) names << text(element.name);
    addChoice(
        prefix + tr("Element"), names, names,
        [place](const Design& d) { return place(const_cast<Design&>(d)).element; },
        [place](Design& d, const std::string& v) { place(d).element = v; });
}

void ItemEditor::buildRow() {
    const model::Id i = selection_.id;
    connect(addButton(tr("Elements on the boom…"),
                      tr("The table of positions and lengths, and the boom drawn to scale")),
            &QToolButton::clicked, this, &ItemEditor::boomRequested);
    addPoint(tr("Boom start"), [i](Design& d) -> PointText& { return rowOf(d, i).start; });
    const auto angle = [&](const QString& label, std::string ElementRow::*member, const QString& tip) {
        addQuantity(
            label, Kind::Angle, [i, member](const Design& d) { return rowOf(d, i).*member; },
            [i, member](Design& d, const std::string& v) { rowOf(d, i).*member = v; }, tip);
    };
    angle(tr("Turn"), &ElementRow::turn, tr("Of the boom, to the right of the front as seen from above"));
    angle(tr("Rise"), &ElementRow::rise, tr("Of the boom above the horizon"));
    angle(tr("Roll"), &ElementRow::roll, tr("0: the elements are level; 90 degrees: they stand upright"));
    addChoice(
        tr("Boom"),
        {tr("none"), tr("insulating"), tr("metal, bonded"), tr("metal, insulated"), tr("metal, below them")},
        {"0", "1", "2", "3", "4"}, [i](const Design& d) { return number(rowOf(d, i).boom.kind); },
        [i](Design& d, const std::string& v) { rowOf(d, i).boom.kind = static_cast<BoomKind>(std::stoi(v)); },
        tr("Elements bonded to a metal boom that they pass through, insulated from it, or lying above it. It "
           "shortens "
           "them electrically: the cut lengths are longer than the modelled ones. "
           "Published rules differ, most for thin booms: measure one element before you cut them all"));
    if (rowOf(document_.design(), i).boom.kind >= BoomKind::Bonded) {
        addQuantity(
            tr("Boom size"), Kind::Diameter, [i](const Design& d) { return rowOf(d, i).boom.diameter; },
            [i](Design& d, const std::string& v) { rowOf(d, i).boom.diameter = v; }, tr("Diameter or side"));
        addChoice(
            tr("Section"), {tr("round"), tr("square")}, {"round", "square"},
            [i](const Design& d) { return std::string(rowOf(d, i).boom.square ? "square" : "round"); },
            [i](Design& d, const std::string& v) { rowOf(d, i).boom.square = v == "square"; });
    }
}

void ItemEditor::buildCopy() {
    const model::Id i = selection_.id;
    const Copy& copy = model::at(document_.design().copies, i);
    title_->setText(tr("Copies"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.copies, i).name; },
        [i](Design& d, const std::string& v) { model::at(d.copies, i).name = v; });
    addChoice(
        tr("Kind"),
        {tr("stacked: rows and columns"), tr("shifted in steps"), tr("rotated round an axis"),
         tr("mirrored")},
        {"3", "2", "1", "0"}, [i](const Design& d) { return number(model::at(d.copies, i).kind); },
        [i](Design& d, const std::string& v) {
            model::at(d.copies, i).kind = static_cast<CopyKind>(std::stoi(v));
        });
    const auto quantity = [&](const QString& label, Kind kind, std::string Copy::*member, const QString& tip,
                              bool optional = false) {
        addQuantity(
            label, kind, [i, member](const Design& d) { return model::at(d.copies, i).*member; },
            [i, member](Design& d, const std::string& v) { model::at(d.copies, i).*member = v; }, tip,
            optional);
    };
    switch (copy.kind) {
        case CopyKind::Stack:
            quantity(tr("Rows"), Kind::Number, &Copy::rows, tr("One above the other"));
            quantity(tr("Row spacing"), Kind::Length, &Copy::rowSpacing, tr("From one row up to the next"));
            quantity(tr("Columns"), Kind::Number, &Copy::columns,
                     tr("Side by side, evenly about the middle"));
            quantity(tr("Column spacing"), Kind::Length, &Copy::columnSpacing,
                     tr("From one column to the next"));
            addChoice(
                tr("Rows stand"), {tr("upwards from the part"), tr("evenly about the part")},
                {"up", "centred"},
                [i](const Design& d) {
                    return std::string(model::at(d.copies, i).centred ? "centred" : "up");
                },
                [i](Design& d, const std::string& v) { model::at(d.copies, i).centred = v == "centred"; });
            break;
        case CopyKind::Shift:
            quantity(tr("How many"), Kind::Number, &Copy::count, tr("In all, with the first"));
            addPoint(tr("Step"), [i](Design& d) -> PointText& { return model::at(d.copies, i).step; });
            break;
        case CopyKind::Rotate:
            quantity(tr("How many"), Kind::Number, &Copy::count, tr("In all, with the first"));
            addChoice(
                tr("Axis"), {tr("upright"), tr("forward"), tr("to the left")}, {"0", "1", "2"},
                [i](const Design& d) { return number(model::at(d.copies, i).axis); },
                [i](Design& d, const std::string& v) {
                    model::at(d.copies, i).axis = static_cast<CopyAxis>(std::stoi(v));
                });
            addPoint(tr("Through"), [i](Design& d) -> PointText& { return model::at(d.copies, i).centre; });
            quantity(tr("Angle"), Kind::Angle, &Copy::angle,
                     tr("From one to the next, to the right; empty: evenly all round"), true);
            break;
        case CopyKind::Mirror:
            addChoice(
                tr("Turns round"), {tr("left and right"), tr("front and back"), tr("up and down")},
                {"0", "1", "2"}, [i](const Design& d) { return number(model::at(d.copies, i).plane); },
                [i](Design& d, const std::string& v) {
                    model::at(d.copies, i).plane = static_cast<MirrorPlane>(std::stoi(v));
                });
            quantity(tr("Mirror at"), Kind::Length, &Copy::at,
                     tr("How far to the left, forward or up it stands"));
            break;
    }
    if (copy.kind == CopyKind::Stack) {
        connect(addButton(tr("Advise the spacing…"),
                          tr("What the half-power rule calls for, from the beamwidth of one")),
                &QToolButton::clicked, this, [this, i] { Q_EMIT adviceRequested(i); });
        connect(addButton(tr("Scan the spacing…"), tr("Gain and side lobes against the spacing")),
                &QToolButton::clicked, this, [this, i] { Q_EMIT scanRequested(i); });
    }
    // What is copied: nothing ticked means everything.
    const int first = addLabel(tr("Of"));
    auto* all =
        new QLabel(copy.parts.empty() ? tr("the whole antenna; or only:") : tr("only what is ticked:"));
    all->setFont(textFont(kSmallPt));
    all->setProperty("soft", true);
    grid_->addWidget(all, first, 1, 1, 2);
    for (const auto& part : document_.design().parts) {
        auto* box = new QCheckBox(text(part.name));
        box->setObjectName("of " + text(part.name));
        box->setFont(textFont(kSmallPt));
        box->setChecked(std::find(copy.parts.begin(), copy.parts.end(), part.name) != copy.parts.end());
        grid_->addWidget(box, grid_->rowCount(), 1, 1, 2);
        connect(box, &QCheckBox::clicked, all, [this, i, all, name = part.name](bool on) {
            edit(tr("Change what is copied"), [&](Design& d) {
                auto& parts = model::at(d.copies, i).parts;
                std::erase(parts, name);
                if (on) parts.push_back(name);
            });
            const Copy* now = model::find(document_.design().copies, i);
            all->setText(now == nullptr || now->parts.empty() ? tr("the whole antenna; or only:")
                                                              : tr("only what is ticked:"));
        });
    }
}

void ItemEditor::buildDrive() {
    const model::Id i = selection_.id;
    const DriveSet& set = model::at(document_.design().driveSets, i);
    title_->setText(tr("Drive set"));
    addText(
        tr("Name"), [i](const Design& d) { return model::at(d.driveSets, i).name; },
        [i](Design& d, const std::string& v) {
            model::renameDriveSet(d, model::indexOf(d.driveSets, i), v);
        });
    connect(addButton(tr("All sets side by side…"), tr("Table and patterns of every drive set")),
            &QToolButton::clicked, this, &ItemEditor::drivesRequested);
    addChoice(
        tr("Idle feeds"), {tr("open"), tr("shorted"), tr("terminated")}, {"0", "1", "2"},
        [i](const Design& d) { return number(model::at(d.driveSets, i).idle); },
        [i](Design& d, const std::string& v) {
            model::at(d.driveSets, i).idle = static_cast<IdleKind>(std::stoi(v));
        },
        tr("What lies across the feeds that are not driven"));
    if (set.idle == IdleKind::Terminated)
        addQuantity(
            tr("With, Ω"), Kind::Number,
            [i](const Design& d) { return model::at(d.driveSets, i).termination; },
            [i](Design& d, const std::string& v) { model::at(d.driveSets, i).termination = v; });
    for (const QString& name : feedNames()) {
        const std::string feed = name.toStdString();
        const auto find = [i, feed](const Design& d) {
            const auto& driven = model::at(d.driveSets, i).driven;
            return std::find_if(driven.begin(), driven.end(), [&](const auto& e) { return e.feed == feed; });
        };
        const bool driven = find(document_.design()) != set.driven.end();
        auto* box = new QCheckBox(name);
        box->setObjectName("drives " + name);
        box->setChecked(driven);
        box->setFont(textFont(kSmallPt, true));
        grid_->addWidget(box, grid_->rowCount(), 0, 1, 3);
        connect(box, &QCheckBox::clicked, this, [this, i, feed](bool on) {
            edit(tr("Change drive set"), [&](Design& d) {
                auto& entries = model::at(d.driveSets, i).driven;
                std::erase_if(entries, [&](const auto& e) { return e.feed == feed; });
                if (on) entries.push_back({feed});
            });
        });
        if (!driven) continue;
        const auto field = [&](const QString& label, Kind kind, std::string DriveEntry::*member,
                               const QString& tip, bool optional = false) {
            addQuantity(
                label, kind,
                [find, i, member](const Design& d) {
                    const auto entry = find(d);
                    return entry == model::at(d.driveSets, i).driven.end() ? std::string() : (*entry).*member;
                },
                [i, feed, member](Design& d, const std::string& v) {
                    for (auto& entry : model::at(d.driveSets, i).driven)
                        if (entry.feed == feed) entry.*member = v;
                },
                tip, optional);
        };
        field(tr("   amplitude"), Kind::Number, &DriveEntry::amplitude, tr("Voltage relative to the others"));
        field(tr("   phase"), Kind::Angle, &DriveEntry::phase, tr("Positive leads"));
        field(tr("   delay line"), Kind::Length, &DriveEntry::delay,
              tr("Electrical length before this feed, empty: none; the lag grows with frequency"), true);
    }
}

void ItemEditor::buildHarness() {
    title_->setText(tr("Harness"));
    addChoice(
        tr("Divider"), {tr("none"), tr("to a common point")}, {"no", "yes"},
        [](const Design& d) { return std::string(d.harness.enabled ? "yes" : "no"); },
        [](Design& d, const std::string& v) { d.harness.enabled = v == "yes"; },
        tr("None: each feed is a source of its own. Otherwise a cable runs from every driven feed to a "
           "common "
           "point, "
           "where the feed path to the radio begins"));
    addLine([](Design& d) -> LineText& { return d.harness.line; }, true);
    for (const QString& name : feedNames()) {
        const std::string feed = name.toStdString();
        const auto arm = [feed](Design& d) -> HarnessArm& {
            auto& arms = d.harness.arms;
            const auto found =
                std::find_if(arms.begin(), arms.end(), [&](const auto& a) { return a.feed == feed; });
            if (found != arms.end()) return *found;
            arms.push_back({feed, "", false});
            return arms.back();
        };
        const auto read = [feed](const Design& d) {
            const auto& arms = d.harness.arms;
            const auto found =
                std::find_if(arms.begin(), arms.end(), [&](const auto& a) { return a.feed == feed; });
            return found == arms.end() ? HarnessArm{feed, "", false} : *found;
        };
        addQuantity(
            tr("To ") + name, Kind::Length, [read](const Design& d) { return read(d).length; },
            [arm](Design& d, const std::string& v) { arm(d).length = v; },
            tr("Length of this cable; empty: the length above"), true);
        addChoice(
            tr("   wires"), {tr("straight through"), tr("crossed")}, {"no", "yes"},
            [read](const Design& d) { return std::string(read(d).crossed ? "yes" : "no"); },
            [arm](Design& d, const std::string& v) { arm(d).crossed = v == "yes"; },
            tr("Crossed: this feed in opposite phase"));
    }
}

}  // namespace rm::app
