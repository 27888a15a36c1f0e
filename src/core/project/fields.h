// One description of each struct of a project serves reading and writing it: which members it has, what they
// are called in the file, and whether one that is as in a new item is written. What the file has beside them
// is kept.
//
// A description is an overload of
//     template <typename Fields> void describe(Fields& f, Of<Thing>);
// that calls the functions of `f` with the name of a member in the file and a pointer to it. Reader and
// Writer have the same functions. What they do is in json_object.cpp; here are only types, as every line is
// compiled once for each of some forty structs.
#pragma once

#include <initializer_list>
#include <string>
#include <utility>
#include <vector>

#include "core/project/json_object.h"

namespace rm::io {

template <typename Thing>
struct Of {};

/// Whether a member that is as in a new item is written.
enum class When { Differs, Always };

/// The words of a choice in the file.
template <typename Choice>
using Words = std::initializer_list<std::pair<const char*, Choice>>;

template <typename Thing>
class Reader : public ObjectReader {
  public:
    static constexpr bool reading = true;

    /// `where` says in errors which item it is.
    Reader(Thing& thing, const json& object, std::string where)
        : ObjectReader(object, std::move(where)), thing_(thing) {}

    Thing& thing() { return thing_; }

    void text(const char* name, std::string Thing::*member, When = When::Differs) {
        read(name, thing_.*member);
    }
    void flag(const char* name, bool Thing::*member, When = When::Differs) { read(name, thing_.*member); }
    /// `scale` units of the member make one of the file.
    void number(const char* name, double Thing::*member, When = When::Differs, double scale = 1.0) {
        read(name, thing_.*member, scale);
    }
    /// Whole, and cut off at both ends.
    template <typename Integer>
    void integer(const char* name, Integer Thing::*member, double low, double high, When = When::Differs) {
        if (const auto v = whole(name, low, high)) thing_.*member = static_cast<Integer>(*v);
    }
    template <typename Choice>
    void choice(const char* name, Choice Thing::*member, Words<Choice> words, When = When::Differs) {
        std::vector<const char*> known;
        for (const auto& [word, value] : words) known.push_back(word);
        if (const auto i = chosen(name, known)) thing_.*member = words.begin()[*i].second;
    }
    void point(const char* name, PointText Thing::*member, When = When::Differs) {
        read(name, thing_.*member);
    }
    void points(const char* name, std::vector<PointText> Thing::*member) { read(name, thing_.*member); }
    void names(const char* name, std::vector<std::string> Thing::*member) { read(name, thing_.*member); }
    void numbers(const char* name, std::vector<double> Thing::*member, double scale) {
        read(name, thing_.*member, scale);
    }
    template <typename Inner>
    void object(const char* name, Inner Thing::*member, When = When::Differs) {
        if (const json* v = find(name)) readInto(thing_.*member, *v, inside(name));
    }
    /// `one` is what an item of the list is called.
    template <typename Item>
    void list(const char* name, std::vector<Item> Thing::*member, const char* one, When = When::Differs) {
        auto& read = thing_.*member;
        for (const json& v : items(name)) {
            Item next;
            readInto(next, v, item(one, read.size()));
            read.push_back(std::move(next));
        }
    }
    /// Another thing whose members stand among these.
    template <typename Inner>
    void within(Inner& inner) {
        Reader<Inner> reader(inner, given(), where());
        describe(reader, Of<Inner>());
        forget(reader);
    }
    /// A member whose members stand among these.
    template <typename Inner, typename Describe>
    void inlined(Inner Thing::*member, Describe description) {
        Reader<Inner> reader(thing_.*member, given(), where());
        description(reader);
        forget(reader);
    }
    /// Last: what is left.
    void extra(Extra Thing::*member) { keep(thing_.*member); }

    template <typename Inner>
    static void readInto(Inner& inner, const json& object, std::string where) {
        Reader<Inner> reader(inner, object, std::move(where));
        describe(reader, Of<Inner>());
    }

  private:
    Thing& thing_;
};

template <typename Thing>
class Writer : public ObjectWriter {
  public:
    static constexpr bool reading = false;

    Writer(const Thing& thing, json& object) : ObjectWriter(object), thing_(thing) {}

    const Thing& thing() { return thing_; }
    using ObjectWriter::object;

    void text(const char* name, std::string Thing::*member, When when = When::Differs) {
        put(name, member, when);
    }
    void flag(const char* name, bool Thing::*member, When when = When::Differs) { put(name, member, when); }
    void number(const char* name, double Thing::*member, When when = When::Differs, double scale = 1.0) {
        if (differs(member, when)) write(name, thing_.*member / scale);
    }
    template <typename Integer>
    void integer(const char* name, Integer Thing::*member, double, double, When when = When::Differs) {
        if (differs(member, when)) write(name, static_cast<long>(thing_.*member));
    }
    template <typename Choice>
    void choice(const char* name, Choice Thing::*member, Words<Choice> words, When when = When::Differs) {
        if (!differs(member, when)) return;
        for (const auto& [word, value] : words)
            if (value == thing_.*member) write(name, std::string(word));
    }
    void point(const char* name, PointText Thing::*member, When when = When::Differs) {
        put(name, member, when);
    }
    void points(const char* name, std::vector<PointText> Thing::*member) { write(name, thing_.*member); }
    void names(const char* name, std::vector<std::string> Thing::*member) {
        put(name, member, When::Differs);
    }
    void numbers(const char* name, std::vector<double> Thing::*member, double scale) {
        if (!(thing_.*member).empty()) write(name, thing_.*member, scale);
    }
    template <typename Inner>
    void object(const char* name, Inner Thing::*member, When when = When::Differs) {
        if (differs(member, when)) write(name, written(thing_.*member));
    }
    template <typename Item>
    void list(const char* name, std::vector<Item> Thing::*member, const char*, When when = When::Differs) {
        const auto& items = thing_.*member;
        if (items.empty() && when == When::Differs) return;
        json array = json::array();
        for (const auto& item : items) array.push_back(written(item));
        write(name, std::move(array));
    }
    template <typename Inner, typename Describe>
    void inlined(Inner Thing::*member, Describe description) {
        json j;
        Writer<Inner> writer(thing_.*member, j);
        description(writer);
        object().update(j);
    }
    void extra(Extra Thing::*member) { writeExtra(thing_.*member); }

    template <typename Inner>
    static json written(const Inner& inner) {
        json j;
        Writer<Inner> writer(inner, j);
        describe(writer, Of<Inner>());
        return j;
    }

  private:
    static const Thing& standard() {
        static const Thing thing{};
        return thing;
    }
    template <typename Member>
    bool differs(Member Thing::*member, When when) const {
        return when == When::Always || !(thing_.*member == standard().*member);
    }
    template <typename Member>
    void put(const char* name, Member Thing::*member, When when) {
        if (differs(member, when)) write(name, thing_.*member);
    }

    const Thing& thing_;
};

}  // namespace rm::io
