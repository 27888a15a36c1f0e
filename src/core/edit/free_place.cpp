#include "core/edit/free_place.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>

#include "core/model/rename.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;

/// In percent; nothing where it takes the part's size to tell.
std::optional<double> shareOf(const Place& place) {
    switch (place.kind) {
        case PlaceKind::Start:
            return 0.0;
        case PlaceKind::Middle:
            return 50.0;
        case PlaceKind::End:
            return 100.0;
        case PlaceKind::Percent:
            return quantity::readNumber(place.value);
        default:
            return std::nullopt;
    }
}

std::vector<std::string> elementsOf(const Part& part) {
    const auto* row = std::get_if<ElementRow>(&part.shape);
    if (row == nullptr || row->elements.empty()) return {""};
    std::vector<std::string> names;
    for (const auto& element : row->elements) names.push_back(element.name);
    std::stable_partition(names.begin(), names.end(),
                          [](const std::string& name) { return name == "driven" || name == say("driven"); });
    return names;
}

}  // namespace

Place freePlace(const Design& design, const Part& part, const std::vector<int>& percents) {
    const auto sitsAt = [&](const auto& item, const std::string& element, int percent) {
        const Part* meant = partMeant(design, item.part);
        if (meant == nullptr || meant->id != part.id || item.place.element != element) return false;
        const auto share = shareOf(item.place);
        return share && std::abs(*share - percent) < 1.0;
    };
    const auto place = [](const std::string& element, int percent) {
        return percent == 50 ? Place{PlaceKind::Middle, "", element}
                             : Place{PlaceKind::Percent, std::to_string(percent), element};
    };
    const auto elements = elementsOf(part);
    for (const int percent : percents)
        for (const auto& element : elements) {
            const auto here = [&](const auto& item) { return sitsAt(item, element, percent); };
            if (std::none_of(design.feeds.begin(), design.feeds.end(), here) &&
                std::none_of(design.loads.begin(), design.loads.end(), here))
                return place(element, percent);
        }
    return place(elements.front(), percents.front());
}

}  // namespace rm::edit
