#pragma once
// The store of results, and of work on them that is under way, by content hash. Whoever wants a result that
// somebody else is making waits for it instead of making it, too: the page, ghosts, and all that ask later.
// Thread-safe.
//
// What is let go of first when a bound in bytes is passed is what takes much room, was quickly made and has
// not been asked for lately (Cao, Irani, Cost-aware WWW proxy caching algorithms, USITS 1997: every result is
// worth its seconds a byte; the worth of the one that went is added to all that come or are asked for later).

#include <condition_variable>
#include <map>
#include <memory>
#include <mutex>
#include <unordered_map>
#include <vector>

#include "core/base/hash.hpp"
#include "core/base/run.hpp"
#include "core/data/value.hpp"
#include "core/evaluation/moments.hpp"

namespace plume {

// A result and what its step remarked about it.
struct Made {
    ValuePointer value;
    std::vector<Remark> remarks = {};
};

class ResultStore {
    struct UnderWay {
        bool over = false;
        Made made;  // without a value when it was given up
    };

public:
    explicit ResultStore(std::size_t bytes_limit) : limit_(bytes_limit) {}

    // The right to make what a key names, or that, when it is there. While a claim lasts others who claim the
    // same key wait; whoever holds one claims nothing else.
    class Claim {
    public:
        Claim(ResultStore* store, const Hash& key, Made made, std::shared_ptr<UnderWay> work)
            : store_(store), key_(key), made_(std::move(made)), work_(std::move(work)) {}
        Claim(const Claim&) = delete;
        Claim& operator=(const Claim&) = delete;
        ~Claim();

        const Made& made() const { return made_; }  // without a value when it is to be made
        // What was made, in so many seconds: kept, and handed to those who wait.
        void fulfil(Made made, double seconds);

    private:
        ResultStore* store_;
        Hash key_;
        Made made_;
        std::shared_ptr<UnderWay> work_;  // nullptr when it is there, or when waiting was cancelled
    };
    // Waits while somebody else makes it, as long as the run is not cancelled.
    Claim claim(const Hash& key, const Run& run);

    Made find(const Hash& key);  // without a value when it is not there; does not wait
    // A value larger than the whole bound is not kept.
    void put(const Hash& key, Made made, double seconds = 0);
    // Whoever has it keeps it.
    void let_go_of(const Hash& key);
    std::size_t bytes() const;
    std::size_t waiting() const;  // how many wait for a result that is being made
    MomentChains& moments() { return moments_; }
    MomentsMade& moments_made() { return moments_made_; }
    // Frames at which the result of a step is kept, in ascending order; by its chain.
    std::vector<std::size_t> kept_frames(const Hash& chain) const;

private:
    using Order = std::pair<double, std::uint64_t>;  // worth, and when it was asked for
    struct Entry {
        Made made;
        std::size_t bytes;
        double worth;  // seconds a byte
        Order order;
    };
    void end_work(const Hash& key, const std::shared_ptr<UnderWay>& work);
    Made find_locked(const Hash& key);
    void erase_locked(const Hash& key);
    Order order_of(double worth) { return {let_go_worth_ + worth, ++asked_}; }

    mutable std::mutex mutex_;
    std::condition_variable changed_;
    std::unordered_map<Hash, Entry, HashOfHash> entries_;
    std::map<Order, Hash> by_worth_;
    std::unordered_map<Hash, std::shared_ptr<UnderWay>, HashOfHash> under_way_;
    MomentChains moments_;
    MomentsMade moments_made_;
    std::size_t limit_;
    std::size_t bytes_ = 0, waiting_ = 0;
    double let_go_worth_ = 0;  // of what went last
    std::uint64_t asked_ = 0;
};

}  // namespace plume
