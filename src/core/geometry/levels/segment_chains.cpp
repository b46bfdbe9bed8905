#include "core/geometry/levels/segment_chains.hpp"

#include <algorithm>
#include <bit>

namespace plume {

WaitingEnds::WaitingEnds(std::size_t ends)
    : slots_(std::bit_ceil(std::max<std::size_t>(2 * ends, 2))),
      shift_(64U - static_cast<unsigned>(std::countr_zero(slots_.size()))) {}

std::vector<std::uint32_t> partners_by_key(const std::vector<std::uint64_t>& key_of_end) {
    std::vector<std::uint32_t> partners(key_of_end.size(), no_partner);
    WaitingEnds waiting(key_of_end.size());
    for (std::uint32_t end = 0; end < partners.size(); ++end) {
        const std::uint32_t other = waiting.find(
            key_of_end[end], [&](std::uint32_t candidate) { return partners[candidate] == no_partner; });
        if (other == no_partner) {
            waiting.put(key_of_end[end], end);
            continue;
        }
        partners[end] = other;
        partners[other] = end;
    }
    return partners;
}

std::vector<SegmentChain> chains_of(const std::vector<std::uint32_t>& partners) {
    const auto ends = static_cast<std::uint32_t>(partners.size());
    std::vector<std::uint8_t> used(ends / 2, 0);
    std::vector<SegmentChain> chains;
    const auto walk = [&](std::uint32_t end) {
        if (used[end / 2] != 0) return;
        SegmentChain chain;
        for (; end != no_partner && used[end / 2] == 0; end = partners[end ^ 1U]) {
            used[end / 2] = 1;
            chain.entered.push_back(end);
        }
        chain.closed = end != no_partner;
        chains.push_back(std::move(chain));
    };
    for (const std::uint32_t which : {0U, 1U})
        for (std::uint32_t end = which; end < ends; end += 2)
            if (partners[end] == no_partner) walk(end);
    for (std::uint32_t end = 0; end < ends; end += 2)
        walk(end);
    return chains;
}

}  // namespace plume
