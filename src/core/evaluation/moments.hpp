#pragma once
// Moments of a study that moves. Time is a name that expressions and formulas read like a control, in
// seconds; only what reads it, or reads something that does, has it in its key. A kind that declares
// `advance` goes on from its moment before, and its key is made of that moment's key and of its inputs.

#include <map>
#include <mutex>
#include <optional>
#include <vector>

#include "core/base/hash.hpp"
#include "core/formula/formula.hpp"
#include "core/study/study.hpp"

namespace plume {

struct Moment {
    std::size_t frame = 0;
    double rate = 24;  // frames a second, above 0
    double seconds() const { return static_cast<double>(frame) / rate; }
};

// The name of time in expressions; a control of that name stands before it.
inline constexpr std::string_view time_name = "time";

// What expressions of the study can read at a moment.
Scope scope_at(const Study& study, const std::optional<Moment>& moment);

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

private:
    static constexpr std::size_t most_chains = 256;
    mutable std::mutex mutex_;
    std::map<Hash, std::vector<Link>> chains_;
};

}  // namespace plume
