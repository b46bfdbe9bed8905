#include "core/growth/branch_tree.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/parts/subset.hpp"

namespace plume {
namespace {

constexpr std::uint32_t none = PartTree::none;

// Siblings that are looked at for one at the same place: of more, copies at one place are rare, and looking
// at all of them would take their square.
constexpr std::size_t compared_siblings = 32;

class Welder {
public:
    Welder(const Placements& grown, double slack) : grown_(grown), slack_(slack) {}

    Result<BranchTree> all(const Run& run) {
        const PartTree& parts = *grown_.tree();
        standing_.assign(parts.parents.size(), none);
        for (std::uint32_t part = 0; part < parts.parents.size(); ++part) {
            if (part % 65536 == 0 && run.cancelled()) return cancelled_error();
            const std::uint32_t parent = parts.parents[part];
            const std::uint32_t before = parent == none ? none : standing_[parent];
            standing_[part] = grown_.origins().present(part) ? node_at(part, before) : before;
        }
        return std::move(tree_);
    }

private:
    Vec3 place(std::uint32_t node) const { return grown_.placement(tree_.nodes[node]).origin; }

    std::uint32_t node_at(std::uint32_t part, std::uint32_t before) {
        const Vec3 here = grown_.placement(part).origin;
        if (before != none) {
            if (length(place(before) - here) <= slack_) return before;
            // Children of one node stand behind each other: those that came last are the likely ones.
            std::uint32_t sibling = last_child_[before];
            for (std::size_t looked = 0; sibling != none && looked < compared_siblings; ++looked) {
                if (length(place(sibling) - here) <= slack_) return sibling;
                sibling = earlier_child_[sibling];
            }
        }
        const auto node = static_cast<std::uint32_t>(tree_.nodes.size());
        tree_.nodes.push_back(part);
        tree_.before.push_back(before);
        last_child_.push_back(none);
        earlier_child_.push_back(before == none ? none : last_child_[before]);
        if (before != none) last_child_[before] = node;
        return node;
    }

    const Placements& grown_;
    double slack_;
    BranchTree tree_;
    std::vector<std::uint32_t> standing_;  // of each part, the node it or the nearest before it stands on
    std::vector<std::uint32_t> last_child_, earlier_child_;  // of each node
};

// Of each node, how many it carries.
std::vector<std::uint32_t> children_counts(const BranchTree& tree) {
    std::vector<std::uint32_t> counts(tree.nodes.size(), 0);
    for (const std::uint32_t before : tree.before)
        if (before != none) ++counts[before];
    return counts;
}

// Of each node, the thickest that it carries; the first of equal ones.
std::vector<std::uint32_t> main_children(const BranchTree& tree, const std::vector<double>& thicknesses) {
    std::vector<std::uint32_t> main(tree.nodes.size(), none);
    for (std::uint32_t node = 0; node < tree.nodes.size(); ++node) {
        const std::uint32_t before = tree.before[node];
        if (before == none) continue;
        if (main[before] == none || thicknesses[node] > thicknesses[main[before]]) main[before] = node;
    }
    return main;
}

// Nodes from where a curve begins to its end.
std::vector<std::vector<std::uint32_t>> runs_of(const BranchTree& tree,
                                                const std::vector<double>& thicknesses, BranchCurves which) {
    const std::vector<std::uint32_t> counts = children_counts(tree);
    const std::vector<std::uint32_t> main = main_children(tree, thicknesses);
    std::vector<std::vector<std::uint32_t>> runs;
    for (std::uint32_t end = 0; end < tree.nodes.size(); ++end) {
        if (counts[end] > 0 || tree.before[end] == none) continue;
        std::vector<std::uint32_t>& run = runs.emplace_back(1, end);
        for (std::uint32_t node = end; tree.before[node] != none;) {
            const std::uint32_t before = tree.before[node];
            run.push_back(before);
            if (which == BranchCurves::each_branch_once && main[before] != node) break;
            node = before;
        }
        std::ranges::reverse(run);
    }
    return runs;
}

Error nothing_joined() {
    return {ErrorCode::too_few_points, "", "have no part away from the one it came of",
            "Move parts in their rules, or keep all of them."};
}

}  // namespace

Result<BranchTree> branch_tree(const Placements& grown, const Run& run) {
    // A billionth of what is grown: rounding moves places by far less, and no member is that short.
    return Welder(grown, grown.origins().bounds().diagonal() * 1e-9).all(run);
}

std::vector<double> branch_thicknesses(const BranchTree& tree, double tip, double exponent) {
    std::vector<double> loads(tree.nodes.size(), 0);
    for (std::size_t node = loads.size(); node-- > 0;) {
        if (loads[node] == 0) loads[node] = 1;
        if (tree.before[node] != none) loads[tree.before[node]] += loads[node];
    }
    for (double& load : loads)
        load = tip * std::pow(load, 1 / exponent);
    return loads;
}

Result<BarFrame> branch_frame(const Placements& grown, const BranchTree& tree,
                              const std::vector<double>& thicknesses) {
    const Field* depths = grown.origins().field("depth");
    BarFrame::Parts parts{grown.origins(), {}};
    Doubles thick, depth;
    for (std::size_t node = 0; node < tree.nodes.size(); ++node) {
        if (tree.before[node] == none) continue;
        parts.members.push_back({tree.nodes[tree.before[node]], tree.nodes[node]});
        thick.push_back(thicknesses[node]);
        if (depths) depth.push_back(depths->values[tree.nodes[node]]);
    }
    if (parts.members.empty()) return nothing_joined();
    std::vector<std::uint8_t> joined(grown.origins().address_count(), 0);
    for (const Member& member : parts.members)
        joined[member.from] = joined[member.to] = 1;
    parts.nodes = with_gaps(grown.origins(), joined);
    parts.fields.push_back({"thickness", std::move(thick), a_length});
    if (depths) parts.fields.push_back({"depth", std::move(depth), plain_number});
    return BarFrame::make(std::move(parts));
}

Result<CurveSet> branch_curves(const Placements& grown, const BranchTree& tree,
                               const std::vector<double>& thicknesses, BranchCurves which, CurveShape shape,
                               const Run& run) {
    CurveSet curves;
    const auto runs = runs_of(tree, thicknesses, which);
    for (std::size_t at = 0; at < runs.size(); ++at) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(at) / static_cast<double>(runs.size()));
        CurvePoints points;
        Doubles thick;
        for (const std::uint32_t node : runs[at]) {
            points.points.push_back(grown.placement(tree.nodes[node]).origin);
            thick.push_back(thicknesses[node]);
        }
        // A side branch begins as thick as it is, not as what it stands on.
        if (tree.before[runs[at].front()] != none) thick[0] = thick[1];
        points.fields.push_back({"thickness", std::move(thick), a_length});
        auto curve = curve_through(std::move(points), shape);
        if (!curve) return curve.error();
        curves.curves.push_back(*std::move(curve));
    }
    if (curves.curves.empty()) return nothing_joined();
    return curves;
}

double branch_curve_points(const BranchTree& tree, BranchCurves which) {
    const std::vector<std::uint32_t> counts = children_counts(tree);
    if (which == BranchCurves::each_branch_once) return 2 * static_cast<double>(tree.nodes.size());
    std::vector<std::uint32_t> depths(tree.nodes.size(), 1);
    double points = 0;
    for (std::size_t node = 0; node < depths.size(); ++node) {
        if (tree.before[node] != none) depths[node] = depths[tree.before[node]] + 1;
        if (counts[node] == 0) points += depths[node];
    }
    return points;
}

}  // namespace plume
