#include "core/model/difference.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/model/soils.h"

namespace rm::model {

namespace {

class Changes {
  public:
    void add(const std::string& what, const std::string& before, const std::string& after) {
        if (before != after)
            list_.push_back(fmt::format("{} {} → {}", what, before.empty() ? "none" : before,
                                        after.empty() ? "none" : after));
    }
    void say(const std::string& what) { list_.push_back(what); }

    std::string text() const {
        constexpr std::size_t kNamed = 2;
        std::string out;
        for (std::size_t i = 0; i < std::min(kNamed, list_.size()); ++i)
            out += (i > 0 ? ", " : "") + list_[i];
        if (list_.size() > kNamed) out += fmt::format(" and {} more", list_.size() - kNamed);
        return out;
    }

  private:
    std::vector<std::string> list_;
};

/// Calls `both` for items of the same name, and says which came and went.
template <typename Items, typename Both>
void match(const Items& before, const Items& after, Changes& changes, Both both) {
    for (const auto& item : after) {
        const auto same =
            std::find_if(before.begin(), before.end(), [&](const auto& b) { return b.name == item.name; });
        if (same == before.end())
            changes.say("with " + item.name);
        else
            both(*same, item);
    }
    for (const auto& item : before)
        if (std::none_of(after.begin(), after.end(), [&](const auto& a) { return a.name == item.name; }))
            changes.say("without " + item.name);
}

std::string groundName(const Site& site) {
    if (site.ground == GroundKind::FreeSpace) return "free space";
    if (site.ground == GroundKind::Perfect) return "perfect ground";
    return site.soil == kCustomSoil ? fmt::format("ground {}, {} S/m", site.permittivity, site.conductivity)
                                    : site.soil;
}

const char* placeWord(PlaceKind kind) {
    switch (kind) {
        case PlaceKind::Start:
            return "start";
        case PlaceKind::Middle:
            return "middle";
        case PlaceKind::End:
            return "end";
        case PlaceKind::Corner:
            return "corner";
        case PlaceKind::Distance:
            return "distance";
        case PlaceKind::Percent:
            return "percent";
        case PlaceKind::Side:
            return "middle of side";
    }
    return "";
}

std::string placeName(const Place& place) {
    const std::string name = placeWord(place.kind);
    return place.value.empty() ? name : name + " " + place.value;
}

}  // namespace

std::string describeChange(const Design& before, const Design& after) {
    if (before.name != after.name) return after.name;
    Changes changes;
    match(before.dimensions, after.dimensions, changes,
          [&](const Dimension& a, const Dimension& b) { changes.add(b.name, a.text, b.text); });
    match(before.parts, after.parts, changes, [&](const Part& a, const Part& b) {
        if (a.enabled != b.enabled) changes.say(b.name + (b.enabled ? " on" : " off"));
        changes.add(b.name, a.conductor.diameter, b.conductor.diameter);
        changes.add(b.name, a.conductor.material, b.conductor.material);
        const auto* rowBefore = std::get_if<ElementRow>(&a.shape);
        const auto* rowAfter = std::get_if<ElementRow>(&b.shape);
        if (rowBefore == nullptr || rowAfter == nullptr) return;
        match(rowBefore->elements, rowAfter->elements, changes,
              [&](const RowElement& x, const RowElement& y) {
                  changes.add(y.name, x.length, y.length);
                  changes.add(y.name + " at", x.position, y.position);
                  changes.add(y.name, x.diameter, y.diameter);
              });
    });
    match(before.copies, after.copies, changes, [&](const Copy& a, const Copy& b) {
        if (a.enabled != b.enabled) changes.say(b.name + (b.enabled ? " on" : " off"));
        changes.add(b.name, a.rowSpacing, b.rowSpacing);
        changes.add(b.name, a.columnSpacing, b.columnSpacing);
        changes.add(b.name + " rows", a.rows, b.rows);
        changes.add(b.name + " columns", a.columns, b.columns);
        changes.add(b.name + " count", a.count, b.count);
    });
    const auto driveName = [](const Design& d) {
        const auto i = static_cast<std::size_t>(d.driveSet);
        return d.driveSet >= 0 && i < d.driveSets.size() ? d.driveSets[i].name : std::string("every feed");
    };
    if (driveName(before) != driveName(after)) changes.say(driveName(after));
    if (before.harness.enabled != after.harness.enabled)
        changes.say(after.harness.enabled ? "with harness" : "without harness");
    if (before.site.quick != after.site.quick)
        changes.say(after.site.quick ? "in free space" : "over ground");
    match(before.feeds, after.feeds, changes, [&](const Feed& a, const Feed& b) {
        changes.add(b.name, a.part + " " + placeName(a.place), b.part + " " + placeName(b.place));
        changes.add(b.name + " phase", a.phase, b.phase);
        changes.add(b.name + " amplitude", a.amplitude, b.amplitude);
    });
    match(before.loads, after.loads, changes, [&](const Load& a, const Load& b) {
        if (a.enabled != b.enabled) changes.say(b.name + (b.enabled ? " on" : " off"));
        changes.add(b.name, a.inductance, b.inductance);
        changes.add(b.name, a.capacitance, b.capacitance);
        changes.add(b.name, a.resistance, b.resistance);
    });
    match(before.feedPath, after.feedPath, changes, [&](const FeedBlock& a, const FeedBlock& b) {
        if (a.enabled != b.enabled) changes.say(b.name + (b.enabled ? " on" : " off"));
        if (b.kind == BlockKind::Transformer) changes.add(b.name, a.ratio, b.ratio);
        if (b.kind == BlockKind::Transformer) changes.add(b.name + " C", a.compensation, b.compensation);
        if (b.kind == BlockKind::Cable || b.kind == BlockKind::Stub) changes.add(b.name, a.length, b.length);
        if (b.kind == BlockKind::Element) changes.add(b.name, a.value, b.value);
    });
    changes.add("height", before.site.height, after.site.height);
    changes.add("heading", before.site.heading, after.site.heading);
    const std::string ground = groundName(before.site);
    if (ground != groundName(after.site)) changes.say(ground + " → " + groundName(after.site));
    // Coordinates and the like have no short name.
    if (changes.text().empty())
        for (std::size_t i = 0; i < std::min(before.parts.size(), after.parts.size()); ++i)
            if (before.parts[i].shape.index() != after.parts[i].shape.index())
                changes.say(after.parts[i].name + " reshaped");
    return changes.text();
}

}  // namespace rm::model
