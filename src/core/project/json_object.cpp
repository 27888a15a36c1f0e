#include "core/project/json_object.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/model/limits.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::io {

ObjectReader::ObjectReader(const json& object, std::string where)
    : object_(object), where_(std::move(where)) {
    if (!object.is_object()) throw Error(say("{} is not an object", where_));
    rest_ = object;
}

const json* ObjectReader::find(const char* name) {
    rest_.erase(name);
    const auto it = object_.find(name);
    return it == object_.end() ? nullptr : &*it;
}

const json& ObjectReader::array(const char* name) {
    static const json none = json::array();
    const json* v = find(name);
    if (v == nullptr) return none;
    if (!v->is_array()) throw wrong(name, "a list");
    return *v;
}

double ObjectReader::numberOf(const json& v, const char* name) const {
    if (!v.is_number() || !quantity::isOfThisWorld(v.get<double>())) throw wrong(name, "a number");
    return v.get<double>();
}

Error ObjectReader::wrong(const char* name, const char* expected) const {
    return Error(say("{}: \"{}\" has to be {}", where_.empty() ? "the project" : where_, name, expected));
}

void ObjectReader::read(const char* name, std::string& text) {
    const json* v = find(name);
    if (v == nullptr) return;
    if (v->is_string())
        text = quantity::plainText(v->get_ref<const std::string&>());
    else if (v->is_number())
        text = fmt::format("{:.17g}", v->get<double>());
    else
        throw wrong(name, "text");
}

void ObjectReader::read(const char* name, bool& flag) {
    const json* v = find(name);
    if (v == nullptr) return;
    if (!v->is_boolean()) throw wrong(name, "true or false");
    flag = v->get<bool>();
}

void ObjectReader::read(const char* name, double& number, double scale) {
    if (const json* v = find(name)) number = scale * numberOf(*v, name);
}

void ObjectReader::read(const char* name, PointText& point) {
    if (const json* v = find(name)) point = pointOf(*v, name);
}

void ObjectReader::read(const char* name, std::vector<PointText>& points) {
    for (const json& v : array(name)) points.push_back(pointOf(v, name));
}

void ObjectReader::read(const char* name, std::vector<std::string>& names) {
    for (const json& v : array(name)) {
        if (!v.is_string()) throw wrong(name, "a list of names");
        names.push_back(quantity::plainText(v.get_ref<const std::string&>()));
    }
}

void ObjectReader::read(const char* name, std::vector<double>& numbers, double scale) {
    for (const json& v : array(name)) numbers.push_back(scale * numberOf(v, name));
}

std::optional<double> ObjectReader::whole(const char* name, double low, double high) {
    const json* v = find(name);
    if (v == nullptr) return std::nullopt;
    return std::min(high, std::max(low, numberOf(*v, name)));
}

std::optional<std::size_t> ObjectReader::chosen(const char* name, const std::vector<const char*>& words) {
    const json* v = find(name);
    if (v == nullptr) return std::nullopt;
    std::string list;
    for (std::size_t i = 0; i < words.size(); ++i) {
        if (v->is_string() && v->get_ref<const std::string&>() == words[i]) return i;
        list += fmt::format("{}\"{}\"", list.empty() ? "" : ", ", words[i]);
    }
    throw Error(say("{}: \"{}\" has to be one of {}", where_, name, list));
}

const json& ObjectReader::items(const char* name) {
    const json& given = array(name);
    if (given.size() > model::kMostItems)
        throw Error(say("{}{} has {} items, and at most {} are read", where_,
                        where_.empty() ? name : fmt::format(", {}", name), given.size(), model::kMostItems));
    return given;
}

std::string ObjectReader::inside(const char* name) const {
    return fmt::format("{}, {}", where_, name);
}

std::string ObjectReader::item(const char* one, std::size_t index) const {
    return where_.empty() ? fmt::format("{} {}", one, index + 1)
                          : fmt::format("{}, {} {}", where_, one, index + 1);
}

void ObjectReader::forget(const ObjectReader& other) {
    for (const auto& [name, value] : object_.items())
        if (!other.rest().contains(name)) rest_.erase(name);
}

void ObjectReader::keep(Extra& extra) const {
    if (!rest_.empty()) extra = Extra(rest_);
}

PointText ObjectReader::pointOf(const json& v, const char* name) const {
    const char* const expected = "three texts: forward, left, up";
    if (!v.is_array() || v.size() != 3) throw wrong(name, expected);
    PointText p;
    for (std::size_t i = 0; i < 3; ++i) {
        if (v[i].is_string())
            p[i] = quantity::plainText(v[i].get_ref<const std::string&>());
        else if (v[i].is_number())
            p[i] = fmt::format("{:.17g} m", v[i].get<double>());
        else
            throw wrong(name, expected);
    }
    return p;
}

ObjectWriter::ObjectWriter(json& object) : object_(object) {
    object_ = json::object();
}

void ObjectWriter::write(const char* name, const std::string& text) {
    object_[name] = text;
}

void ObjectWriter::write(const char* name, bool flag) {
    object_[name] = flag;
}

void ObjectWriter::write(const char* name, double number) {
    object_[name] = number;
}

void ObjectWriter::write(const char* name, long whole) {
    object_[name] = whole;
}

void ObjectWriter::write(const char* name, const PointText& point) {
    object_[name] = point;
}

void ObjectWriter::write(const char* name, const std::vector<PointText>& points) {
    object_[name] = points;
}

void ObjectWriter::write(const char* name, const std::vector<std::string>& names) {
    object_[name] = names;
}

void ObjectWriter::write(const char* name, const std::vector<double>& numbers, double scale) {
    json& list = object_[name] = json::array();
    for (const double v : numbers) list.push_back(v / scale);
}

void ObjectWriter::write(const char* name, json inner) {
    object_[name] = std::move(inner);
}

void ObjectWriter::writeExtra(const Extra& extra) {
    const json* kept = extra.members();
    if (kept == nullptr || !kept->is_object()) return;
    for (const auto& [name, value] : kept->items())
        if (!object_.contains(name)) object_[name] = value;
}

}  // namespace rm::io
