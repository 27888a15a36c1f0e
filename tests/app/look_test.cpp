// Colours as eyes see them: contrast of words, and marks told apart by those who take red for green.
#include <QColor>
#include <QImage>
#include <QPushButton>
#include <array>
#include <catch2/catch.hpp>
#include <cmath>

#include "app/look/text.h"
#include "app/look/theme.h"

using namespace rm;

namespace {

using Linear = std::array<double, 3>;
using Matrix = std::array<Linear, 3>;

/// Dichromats, for linear RGB: G. Machado, M. Oliveira and L. Fernandes, IEEE Trans. Vis. Comput. Graph. 15
/// (2009), severity 1.
constexpr Matrix kDeuteranope = {
    {{0.367322, 0.860646, -0.227968}, {0.280085, 0.672501, 0.047413}, {-0.011820, 0.042940, 0.968881}}};
constexpr Matrix kProtanope = {
    {{0.152286, 1.052583, -0.204868}, {0.114503, 0.786281, 0.099216}, {-0.003882, -0.048116, 1.051998}}};
constexpr Matrix kEverybody = {{{1.0, 0.0, 0.0}, {0.0, 1.0, 0.0}, {0.0, 0.0, 1.0}}};

Linear linear(const QColor& c) {
    const auto part = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return {part(c.redF()), part(c.greenF()), part(c.blueF())};
}

/// CIE 1976 L*a*b* under D65, of what this eye sees.
Linear seen(const QColor& colour, const Matrix& eye) {
    const Linear rgb = linear(colour);
    Linear by{};
    for (std::size_t i = 0; i < 3; ++i) {
        for (std::size_t j = 0; j < 3; ++j) by[i] += eye[i][j] * rgb[j];
        by[i] = std::clamp(by[i], 0.0, 1.0);
    }
    const auto root = [](double t) { return t > 0.008856 ? std::cbrt(t) : 7.787 * t + 16.0 / 116.0; };
    const double x = root((0.4124 * by[0] + 0.3576 * by[1] + 0.1805 * by[2]) / 0.9505);
    const double y = root(0.2126 * by[0] + 0.7152 * by[1] + 0.0722 * by[2]);
    const double z = root((0.0193 * by[0] + 0.1192 * by[1] + 0.9505 * by[2]) / 1.089);
    return {116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)};
}

/// Colour difference; about 2.3 is the least that anybody notices.
double difference(const QColor& a, const QColor& b, const Matrix& eye) {
    const Linear one = seen(a, eye);
    const Linear other = seen(b, eye);
    return std::hypot(one[0] - other[0], one[1] - other[1], one[2] - other[2]);
}

}  // namespace

TEST_CASE("a number that rounds to nothing has no sign") {
    CHECK(app::written(-0.04, 'f', 1) == "0.0");
    CHECK(app::written(-0.0, 'g', 3) == "0");
    CHECK(app::written(-0.06, 'f', 1) == "-0.1");
    CHECK(app::written(-10.0, 'f', 0) == "-10");
}

TEST_CASE("contrast is that of the standard") {
    CHECK(app::contrast(Qt::black, Qt::white) == Approx(21.0));
    CHECK(app::contrast("#777777", Qt::white) == Approx(4.48).margin(0.005));
    CHECK(app::contrast("#112233", "#112233") == 1.0);
}

TEST_CASE("light and dark keep text readable") {
    // At least 4.5 for text, 3 for marks.
    for (const auto& t : {app::Theme::light(), app::Theme::night()}) {
        INFO((t.dark ? "dark" : "light"));
        for (const QColor& ground : {t.paper, t.panel, t.sunken, t.yard})
            for (const QColor& ink : {t.ink, t.softInk, t.copper}) {
                INFO(ink.name().toStdString() << " on " << ground.name().toStdString());
                CHECK(app::contrast(ink, ground) >= 4.5);
            }
        for (const QColor& ink : {t.reed, t.water, t.heather, t.clay, t.sunInk}) {
            INFO(ink.name().toStdString());
            CHECK(app::contrast(ink, t.panel) >= 4.5);
        }
        CHECK(app::contrast(t.reed, t.reedTint) >= 4.5);
        for (const QColor& mark : t.overlays) {
            INFO(mark.name().toStdString());
            CHECK(app::contrast(mark, t.panel) >= 3.0);
            CHECK(app::contrast(t.words(mark), t.panel) >= 4.5);
        }
        // What a figure is worth is written in one of these.
        for (const double swr : {1.2, 1.8, 2.5, 9.0})
            CHECK(app::contrast(t.forSwr(swr, {1.5, 2.0, 3.0}), t.panel) >= 4.5);
    }
}

TEST_CASE("a button that cannot be pressed does not look like one that can") {
    app::Theme::light().apply();
    for (const char* kind : {"main", "quiet", ""}) {
        INFO(kind);
        QPushButton button("Go");
        if (*kind != '\0') button.setProperty(kind, true);
        button.resize(80, 26);
        const QImage able = button.grab().toImage();
        button.setEnabled(false);
        CHECK(button.grab().toImage() != able);
    }
}

TEST_CASE("live, pins and limits are told apart by those who take red for green") {
    for (const auto& t : {app::Theme::light(), app::Theme::night()})
        for (const Matrix& eye : {kEverybody, kDeuteranope, kProtanope}) {
            INFO((t.dark ? "dark" : "light") << ", eye " << eye[0][0]);
            std::vector<QColor> curves{t.copper};
            curves.insert(curves.end(), t.overlays.begin(), t.overlays.end());
            for (std::size_t i = 0; i < curves.size(); ++i) {
                for (std::size_t j = 0; j < i; ++j) {
                    INFO(curves[i].name().toStdString() << " and " << curves[j].name().toStdString());
                    CHECK(difference(curves[i], curves[j], eye) >= 15.0);
                }
                INFO(curves[i].name().toStdString() << " and a limit");
                CHECK(difference(curves[i], t.clay, eye) >= 10.0);
            }
        }
    // The eyes are what they are said to be: to a deuteranope these two are one.
    CHECK(difference("#B23A2E", "#4F7030", kDeuteranope) < 12.0);
    CHECK(difference("#B23A2E", "#4F7030", kEverybody) > 60.0);
}
