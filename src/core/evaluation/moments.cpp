#include "core/evaluation/moments.hpp"

#include <cmath>

namespace plume {

Moment moment_at(const Timeline& time, double seconds) {
    return {static_cast<std::size_t>(std::llround(std::max(seconds, 0.0) * time.rate)), time.rate};
}

std::optional<MomentChains::Link> MomentChains::find(const Hash& chain, std::size_t frame) const {
    const std::scoped_lock lock(mutex_);
    const auto found = chains_.find(chain);
    if (found == chains_.end() || frame >= found->second.size()) return {};
    return found->second[frame];
}

void MomentChains::set(const Hash& chain, std::size_t frame, const Link& link) {
    const std::scoped_lock lock(mutex_);
    if (chains_.size() >= most_chains && !chains_.contains(chain)) chains_.clear();
    std::vector<Link>& links = chains_[chain];
    if (frame < links.size() && links[frame] == link) return;
    links.resize(std::min(links.size(), frame));
    // Links before it that are not known any more leave nothing to go on from.
    if (links.size() == frame) links.push_back(link);
}

Hash chain_of(const Hash& recipe, double rate) {
    return Hasher().add(recipe).add(rate).finish();
}

void MomentsMade::note(const Hash& chain, std::size_t frame, const Hash& key) {
    const std::scoped_lock lock(mutex_);
    if (count_ >= most_moments) {
        made_.clear();
        count_ = 0;
    }
    if (made_[chain].insert_or_assign(frame, key).second) ++count_;
}

std::vector<std::pair<std::size_t, Hash>> MomentsMade::of(const Hash& chain) const {
    const std::scoped_lock lock(mutex_);
    const auto found = made_.find(chain);
    if (found == made_.end()) return {};
    return {found->second.begin(), found->second.end()};
}

}  // namespace plume
