#pragma once
// BarFrame: nodes, and members between them: the bars of a tower, the edges of a dome.
//
// Layout. The nodes are the points of a lattice, whose addresses name them; where a frame was put together or
// cut, marks of their own do. A member stands between two of them, by their flat index, and knows which way
// it runs and in which row. Fields of the lattice are numbers on nodes; the frame's own hold one per member.
// No two members join the same nodes, none is without length, and points that no member ends at are gaps.
//
// Immutable and cheap to copy; safe to read from any number of threads.

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "core/data/point_lattice.hpp"

namespace plume {

// Diagonals run to the next row with or against i; webs between layers.
enum class Way : std::uint8_t { along_i, along_j, along_k, diagonal, counter, web, other };
inline constexpr std::size_t way_count = 7;
std::string_view plain_name(Way way);  // "along i", "diagonal", ...

struct Member {
    std::uint32_t from = 0, to = 0;
    Way way = Way::other;
    std::uint32_t row = 0;  // j of those along i, i of those along j, the lower row of diagonals and webs
    bool operator==(const Member&) const = default;
};

class BarFrame {
public:
    struct Parts {
        PointLattice nodes;
        std::vector<Member> members;
        std::vector<Field> fields = {};
        // One per address; nullptr where addresses name the nodes.
        std::shared_ptr<const std::vector<std::string>> node_marks = {};
    };

    // Errors: broken_invariant for members between points that are not there or that others join already,
    // and for counts that disagree; out_of_range, naming the first member, where one has no length or ends at
    // a place that is not finite. O(nodes + members).
    static Result<BarFrame> make(Parts parts);

    const PointLattice& nodes() const { return parts_->nodes; }
    const std::vector<Member>& members() const { return parts_->members; }
    std::size_t member_count() const { return parts_->members.size(); }
    std::size_t node_count() const { return parts_->nodes.point_count(); }
    const std::vector<Field>& fields() const { return parts_->fields; }
    const Parts& parts() const { return *parts_; }

    Vec3 start(const Member& member) const { return nodes().point(member.from); }
    Vec3 end(const Member& member) const { return nodes().point(member.to); }
    double length_of(const Member& member) const { return length(end(member) - start(member)); }

    // The same with its nodes elsewhere or with other numbers on them; the arrangement has to be the same.
    Result<BarFrame> with_nodes(PointLattice nodes) const;
    // One more number per member; one of that name is replaced.
    BarFrame with_field(Field field) const;

private:
    explicit BarFrame(std::shared_ptr<const Parts> parts) : parts_(std::move(parts)) {}
    std::shared_ptr<const Parts> parts_;
};

// 1 for each member between nodes that an earlier one joins, either way round. The nodes have to exist.
std::vector<std::uint8_t> repeated_members(std::size_t node_count, const std::vector<Member>& members);

// How many members end at each address.
std::vector<std::uint32_t> valences_of(const BarFrame& frame);

// The mark of a node: its address, or its own where it has one. The mark of a member names both its ends,
// "3,2–4,2": it stays the same as long as they do.
std::string node_mark(const BarFrame& frame, std::size_t node);
std::string member_mark(const BarFrame& frame, const Member& member);

}  // namespace plume
