#include "core/evaluation/moments.hpp"

#include "core/study/study_scope.hpp"

namespace plume {

Scope scope_at(const Study& study, const std::optional<Moment>& moment) {
    Scope scope = scope_of(study);
    if (!moment || study.control(time_name)) return scope;
    return scope_with(scope, std::string(time_name), {moment->seconds(), plain_number});
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

}  // namespace plume
