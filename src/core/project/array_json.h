// Element rows, copies, drive sets and the harness as JSON.
#pragma once

#include "core/project/json_members.h"

namespace rm::io {

/// The line members of cables, stubs, phasing lines and harnesses.
const Texts<model::LineText>& lineTexts();

model::ElementRow readRow(Members& m);
json writeRow(const model::ElementRow& row);

model::Copy readCopy(const json& j, const std::string& where);
json writeCopy(const model::Copy& copy);

model::DriveSet readDriveSet(const json& j, const std::string& where);
json writeDriveSet(const model::DriveSet& set);

model::Harness readHarness(const json& j, const std::string& where);
json writeHarness(const model::Harness& harness);

}  // namespace rm::io
