// A row of elements with its feed, as a design of one part.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::test {

/// `part` is all there is; fed in the middle of one element.
inline void setFedRow(model::Design& d, const std::string& part, const model::Conductor& conductor,
                      const model::ElementRow& row, const std::string& fed) {
    d.parts = {{}};
    d.parts[0].name = part;
    d.parts[0].conductor = conductor;
    d.parts[0].shape = row;
    d.feeds = {{}};
    d.feeds[0].part = part;
    d.feeds[0].place.element = fed;
}

}  // namespace rm::test
