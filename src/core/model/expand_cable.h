// Cable runs worked out: the outside of a feed line from its feed to the radio, and how it is joined to the
// antenna.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/model/cable_run.h"
#include "core/model/expand_hung.h"
#include "core/model/field_values.h"
#include "core/model/wire_model.h"
#include "core/words/words.h"

namespace rm::model {

/// A run as wires, in the coordinates of the wire model.
struct RunWires {
    std::vector<PlainWire> wires;    ///< from the feed to the radio, then the lead to earth and the rod
    std::size_t cable = 0;           ///< how many of them are the cable itself
    double lengthM = 0.0;            ///< of the cable
    std::optional<double> earthOhm;  ///< of the station's earth, in series with the last wire of the cable
};

/// The way of a run from the point where it hangs. `like` says what it is made of, `part` what it is called.
/// No wires where there are problems.
RunWires runFrom(FieldValues& values, const CableRun& run, const std::string& part, const Vec3& feedM,
                 const PlainWire& like, const Ground& ground, const std::vector<PlainSupport>& supports);

/// Name of the load that the station's earth of a run is.
inline std::string earthOf(const std::string& run) {
    return run + say(", earth");
}

/// The first wire of a run that hangs from a feed.
struct Hanging {
    std::size_t feed = 0;  ///< among the feeds of the model
    std::size_t wire = 0;  ///< among its wires
    ShieldOn shield = ShieldOn::Other;
};

/// Joins the shields to their sides of the feeds: a wire that is fed in its middle is cut in two there, and
/// the feed goes to the side that the shield is not on.
void joinShields(WireModel& model, std::vector<Hanging> runs);

}  // namespace rm::model
