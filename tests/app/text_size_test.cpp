// Text as large as the desktop's.
#include <catch2/catch.hpp>

#include "app/frame/text_size.h"

using namespace rm;

TEST_CASE("the window is drawn as large as the desktop's text, where it fits on the screen") {
    const QSize large(3840, 2160);
    CHECK(app::desktopScale(10.0, 96.0, large) == 1.0);
    CHECK(app::desktopScale(11.0, 96.0, large) == 1.1);
    CHECK(app::desktopScale(10.0, 144.0, large) == 1.5);
    CHECK(app::desktopScale(9.0, 96.0, large) == 1.0);   // never smaller than it can be read
    CHECK(app::desktopScale(-1.0, 96.0, large) == 1.0);  // a size in pixels says nothing
    CHECK(app::desktopScale(20.0, 96.0, {1366, 728}) == 1.0);
    CHECK(app::desktopScale(20.0, 96.0, {1920, 1040}) == 1.4);
}
