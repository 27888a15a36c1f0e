#include "core/model/movable.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "core/model/dimension_kind.h"
#include "core/model/expand.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

constexpr const char* kUsualRatios = "1, 1.5, 2, 2.25, 4, 6, 9, 12, 16, 25, 36, 49, 56, 64";

using Text = std::function<std::string*(Design&)>;

bool isRatio(const std::string& text) {
    const auto colon = text.find(':');
    return colon == std::string::npos ? quantity::isPlainNumber(text)
                                      : quantity::isPlainNumber(text.substr(0, colon)) &&
                                            quantity::isPlainNumber(text.substr(colon + 1));
}

/// A place in a list, or null.
template <typename Items>
auto* placeIn(Items& items, std::size_t i) {
    return i < items.size() ? &items[i] : nullptr;
}

class Collector {
  public:
    explicit Collector(const Design& design) : design_(const_cast<Design&>(design)) {}

    void add(const std::string& owner, const std::string& field, DimensionKind kind, const Text& text,
             bool ratio = false) {
        const std::string* typed = text(design_);  // only read
        if (typed != nullptr && (ratio ? isRatio(*typed) : quantity::isPlainNumber(*typed)))
            found.push_back({owner, field, kind, ratio, text});
    }

    /// What is in one item of a list of the design, as long as the item is there.
    template <typename Item>
    void in(std::vector<Item> Design::*list, std::size_t i, const std::string& field, DimensionKind kind,
            const std::function<std::string*(Item&)>& text, bool ratio = false) {
        const Id id = (design_.*list)[i].id;
        add((design_.*list)[i].name, field, kind,
            [=](Design& d) -> std::string* {
                // By its identity, where the design is one of an open project.
                Item* item = id != 0 ? find(d.*list, id) : placeIn(d.*list, i);
                return item == nullptr ? nullptr : text(*item);
            },
            ratio);
    }

    /// A member of such an item.
    template <typename Item>
    void member(std::vector<Item> Design::*list, std::size_t i, const char* field, DimensionKind kind,
                std::string Item::*text) {
        in<Item>(list, i, field, kind, [text](Item& item) { return &(item.*text); });
    }

    /// What is in the shape of a part, as long as it has this one.
    template <typename S>
    void shape(std::size_t part, const std::string& field, DimensionKind kind,
               const std::function<std::string*(S&)>& text) {
        in<Part>(&Design::parts, part, field, kind, [text](Part& p) -> std::string* {
            S* shape = std::get_if<S>(&p.shape);
            return shape == nullptr ? nullptr : text(*shape);
        });
    }

    std::vector<Movable> found;

  private:
    Design& design_;
};

constexpr const char* kAxes[] = {later("forward"), later("left"), later("up")};

void addPart(Collector& c, const Design& design, std::size_t i) {
    const auto kLength = DimensionKind::Length;
    const auto kAngle = DimensionKind::Angle;
    const Shape& shape = design.parts[i].shape;
    if (std::holds_alternative<StraightWire>(shape)) {
        for (std::size_t a = 0; a < 3; ++a)
            c.shape<StraightWire>(i, say("start, {}", kAxes[a]), kLength,
                                  [a](StraightWire& w) { return &w.start[a]; });
        for (std::size_t a = 0; a < 3; ++a)
            c.shape<StraightWire>(i, say("end, {}", kAxes[a]), kLength,
                                  [a](StraightWire& w) { return &w.end[a]; });
    } else if (const auto* bent = std::get_if<BentWire>(&shape)) {
        for (std::size_t p = 0; p < bent->points.size(); ++p)
            for (std::size_t a = 0; a < 3; ++a)
                c.shape<BentWire>(i, say("point {}, {}", p + 1, kAxes[a]), kLength,
                                  [p, a](BentWire& w) -> std::string* {
                                      PointText* point = placeIn(w.points, p);
                                      return point == nullptr ? nullptr : &(*point)[a];
                                  });
    } else if (std::holds_alternative<RegularLoop>(shape)) {
        c.shape<RegularLoop>(i, later("size"), kLength, [](RegularLoop& l) { return &l.size; });
        c.shape<RegularLoop>(i, later("height"), kLength, [](RegularLoop& l) { return &l.centre[2]; });
        c.shape<RegularLoop>(i, later("tilt"), kAngle, [](RegularLoop& l) { return &l.tilt; });
    } else if (std::holds_alternative<InvertedV>(shape)) {
        c.shape<InvertedV>(i, later("apex"), kLength, [](InvertedV& v) { return &v.apexHeight; });
        c.shape<InvertedV>(i, later("leg"), kLength, [](InvertedV& v) { return &v.leg; });
        c.shape<InvertedV>(i, later("angle"), kAngle, [](InvertedV& v) { return &v.angle; });
    } else if (std::holds_alternative<Fan>(shape)) {
        c.shape<Fan>(i, later("length"), kLength, [](Fan& f) { return &f.length; });
        c.shape<Fan>(i, later("slope"), kAngle, [](Fan& f) { return &f.slope; });
        c.shape<Fan>(i, later("height"), kLength, [](Fan& f) { return &f.hub[2]; });
    } else if (const auto* radials = std::get_if<RadialSystem>(&shape)) {
        // Of several lengths that take turns none is the length.
        if (radials->length.find(';') == std::string::npos)
            c.shape<RadialSystem>(i, later("length"), kLength, [](RadialSystem& r) { return &r.length; });
        c.shape<RadialSystem>(i, later("depth"), kLength, [](RadialSystem& r) { return &r.depth; });
        c.shape<RadialSystem>(i, later("slope"), kAngle, [](RadialSystem& r) { return &r.slope; });
        c.shape<RadialSystem>(i, later("bent up"), kLength, [](RadialSystem& r) { return &r.bentUp; });
    } else if (std::holds_alternative<GroundRod>(shape)) {
        c.shape<GroundRod>(i, later("length"), kLength, [](GroundRod& r) { return &r.length; });
    } else if (std::holds_alternative<HungWire>(shape)) {
        c.shape<HungWire>(i, later("length"), kLength, [](HungWire& w) { return &w.length; });
        c.shape<HungWire>(i, later("rope"), kLength, [](HungWire& w) { return &w.rope; });
    } else if (std::holds_alternative<CableRun>(shape)) {
        c.shape<CableRun>(i, later("level"), kLength, [](CableRun& r) { return &r.level; });
    } else if (const auto* row = std::get_if<ElementRow>(&shape)) {
        for (std::size_t e = 0; e < row->elements.size(); ++e) {
            const std::string name = row->elements[e].name;
            const auto add = [&](const char* what, DimensionKind kind, std::string RowElement::*text) {
                c.shape<ElementRow>(i, name + ", " + what, kind, [=](ElementRow& r) -> std::string* {
                    RowElement* element = placeIn(r.elements, e);
                    return element == nullptr ? nullptr : &(element->*text);
                });
            };
            // The boom begins at the first element.
            if (e > 0) add(later("position"), kLength, &RowElement::position);
            add(later("length"), kLength, &RowElement::length);
            if (row->elements[e].form == ElementForm::Bent) add(later("sweep"), kAngle, &RowElement::sweep);
            if (hasSecondConductor(row->elements[e].form)) add(later("gap"), kLength, &RowElement::gap);
        }
    }
}

void addBlock(Collector& c, const Design& design, std::size_t i) {
    const FeedBlock& block = design.feedPath[i];
    switch (block.kind) {
        case BlockKind::Transformer:
            c.in<FeedBlock>(
                &Design::feedPath, i, later("ratio"), DimensionKind::Number,
                [](FeedBlock& b) { return &b.ratio; }, true);
            return;
        case BlockKind::Cable:
        case BlockKind::Stub:
            c.in<FeedBlock>(&Design::feedPath, i, later("length"), DimensionKind::Length,
                            [](FeedBlock& b) { return &b.length; });
            return;
        case BlockKind::Element:
            c.member(&Design::feedPath, i, later("value"), DimensionKind::Number, &FeedBlock::value);
            return;
        case BlockKind::Network:
            for (std::size_t a = 0; a < block.arms.size(); ++a)
                c.in<FeedBlock>(&Design::feedPath, i, say("element {}", a + 1), DimensionKind::Number,
                                [a](FeedBlock& b) -> std::string* {
                                    auto* arm = placeIn(b.arms, a);
                                    return arm == nullptr ? nullptr : &arm->value;
                                });
            return;
        default:
            return;
    }
}

void addCopy(Collector& c, const Design& design, std::size_t i) {
    const Copy& copy = design.copies[i];
    const auto add = [&](const char* field, DimensionKind kind, std::string Copy::*text) {
        c.member(&Design::copies, i, field, kind, text);
    };
    if (copy.kind == CopyKind::Mirror) add(later("plane"), DimensionKind::Length, &Copy::at);
    if (copy.kind == CopyKind::Rotate) add(later("angle"), DimensionKind::Angle, &Copy::angle);
    if (copy.kind == CopyKind::Shift)
        for (std::size_t a = 0; a < 3; ++a)
            c.in<Copy>(&Design::copies, i, say("step, {}", kAxes[a]), DimensionKind::Length,
                       [a](Copy& one) { return &one.step[a]; });
    if (copy.kind == CopyKind::Stack && copy.rows != "1")
        add(later("row spacing"), DimensionKind::Length, &Copy::rowSpacing);
    if (copy.kind == CopyKind::Stack && copy.columns != "1")
        add(later("column spacing"), DimensionKind::Length, &Copy::columnSpacing);
}

}  // namespace

std::vector<Movable> movablesOf(const Design& design) {
    Collector c(design);
    for (std::size_t i = 0; i < design.parts.size(); ++i) addPart(c, design, i);
    for (std::size_t i = 0; i < design.copies.size(); ++i) addCopy(c, design, i);
    if (design.feeds.size() > 1)
        for (std::size_t i = 0; i < design.feeds.size(); ++i) {
            c.member(&Design::feeds, i, later("amplitude"), DimensionKind::Number, &Feed::amplitude);
            c.member(&Design::feeds, i, later("phase"), DimensionKind::Angle, &Feed::phase);
        }
    for (std::size_t i = 0; i < design.loads.size(); ++i) {
        if (design.loads[i].form == LoadForm::Trap) {
            c.member(&Design::loads, i, "X of the trap", DimensionKind::Number, &Load::trapReactance);
            continue;
        }
        if (design.loads[i].form == LoadForm::Ring) {
            c.member(&Design::loads, i, later("turns"), DimensionKind::Number, &Load::turns);
            continue;
        }
        if (design.loads[i].form == LoadForm::Table) continue;
        c.member(&Design::loads, i, "R", DimensionKind::Number, &Load::resistance);
        c.member(&Design::loads, i, "L", DimensionKind::Number, &Load::inductance);
        c.member(&Design::loads, i, "C", DimensionKind::Number, &Load::capacitance);
    }
    for (std::size_t i = 0; i < design.lines.size(); ++i)
        c.in<PhasingLine>(&Design::lines, i, later("length"), DimensionKind::Length,
                          [](PhasingLine& line) { return &line.length; });
    for (std::size_t i = 0; i < design.driveSets.size(); ++i)
        for (std::size_t e = 0; e < design.driveSets[i].driven.size(); ++e) {
            const auto add = [&](const char* what, DimensionKind kind, std::string DriveEntry::*text) {
                c.in<DriveSet>(&Design::driveSets, i, design.driveSets[i].driven[e].feed + ", " + what, kind,
                               [=](DriveSet& set) -> std::string* {
                                   DriveEntry* entry = placeIn(set.driven, e);
                                   return entry == nullptr ? nullptr : &(entry->*text);
                               });
            };
            add(later("amplitude"), DimensionKind::Number, &DriveEntry::amplitude);
            add(later("phase"), DimensionKind::Angle, &DriveEntry::phase);
            add(later("delay"), DimensionKind::Length, &DriveEntry::delay);
        }
    for (std::size_t i = 0; i < design.feedPath.size(); ++i) addBlock(c, design, i);
    c.add(say("Site"), later("height"), DimensionKind::Length, [](Design& d) { return &d.site.height; });
    return c.found;
}

std::string dimensionName(const Design& design, const std::string& owner, const std::string& field) {
    std::string name;
    for (const char c : owner + "_" + field) {
        const bool letter = std::isalnum(static_cast<unsigned char>(c)) != 0;
        if (letter || name.empty() || name.back() != '_') name += letter ? c : '_';
    }
    while (!name.empty() && name.back() == '_') name.pop_back();
    if (name.empty() || std::isalpha(static_cast<unsigned char>(name.front())) == 0) name = "e" + name;
    const auto usable = [&](const std::string& wanted) {
        return quantity::isUsableName(wanted) &&
               std::none_of(design.dimensions.begin(), design.dimensions.end(),
                            [&](const auto& d) { return d.name == wanted; });
    };
    std::string free = name;
    for (int n = 2; !usable(free); ++n) free = name + std::to_string(n);
    return free;
}

std::string makeDimension(Design& design, const Movable& movable) {
    std::string* place = movable.text(design);
    if (place == nullptr) throw Error(say("{} has no {} any more.", movable.owner, movable.field));
    const std::string typed = *place;
    Dimension dimension;
    dimension.name = dimensionName(design, movable.owner, movable.field);
    dimension.kind = movable.kind;
    dimension.note = movable.owner + ", " + movable.field;
    const auto valueOf = [&](const std::string& text) {
        return quantity::evaluate(text, kindOf(movable.kind), scopeOf(design));
    };
    const auto colon = typed.find(':');
    const double value = movable.ratio && colon != std::string::npos
                             ? valueOf(typed.substr(0, colon)) / valueOf(typed.substr(colon + 1))
                             : valueOf(typed);
    dimension.text = movable.ratio ? fmt::format("{:.6g}", value) : typed;
    dimension.scales = movable.kind == DimensionKind::Length;
    // A slider that does something useful.
    const double reach = movable.kind == DimensionKind::Angle ? 30.0 : std::max(0.3 * std::abs(value), 0.01);
    const auto end = [&](double at) {
        return movable.kind == DimensionKind::Length  ? quantity::lengthLike(typed, at)
               : movable.kind == DimensionKind::Angle ? fmt::format("{:g} deg", at)
                                                      : fmt::format("{:.4g}", at);
    };
    dimension.low = end(value - reach);
    dimension.high = end(value + reach);
    design.dimensions.push_back(dimension);
    *place = dimension.name;
    return dimension.name;
}

std::string letMove(Design& design, const Movable& movable) {
    Mover mover;
    mover.dimension = makeDimension(design, movable);
    if (movable.ratio) mover.choices = kUsualRatios;
    design.tune.movers.push_back(mover);
    return mover.dimension;
}

}  // namespace rm::model
