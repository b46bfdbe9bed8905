#include "core/evaluation/result_cache.hpp"

namespace plume {

Made ResultCache::find(const Hash& key) {
    const std::scoped_lock lock(mutex_);
    const auto found = places_.find(key);
    if (found == places_.end()) return {};
    entries_.splice(entries_.begin(), entries_, found->second);
    return found->second->made;
}

void ResultCache::put(const Hash& key, Made made) {
    const std::size_t size = bytes_of(*made.value);
    const std::scoped_lock lock(mutex_);
    if (size > limit_ || places_.contains(key)) return;
    entries_.push_front({key, std::move(made), size});
    places_[key] = entries_.begin();
    bytes_ += size;
    while (bytes_ > limit_) {
        bytes_ -= entries_.back().bytes;
        places_.erase(entries_.back().key);
        entries_.pop_back();
    }
}

std::size_t ResultCache::bytes() const {
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

}  // namespace plume
