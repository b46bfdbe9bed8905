#include "core/geometry/frames/frame_assembly.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/parts/coincident_points.hpp"
#include "core/geometry/parts/subset.hpp"

namespace plume {
namespace {

using Parts = BarFrame::Parts;

// What rounding leaves between places that are one by their making.
constexpr double one_place = 1e-9;

bool any_without_length(const Parts& parts) {
    return std::ranges::any_of(parts.members, [&](const Member& member) {
        return parts.nodes.point(member.from) == parts.nodes.point(member.to);
    });
}

void keep_members(Parts& parts, const std::vector<std::size_t>& kept) {
    std::vector<Member> members;
    members.reserve(kept.size());
    for (const std::size_t at : kept)
        members.push_back(parts.members[at]);
    parts.members = std::move(members);
    parts.fields = gathered(parts.fields, kept);
}

// How many were repeated.
std::size_t leave_out_repeated(Parts& parts) {
    const std::vector<std::uint8_t> repeated = repeated_members(parts.nodes.address_count(), parts.members);
    const auto count = static_cast<std::size_t>(std::ranges::count(repeated, std::uint8_t{1}));
    if (count == 0) return 0;
    std::vector<std::size_t> kept;
    for (std::size_t at = 0; at < repeated.size(); ++at)
        if (repeated[at] == 0) kept.push_back(at);
    keep_members(parts, kept);
    return count;
}

struct Welded {
    std::size_t nodes = 0, members = 0;  // that are no more
};

Welded weld(Parts& parts, double tolerance_abs) {
    const auto [places, addresses] = finite_points(parts.nodes);
    const std::vector<std::size_t> first = first_within(places, tolerance_abs);
    std::vector<std::uint32_t> becomes(parts.nodes.address_count());
    for (std::size_t at = 0; at < becomes.size(); ++at)
        becomes[at] = static_cast<std::uint32_t>(at);
    Welded welded;
    for (std::size_t at = 0; at < first.size(); ++at) {
        welded.nodes += first[at] != at ? 1 : 0;
        becomes[addresses[at]] = static_cast<std::uint32_t>(addresses[first[at]]);
    }
    std::vector<std::size_t> kept;
    for (std::size_t at = 0; at < parts.members.size(); ++at) {
        Member& member = parts.members[at];
        member.from = becomes[member.from];
        member.to = becomes[member.to];
        if (member.from != member.to) kept.push_back(at);
    }
    welded.members = parts.members.size() - kept.size();
    if (welded.members > 0) keep_members(parts, kept);
    welded.members += leave_out_repeated(parts);
    return welded;
}

void say(const Welded& welded, const Run& run) {
    if (welded.nodes == 0) return;
    const std::string gone = welded.members > 0 ? "; " + count_text(welded.members, "member", "members") +
                                                      " between them, or beside another, left out"
                                                : "";
    run.remark(count_text(welded.nodes, "node became", "nodes became") +
               " one with another at the same place" + gone + ".");
}

Result<BarFrame> made(Parts parts, const Run& run) {
    if (run.cancelled()) return cancelled_error();
    if (parts.members.empty())
        return Error{ErrorCode::empty_input, "", "There is no member to be made of it",
                     "Take more points, or link more of them."};
    return BarFrame::make(std::move(parts));
}

}  // namespace

Result<BarFrame> assembled_frame(Parts parts, const Run& run) {
    if (any_without_length(parts)) {
        say(weld(parts, one_place * parts.nodes.bounds().diagonal()), run);
    } else if (const std::size_t repeated = leave_out_repeated(parts); repeated > 0) {
        run.remark(count_text(repeated, "member", "members") + " between nodes that are joined already " +
                   (repeated == 1 ? "was" : "were") + " left out.");
    }
    return made(std::move(parts), run);
}

Result<BarFrame> welded_frame(Parts parts, double tolerance_abs, const Run& run) {
    say(weld(parts, tolerance_abs), run);
    return made(std::move(parts), run);
}

}  // namespace plume
