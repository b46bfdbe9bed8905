#include "core/evaluation/result_store.hpp"

#include <chrono>

namespace plume {
namespace {

// What finding and handing over takes, so that results made in no time differ by their size.
constexpr double least_seconds = 1e-5;
// How often whoever waits looks whether it is still to wait.
constexpr std::chrono::milliseconds between_looks{20};

}  // namespace

ResultStore::Claim::~Claim() {
    if (work_) store_->end_work(key_, work_);
}

void ResultStore::Claim::fulfil(Made made, double seconds) {
    store_->put(key_, made, seconds);
    if (!work_) return;
    work_->made = std::move(made);
    store_->end_work(key_, std::exchange(work_, nullptr));
}

ResultStore::Claim ResultStore::claim(const Hash& key, const Run& run) {
    std::unique_lock lock(mutex_);
    while (true) {
        if (Made made = find_locked(key); made.value) return {this, key, std::move(made), nullptr};
        std::shared_ptr<UnderWay>& work = under_way_[key];
        if (!work) {
            work = std::make_shared<UnderWay>();
            return {this, key, {}, work};
        }
        const std::shared_ptr<UnderWay> others = work;
        ++waiting_;
        while (!others->over && !run.cancelled())
            changed_.wait_for(lock, between_looks);
        --waiting_;
        if (!others->over) return {this, key, {}, nullptr};
        if (others->made.value) return {this, key, others->made, nullptr};
    }
}

void ResultStore::end_work(const Hash& key, const std::shared_ptr<UnderWay>& work) {
    {
        const std::scoped_lock lock(mutex_);
        work->over = true;
        under_way_.erase(key);
    }
    changed_.notify_all();
}

Made ResultStore::find_locked(const Hash& key) {
    const auto found = entries_.find(key);
    if (found == entries_.end()) return {};
    Entry& entry = found->second;
    by_worth_.erase(entry.order);
    entry.order = order_of(entry.worth);
    by_worth_.emplace(entry.order, key);
    return entry.made;
}

Made ResultStore::find(const Hash& key) {
    const std::scoped_lock lock(mutex_);
    return find_locked(key);
}

void ResultStore::put(const Hash& key, Made made, double seconds) {
    const std::size_t size = bytes_of(*made.value);
    const std::scoped_lock lock(mutex_);
    if (size > limit_ || entries_.contains(key)) return;
    while (bytes_ + size > limit_) {
        const auto [worth, least] = *by_worth_.begin();
        let_go_worth_ = worth.first;
        erase_locked(least);
    }
    const double worth = (seconds + least_seconds) / static_cast<double>(size + 1);
    const Order order = order_of(worth);
    entries_.emplace(key, Entry{std::move(made), size, worth, order});
    by_worth_.emplace(order, key);
    bytes_ += size;
}

void ResultStore::let_go_of(const Hash& key) {
    const std::scoped_lock lock(mutex_);
    erase_locked(key);
}

void ResultStore::erase_locked(const Hash& key) {
    const auto entry = entries_.find(key);
    if (entry == entries_.end()) return;
    bytes_ -= entry->second.bytes;
    by_worth_.erase(entry->second.order);
    entries_.erase(entry);
}

std::vector<std::size_t> ResultStore::kept_frames(const Hash& chain) const {
    std::vector<std::size_t> frames;
    const auto made = moments_made_.of(chain);
    const std::scoped_lock lock(mutex_);
    for (const auto& [frame, key] : made)
        if (entries_.contains(key)) frames.push_back(frame);
    return frames;
}

std::size_t ResultStore::waiting() const {
    const std::scoped_lock lock(mutex_);
    return waiting_;
}

std::size_t ResultStore::bytes() const {
    const std::scoped_lock lock(mutex_);
    return bytes_;
}

}  // namespace plume
