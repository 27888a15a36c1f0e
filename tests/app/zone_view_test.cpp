// Where to keep clear, from above: what is small beside the antenna is seen all the same.
#include <QFontMetricsF>
#include <QImage>
#include <catch2/catch.hpp>
#include <cmath>

#include "app/look/painted_words.h"
#include "app/look/text.h"
#include "app/look/theme.h"
#include "app/stages/clear/zone_view.h"

using namespace rm;

namespace {

/// 30 m of wire to the left of a foot, and a square zone round the foot of this half side.
struct Seen {
    app::ZoneView view;

    explicit Seen(double halfSideM) {
        auto expansion = std::make_shared<model::Expansion>();
        model::PlainWire wire;
        wire.endM = {0.0, 30.0, 10.0};
        expansion->model.wires = {wire};
        auto table = std::make_shared<study::ClearTable>();
        study::ClearRow row;
        row.band = "20 m";
        row.head.heightM = 1.8;
        row.window.heightM = 5.0;
        if (halfSideM > 0.0) {
            row.head.plane.cornerM = {-halfSideM, -halfSideM, 1.8};
            row.head.plane.rightM = {2.0 * halfSideM, 0.0, 0.0};
            row.head.plane.upM = {0.0, 2.0 * halfSideM, 0.0};
            row.head.plane.columns = row.head.plane.rows = 2;
            row.head.contour = {{0, 0, 1, 0}, {1, 0, 1, 1}, {1, 1, 0, 1}, {0, 1, 0, 0}};
            row.head.fromMiddleM = 15.0 + halfSideM;
        }
        table->rows = {row};
        view.resize(560, 190);
        view.setRows(table, 0, expansion);
    }
    /// Pixels of the line of the limit here.
    int limitPixels(const QRectF& where) {
        const QImage image = view.grab().toImage();
        const QColor clay = app::Theme::current().clay;
        int count = 0;
        for (int y = std::max(0, int(where.top())); y < std::min(image.height(), int(where.bottom())); ++y)
            for (int x = std::max(0, int(where.left())); x < std::min(image.width(), int(where.right()));
                 ++x) {
                const QColor c = image.pixelColor(x, y);
                count += std::abs(c.red() - clay.red()) + std::abs(c.green() - clay.green()) +
                                     std::abs(c.blue() - clay.blue()) <
                                 60
                             ? 1
                             : 0;
            }
        return count;
    }
};

}  // namespace

TEST_CASE("the names of the zones stand there whole, beside the plan and not under it") {
    Seen seen(0.0);
    const QStringList legend = seen.view.legend();
    REQUIRE(legend.size() == 2);
    CHECK(legend[0] == "public, at 1.8 m: nowhere");
    const auto rows = app::paintedRows(seen.view);
    for (const auto& line : legend) {
        INFO(line.toStdString());
        CHECK(std::any_of(rows.begin(), rows.end(), [&](const auto& row) {
            return row.text.startsWith(line) && row.place.left() + 1 < seen.view.legendWidth();
        }));
        CHECK(QFontMetricsF(app::textFont(app::kTinyPt)).horizontalAdvance(line) < seen.view.legendWidth());
    }
}

TEST_CASE("a zone of a metre at the foot of a long wire is drawn large") {
    Seen small(0.5);
    const QRectF lens = small.view.lens();
    REQUIRE_FALSE(lens.isEmpty());
    CHECK(QRectF(small.view.rect()).contains(lens));
    // Four sides of nearly half the glass each.
    CHECK(small.limitPixels(lens) > 1.5 * lens.width());
    CHECK(small.limitPixels(QRectF(150, 0, lens.left() - 150, 190)) < 0.3 * lens.width());
}

TEST_CASE("a zone round the whole antenna needs no second drawing, and none has none") {
    Seen wide(20.0);
    CHECK(wide.view.lens().isEmpty());
    CHECK(wide.limitPixels(QRectF(150, 0, 410, 190)) > 200);
    Seen none(0.0);
    CHECK(none.view.lens().isEmpty());
    CHECK(none.limitPixels(QRectF(150, 0, 410, 190)) == 0);
    app::ZoneView empty;
    CHECK(empty.lens().isEmpty());
    CHECK_FALSE(empty.grab().isNull());
}
