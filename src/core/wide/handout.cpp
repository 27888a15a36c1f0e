#include "core/wide/handout.h"

#include <algorithm>

namespace rm::wide {

std::vector<std::size_t> Handout::next() {
    std::vector<std::size_t> cases;
    // What an earlier run knew may have been written already.
    next_ = std::max(next_, ready_);
    for (; next_ < range_.end && cases.size() < piece_; ++next_)
        if (!waiting_.contains(next_)) cases.push_back(next_);
    return cases;
}

void Handout::take(std::size_t number, std::string line) {
    if (number >= ready_ && number < range_.end) waiting_.emplace(number, std::move(line));
}

std::string Handout::ready() {
    std::string lines;
    for (auto first = waiting_.begin(); first != waiting_.end() && first->first == ready_; ++ready_) {
        lines += first->second + "\n";
        first = waiting_.erase(first);
    }
    return lines;
}

}  // namespace rm::wide
