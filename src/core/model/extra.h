// Members of the project file that this version does not know, kept for the next save.
//
// The JSON library stays out of this header, as most of the program needs none of it.
#pragma once

#include <memory>
#include <nlohmann/json_fwd.hpp>

namespace rm::model {

/// Shared between copies, as nobody changes them.
class Extra {
  public:
    Extra() = default;
    /// `members` is an object, or null for none.
    explicit Extra(const nlohmann::json& members);

    /// The object, or null where there is none.
    const nlohmann::json* members() const { return members_.get(); }

    bool operator==(const Extra& other) const;

  private:
    std::shared_ptr<const nlohmann::json> members_;
};

}  // namespace rm::model
