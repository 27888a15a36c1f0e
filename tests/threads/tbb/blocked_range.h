// See parallel_for.h.
#pragma once

#include <cstddef>

namespace tbb {

template <typename Value>
class blocked_range {
  public:
    blocked_range(Value first, Value last, std::size_t = 1) : first_(first), last_(last) {}
    Value begin() const { return first_; }
    Value end() const { return last_; }

  private:
    Value first_;
    Value last_;
};

}  // namespace tbb
