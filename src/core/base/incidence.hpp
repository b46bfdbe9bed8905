#pragma once
// Which of many things stand at each of many others: links at places, corners at vertices.

#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

namespace plume {

// At place i the entries [first[i], first[i + 1]) of `of`.
struct Incidence {
    std::vector<std::uint32_t> first{0};
    std::vector<std::uint32_t> of;
    std::span<const std::uint32_t> at(std::size_t place) const {
        return std::span(of).subspan(first[place], first[place + 1] - first[place]);
    }
};

// `each` calls what it is given with a place and what stands there, for all of them, twice the same; at each
// place they come in that order. O(places + things).
template <class Each>
Incidence incidence(std::size_t places, Each each) {
    Incidence made;
    made.first.assign(places + 1, 0);
    each([&](std::uint32_t place, std::uint32_t) { ++made.first[place + 1]; });
    for (std::size_t place = 0; place < places; ++place)
        made.first[place + 1] += made.first[place];
    made.of.resize(made.first.back());
    std::vector<std::uint32_t> next(made.first.begin(), made.first.end() - 1);
    each([&](std::uint32_t place, std::uint32_t thing) { made.of[next[place]++] = thing; });
    return made;
}

}  // namespace plume
