// Works a design out: formulas into numbers, parts into plain wires, feeds and loads onto them.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/model/expand_hung.h"
#include "core/model/expand_row.h"
#include "core/model/finding.h"
#include "core/quantity/formula.h"

namespace rm::model {

/// Ends of wires that meet, by the parts they belong to.
struct Joint {
    Vec3 pointM;
    std::vector<std::string> parts;
};

/// A cable run as it was laid.
struct RunSizes {
    std::string part;
    std::string feed;      ///< the one that it hangs from
    double lengthM = 0.0;  ///< of the cable, without the lead to earth
    std::string block;     ///< of the feed path, that is as long as it; empty: none
};

struct Expansion {
    WireModel model;
    std::map<std::string, double> dimensionValue;  ///< in m, degrees or plain
    std::vector<Finding> findings;
    std::vector<Joint> joints;
    std::vector<RowSizes> rows;          ///< one per element row
    std::vector<PlainSupport> supports;  ///< of the site
    std::vector<HungSizes> hung;         ///< one per hung wire that reaches
    std::vector<std::string> units;  ///< names of the parts with wires, of every copy its own: "Yagi (upper)"
    std::vector<RunSizes> runs;      ///< one per cable run that is laid
    std::string driveSet;            ///< name of the drive set in use; empty: every feed as it says itself
    std::vector<Block> feedPath;     ///< enabled blocks from the antenna to the radio
    std::vector<std::optional<Block>> measuredLead;  ///< per measurement of the design, what to take away
    double designFrequencyHz = 0.0;
    double referenceOhm = 50.0;
    double headingDeg = 0.0;
    double heightM = 0.0;

    Expansion();
    Expansion(const Expansion&);
    Expansion(Expansion&&) noexcept;
    Expansion& operator=(const Expansion&);
    Expansion& operator=(Expansion&&) noexcept;
    ~Expansion();

    /// The sizes of an element row; null where there is none of that name.
    const RowSizes* row(const std::string& part) const;

    bool usable() const { return !hasError(findings) && !model.wires.empty() && !model.feeds.empty(); }
};

/// Never throws: what cannot be worked out becomes a finding of level error that names the part and the
/// field.
Expansion expand(const Design& design);

/// What is wrong with the design, and what becomes so at this frequency in Hz, which need not be the one it
/// was designed for: each once for a part.
std::vector<Finding> findingsAt(const Expansion& expansion, double frequencyHz);

/// Scope of formulas for editing a field: the values of all dimensions that can be worked out.
quantity::Scope scopeOf(const Design& design);

}  // namespace rm::model
