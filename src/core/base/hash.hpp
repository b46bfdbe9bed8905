#pragma once
// Content hash: 128 bits of XXH3 (Yann Collet, xxHash 0.8, BSD-2). Not for security: it names results in a
// cache, where an accidental clash is out of the question and nobody attacks himself.

#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <string_view>

namespace plume {

struct Hash {
    std::uint64_t high = 0;
    std::uint64_t low = 0;
    bool operator==(const Hash&) const = default;
    bool operator<(const Hash& other) const {
        return high != other.high ? high < other.high : low < other.low;
    }
};

// Feeds values in order; every string is preceded by its length, so that "ab","c" and "a","bc" differ.
class Hasher {
public:
    Hasher();
    ~Hasher();
    Hasher(const Hasher&) = delete;
    Hasher& operator=(const Hasher&) = delete;

    Hasher& add(std::string_view text);
    Hasher& add(double value);  // by its bits; the two zeros count as one
    Hasher& add(std::uint64_t value);
    Hasher& add(const Hash& hash);
    Hasher& add(std::span<const double> values);
    Hash finish() const;

private:
    struct State;
    std::unique_ptr<State> state_;
};

std::string hex_text(const Hash& hash);

struct HashOfHash {
    std::size_t operator()(const Hash& hash) const { return static_cast<std::size_t>(hash.low); }
};

}  // namespace plume
