// JSON as text, read within limits and written so that it can always be read again.
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>
#include <string>

namespace rm::io {

/// The deepest nesting of brackets that is read: what is deeper would exhaust the stack of whoever walks it.
inline constexpr int kDeepestJson = 100;

/// Throws rm::Error with one sentence that begins with `name` where the text is no JSON (with the line),
/// nests deeper than kDeepestJson, or holds a number that no computer can keep.
nlohmann::json parseJson(const std::string& text, const std::string& name);

/// The file through readTextFile and parseJson.
nlohmann::json readJsonFile(const std::filesystem::path& file);

/// `indent` below 0: all in one line. Texts that came from elsewhere need not be UTF-8: what is not is
/// replaced, and the rest is written.
std::string jsonText(const nlohmann::json& value, int indent = -1);

}  // namespace rm::io
