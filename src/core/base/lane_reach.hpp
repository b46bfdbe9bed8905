#pragma once
// How far numbers reach, so many side by side that compilers make vector code of it: entry `at` belongs to
// the lane at % lanes. What is not a number is passed over.

#include <array>
#include <limits>
#include <span>

namespace plume {

template <class Number, std::size_t lanes>
struct LaneReach {
    explicit LaneReach(std::span<const Number> numbers) {
        lows.fill(std::numeric_limits<Number>::infinity());
        highs.fill(-std::numeric_limits<Number>::infinity());
        const auto take = [&](std::size_t lane, Number number) {
            lows[lane] = number < lows[lane] ? number : lows[lane];
            highs[lane] = number > highs[lane] ? number : highs[lane];
            zeros[lane] += number * 0;
        };
        std::size_t at = 0;
        for (; at + lanes <= numbers.size(); at += lanes)
            for (std::size_t lane = 0; lane < lanes; ++lane)
                take(lane, numbers[at + lane]);
        for (; at < numbers.size(); ++at)
            take(at % lanes, numbers[at]);
    }
    // Of all lanes whose number leaves the same rest.
    Number low(std::size_t rest = 0, std::size_t step = 1) const {
        Number least = lows[rest];
        for (std::size_t lane = rest; lane < lanes; lane += step)
            least = lows[lane] < least ? lows[lane] : least;
        return least;
    }
    Number high(std::size_t rest = 0, std::size_t step = 1) const {
        Number most = highs[rest];
        for (std::size_t lane = rest; lane < lanes; lane += step)
            most = highs[lane] > most ? highs[lane] : most;
        return most;
    }
    bool all_finite() const {
        for (const Number zero : zeros)
            if (zero != 0) return false;
        return true;
    }

    std::array<Number, lanes> lows, highs;
    std::array<Number, lanes> zeros{};  // stay so where all are finite
};

}  // namespace plume
