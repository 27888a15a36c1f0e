// Adding, copying, moving and removing what a design is made of.
#include <fmt/format.h>

#include <QMenu>
#include <QStackedWidget>
#include <algorithm>

#include "app/frame/bench.h"
#include "app/plan/block_choices.h"
#include "app/stages/match/match_view.h"
#include "app/plan/item_editor.h"
#include "app/stages/shape/yard.h"

namespace rm::app {

namespace {

/// `base`, or `base 2`, `base 3` and so on where it is taken.
template <typename Items>
std::string freeName(const Items& items, const std::string& base, const char* separator = " ") {
    const auto taken = [&](const std::string& name) {
        return std::any_of(items.begin(), items.end(), [&](const auto& item) { return item.name == name; });
    };
    if (!taken(base)) return base;
    for (int n = 2;; ++n) {
        const std::string name = base + separator + std::to_string(n);
        if (!taken(name)) return name;
    }
}

/// Copies the item at `index` behind it under a free name.
template <typename Items>
void duplicateAt(Items& items, std::size_t index, const char* separator = " ") {
    auto copy = items.at(index);
    copy.name = freeName(items, copy.name, separator);
    items.insert(items.begin() + static_cast<std::ptrdiff_t>(index) + 1, copy);
}

template <typename Items>
void removeAt(Items& items, std::size_t index) {
    items.erase(items.begin() + static_cast<std::ptrdiff_t>(index));
}

/// Three elements, cut for the design frequency near enough to begin with.
model::ElementRow starterRow(double lambdaM) {
    model::ElementRow row;
    row.start = {"0 m", "0 m", "5 m"};
    const struct {
        const char* name;
        double position;
        double length;
    } elements[] = {{"reflector", 0.0, 0.495}, {"driven", 0.2, 0.473}, {"director 1", 0.36, 0.44}};
    // Numbers for the tape, in centimetres.
    const auto typed = [&](double wavelengths) { return fmt::format("{:.2f} m", wavelengths * lambdaM); };
    for (const auto& e : elements) {
        model::RowElement element;
        element.name = e.name;
        element.position = typed(e.position);
        element.length = typed(e.length);
        row.elements.push_back(element);
    }
    return row;
}

}  // namespace

void Bench::addPart(const QString& kind) {
    Selection added{Selection::Type::Part, document_.design().parts.size()};
    document_.editDesign("Add part", [&](model::Design& d) {
        model::Part part;
        // Sizes that suit the design frequency.
        const std::string half = "lambda/4";
        if (kind == "bent") {
            part.name = "Bent wire";
            part.shape = model::BentWire{
                {{"0 m", "0 m", "2 m"}, {"0 m", "0 m", "8 m"}, {"-10 m", "0 m", "8 m"}}, false};
        } else if (kind == "loop") {
            model::RegularLoop loop;
            loop.size = "1.03*lambda";
            part.name = "Loop";
            part.shape = loop;
        } else if (kind == "vee") {
            model::InvertedV vee;
            vee.leg = "0.24*lambda";
            part.name = "Inverted V";
            part.shape = vee;
        } else if (kind == "fan") {
            model::Fan fan;
            fan.length = half;
            part.name = "Radials";
            part.shape = fan;
        } else if (kind == "mast") {
            part.name = "Mast";
            part.conductor = {"steel", "60 mm", "", "3"};
            part.shape = model::StraightWire{{"-2 m", "0 m", "0.2 m"}, {"-2 m", "0 m", "10 m"}};
        } else if (kind == "guys") {
            model::Fan guys;
            guys.hub = {"-2 m", "0 m", "9 m"};
            guys.count = "3";
            guys.length = "11 m";
            guys.slope = "50 deg";
            guys.insulators = "3";
            part.name = "Guys";
            part.conductor = {"steel", "4 mm", "", "3"};
            part.shape = guys;
        } else if (kind == "tube") {
            part.name = "Mounting tube";
            part.conductor = {"aluminium-6061", "40 mm", "", "3"};
            part.shape = model::StraightWire{{"-0.3 m", "0 m", "3 m"}, {"-0.3 m", "0 m", "6 m"}};
        } else if (kind == "gutter") {
            part.name = "Gutter";
            part.conductor = {"steel", "100 mm", "", "3"};
            part.shape = model::StraightWire{{"-4 m", "-6 m", "5 m"}, {"-4 m", "6 m", "5 m"}};
        } else if (kind == "row") {
            part.name = "Yagi";
            part.conductor = {"aluminium", "8 mm", "", "3"};
            part.shape = starterRow(wavelengthM(frequencyHz_));
        } else {
            part.name = "Wire";
            part.shape = model::StraightWire{{"0 m", "-0.24*lambda", "5 m"}, {"0 m", "0.24*lambda", "5 m"}};
        }
        part.name = freeName(d.parts, part.name);
        d.parts.push_back(part);
        const bool nearby = kind == "mast" || kind == "guys" || kind == "tube" || kind == "gutter";
        if (d.feeds.empty() && kind != "fan" && !nearby) {
            model::Feed feed;
            feed.part = part.name;
            if (kind == "row") feed.place.element = "driven";
            d.feeds.push_back(feed);
        }
    });
    selectEverywhere(added);
    if (kind == "row") return showBoom();
    editor_->focusFirst();
}

void Bench::addItem(Selection::Type type) {
    const auto& d = document_.design();
    Selection added{type, 0};
    switch (type) {
        case Selection::Type::Part: {
            QMenu menu(this);
            for (const auto& [text, kind] : {std::pair{"Straight wire", "wire"},
                                             {"Bent wire", "bent"},
                                             {"Regular loop", "loop"},
                                             {"Inverted V", "vee"},
                                             {"Fan of wires", "fan"},
                                             {"Element row: a Yagi", "row"},
                                             {"Nearby: mast or tower", "mast"},
                                             {"Nearby: guys with insulators", "guys"},
                                             {"Nearby: mounting tube", "tube"},
                                             {"Nearby: gutter", "gutter"}})
                connect(menu.addAction(text), &QAction::triggered, this,
                        [this, kind = QString(kind)] { addPart(kind); });
            menu.exec(QCursor::pos());
            return;
        }
        case Selection::Type::Copy: {
            QMenu menu(this);
            for (const auto& [text, kind] : {std::pair{"Stack: rows and columns", model::CopyKind::Stack},
                                             {"In steps", model::CopyKind::Shift},
                                             {"Round an axis", model::CopyKind::Rotate},
                                             {"Mirrored", model::CopyKind::Mirror}})
                connect(menu.addAction(text), &QAction::triggered, this,
                        [this, kind = kind] { addCopy(kind); });
            menu.exec(QCursor::pos());
            return;
        }
        case Selection::Type::Drive: {
            QMenu menu(this);
            fillPatterns(&menu);
            menu.exec(QCursor::pos());
            return;
        }
        case Selection::Type::Block:
            return askBlock(-1, QCursor::pos());
        case Selection::Type::Measured:
            return askMeasured();
        case Selection::Type::Line:
            added.index = d.lines.size();
            document_.editDesign("Add line", [](model::Design& design) {
                model::PhasingLine line;
                line.name = freeName(design.lines, "Line");
                line.length = "0.25*0.66*lambda";
                if (!design.parts.empty()) line.fromPart = design.parts.front().name;
                if (!design.parts.empty()) line.toPart = design.parts.back().name;
                design.lines.push_back(line);
            });
            break;
        case Selection::Type::Dimension:
            added.index = d.dimensions.size();
            document_.editDesign("Add dimension", [](model::Design& design) {
                model::Dimension dimension;
                dimension.name = freeName(design.dimensions, "length", "");
                dimension.text = "10 m";
                design.dimensions.push_back(dimension);
            });
            break;
        case Selection::Type::Feed:
            added.index = d.feeds.size();
            document_.editDesign("Add feed", [](model::Design& design) {
                model::Feed feed;
                feed.name = freeName(design.feeds, "Feed");
                if (!design.parts.empty()) feed.part = design.parts.front().name;
                design.feeds.push_back(feed);
            });
            break;
        case Selection::Type::Load: {
            QMenu menu(this);
            connect(menu.addAction("Load: coil, capacitor or resistor"), &QAction::triggered, this,
                    [this] { addLoad(false); });
            connect(menu.addAction("Trap"), &QAction::triggered, this, [this] { addLoad(true); });
            connect(menu.addAction("Line between two points"), &QAction::triggered, this,
                    [this] { addItem(Selection::Type::Line); });
            menu.exec(QCursor::pos());
            return;
        }
        default:
            return;
    }
    selectEverywhere(added);
    editor_->focusFirst();
}

void Bench::addLoad(bool trap) {
    const Selection added{Selection::Type::Load, document_.design().loads.size()};
    document_.editDesign(trap ? "Add trap" : "Add load", [trap](model::Design& design) {
        model::Load load;
        load.name = freeName(design.loads, trap ? "Trap" : "Load");
        load.form = trap ? model::LoadForm::Trap : model::LoadForm::Series;
        load.trapFrequency = design.designFrequency;
        if (!trap) load.inductance = "5";
        load.place = {model::PlaceKind::Percent, "25"};
        if (!design.parts.empty()) load.part = design.parts.front().name;
        design.loads.push_back(load);
    });
    selectEverywhere(added);
    editor_->focusFirst();
}

void Bench::askBlock(int place, QPoint where) {
    QMenu menu(this);
    for (const auto& choice : blockChoices())
        connect(menu.addAction(choice.text), &QAction::triggered, this,
                [this, block = choice.block, place] { addBlock(block, place); });
    menu.exec(where);
}

void Bench::addBlock(const model::FeedBlock& block, int place) {
    const auto size = document_.design().feedPath.size();
    const std::size_t at = place < 0 ? size : std::min(size, static_cast<std::size_t>(place));
    document_.editDesign("Add feed path block", [&](model::Design& design) {
        model::FeedBlock named = block;
        named.name = freeName(design.feedPath, block.name);
        design.feedPath.insert(design.feedPath.begin() + static_cast<std::ptrdiff_t>(at), named);
    });
    selectEverywhere({Selection::Type::Block, at});
    if (stage_->currentWidget() != matchView_) editor_->focusFirst();
}

void Bench::removeSelected() {
    const Selection s = selection();
    if (s.type == Selection::Type::None || s.type == Selection::Type::Site ||
        s.type == Selection::Type::Design || s.type == Selection::Type::Harness)
        return;
    document_.editDesign("Remove", [&](model::Design& d) {
        if (s.type == Selection::Type::Dimension) removeAt(d.dimensions, s.index);
        if (s.type == Selection::Type::Part) removeAt(d.parts, s.index);
        if (s.type == Selection::Type::Feed) removeAt(d.feeds, s.index);
        if (s.type == Selection::Type::Load) removeAt(d.loads, s.index);
        if (s.type == Selection::Type::Line) removeAt(d.lines, s.index);
        if (s.type == Selection::Type::Block) removeAt(d.feedPath, s.index);
        if (s.type == Selection::Type::Measured) removeAt(d.measured, s.index);
        if (s.type == Selection::Type::Copy) removeAt(d.copies, s.index);
        if (s.type == Selection::Type::Drive) {
            removeAt(d.driveSets, s.index);
            // The one in use stays in use, wherever it stands now.
            const auto removed = static_cast<int>(s.index);
            if (d.driveSet == removed) d.driveSet = -1;
            if (d.driveSet > removed) --d.driveSet;
        }
    });
    selectEverywhere({});
}

void Bench::duplicateSelected() {
    const Selection s = selection();
    if (s.type == Selection::Type::None || s.type == Selection::Type::Site ||
        s.type == Selection::Type::Design || s.type == Selection::Type::Measured ||
        s.type == Selection::Type::Harness)
        return;
    document_.editDesign("Duplicate", [&](model::Design& d) {
        if (s.type == Selection::Type::Dimension) duplicateAt(d.dimensions, s.index, "");
        if (s.type == Selection::Type::Part) duplicateAt(d.parts, s.index);
        if (s.type == Selection::Type::Feed) duplicateAt(d.feeds, s.index);
        if (s.type == Selection::Type::Load) duplicateAt(d.loads, s.index);
        if (s.type == Selection::Type::Line) duplicateAt(d.lines, s.index);
        if (s.type == Selection::Type::Block) duplicateAt(d.feedPath, s.index);
        if (s.type == Selection::Type::Copy) duplicateAt(d.copies, s.index);
        if (s.type == Selection::Type::Drive) {
            duplicateAt(d.driveSets, s.index);
            if (d.driveSet > static_cast<int>(s.index)) ++d.driveSet;
        }
    });
    selectEverywhere({s.type, s.index + 1});
}

void Bench::newDesign(bool copy) {
    document_.edit(copy ? "Copy design" : "New design", [&](model::Project& p) {
        model::Design d = copy ? p.active() : starterProject().active();
        if (!copy) d.designFrequency = QString("%1 MHz").arg(workingBand().centreHz() / 1e6).toStdString();
        d.name = freeName(p.designs, d.name);
        p.designs.push_back(d);
        p.activeDesign = p.designs.size() - 1;
    });
    selectEverywhere({Selection::Type::Design, 0});
}

void Bench::removeDesign() {
    if (document_.project().designs.size() < 2)
        return fail("This is the only design: a project keeps at least one.");
    document_.edit("Remove design", [](model::Project& p) {
        removeAt(p.designs, p.activeDesign);
        p.activeDesign = std::min(p.activeDesign, p.designs.size() - 1);
    });
    selectEverywhere({});
    yard_->fitNext();
}

}  // namespace rm::app
