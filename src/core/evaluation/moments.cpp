#include "core/evaluation/moments.hpp"

#include <algorithm>
#include <cmath>

namespace plume {

Moment moment_at(const Timeline& time, double seconds) {
    return {static_cast<std::size_t>(std::llround(std::max(seconds, 0.0) * time.rate)), time.rate};
}

std::optional<MomentChains::Link> MomentChains::find(const Hash& chain, std::size_t frame) const {
    const std::scoped_lock lock(mutex_);
    const auto found = chains_.find(chain);
    if (found == chains_.end() || frame >= found->second.links.size()) return {};
    return found->second.links[frame];
}

void MomentChains::set(const Hash& chain, std::size_t frame, const Link& link) {
    const std::scoped_lock lock(mutex_);
    std::vector<Link>& links = used(chain).links;
    if (frame < links.size() && links[frame] == link) return;
    links_ -= links.size();
    links.resize(std::min(links.size(), frame));
    // Links before it that are not known any more leave nothing to go on from.
    if (links.size() == frame) links.push_back(link);
    links_ += links.size();
    make_room();
}

void MomentChains::take_over(const Hash& from, const Hash& to, std::size_t frames) {
    const std::scoped_lock lock(mutex_);
    const auto found = chains_.find(from);
    if (found == chains_.end()) return;
    const std::vector<Link>& known = found->second.links;
    const auto alike = static_cast<std::ptrdiff_t>(std::min(known.size(), frames));
    std::vector<Link>& links = used(to).links;
    if (std::ssize(links) >= alike) return;
    links_ -= links.size();
    links.assign(known.begin(), known.begin() + alike);
    links_ += links.size();
    make_room();
}

MomentChains::Chain& MomentChains::used(const Hash& chain) {
    Chain& one = chains_[chain];
    one.used = ++used_;
    return one;
}

// Whatever was used longest ago goes; the last that was used stays, however long it is.
void MomentChains::make_room() {
    while (chains_.size() > 1 && (links_ > most_links || chains_.size() > most_chains)) {
        const auto oldest =
            std::ranges::min_element(chains_, {}, [](const auto& chain) { return chain.second.used; });
        links_ -= oldest->second.links.size();
        chains_.erase(oldest);
    }
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

void MomentsMade::hand_over(const Hash& from, const Hash& to, std::size_t frames) {
    const std::scoped_lock lock(mutex_);
    const auto found = made_.find(from);
    if (found == made_.end()) return;
    std::map<std::size_t, Hash>&made = found->second, &others = made_[to];
    const std::size_t before = made.size() + others.size();
    const auto end = made.lower_bound(frames);
    others.insert(made.begin(), end);
    made.erase(made.begin(), end);
    count_ -= before - (made.size() + others.size());
}

std::vector<std::pair<std::size_t, Hash>> MomentsMade::of(const Hash& chain) const {
    const std::scoped_lock lock(mutex_);
    const auto found = made_.find(chain);
    if (found == made_.end()) return {};
    return {found->second.begin(), found->second.end()};
}

}  // namespace plume
