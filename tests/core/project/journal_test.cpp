// Unsaved work on disk: every state within a second, apart for every window, readable whatever cut it short.
#include <sys/wait.h>
#include <unistd.h>
#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <set>

#include "core/edit/designs.h"
#include "core/project/journal.h"
#include "core/project/project_file.h"
#include "core/project/text_file.h"
#include "folder.h"

using namespace rm;
namespace fs = std::filesystem;
using io::Journal;
using io::leftWork;
using rm::test::Folder;

namespace {

std::shared_ptr<const model::Project> titled(const std::string& title) {
    auto project = edit::starterProject();
    project.title = title;
    return std::make_shared<const model::Project>(std::move(project));
}

/// A window that ends without a word: another process, killed.
void dies(const std::function<void()>& work) {
    const pid_t child = ::fork();
    REQUIRE(child >= 0);
    if (child == 0) {
        work();
        ::kill(::getpid(), SIGKILL);
    }
    int status = 0;
    REQUIRE(::waitpid(child, &status, 0) == child);
    REQUIRE(WIFSIGNALED(status));
}

void leave(const fs::path& folder, const std::string& path, const std::vector<std::string>& titles) {
    dies([&] {
        auto* journal = new Journal(folder, {});
        journal->begin(path);
        for (const auto& title : titles) {
            journal->keep(titled(title), "Rename to " + title);
            journal->flush();
        }
    });
}

}  // namespace

TEST_CASE("nothing is kept of what was saved or given up, and nothing is left behind") {
    const Folder folder;
    {
        Journal journal(folder.path, {});
        journal.begin("/home/a.json");
        journal.flush();
        CHECK(folder.files() == 0);
        journal.keep(titled("one"), "Add part");
        journal.flush();
        CHECK(folder.files() == 1);
        CHECK(fs::exists(journal.file()));
        // It belongs to a window that lives.
        CHECK(leftWork(folder.path).empty());
        journal.forget();
        journal.flush();
        CHECK(folder.files() == 0);
        journal.keep(titled("two"), "Add part");
        journal.begin("/home/b.json");
    }
    CHECK(folder.files() == 0);
}

TEST_CASE(
    "what a window left is offered with its title, time and last edit, and is there until it is answered") {
    const Folder folder;
    leave(folder.path, "/home/a.json", {"one", "two", "three"});
    for (int look = 0; look < 3; ++look) {
        const auto left = leftWork(folder.path);
        REQUIRE(left.size() == 1);
        CHECK(left[0].path == "/home/a.json");
        CHECK(left[0].title == "three");
        CHECK(left[0].lastDone == "Rename to three");
        CHECK(left[0].edits == 3);
        CHECK(left[0].when.find("20") != std::string::npos);
        CHECK(io::readLeft(left[0]).title == "three");
    }
    io::discardLeft(leftWork(folder.path)[0]);
    CHECK(leftWork(folder.path).empty());
    CHECK(folder.files() == 0);
}

TEST_CASE("windows keep apart, with the same file, with none, and beside one that lives") {
    const Folder folder;
    Journal living(folder.path, {});
    living.begin("/home/a.json");
    living.keep(titled("living"), "Add part");
    living.flush();
    leave(folder.path, "/home/a.json", {"first"});
    leave(folder.path, "/home/a.json", {"second"});
    leave(folder.path, "", {"untitled"});
    leave(folder.path, "", {"untitled, too"});
    const auto left = leftWork(folder.path);
    REQUIRE(left.size() == 4);
    std::set<std::string> titles;
    for (const auto& work : left) titles.insert(io::readLeft(work).title);
    CHECK(titles == std::set<std::string>{"first", "second", "untitled", "untitled, too"});
    io::discardLeft(left[0]);
    CHECK(leftWork(folder.path).size() == 3);
    CHECK(fs::exists(living.file()));
    living.keep(titled("living still"), "Add part");
    living.flush();
    CHECK(leftWork(folder.path).size() == 3);
    living.forget();
    living.flush();
}

TEST_CASE("a journal cut short at any byte gives a state that there was") {
    const Folder folder;
    leave(folder.path, "/home/a.json", {"one", "two", "three"});
    const auto work = leftWork(folder.path).at(0);
    const std::string whole = io::readTextFile(work.file);
    const std::set<std::string> known = {"one", "two", "three"};
    std::set<std::string> seen;
    // Every byte of the short lines, and some of the long one.
    for (std::size_t bytes = 0; bytes <= whole.size(); bytes += bytes + 400 > whole.size() ? 1 : 97) {
        std::ofstream(work.file, std::ios::binary | std::ios::trunc)
            .write(whole.data(), static_cast<long>(bytes));
        const auto left = leftWork(folder.path);
        if (left.empty()) {
            CHECK(seen.empty());
            continue;
        }
        REQUIRE(left.size() == 1);
        const std::string title = io::readLeft(left[0]).title;
        CHECK(known.count(title) == 1);
        seen.insert(title);
    }
    CHECK(seen == known);
}

TEST_CASE("a damaged line ends a journal, it does not spoil it") {
    const Folder folder;
    leave(folder.path, "/home/a.json", {"one", "two", "three"});
    const auto work = leftWork(folder.path).at(0);
    std::string text = io::readTextFile(work.file);
    const auto third = text.rfind("three");
    for (const char* junk : {"\n", "{}\n", "[1]\n", "{\"changes\": 7}\n",
                             "{\"changes\": [{\"op\": \"remove\", \"path\": \"/none\"}]}\n", "\xff\xfe\n"}) {
        const auto line = text.rfind('\n', third) + 1;
        std::ofstream(work.file, std::ios::binary | std::ios::trunc)
            << text.substr(0, line) << junk << text.substr(line);
        const auto left = leftWork(folder.path);
        REQUIRE(left.size() == 1);
        CHECK(io::readLeft(left[0]).title == "two");
    }
    std::ofstream(work.file, std::ios::trunc) << "no journal\n";
    CHECK(leftWork(folder.path).empty());
    CHECK_THROWS_AS(io::readLeft(work), Error);
}

TEST_CASE("a hand that never rests loses less than a second", "[clock]") {
    const Folder folder;
    const auto begin = std::chrono::steady_clock::now();
    dies([&] {
        auto* journal = new Journal(folder.path, {});
        journal->begin("");
        for (int i = 0; i < 150; ++i) {
            journal->keep(titled(std::to_string(i)), "Drag");
            std::this_thread::sleep_for(std::chrono::milliseconds(10));
        }
    });
    CHECK(std::chrono::steady_clock::now() - begin < std::chrono::seconds(20));
    const auto left = leftWork(folder.path);
    REQUIRE(left.size() == 1);
    // An edit every 10 ms: less than 100 are lost.
    CHECK(std::stoi(io::readLeft(left[0]).title) > 50);
    CHECK(left[0].edits >= 3);
}

TEST_CASE("a journal does not grow without end") {
    const Folder folder;
    Journal journal(folder.path, {});
    journal.begin("");
    auto project = edit::starterProject();
    std::uintmax_t largest = 0;
    for (int i = 0; i < 12; ++i) {
        project.title = std::string(300000, static_cast<char>('a' + i));
        journal.keep(std::make_shared<const model::Project>(project), "Rename");
        journal.flush();
        largest = std::max(largest, fs::file_size(journal.file()));
    }
    CHECK(largest < (20U + 2U) * 310000U);
    journal.forget();
}

TEST_CASE("a journal that somebody removed is begun anew with the next edit") {
    const Folder folder;
    const auto place = folder.path / "recovery";
    std::string said;
    {
        Journal journal(place, [&](const std::string& why) { said += why; });
        journal.begin("");
        journal.keep(titled("one"), "Add part");
        journal.flush();
        REQUIRE(fs::remove_all(place) > 0);
        journal.keep(titled("two"), "Rename");
        journal.flush();
        CHECK(fs::exists(journal.file()));
    }
    CHECK(said.empty());
    const auto left = io::leftWork(place);
    REQUIRE(left.size() == 1);
    CHECK(left[0].title == "two");
}

TEST_CASE("where nothing can be kept it is said, once it is so and once it is over") {
    const Folder folder;
    std::ofstream(folder.path / "in the way") << "a file";
    std::vector<std::string> said;
    std::mutex mutex;
    Journal journal(folder.path / "in the way" / "recovery", [&](const std::string& why) {
        const std::scoped_lock lock(mutex);
        said.push_back(why);
    });
    // Nothing is to be kept yet: no trouble, though no file could be there.
    journal.begin("");
    journal.flush();
    {
        const std::scoped_lock lock(mutex);
        CHECK(said.empty());
    }
    for (const char* title : {"one", "one and a half"}) {
        journal.keep(titled(title), "Add part");
        journal.flush();
        const std::scoped_lock lock(mutex);
        REQUIRE(said.size() == 1);
        CHECK_FALSE(said[0].empty());
    }
    fs::remove(folder.path / "in the way");
    journal.keep(titled("two"), "Add part");
    journal.flush();
    const std::scoped_lock lock(mutex);
    REQUIRE(said.size() == 2);
    CHECK(said[1].empty());
    CHECK(fs::exists(journal.file()));
}
