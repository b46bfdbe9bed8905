#include "core/growth/colonisation.hpp"

#include <algorithm>
#include <cmath>
#include <optional>
#include <span>

#include "core/geometry/measures/point_tree.hpp"
#include "core/growth/goal_tree.hpp"

namespace plume {
namespace {

constexpr std::uint32_t none = PartTree::none;

class Colony {
public:
    Colony(const std::vector<Vec3>& goals, const Colonisation& wishes, const Run& run)
        : goals_(goals),
          wishes_(wishes),
          run_(run),
          tree_(goals),
          nearest_(goals.size(), none),
          distance_(goals.size(), GoalTree::unseen),
          beyond_(goals.size()),
          left_(goals.size()) {
        made_.reached.assign(goals.size(), 0);
    }

    Result<Colonised> all(const std::vector<Placement>& roots) {
        made_.generations = {0};
        for (const Placement& root : roots)
            add(root, none, {});
        made_.generations.push_back(roots.size());
        see_from(0);
        while (left_ > 0) {
            if (run_.cancelled()) return cancelled_error();
            run_.report(1 - static_cast<double>(left_) / static_cast<double>(goals_.size()));
            if (made_.generations.size() - 2 >= wishes_.generations)
                return ended(ColonisationEnd::generations);
            const std::size_t first = made_.placements.size();
            if (!pulled_on() && !pushed_on()) return ended(ColonisationEnd::stuck);
            if (made_.placements.size() > wishes_.most) {
                cut_back(first);
                return ended(ColonisationEnd::most);
            }
            made_.generations.push_back(made_.placements.size());
            see_from(first);
        }
        return ended(ColonisationEnd::reached);
    }

private:
    Result<Colonised> ended(ColonisationEnd end) {
        made_.end = end;
        return std::move(made_);
    }

    // Goals that draw a part.
    struct Drawing {
        std::uint32_t count = 0, nearest = 0;
    };
    void add(const Placement& placement, std::uint32_t parent, Drawing drawing) {
        made_.drawn_by.push_back(drawing.count);
        made_.nearest_goal.push_back(drawing.nearest);
        made_.placements.push_back(placement);
        made_.parents.push_back(parent);
        made_.depths.push_back(parent == none ? 0 : made_.depths[parent] + 1);
        last_child_.push_back(none);
        earlier_child_.push_back(parent == none ? none : last_child_[parent]);
        if (parent != none) last_child_[parent] = static_cast<std::uint32_t>(made_.placements.size() - 1);
    }

    void cut_back(std::size_t count) {
        made_.placements.resize(count);
        made_.parents.resize(count);
        made_.depths.resize(count);
        made_.drawn_by.resize(count);
        made_.nearest_goal.resize(count);
    }

    // What the parts from `first` on are nearest to, and what they reach.
    void see_from(std::size_t first) {
        for (std::size_t part = first; part < made_.placements.size(); ++part)
            tree_.for_each_nearer(made_.placements[part].origin, wishes_.reach,
                                  [&](std::size_t goal, double distance) {
                                      if (distance * GoalTree::nearer <= wishes_.near) {
                                          made_.reached[goal] = 1;
                                          --left_;
                                          return GoalTree::gone;
                                      }
                                      nearest_[goal] = static_cast<std::uint32_t>(part);
                                      return distance_[goal] = distance;
                                  });
        tree_.settle();
    }

    // One more part for each that goals pull at. Whether there is any.
    bool pulled_on() {
        pulls_.clear();
        for (std::size_t goal = 0; goal < goals_.size(); ++goal)
            if (!made_.reached[goal] && nearest_[goal] != none)
                pulls_.push_back({nearest_[goal], static_cast<std::uint32_t>(goal)});
        std::ranges::sort(pulls_);
        const std::size_t before = made_.placements.size();
        for (std::size_t at = 0; at < pulls_.size();) {
            std::size_t end = at;
            while (end < pulls_.size() && pulls_[end].first == pulls_[at].first)
                ++end;
            grow_from(pulls_[at].first, std::span(pulls_).subspan(at, end - at));
            at = end;
        }
        return made_.placements.size() > before;
    }

    using Pull = std::pair<std::uint32_t, std::uint32_t>;  // part, goal
    void grow_from(std::uint32_t part, std::span<const Pull> pulls) {
        const Vec3 from = made_.placements[part].origin;
        Vec3 sum{0, 0, wishes_.up};
        std::uint32_t nearest = pulls.front().second;
        for (const auto& [_, goal] : pulls) {
            sum = sum + unit_or_zero(goals_[goal] - from);
            if (distance_[goal] < distance_[nearest] * GoalTree::nearer) nearest = goal;
        }
        const auto count = static_cast<std::uint32_t>(pulls.size());
        if (grow_along(part, sum, {count, nearest}) || grow_along(part, goals_[nearest] - from, {1, nearest}))
            return;
        // It has made all that it can for them: another part has to come nearer, or none does.
        for (const auto& [_, goal] : pulls)
            nearest_[goal] = none;
    }

    bool grow_along(std::uint32_t part, Vec3 direction, Drawing drawing) {
        const Vec3 along = unit_or_zero(direction);
        // Of goals that all but cancel out only rounding is left.
        if (along == Vec3{} || length(direction) < 1e-9) return false;
        const Vec3 to = made_.placements[part].origin + along * wishes_.step;
        for (std::uint32_t child = last_child_[part]; child != none; child = earlier_child_[child])
            if (length(made_.placements[child].origin - to) < 1e-3 * wishes_.step) return false;
        add(placement_of(to, along, made_.placements[part].along), part, drawing);
        return true;
    }

    // Of goals beyond reach, the part that is nearest: only parts that came since it was last asked for can
    // be nearer now.
    void look_beyond_reach() {
        std::vector<Vec3> places;
        for (std::size_t part = looked_from_; part < made_.placements.size(); ++part)
            places.push_back(made_.placements[part].origin);
        const PointTree parts(places);
        for (std::size_t goal = 0; goal < goals_.size(); ++goal) {
            if (!is_beyond_reach(goal)) continue;
            const double distance = std::sqrt(parts.nearest_square(goals_[goal]));
            if (!(distance < beyond_[goal].distance * GoalTree::nearer)) continue;
            beyond_[goal] = {distance,
                             static_cast<std::uint32_t>(looked_from_ + first_at(places, goal, distance))};
        }
        looked_from_ = made_.placements.size();
    }
    // The first of the places that are so near to a goal, but for rounding.
    std::size_t first_at(const std::vector<Vec3>& places, std::size_t goal, double distance) const {
        const auto found = std::ranges::find_if(
            places, [&](Vec3 place) { return length(goals_[goal] - place) * GoalTree::nearer <= distance; });
        return static_cast<std::size_t>(found - places.begin());
    }
    // Within reach others were, and their part could do nothing for them.
    bool is_beyond_reach(std::size_t goal) const {
        return !made_.reached[goal] && distance_[goal] == GoalTree::unseen;
    }

    // Where nothing is within reach: one more part from the one that is nearest to any goal.
    bool pushed_on() {
        look_beyond_reach();
        std::optional<std::size_t> nearest;
        for (std::size_t goal = 0; goal < goals_.size(); ++goal)
            if (is_beyond_reach(goal) &&
                (!nearest || beyond_[goal].distance < beyond_[*nearest].distance * GoalTree::nearer))
                nearest = goal;
        if (!nearest) return false;
        const std::uint32_t part = beyond_[*nearest].part;
        return grow_along(part, goals_[*nearest] - made_.placements[part].origin,
                          {1, static_cast<std::uint32_t>(*nearest)});
    }

    struct Beyond {
        double distance = GoalTree::unseen;
        std::uint32_t part = none;
    };
    const std::vector<Vec3>& goals_;
    const Colonisation& wishes_;
    const Run& run_;
    GoalTree tree_;
    std::vector<std::uint32_t> nearest_;  // of each goal: the part, `none` while none is within reach
    std::vector<double> distance_;
    std::vector<Beyond> beyond_;   // of each goal, while it is beyond reach
    std::size_t looked_from_ = 0;  // the first part that was not looked at from goals beyond reach
    std::size_t left_;
    std::vector<std::uint32_t> last_child_, earlier_child_;  // of each part
    std::vector<Pull> pulls_;
    Colonised made_;
};

}  // namespace

Result<Colonised> colonise(const std::vector<Placement>& roots, const std::vector<Vec3>& goals,
                           const Colonisation& wishes, const Run& run) {
    return Colony(goals, wishes, run).all(roots);
}

}  // namespace plume
