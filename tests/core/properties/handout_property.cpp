// Whatever order cases come back in, whoever ends in between: every case is handed out until it is known, and
// is written once, in its place.
#include <rapidcheck/catch.h>

#include <algorithm>
#include <catch2/catch.hpp>
#include <random>

#include "core/wide/handout.h"

using rm::wide::Handout;
using rm::wide::Range;

TEST_CASE("wide: handed out, lost, come back in any order, all is written once and in order") {
    rc::prop("a study of any size in pieces of any size", [] {
        const auto first = *rc::gen::inRange<std::size_t>(0, 50);
        const auto count = *rc::gen::inRange<std::size_t>(1, 80);
        const auto piece = *rc::gen::inRange<std::size_t>(1, 12);
        std::mt19937 chance(*rc::gen::inRange(1U, 100000U));
        const Range range{first, first + count};
        std::string written;
        std::vector<std::size_t> known;
        // Runs that are ended in between: what was given back counts, what was in hand is handed out again.
        while (known.size() < count) {
            Handout handout(range, piece);
            written.clear();
            for (const std::size_t number : known) handout.take(number, std::to_string(number));
            written += handout.ready();
            std::vector<std::size_t> inHand;
            const bool toTheEnd = chance() % 3 == 0;
            for (int step = 0; step < 200; ++step) {
                const auto next = handout.next();
                RC_ASSERT(next.size() <= piece);
                for (const std::size_t number : next) {
                    RC_ASSERT(number >= range.first && number < range.end);
                    RC_ASSERT(std::find(known.begin(), known.end(), number) == known.end());
                    RC_ASSERT(std::find(inHand.begin(), inHand.end(), number) == inHand.end());
                    inHand.push_back(number);
                }
                std::shuffle(inHand.begin(), inHand.end(), chance);
                const std::size_t back = inHand.empty() ? 0 : chance() % (inHand.size() + 1);
                for (std::size_t i = 0; i < back; ++i) {
                    handout.take(inHand.back(), std::to_string(inHand.back()));
                    known.push_back(inHand.back());
                    inHand.pop_back();
                }
                written += handout.ready();
                RC_ASSERT(handout.done() == known.size());
                if (handout.finished() || (!toTheEnd && chance() % 8 == 0)) break;
            }
        }
        std::string expected;
        for (std::size_t number = range.first; number < range.end; ++number)
            expected += std::to_string(number) + "\n";
        RC_ASSERT(written == expected);
    });
}
