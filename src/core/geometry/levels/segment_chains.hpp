#pragma once
// Short segments put end to end: lines found cell by cell.
//
// Segment s has two ends: 2 s, where it begins, and 2 s + 1, where it stops. An end's partner is the end of
// another segment at the same place. O(ends).

#include <cstddef>
#include <cstdint>
#include <vector>

namespace plume {

inline constexpr std::uint32_t no_partner = static_cast<std::uint32_t>(-1);

// A table of ends that wait for a partner, by a key of where they are; of two with one key the second finds
// the first. Sized once: keys are put in at most as often as was said.
class WaitingEnds {
public:
    explicit WaitingEnds(std::size_t ends);
    // Calls `is_partner(end)` for each end put in under the key until it says true; that end, or no_partner.
    template <class IsPartner>
    std::uint32_t find(std::uint64_t key, const IsPartner& is_partner) const {
        for (std::size_t slot = slot_of(key); slots_[slot].end != no_partner; slot = after(slot))
            if (slots_[slot].key == key && is_partner(slots_[slot].end)) return slots_[slot].end;
        return no_partner;
    }
    void put(std::uint64_t key, std::uint32_t end) {
        std::size_t slot = slot_of(key);
        while (slots_[slot].end != no_partner)
            slot = after(slot);
        slots_[slot] = {key, end};
    }

private:
    struct Slot {
        std::uint64_t key = 0;
        std::uint32_t end = no_partner;
    };
    // Fibonacci hashing (Knuth, The Art of Computer Programming 3, 6.4).
    std::size_t slot_of(std::uint64_t key) const {
        return static_cast<std::size_t>((key * 0x9E3779B97F4A7C15ULL) >> shift_);
    }
    std::size_t after(std::size_t slot) const { return (slot + 1) & (slots_.size() - 1); }

    std::vector<Slot> slots_;
    unsigned shift_ = 0;
};

// Ends that have the same key, two by two in their order; of an odd number one is left over.
std::vector<std::uint32_t> partners_by_key(const std::vector<std::uint64_t>& key_of_end);

struct SegmentChain {
    std::vector<std::uint32_t> entered;  // the end each segment is come into by
    bool closed = false;
};
// Open ones first, those that begin where a segment does before others; every segment is in one.
std::vector<SegmentChain> chains_of(const std::vector<std::uint32_t>& partners);

}  // namespace plume
