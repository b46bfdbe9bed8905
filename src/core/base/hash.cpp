#include "core/base/hash.hpp"

#define XXH_INLINE_ALL
#include <xxhash.h>

#include <array>
#include <bit>

namespace plume {

struct Hasher::State {
    XXH3_state_t xxh;
};

Hasher::Hasher() : state_(new State) {
    XXH3_128bits_reset(&state_->xxh);
}

Hasher::~Hasher() = default;

Hasher& Hasher::add(std::string_view text) {
    add(static_cast<std::uint64_t>(text.size()));
    XXH3_128bits_update(&state_->xxh, text.data(), text.size());
    return *this;
}

Hasher& Hasher::add(double value) {
    return add(std::bit_cast<std::uint64_t>(value == 0 ? 0.0 : value));
}

Hasher& Hasher::add(std::uint64_t value) {
    XXH3_128bits_update(&state_->xxh, &value, sizeof value);
    return *this;
}

Hasher& Hasher::add(const Hash& hash) {
    return add(hash.high).add(hash.low);
}

Hasher& Hasher::add(std::span<const double> values) {
    add(static_cast<std::uint64_t>(values.size()));
    XXH3_128bits_update(&state_->xxh, values.data(), values.size_bytes());
    return *this;
}

Hash Hasher::finish() const {
    const XXH128_hash_t digest = XXH3_128bits_digest(&state_->xxh);
    return {digest.high64, digest.low64};
}

std::string hex_text(const Hash& hash) {
    static constexpr std::string_view digits = "0123456789abcdef";
    std::string text;
    for (const std::uint64_t half : {hash.high, hash.low})
        for (int shift = 60; shift >= 0; shift -= 4)
            text += digits[(half >> shift) & 15U];
    return text;
}

}  // namespace plume
