// A study on threads, among several ranks, in parts, and ended at any moment: always the same bytes.
#include <catch2/catch.hpp>
#include <deque>
#include <fstream>
#include <iterator>
#include <map>
#include <mutex>
#include <thread>

#include "core/wide/handout.h"
#include "core/wide/run.h"
#include "folder.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;

namespace {

std::string bytesOf(const std::filesystem::path& file) {
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

/// Ranks that are threads of this process.
struct Post {
    std::mutex mutex;
    std::map<int, std::deque<wide::Message>> boxes;
};

class ThreadPeers : public wide::Peers {
  public:
    ThreadPeers(Post& post, int rank, int count) : post_(post), rank_(rank), count_(count) {}
    int rank() const override { return rank_; }
    int count() const override { return count_; }
    void send(int to, const std::string& text) override {
        const std::scoped_lock lock(post_.mutex);
        post_.boxes[to].push_back({rank_, text});
    }
    std::optional<wide::Message> receive() override {
        const std::scoped_lock lock(post_.mutex);
        auto& box = post_.boxes[rank_];
        if (box.empty()) return std::nullopt;
        auto first = box.front();
        box.pop_front();
        return first;
    }

  private:
    Post& post_;
    int rank_;
    int count_;
};

wide::RunResult run(const wide::Cases& cases, const std::filesystem::path& out, int threads = 1) {
    wide::RunOptions options;
    options.out = out;
    options.threads = threads;
    return wide::runStudy(cases, options);
}

wide::RunResult runAmong(const wide::Cases& cases, const std::filesystem::path& out, int ranks) {
    Post post;
    std::vector<std::jthread> others;
    for (int rank = 1; rank < ranks; ++rank)
        others.emplace_back([&post, rank, ranks] {
            ThreadPeers peers(post, rank, ranks);
            wide::RunOptions options;
            options.peers = &peers;
            wide::workForStudy(options);
        });
    ThreadPeers peers(post, 0, ranks);
    wide::RunOptions options;
    options.out = out;
    options.peers = &peers;
    return wide::runStudy(cases, options);
}

}  // namespace

TEST_CASE("wide: handed out once, written in order, whatever order they come back in") {
    wide::Handout handout({10, 17}, 3);
    handout.take(12, "c");
    CHECK(handout.next() == std::vector<std::size_t>{10, 11, 13});
    CHECK(handout.next() == std::vector<std::size_t>{14, 15, 16});
    CHECK(handout.next().empty());
    CHECK(handout.ready().empty());
    handout.take(11, "b");
    CHECK(handout.ready().empty());
    handout.take(10, "a");
    handout.take(10, "again");
    CHECK(handout.ready() == "a\nb\nc\n");
    CHECK(handout.done() == 3);
    for (const std::size_t n : {16, 13, 15, 14}) handout.take(n, "x");
    CHECK(handout.ready() == "x\nx\nx\nx\n");
    CHECK(handout.finished());
}

TEST_CASE("wide: the same bytes on one thread, on three, and among three ranks, in both formats") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    for (const char* end : {".csv", ".jsonl"}) {
        const auto file = [&](const char* name) { return folder.path / (std::string(name) + end); };
        REQUIRE(run(cases, file("one")).finished());
        run(cases, file("three"), 3);
        CHECK(runAmong(cases, file("ranks"), 3).finished());
        const auto bytes = bytesOf(file("one"));
        CHECK(bytes.size() > 1000);
        CHECK(bytesOf(file("three")) == bytes);
        CHECK(bytesOf(file("ranks")) == bytes);
    }
    // Nothing is left beside the six results.
    CHECK(folder.files() == 6);
}

TEST_CASE("wide: a result reads back as what was worked out") {
    const test::Folder folder;
    auto given = test::smallStudy();
    given.plan.over[0].from = "-1 m";  // the first ones cannot be worked out
    const wide::Cases cases(given);
    for (const char* name : {"a.csv", "a.jsonl"}) {
        run(cases, folder / name, 2);
        const auto result = wide::readResult(folder / name);
        REQUIRE(result.rows.size() == cases.count());
        CHECK(result.cases.given().design == given.design);
        for (const auto& row : result.rows) {
            const auto expected = cases.workOut(row.number);
            CHECK(row.values == expected.values);
            CHECK(row.problem == expected.problem);
        }
    }
}

TEST_CASE("wide: cut off anywhere, it goes on from there to the same bytes") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    run(cases, folder / "whole.csv");
    const auto bytes = bytesOf(folder / "whole.csv");
    const auto head = wide::headOf(cases, wide::Format::Csv, {0, cases.count()}).size();
    for (const std::size_t at :
         {std::size_t{1}, head / 2, head, head + 3, head + (bytes.size() - head) / 2, bytes.size() - 1}) {
        std::ofstream(folder / "cut.csv", std::ios::binary) << bytes.substr(0, at);
        const auto result = run(cases, folder / "cut.csv");
        INFO(at << " of " << bytes.size());
        CHECK(result.finished());
        CHECK(bytesOf(folder / "cut.csv") == bytes);
        CHECK((at < head + 3 ? result.earlier == 0 : result.earlier < cases.count()));
    }
}

TEST_CASE("wide: asked to stop, it keeps what it has and does not work it out again") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    run(cases, folder / "whole.jsonl");
    std::stop_source stop;
    wide::RunOptions options;
    options.out = folder / "stopped.jsonl";
    options.stop = stop.get_token();
    int worked = 0;
    options.timed = [&](std::size_t, double) {
        if (++worked == 3) stop.request_stop();
    };
    const auto first = wide::runStudy(cases, options);
    CHECK_FALSE(first.finished());
    CHECK(worked == 3);
    options.stop = {};
    int more = 0;
    options.timed = [&](std::size_t, double) { ++more; };
    const auto second = wide::runStudy(cases, options);
    CHECK(second.finished());
    CHECK(second.earlier == 3);
    CHECK(more == static_cast<int>(cases.count()) - 3);
    CHECK(bytesOf(folder / "stopped.jsonl") == bytesOf(folder / "whole.jsonl"));
}

TEST_CASE("wide: what came out of order before a kill is not worked out again") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    run(cases, folder / "whole.csv");
    // A rank that had worked on the last cases when everything was killed.
    std::stop_source stop;
    stop.request_stop();
    wide::RunOptions options;
    options.out = folder / "killed.csv";
    options.stop = stop.get_token();
    wide::runStudy(cases, options);
    const auto side = folder / "killed.csv.rank0";
    REQUIRE(std::filesystem::exists(side));
    std::filesystem::copy_file(side, folder / "killed.csv.rank5");
    const auto line = [&](std::size_t number) {
        return wide::lineOf(cases, cases.workOut(number), wide::Format::Csv);
    };
    std::ofstream(folder / "killed.csv.rank5", std::ios::app)
        << "6\t" << line(6) << "\n7\t" << line(7) << "\n5\t" << line(5).substr(0, 9);
    options.stop = {};
    int worked = 0;
    options.timed = [&](std::size_t, double) { ++worked; };
    const auto result = wide::runStudy(cases, options);
    CHECK(result.earlier == 2);
    CHECK(worked == 6);
    CHECK(bytesOf(folder / "killed.csv") == bytesOf(folder / "whole.csv"));
    CHECK_FALSE(std::filesystem::exists(folder / "killed.csv.rank5"));
}

TEST_CASE("wide: parts put together are the whole, and nothing else is") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    run(cases, folder / "whole.csv");
    std::vector<std::filesystem::path> parts;
    for (std::size_t part = 3; part >= 1; --part) {
        wide::RunOptions options;
        options.out = folder.path / ("part" + std::to_string(part) + ".csv");
        options.part = part;
        options.parts = 3;
        wide::runStudy(cases, options);
        parts.push_back(options.out);
    }
    wide::mergeResults(parts, folder / "merged.csv");
    CHECK(bytesOf(folder / "merged.csv") == bytesOf(folder / "whole.csv"));
    CHECK_THROWS_WITH(wide::mergeResults({parts[0], parts[2]}, folder / "m.csv"),
                      Contains("are in none of the parts"));
    CHECK_THROWS_WITH(wide::mergeResults({parts[0], parts[0], parts[1], parts[2]}, folder / "m.csv"),
                      Contains("another part has, too"));
    auto other = test::smallStudy();
    other.plan.over[0].points = 5;
    run(wide::Cases(other), folder / "other.csv");
    CHECK_THROWS_WITH(wide::mergeResults({parts[0], folder / "other.csv"}, folder / "m.csv"),
                      Contains("another study"));
    folder.write("mine.csv", "1,2\n");
    CHECK_THROWS_WITH(wide::mergeResults(parts, folder / "mine.csv"), Contains("something else"));
    CHECK(bytesOf(folder / "mine.csv") == "1,2\n");
    wide::RunOptions many;
    many.out = folder / "many.csv";
    many.parts = 9;
    CHECK_THROWS_WITH(wide::runStudy(cases, many), Contains("8 cases: it cannot be put into 9 parts"));
    const auto cut = bytesOf(parts[1]);
    std::ofstream(parts[1], std::ios::binary) << cut.substr(0, cut.size() - 5);
    CHECK_THROWS_WITH(wide::mergeResults(parts, folder / "m.csv"), Contains("not finished"));
}

TEST_CASE("wide: two runs never write one result") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    wide::RunOptions options;
    options.out = folder / "one.csv";
    std::string said;
    options.timed = [&](std::size_t number, double) {
        if (number != 0) return;
        try {
            run(cases, folder / "one.csv");
        } catch (const Error& e) {
            said = e.what();
        }
    };
    CHECK(wide::runStudy(cases, options).finished());
    CHECK_THAT(said, Contains("another run of a study"));
    // Files of other names beside it stay.
    folder.write("one.csv.ranking", "mine");
    run(cases, folder / "one.csv");
    CHECK(std::filesystem::exists(folder / "one.csv.ranking"));
}

TEST_CASE("wide: a file of something else is never written over") {
    const test::Folder folder;
    const wide::Cases cases(test::smallStudy());
    folder.write("mine.csv", "1,2,3\n");
    CHECK_THROWS_WITH(run(cases, folder / "mine.csv"), Contains("something else"));
    CHECK(bytesOf(folder / "mine.csv") == "1,2,3\n");
    CHECK_THROWS_WITH(run(cases, folder / "mine.txt"), Contains(".csv or .jsonl"));
    CHECK_THROWS_WITH(wide::readResult(folder / "mine.csv"), Contains("no result of a study"));
}
