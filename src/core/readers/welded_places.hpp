#pragma once
// Places that are found again by their very coordinates: corners of loose triangles become shared vertices.

#include <array>
#include <bit>
#include <cstdint>
#include <type_traits>
#include <vector>

#include "core/data/column.hpp"

namespace plume {

// Open addressing, linear probing; at most two thirds full. Not a number is a place of its own by its bits.
template <class Real>
class WeldedPlaces {
public:
    using Place = std::array<Real, 3>;

    explicit WeldedPlaces(std::size_t expected) { resize(std::bit_ceil(expected * 3 / 2 + 16)); }

    std::uint32_t index_of(const Place& place) {
        std::size_t at = hash_of(place) & mask_;
        for (; slots_[at] != none; at = (at + 1) & mask_)
            if (bits_of(places_[slots_[at]]) == bits_of(place)) return slots_[at];
        const auto index = static_cast<std::uint32_t>(places_.size());
        slots_[at] = index;
        places_.push_back(place);
        if (places_.size() * 3 > slots_.size() * 2) resize(slots_.size() * 2);
        return index;
    }
    const std::vector<Place>& places() const { return places_; }

private:
    using Bits = std::conditional_t<sizeof(Real) == 4, std::uint32_t, std::uint64_t>;
    static constexpr std::uint32_t none = 0xffffffff;

    static std::array<Bits, 3> bits_of(const Place& place) {
        return std::bit_cast<std::array<Bits, 3>>(place);
    }
    static std::size_t hash_of(const Place& place) {
        const auto bits = bits_of(place);
        std::uint64_t mixed = bits[0] * 0x9e3779b97f4a7c15U;
        mixed = (std::rotl(mixed, 23) ^ bits[1]) * 0xbf58476d1ce4e5b9U;
        mixed = (std::rotl(mixed, 29) ^ bits[2]) * 0x94d049bb133111ebU;
        return mixed ^ (mixed >> 31U);
    }
    void resize(std::size_t size) {
        mask_ = size - 1;
        slots_.assign(size, none);
        for (std::size_t index = 0; index < places_.size(); ++index) {
            std::size_t at = hash_of(places_[index]) & mask_;
            while (slots_[at] != none)
                at = (at + 1) & mask_;
            slots_[at] = static_cast<std::uint32_t>(index);
        }
    }

    std::vector<std::uint32_t> slots_;
    std::vector<Place> places_;
    std::size_t mask_ = 0;
};

}  // namespace plume
