// The cable runs of a design on their way to the wire model: laid once their feeds have places, joined to
// them last.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/model/expand.h"
#include "core/model/expand_cable.h"
#include "core/model/expand_parts.h"
#include "core/model/expand_places.h"

namespace rm::model {

class CableRuns {
  public:
    /// All of these may still grow.
    CableRuns(const Design& design, FieldValues& values, std::vector<Unit>& units, const Places& places,
              Expansion& out)
        : design_(design), values_(values), units_(units), places_(places), out_(out) {}

    /// What the run of this name is made of, where its size does not follow the feed path.
    void madeOf(const std::string& part, const PlainWire& like) { like_[part] = like; }

    /// Lays all that are in use behind the wires that are there.
    void lay(const PartScene& scene);

    /// Makes the cables of the feed path as long as the runs that measure them.
    void measure(const std::string& block, Block& plain) const;

    /// Places what the feed path, which is worked out, chokes on its way, and the stations' earths.
    void choke();

    /// Joins the shields to their feeds; wires are counted anew where one is cut.
    void hang();

  private:
    /// A run that is laid.
    struct Laid {
        std::string part;
        std::string feed;
        std::size_t first = 0;  ///< of its wires
        RunWires wires;
        ShieldOn shield = ShieldOn::Other;
    };
    struct FoundFeed {
        std::string name;  ///< with that of its copy
        std::optional<Vec3> pointM;
    };

    const FeedBlock* firstCable() const;
    std::optional<FoundFeed> findFeed(const std::string& name) const;
    void layOne(const Part& part, const PartScene& scene);
    void addChoke(const Laid& run, const std::string& name, double ohm, double alongM);
    void addEarth(const Laid& run);

    const Design& design_;
    FieldValues& values_;
    std::vector<Unit>& units_;
    const Places& places_;
    Expansion& out_;
    std::map<std::string, PlainWire> like_;
    std::vector<Laid> laid_;
};

}  // namespace rm::model
