#include "core/model/extra.h"

#include <nlohmann/json.hpp>

namespace rm::model {

Extra::Extra(const nlohmann::json& members)
    : members_(members.empty() ? nullptr : std::make_shared<const nlohmann::json>(members)) {}

bool Extra::operator==(const Extra& other) const {
    if (members_ == other.members_) return true;
    return members_ && other.members_ && *members_ == *other.members_;
}

}  // namespace rm::model
