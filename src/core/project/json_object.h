// What reading and writing the members of one JSON object needs, whatever struct they belong to: fields.h
// puts the struct in front of it.
#pragma once

#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

#include "core/common.h"
#include "core/model/design.h"

namespace rm::io {

using model::Extra;
using model::PointText;
using nlohmann::json;

/// Reads members of an object, and keeps what nobody asked for.
class ObjectReader {
  public:
    /// `where` says in errors which item it is. Throws rm::Error where it is not an object.
    ObjectReader(const json& object, std::string where);

    const std::string& where() const { return where_; }
    void setWhere(std::string where) { where_ = std::move(where); }
    /// The member, or null; it counts as known from now on.
    const json* find(const char* name);
    /// The array member, or an empty array.
    const json& array(const char* name);
    double numberOf(const json& v, const char* name) const;
    /// What nobody asked for.
    const json& rest() const { return rest_; }

  protected:
    Error wrong(const char* name, const char* expected) const;
    /// Each leaves its target where the object has no such member, and throws rm::Error that names the member
    /// where it is of another kind.
    void read(const char* name, std::string& text);
    void read(const char* name, bool& flag);
    void read(const char* name, double& number, double scale);
    void read(const char* name, PointText& point);
    void read(const char* name, std::vector<PointText>& points);
    void read(const char* name, std::vector<std::string>& names);
    void read(const char* name, std::vector<double>& numbers, double scale);
    /// A whole number, cut off at both ends.
    std::optional<double> whole(const char* name, double low, double high);
    /// Which of the words stands there.
    std::optional<std::size_t> chosen(const char* name, const std::vector<const char*>& words);
    /// The items of a list, no more than are read.
    const json& items(const char* name);
    const json& given() const { return object_; }
    /// What an inner object is called in errors.
    std::string inside(const char* name) const;
    std::string item(const char* one, std::size_t index) const;
    /// What another reader of the same object knows is known.
    void forget(const ObjectReader& other);
    void keep(Extra& extra) const;

  private:
    PointText pointOf(const json& v, const char* name) const;

    const json& object_;
    std::string where_;
    json rest_;
};

/// Writes members of an object.
class ObjectWriter {
  public:
    explicit ObjectWriter(json& object);

    json& object() { return object_; }

  protected:
    void write(const char* name, const std::string& text);
    void write(const char* name, bool flag);
    void write(const char* name, double number);
    void write(const char* name, long whole);
    void write(const char* name, const PointText& point);
    void write(const char* name, const std::vector<PointText>& points);
    void write(const char* name, const std::vector<std::string>& names);
    void write(const char* name, const std::vector<double>& numbers, double scale);
    void write(const char* name, json inner);
    /// Members that this version does not know, behind those it does.
    void writeExtra(const Extra& extra);

  private:
    json& object_;
};

}  // namespace rm::io
