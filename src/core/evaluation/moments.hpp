#pragma once
// Moments of a study that moves. Time is a name that expressions and formulas read like a control, in
// seconds; only what reads it, or reads something that does, has it in its key. A kind that declares
// `advance` goes on from its moment before, and its key is made of that moment's key and of its inputs.

#include <map>
#include <mutex>
#include <optional>
#include <vector>

#include "core/base/hash.hpp"
#include "core/study/study.hpp"

namespace plume {

struct Moment {
    std::size_t frame = 0;
    double rate = 30;  // frames a second, above 0
    double seconds() const { return static_cast<double>(frame) / rate; }
    bool operator==(const Moment&) const = default;
};
// The frame nearest to so many seconds, of the study's timeline.
Moment moment_at(const Timeline& time, double seconds);

// The keys of every moment of steps that go on from one to the next, so that a moment that is still kept is
// found without making those before it. By the recipe of the step. Thread-safe.
class MomentChains {
public:
    struct Link {
        Hash inputs;  // the key of what the step was made from
        Hash key;     // of its result
        bool operator==(const Link&) const = default;
    };
    std::optional<Link> find(const Hash& chain, std::size_t frame) const;
    // Another link than was there takes those behind it along. Frames come in order.
    void set(const Hash& chain, std::size_t frame, const Link& link);
    // The first links of one, so many at most, become those of another, where that has fewer.
    void take_over(const Hash& from, const Hash& to, std::size_t frames);

private:
    static constexpr std::size_t most_chains = 1024, most_links = 1'000'000;
    struct Chain {
        std::vector<Link> links;
        std::uint64_t used = 0;
    };
    Chain& used(const Hash& chain);
    void make_room();

    mutable std::mutex mutex_;
    std::map<Hash, Chain> chains_;
    std::size_t links_ = 0;  // of all of them
    std::uint64_t used_ = 0;
};

// Recipes as they are told apart from moment to moment: by the rate, of those that move.
Hash chain_of(const Hash& recipe, double rate);

// The key that a step's result had at each moment it was made at, whether it is still kept or not. By the
// chain of the step. Thread-safe.
class MomentsMade {
public:
    void note(const Hash& chain, std::size_t frame, const Hash& key);
    // Those before a frame become those of another chain.
    void hand_over(const Hash& from, const Hash& to, std::size_t frames);
    // Frames in ascending order with the keys.
    std::vector<std::pair<std::size_t, Hash>> of(const Hash& chain) const;

private:
    static constexpr std::size_t most_moments = 1'000'000;
    mutable std::mutex mutex_;
    std::map<Hash, std::map<std::size_t, Hash>> made_;
    std::size_t count_ = 0;
};

}  // namespace plume
