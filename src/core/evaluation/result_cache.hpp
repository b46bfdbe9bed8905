#pragma once
// Results by content hash, least recently used first to go when a bound in bytes is passed. Thread-safe.

#include <list>
#include <mutex>
#include <string>
#include <unordered_map>
#include <vector>

#include "core/base/hash.hpp"
#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

// A result and what its step remarked about it.
struct Made {
    ValuePointer value;
    std::vector<Remark> remarks = {};
};

class ResultCache {
public:
    explicit ResultCache(std::size_t bytes_limit) : limit_(bytes_limit) {}

    Made find(const Hash& key);  // without a value when it is not there
    // A value larger than the whole bound is not kept.
    void put(const Hash& key, Made made);
    std::size_t bytes() const;

private:
    struct Entry {
        Hash key;
        Made made;
        std::size_t bytes;
    };
    mutable std::mutex mutex_;
    std::list<Entry> entries_;  // most recently used first
    std::unordered_map<Hash, std::list<Entry>::iterator, HashOfHash> places_;
    std::size_t limit_;
    std::size_t bytes_ = 0;
};

}  // namespace plume
