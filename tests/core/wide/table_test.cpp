// A result as a table, and conditions over it.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/wide/table.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;

namespace {

wide::Table tableOf(wide::Given given) {
    const wide::Cases cases(std::move(given));
    wide::Result result{cases, {0, cases.count()}, {}};
    for (std::size_t i = 0; i < cases.count(); ++i) {
        const double n = static_cast<double>(i);
        result.rows.push_back({i, {50.0 + n, 1.1 + 0.1 * n, 7.0 + n, i == 3 ? std::nan("") : 2.0 * n}, ""});
    }
    return wide::Table(std::move(result));
}

std::vector<std::size_t> kept(const wide::Table& table, const std::string& text) {
    const wide::Filter filter(text, table);
    std::vector<std::size_t> rows;
    for (std::size_t i = 0; i < table.rows(); ++i)
        if (filter.lets(table, i)) rows.push_back(i);
    return rows;
}

}  // namespace

TEST_CASE("wide: a table has the case, what was varied, and the figures, with headings for people") {
    const auto table = tableOf(test::smallStudy());
    REQUIRE(table.columns() == 7);
    CHECK(table.heading(0) == "case");
    CHECK(table.heading(1) == "reflector_long, m");
    CHECK(table.heading(2) == "height, m");
    CHECK(table.heading(4) == "worst SWR");
    CHECK(table.heading(6) == "gain at 10 deg, dBi");
    CHECK(table.varied(2));
    CHECK_FALSE(table.varied(3));
    CHECK(table.number(5, 0) == 6.0);
    CHECK(table.text(5, 1) == "2.95");
    CHECK(table.text(3, 6).empty());
    CHECK(table.text(5, 3) == "55.0");
    CHECK(table.text(5, 4) == "1.60");
    CHECK(table.text(5, 5) == "12.00");
    // Columns as a whole, for sorting and drawing.
    REQUIRE(table.numbers(1).size() == 8);
    for (std::size_t row = 0; row < 8; ++row) CHECK(table.numbers(4)[row] == table.number(row, 4));
    CHECK(table.step(1) == Approx(0.05));
    CHECK(table.step(2) == Approx(2.9248));
    CHECK(table.step(4) == 0.0);
    CHECK(table.words(1).empty());
}

TEST_CASE("wide: a repeated case is a step of one, and has its own column") {
    auto given = test::smallStudy();
    given.plan.work = wide::Work::Build;
    given.plan.repeat = 3;
    const wide::Cases cases(given);
    wide::Result result{cases, {0, cases.count()}, {}};
    for (std::size_t i = 0; i < cases.count(); ++i) result.rows.push_back({i, {1.0, 2.0, 3.0, 4.0}, ""});
    const wide::Table table(std::move(result));
    CHECK(table.heading(3) == "build");
    CHECK(table.varied(3));
    CHECK(table.step(3) == 1.0);
    CHECK(table.numbers(3)[4] == 2.0);
    CHECK(kept(table, "build = 3 and height > 6") == std::vector<std::size_t>{5, 11, 17, 23});
}

TEST_CASE("wide: conditions let through what meets all of them, whatever the columns are called") {
    const auto table = tableOf(test::smallStudy());
    CHECK(kept(table, "").size() == 8);
    CHECK(kept(table, "worst_SWR < 1.45") == std::vector<std::size_t>{0, 1, 2, 3});
    CHECK(kept(table, "worst SWR<1.45 and Gain >= 9") == std::vector<std::size_t>{2, 3});
    CHECK(kept(table, "height = 5, case > 4") == std::vector<std::size_t>{4, 6});
    CHECK(kept(table, "height_m != 5, reflector_long <= 2.9") == std::vector<std::size_t>{1, 3});
    // What has no value meets no condition on it.
    CHECK(kept(table, "gain at 10 deg < 100").size() == 7);
    CHECK_THROWS_WITH(kept(table, "beauty > 3"), Contains("no column \"beauty\""));
    CHECK_THROWS_WITH(kept(table, "gain_dB > 3"), Contains("did you mean gain_dBi"));
    CHECK_THROWS_WITH(kept(table, "gain > much"), Contains("\"much\" is no number"));
    CHECK_THROWS_WITH(kept(table, "gain"), Contains("a column, a sign and a value"));
}

TEST_CASE("wide: words are compared as words") {
    auto given = test::smallStudy();
    given.plan.over[1].vary = wide::Vary::Soil;
    given.plan.over[1].values = {"marsh", "dry sand"};
    const auto table = tableOf(given);
    CHECK(table.text(1, 2) == "dry sand");
    CHECK(kept(table, "soil = dry sand") == std::vector<std::size_t>{1, 3, 5, 7});
    CHECK(kept(table, "soil != dry sand and case < 4") == std::vector<std::size_t>{0, 2});
    CHECK_THROWS_WITH(kept(table, "soil < marsh"), Contains("is a word"));
    CHECK_THROWS_WITH(kept(table, "soil = mars"), Contains("never \"mars\": there are marsh, dry sand"));
    CHECK(table.words(2) == std::vector<std::string>{"marsh", "dry sand"});
    CHECK(table.step(2) == 1.0);
}
