// The project file: JSON, described member by member in docs/formats.md.
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>
#include <string>

#include "core/model/design.h"

namespace rm::io {

/// Version written by this program; newer files are refused.
inline constexpr int kProjectVersion = 1;

/// Reads the text of a project; `name` begins the sentence of the rm::Error thrown where it is none.
model::Project parseProject(const std::string& text, const std::string& name);

/// Reads a project. Throws rm::Error with one sentence that names the file and the member at fault.
model::Project readProject(const std::filesystem::path& file);

/// Writes beside the target, flushes and renames, so that a crash leaves the old file or the new one. Members
/// that the file had and this version does not know are written back. Throws rm::Error.
void writeProject(const model::Project& project, const std::filesystem::path& file);

/// The same from and to JSON. `fromJson` throws rm::Error.
model::Project fromJson(const nlohmann::json& root);
nlohmann::json toJson(const model::Project& project);

/// The project in one line: equal where the projects are.
std::string textOf(const model::Project& project);

/// The design of this name, the active one where it is empty. Throws rm::Error that names the file.
const model::Design& designOf(const model::Project& project, const std::string& name,
                              const std::string& file);

}  // namespace rm::io
