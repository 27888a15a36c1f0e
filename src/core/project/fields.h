// One description of each struct of a project serves reading and writing it: which members it has, what they
// are called in the file, and whether one that is as in a new item is written. What the file has beside them
// is kept.
//
// A description is an overload of
//     template <typename Fields> void describe(Fields& f, Of<Thing>);
// that calls the functions of `f` with the name of a member in the file and a pointer to it. Reader and
// Writer have the same functions.
#pragma once

#include <fmt/format.h>

#include <initializer_list>
#include <nlohmann/json.hpp>
#include <string>
#include <utility>
#include <vector>

#include "core/model/design.h"
#include "core/model/limits.h"
#include "core/quantity/number.h"

namespace rm::io {

using model::Extra;
using model::PointText;
using nlohmann::json;

template <typename Thing>
struct Of {};

/// Whether a member that is as in a new item is written.
enum class When { Differs, Always };

/// The words of a choice in the file.
template <typename Choice>
using Words = std::initializer_list<std::pair<const char*, Choice>>;

template <typename Thing>
class Reader {
  public:
    static constexpr bool reading = true;

    /// `where` says in errors which item it is.
    Reader(Thing& thing, const json& object, std::string where)
        : thing_(thing), object_(object), where_(std::move(where)) {
        if (!object.is_object()) throw Error(fmt::format("{} is not an object", where_));
        rest_ = object;
    }

    Thing& thing() { return thing_; }
    const std::string& where() const { return where_; }
    void setWhere(std::string where) { where_ = std::move(where); }
    /// The member, or null; it counts as known from now on.
    const json* find(const char* name) {
        rest_.erase(name);
        const auto it = object_.find(name);
        return it == object_.end() ? nullptr : &*it;
    }
    Error wrong(const char* name, const char* expected) const {
        return Error(
            fmt::format("{}: \"{}\" has to be {}", where_.empty() ? "the project" : where_, name, expected));
    }

    void text(const char* name, std::string Thing::*member, When = When::Differs) {
        const json* v = find(name);
        if (v == nullptr) return;
        if (v->is_string())
            thing_.*member = quantity::plainText(v->get_ref<const std::string&>());
        else if (v->is_number())
            thing_.*member = fmt::format("{:.17g}", v->get<double>());
        else
            throw wrong(name, "text");
    }
    void flag(const char* name, bool Thing::*member, When = When::Differs) {
        const json* v = find(name);
        if (v == nullptr) return;
        if (!v->is_boolean()) throw wrong(name, "true or false");
        thing_.*member = v->get<bool>();
    }
    /// `scale` units of the member make one of the file.
    void number(const char* name, double Thing::*member, When = When::Differs, double scale = 1.0) {
        if (const json* v = find(name)) thing_.*member = scale * numberOf(*v, name);
    }
    /// Whole, and cut off at both ends.
    template <typename Integer>
    void integer(const char* name, Integer Thing::*member, double low, double high, When = When::Differs) {
        if (const json* v = find(name))
            thing_.*member = static_cast<Integer>(std::min(high, std::max(low, numberOf(*v, name))));
    }
    template <typename Choice>
    void choice(const char* name, Choice Thing::*member, Words<Choice> words, When = When::Differs) {
        const json* v = find(name);
        if (v == nullptr) return;
        std::string list;
        for (const auto& [word, value] : words) {
            if (v->is_string() && v->get<std::string>() == word) {
                thing_.*member = value;
                return;
            }
            list += fmt::format("{}\"{}\"", list.empty() ? "" : ", ", word);
        }
        throw Error(fmt::format("{}: \"{}\" has to be one of {}", where_, name, list));
    }
    void point(const char* name, PointText Thing::*member, When = When::Differs) {
        if (const json* v = find(name)) thing_.*member = pointOf(*v, name);
    }
    void points(const char* name, std::vector<PointText> Thing::*member) {
        for (const json& v : array(name)) (thing_.*member).push_back(pointOf(v, name));
    }
    void names(const char* name, std::vector<std::string> Thing::*member) {
        for (const json& v : array(name)) {
            if (!v.is_string()) throw wrong(name, "a list of names");
            (thing_.*member).push_back(quantity::plainText(v.get_ref<const std::string&>()));
        }
    }
    void numbers(const char* name, std::vector<double> Thing::*member, double scale) {
        for (const json& v : array(name)) (thing_.*member).push_back(scale * numberOf(v, name));
    }
    template <typename Inner>
    void object(const char* name, Inner Thing::*member, When = When::Differs) {
        const json* v = find(name);
        if (v == nullptr) return;
        Reader<Inner> inner(thing_.*member, *v, fmt::format("{}, {}", where_, name));
        describe(inner, Of<Inner>());
    }
    /// `one` is what an item of the list is called.
    template <typename Item>
    void list(const char* name, std::vector<Item> Thing::*member, const char* one, When = When::Differs) {
        const json& given = array(name);
        if (given.size() > model::kMostItems)
            throw Error(fmt::format("{}{} has {} items, and at most {} are read", where_,
                                    where_.empty() ? name : fmt::format(", {}", name), given.size(),
                                    model::kMostItems));
        for (const json& v : given) {
            auto& items = thing_.*member;
            Item item;
            const std::string number = std::to_string(items.size() + 1);
            Reader<Item> inner(item, v,
                               where_.empty() ? fmt::format("{} {}", one, number)
                                              : fmt::format("{}, {} {}", where_, one, number));
            describe(inner, Of<Item>());
            items.push_back(std::move(item));
        }
    }
    /// Another thing whose members stand among these.
    template <typename Inner>
    void within(Inner& inner) {
        Reader<Inner> reader(inner, object_, where_);
        describe(reader, Of<Inner>());
        forget(reader);
    }
    /// A member whose members stand among these.
    template <typename Inner, typename Describe>
    void inlined(Inner Thing::*member, Describe description) {
        Reader<Inner> reader(thing_.*member, object_, where_);
        description(reader);
        forget(reader);
    }
    /// Last: what is left.
    void extra(Extra Thing::*member) {
        if (!rest_.empty()) thing_.*member = Extra(rest_);
    }
    const json& rest() const { return rest_; }

    /// The array member, or an empty array.
    const json& array(const char* name) {
        static const json none = json::array();
        const json* v = find(name);
        if (v == nullptr) return none;
        if (!v->is_array()) throw wrong(name, "a list");
        return *v;
    }
    double numberOf(const json& v, const char* name) const {
        if (!v.is_number() || !quantity::isOfThisWorld(v.get<double>())) throw wrong(name, "a number");
        return v.get<double>();
    }

  private:
    /// What another reader of the same object knows is known.
    template <typename Inner>
    void forget(const Reader<Inner>& other) {
        for (const auto& [name, value] : object_.items())
            if (!other.rest().contains(name)) rest_.erase(name);
    }
    PointText pointOf(const json& v, const char* name) const {
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

    Thing& thing_;
    const json& object_;
    std::string where_;
    json rest_;
};

template <typename Thing>
class Writer {
  public:
    static constexpr bool reading = false;

    Writer(const Thing& thing, json& object) : thing_(thing), object_(object) { object_ = json::object(); }

    const Thing& thing() { return thing_; }
    json& object() { return object_; }

    void text(const char* name, std::string Thing::*member, When when = When::Differs) {
        put(name, member, when);
    }
    void flag(const char* name, bool Thing::*member, When when = When::Differs) { put(name, member, when); }
    void number(const char* name, double Thing::*member, When when = When::Differs, double scale = 1.0) {
        if (differs(member, when)) object_[name] = thing_.*member / scale;
    }
    template <typename Integer>
    void integer(const char* name, Integer Thing::*member, double, double, When when = When::Differs) {
        put(name, member, when);
    }
    template <typename Choice>
    void choice(const char* name, Choice Thing::*member, Words<Choice> words, When when = When::Differs) {
        if (!differs(member, when)) return;
        for (const auto& [word, value] : words)
            if (value == thing_.*member) object_[name] = word;
    }
    void point(const char* name, PointText Thing::*member, When when = When::Differs) {
        put(name, member, when);
    }
    void points(const char* name, std::vector<PointText> Thing::*member) { object_[name] = thing_.*member; }
    void names(const char* name, std::vector<std::string> Thing::*member) {
        put(name, member, When::Differs);
    }
    void numbers(const char* name, std::vector<double> Thing::*member, double scale) {
        if ((thing_.*member).empty()) return;
        object_[name] = json::array();
        for (const double v : thing_.*member) object_[name].push_back(v / scale);
    }
    template <typename Inner>
    void object(const char* name, Inner Thing::*member, When when = When::Differs) {
        if (differs(member, when)) object_[name] = written(thing_.*member);
    }
    template <typename Item>
    void list(const char* name, std::vector<Item> Thing::*member, const char*, When when = When::Differs) {
        const auto& items = thing_.*member;
        if (items.empty() && when == When::Differs) return;
        json& array = object_[name] = json::array();
        for (const auto& item : items) array.push_back(written(item));
    }
    template <typename Inner, typename Describe>
    void inlined(Inner Thing::*member, Describe description) {
        json j;
        Writer<Inner> writer(thing_.*member, j);
        description(writer);
        object_.update(j);
    }
    void extra(Extra Thing::*member) {
        const json* kept = (thing_.*member).members();
        if (kept == nullptr || !kept->is_object()) return;
        for (const auto& [name, value] : kept->items())
            if (!object_.contains(name)) object_[name] = value;
    }

    template <typename Inner>
    static json written(const Inner& inner) {
        json j;
        Writer<Inner> writer(inner, j);
        describe(writer, Of<Inner>());
        return j;
    }

  private:
    template <typename Member>
    bool differs(Member Thing::*member, When when) const {
        static const Thing standard{};
        return when == When::Always || !(thing_.*member == standard.*member);
    }
    template <typename Member>
    void put(const char* name, Member Thing::*member, When when) {
        if (differs(member, when)) object_[name] = thing_.*member;
    }

    const Thing& thing_;
    json& object_;
};

}  // namespace rm::io
