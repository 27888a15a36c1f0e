#include "core/model/difference.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/model/soils.h"
#include "core/words/words.h"

namespace rm::model {

namespace {

class Changes {
  public:
    void add(const std::string& what, const std::string& before, const std::string& after) {
        if (before != after)
            list_.push_back(fmt::format("{} {} → {}", what, before.empty() ? say("none") : before,
                                        after.empty() ? say("none") : after));
    }
    void put(const std::string& what) { list_.push_back(what); }

    std::string text() const {
        constexpr std::size_t kNamed = 2;
        std::string out;
        for (std::size_t i = 0; i < std::min(kNamed, list_.size()); ++i)
            out += (i > 0 ? ", " : "") + list_[i];
        if (list_.size() > kNamed) out += say(" and {} more", list_.size() - kNamed);
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
            changes.put(say("with {}", item.name));
        else
            both(*same, item);
    }
    for (const auto& item : before)
        if (std::none_of(after.begin(), after.end(), [&](const auto& a) { return a.name == item.name; }))
            changes.put(say("without {}", item.name));
}

std::string groundName(const Site& site) {
    if (site.ground == GroundKind::FreeSpace) return say("free space");
    if (site.ground == GroundKind::Perfect) return say("perfect ground");
    return site.soil == kCustomSoil ? say("ground {}, {} S/m", site.permittivity, site.conductivity)
                                    : site.soil;
}

std::string placeWord(PlaceKind kind) {
    switch (kind) {
        case PlaceKind::Start:
            return say("start");
        case PlaceKind::Middle:
            return say("middle");
        case PlaceKind::End:
            return say("end");
        case PlaceKind::Corner:
            return say("corner");
        case PlaceKind::Distance:
            return say("distance");
        case PlaceKind::Percent:
            return say("percent");
        case PlaceKind::Side:
            return say("middle of side");
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
        if (a.enabled != b.enabled) changes.put(b.name + (b.enabled ? say(" on") : say(" off")));
        changes.add(b.name, a.conductor.diameter, b.conductor.diameter);
        changes.add(b.name, a.conductor.material, b.conductor.material);
        const auto* rowBefore = std::get_if<ElementRow>(&a.shape);
        const auto* rowAfter = std::get_if<ElementRow>(&b.shape);
        if (rowBefore == nullptr || rowAfter == nullptr) return;
        match(rowBefore->elements, rowAfter->elements, changes,
              [&](const RowElement& x, const RowElement& y) {
                  changes.add(y.name, x.length, y.length);
                  changes.add(y.name + say(" at"), x.position, y.position);
                  changes.add(y.name, x.diameter, y.diameter);
              });
    });
    match(before.copies, after.copies, changes, [&](const Copy& a, const Copy& b) {
        if (a.enabled != b.enabled) changes.put(b.name + (b.enabled ? say(" on") : say(" off")));
        changes.add(b.name, a.rowSpacing, b.rowSpacing);
        changes.add(b.name, a.columnSpacing, b.columnSpacing);
        changes.add(b.name + say(" rows"), a.rows, b.rows);
        changes.add(b.name + say(" columns"), a.columns, b.columns);
        changes.add(b.name + say(" count"), a.count, b.count);
    });
    const auto driveName = [](const Design& d) {
        const auto i = static_cast<std::size_t>(d.driveSet);
        return d.driveSet >= 0 && i < d.driveSets.size() ? d.driveSets[i].name
                                                         : std::string(say("every feed"));
    };
    if (driveName(before) != driveName(after)) changes.put(driveName(after));
    if (before.harness.enabled != after.harness.enabled)
        changes.put(after.harness.enabled ? say("with harness") : say("without harness"));
    if (before.site.quick != after.site.quick)
        changes.put(after.site.quick ? say("in free space") : say("over ground"));
    match(before.feeds, after.feeds, changes, [&](const Feed& a, const Feed& b) {
        changes.add(b.name, a.part + " " + placeName(a.place), b.part + " " + placeName(b.place));
        changes.add(b.name + say(" phase"), a.phase, b.phase);
        changes.add(b.name + say(" amplitude"), a.amplitude, b.amplitude);
    });
    match(before.loads, after.loads, changes, [&](const Load& a, const Load& b) {
        if (a.enabled != b.enabled) changes.put(b.name + (b.enabled ? say(" on") : say(" off")));
        changes.add(b.name, a.inductance, b.inductance);
        changes.add(b.name, a.capacitance, b.capacitance);
        changes.add(b.name, a.resistance, b.resistance);
    });
    match(before.feedPath, after.feedPath, changes, [&](const FeedBlock& a, const FeedBlock& b) {
        if (a.enabled != b.enabled) changes.put(b.name + (b.enabled ? say(" on") : say(" off")));
        if (b.kind == BlockKind::Transformer) changes.add(b.name, a.ratio, b.ratio);
        if (b.kind == BlockKind::Transformer) changes.add(b.name + " C", a.compensation, b.compensation);
        if (b.kind == BlockKind::Cable || b.kind == BlockKind::Stub) changes.add(b.name, a.length, b.length);
        if (b.kind == BlockKind::Element) changes.add(b.name, a.value, b.value);
    });
    changes.add(say("height"), before.site.height, after.site.height);
    changes.add(say("heading"), before.site.heading, after.site.heading);
    const std::string ground = groundName(before.site);
    if (ground != groundName(after.site)) changes.put(ground + " → " + groundName(after.site));
    // Coordinates and the like have no short name.
    if (changes.text().empty())
        for (std::size_t i = 0; i < std::min(before.parts.size(), after.parts.size()); ++i)
            if (before.parts[i].shape.index() != after.parts[i].shape.index())
                changes.put(after.parts[i].name + say(" reshaped"));
    return changes.text();
}

}  // namespace rm::model
