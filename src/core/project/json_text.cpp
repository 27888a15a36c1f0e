#include "core/project/json_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/common.h"
#include "core/project/text_file.h"
#include "core/words/words.h"

namespace rm::io {

namespace {

using nlohmann::json;

/// How deep brackets nest outside texts.
bool nestsTooDeep(const std::string& text) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '\\') ++i;
            if (c == '"') quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == '[' || c == '{') {
            if (++depth > kDeepestJson) return true;
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return false;
}

}  // namespace

json parseJson(const std::string& text, const std::string& name) {
    if (nestsTooDeep(text))
        throw Error(say("{} nests more than {} brackets: it cannot be read.", name, kDeepestJson));
    try {
        return json::parse(text);
    } catch (const json::parse_error& e) {
        const auto end = text.begin() + static_cast<std::ptrdiff_t>(std::min(e.byte, text.size()));
        throw Error(say("{} is damaged: it stops being JSON at line {}.", name,
                        1 + std::count(text.begin(), end, '\n')));
    } catch (const json::exception& e) {
        throw Error(say("{} holds a number that no computer can keep: {}.", name, e.what()));
    }
}

json readJsonFile(const std::filesystem::path& file) {
    return parseJson(readTextFile(file), file.string());
}

std::string jsonText(const json& value, int indent) {
    return value.dump(indent, ' ', false, json::error_handler_t::replace);
}

}  // namespace rm::io
