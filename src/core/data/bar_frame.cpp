#include "core/data/bar_frame.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <utility>

#include "core/base/parallel.hpp"
#include "core/data/address_text.hpp"

namespace plume {
namespace {

using Parts = BarFrame::Parts;

Error broken(std::string message) {
    return {ErrorCode::broken_invariant, "A frame", std::move(message), ""};
}

const char* fault_in_counts(const Parts& parts) {
    for (const Field& field : parts.fields)
        if (field.values.size() != parts.members.size()) return "needs one number of each field per member";
    if (parts.node_marks && parts.node_marks->size() != parts.nodes.address_count())
        return "needs one mark per node";
    return nullptr;
}

const char* fault_in_ends(const Parts& parts) {
    const std::size_t nodes = parts.nodes.address_count();
    for (const Member& member : parts.members) {
        if (member.from >= nodes || member.to >= nodes) return "has a member that ends at no node";
        if (member.from == member.to) return "has a member that ends where it begins";
        if (!parts.nodes.present(member.from) || !parts.nodes.present(member.to))
            return "has a member that ends at a gap";
    }
    return nullptr;
}

std::string mark_of(const Parts& parts, std::size_t node) {
    return parts.node_marks ? (*parts.node_marks)[node] : address_text(parts.nodes, node);
}
std::string mark_of(const Parts& parts, const Member& member) {
    return mark_of(parts, member.from) + "–" + mark_of(parts, member.to);
}

Status check_lengths(const Parts& parts) {
    const std::size_t count = parts.members.size();
    std::atomic<std::size_t> first = count;
    parallel_blocks(count, usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const Member& member = parts.members[at];
            const double size = length(parts.nodes.point(member.to) - parts.nodes.point(member.from));
            if (size > 0 && std::isfinite(size)) continue;
            std::size_t known = first;
            while (at < known && !first.compare_exchange_weak(known, at)) {
            }
            return;
        }
    });
    if (first == count) return Done{};
    const Member& member = parts.members[first];
    const std::string where = "The member " + mark_of(parts, member);
    for (const std::uint32_t end : {member.from, member.to})
        if (!is_finite(parts.nodes.point(end)))
            return Error{ErrorCode::not_finite, where,
                         "ends at the node " + mark_of(parts, end) + ", which is at no finite place",
                         "Mend the coordinates of that point."};
    return Error{ErrorCode::out_of_range, where, "has no length: both its ends are at one place",
                 "Move one of them, or merge coincident points before."};
}

// Without the points that no member ends at.
PointLattice ended_at(const PointLattice& nodes, const std::vector<Member>& members) {
    std::vector<std::uint8_t> used(nodes.address_count(), 0);
    for (const Member& member : members)
        used[member.from] = used[member.to] = 1;
    const auto count = static_cast<std::size_t>(std::ranges::count(used, std::uint8_t{1}));
    if (count == nodes.point_count()) return nodes;
    return *PointLattice::make({.arrangement = nodes.arrangement(),
                                .counts = nodes.counts(),
                                .closed = {nodes.closed(0), nodes.closed(1), nodes.closed(2)},
                                .x = nodes.x(),
                                .y = nodes.y(),
                                .z = nodes.z(),
                                .present = std::move(used),
                                .fields = nodes.fields()});
}

}  // namespace

std::string_view plain_name(Way way) {
    static constexpr std::array<std::string_view, way_count> names{
        "along i", "along j", "along k", "diagonal", "counter-diagonal", "web", "other"};
    return names[static_cast<std::size_t>(way)];
}

Result<BarFrame> BarFrame::make(Parts parts) {
    if (parts.nodes.address_count() >= static_cast<std::uint32_t>(-1))
        return broken("has more nodes than can be counted");
    if (const char* fault = fault_in_counts(parts)) return broken(fault);
    if (const char* fault = fault_in_ends(parts)) return broken(fault);
    const std::vector<std::uint8_t> repeated = repeated_members(parts.nodes.address_count(), parts.members);
    if (std::ranges::find(repeated, std::uint8_t{1}) != repeated.end())
        return broken("has two members between the same nodes");
    if (Status checked = check_lengths(parts); !checked) return checked.error();
    parts.nodes = ended_at(parts.nodes, parts.members);
    return BarFrame(std::make_shared<const Parts>(std::move(parts)));
}

Result<BarFrame> BarFrame::with_nodes(PointLattice nodes) const {
    Parts parts = *parts_;
    parts.nodes = std::move(nodes);
    if (parts.nodes.address_count() != this->nodes().address_count())
        return broken("has other nodes than before");
    if (const char* fault = fault_in_ends(parts)) return broken(fault);
    if (Status checked = check_lengths(parts); !checked) return checked.error();
    return BarFrame(std::make_shared<const Parts>(std::move(parts)));
}

BarFrame BarFrame::with_field(Field field) const {
    assert(field.values.size() == member_count());
    Parts parts = *parts_;
    std::erase_if(parts.fields, [&](const Field& other) { return other.name == field.name; });
    parts.fields.push_back(std::move(field));
    return BarFrame(std::make_shared<const Parts>(std::move(parts)));
}

// Members by the lower of their ends, in their order: with those of one node side by side, what ends at a
// node twice shows by a mark that was left on the other end.
std::vector<std::uint8_t> repeated_members(std::size_t node_count, const std::vector<Member>& members) {
    std::vector<std::uint32_t> first(node_count + 1, 0), sorted(members.size());
    for (const Member& member : members)
        ++first[std::min(member.from, member.to) + 1];
    for (std::size_t node = 0; node < node_count; ++node)
        first[node + 1] += first[node];
    std::vector<std::uint32_t> next(first.begin(), first.end() - 1);
    for (std::uint32_t at = 0; at < members.size(); ++at)
        sorted[next[std::min(members[at].from, members[at].to)]++] = at;
    std::vector<std::uint8_t> repeated(members.size(), 0);
    std::vector<std::uint32_t> met_from(node_count, static_cast<std::uint32_t>(-1));
    for (std::uint32_t node = 0; node < node_count; ++node)
        for (std::uint32_t at = first[node]; at < first[node + 1]; ++at) {
            const Member& member = members[sorted[at]];
            if (std::exchange(met_from[std::max(member.from, member.to)], node) == node)
                repeated[sorted[at]] = 1;
        }
    return repeated;
}

std::vector<std::uint32_t> valences_of(const BarFrame& frame) {
    std::vector<std::uint32_t> valences(frame.nodes().address_count(), 0);
    for (const Member& member : frame.members()) {
        ++valences[member.from];
        ++valences[member.to];
    }
    return valences;
}

std::string node_mark(const BarFrame& frame, std::size_t node) {
    return mark_of(frame.parts(), node);
}

std::string member_mark(const BarFrame& frame, const Member& member) {
    return mark_of(frame.parts(), member);
}

}  // namespace plume
