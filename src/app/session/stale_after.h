// How long an older picture may stay bright while its successor is on the way.
#pragma once

namespace rm::app {

inline constexpr int kStaleAfterMs = 150;

}  // namespace rm::app
