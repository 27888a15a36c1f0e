// Reading and writing the members of JSON objects: wrong ones named with where they stand, unknown ones kept.
#pragma once

#include <fmt/format.h>

#include <initializer_list>
#include <nlohmann/json.hpp>
#include <string>
#include <utility>
#include <vector>

#include "core/model/design.h"

namespace rm::io {

using model::Extra;
using model::PointText;
using nlohmann::json;

/// Reads members of one object, remembering which were known so that the rest is kept.
class Members {
  public:
    Members(const json& object, std::string where) : object_(object), where_(std::move(where)) {
        if (!object.is_object()) throw Error(fmt::format("{} is not an object", where_));
        rest_ = object;
    }

    std::string text(const char* name, const std::string& fallback) {
        const json* v = find(name);
        if (v == nullptr) return fallback;
        if (v->is_string()) return v->get<std::string>();
        if (v->is_number()) return fmt::format("{:.17g}", v->get<double>());
        throw wrong(name, "text");
    }
    bool flag(const char* name, bool fallback) {
        const json* v = find(name);
        if (v == nullptr) return fallback;
        if (!v->is_boolean()) throw wrong(name, "true or false");
        return v->get<bool>();
    }
    double number(const char* name, double fallback) {
        const json* v = find(name);
        if (v == nullptr) return fallback;
        if (!v->is_number()) throw wrong(name, "a number");
        return v->get<double>();
    }
    std::size_t index(const char* name, std::size_t size) {
        const double v = number(name, 0.0);
        if (v < 0.0 || (size > 0 && v >= static_cast<double>(size))) return 0;
        return static_cast<std::size_t>(v);
    }
    template <typename Choice>
    Choice choice(const char* name, Choice fallback,
                  std::initializer_list<std::pair<const char*, Choice>> choices) {
        const json* v = find(name);
        if (v == nullptr) return fallback;
        std::string list;
        for (const auto& [word, value] : choices) {
            if (v->is_string() && v->get<std::string>() == word) return value;
            list += fmt::format("{}\"{}\"", list.empty() ? "" : ", ", word);
        }
        throw Error(fmt::format("{}: \"{}\" has to be one of {}", where_, name, list));
    }
    PointText point(const char* name, const PointText& fallback) {
        const json* v = find(name);
        return v == nullptr ? fallback : readPoint(*v, name);
    }
    PointText readPoint(const json& v, const char* name) const {
        if (!v.is_array() || v.size() != 3) throw wrong(name, "three texts: forward, left, up");
        PointText p;
        for (std::size_t i = 0; i < 3; ++i) {
            if (v[i].is_string())
                p[i] = v[i].get<std::string>();
            else if (v[i].is_number())
                p[i] = fmt::format("{:.17g} m", v[i].get<double>());
            else
                throw wrong(name, "three texts: forward, left, up");
        }
        return p;
    }
    /// The array member, or an empty array.
    const json& array(const char* name) {
        static const json none = json::array();
        const json* v = find(name);
        if (v == nullptr) return none;
        if (!v->is_array()) throw wrong(name, "a list");
        return *v;
    }
    const json* object(const char* name) { return find(name); }

    Extra rest() const { return rest_; }
    const std::string& where() const { return where_; }

  private:
    const json* find(const char* name) {
        rest_.erase(name);
        const auto it = object_.find(name);
        return it == object_.end() ? nullptr : &*it;
    }
    Error wrong(const char* name, const char* expected) const {
        return Error(fmt::format("{}: \"{}\" has to be {}", where_, name, expected));
    }

    const json& object_;
    std::string where_;
    json rest_;
};

inline json withExtra(json known, const Extra& extra) {
    if (extra.is_object())
        for (const auto& [name, value] : extra.items())
            if (!known.contains(name)) known[name] = value;
    return known;
}

template <typename Choice>
const char* wordFor(Choice value, std::initializer_list<std::pair<const char*, Choice>> choices) {
    for (const auto& [word, v] : choices)
        if (v == value) return word;
    return "";
}

/// Texts by the names of their members in the file.
template <typename Item>
using Texts = std::vector<std::pair<const char*, std::string Item::*>>;

/// What is absent keeps its first value.
template <typename Item>
void readTexts(Members& m, Item& item, const Texts<Item>& texts) {
    for (const auto& [name, member] : texts) item.*member = m.text(name, (item.*member).c_str());
}

/// What still has its first value says nothing.
template <typename Item>
void writeTexts(json& j, const Item& item, const Texts<Item>& texts) {
    const Item standard;
    for (const auto& [name, member] : texts)
        if (item.*member != standard.*member) j[name] = item.*member;
}

template <typename Items, typename Write>
json list(const Items& items, Write write) {
    json j = json::array();
    for (const auto& item : items) j.push_back(write(item));
    return j;
}

}  // namespace rm::io
