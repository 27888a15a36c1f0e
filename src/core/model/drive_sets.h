// Which feeds are driven and how, as typed.
#pragma once

#include <string>
#include <vector>

#include "core/model/typed.h"

namespace rm::model {

enum class IdleKind { Open, Shorted, Terminated };

/// One feed of a drive set, by the name it has after copying ("Feed (upper)").
struct DriveEntry {
    std::string feed;
    std::string amplitude = "1";
    std::string phase = "0 deg";
    std::string delay = {};  ///< electrical length of a delay line before this feed; empty: none
    Extra extra = {};

    bool operator==(const DriveEntry&) const = default;
};

/// A named choice of driven feeds. Feeds that it does not list are idle.
struct DriveSet {
    std::string name;
    std::vector<DriveEntry> driven;
    IdleKind idle = IdleKind::Open;
    std::string termination = "50";  ///< ohm
    Extra extra;
    Id id = 0;

    bool operator==(const DriveSet&) const = default;
};

struct HarnessArm {
    std::string feed;
    std::string length;
    bool crossed = false;
    Extra extra = {};

    bool operator==(const HarnessArm&) const = default;
};

/// A divider: cables of one kind from every driven feed to a common point, where the feed path begins.
struct Harness {
    bool enabled = false;
    LineText line;                 ///< its length is that of the arms that are not listed
    std::vector<HarnessArm> arms;  ///< by the name of the feed after copying
    Extra extra = {};

    bool operator==(const Harness&) const = default;
};

}  // namespace rm::model
