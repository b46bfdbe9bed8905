#include "core/results/frame_columns.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <numbers>

#include "core/geometry/frames/node_normals.hpp"
#include "core/results/table_making.hpp"

namespace plume {

using namespace table_making;

namespace {

// What of a frame is gathered when the first cell asks for it.
class MeetingMembers {
public:
    explicit MeetingMembers(const BarFrame& frame) : frame_(frame) {}

    std::uint32_t count_at(std::size_t node) { return spokes().first[node + 1] - spokes().first[node]; }
    std::vector<double> angles(std::size_t node) { return angles_at(frame_, spokes(), node); }
    // Halves of members are numbered: 2 m begins at its start, 2 m + 1 at its end.
    double cut_of(std::uint32_t half) {
        const Spokes& all = spokes();
        const std::uint32_t node = origin_of(frame_, half);
        double least = std::numeric_limits<double>::infinity();
        for (std::uint32_t at = all.first[node]; at < all.first[node + 1]; ++at)
            if (all.half[at] != half) least = std::min(least, angle_between(frame_, half, all.half[at]));
        return std::isfinite(least) ? least / 2 : std::numbers::pi / 2;
    }

private:
    const Spokes& spokes() {
        if (!spokes_) spokes_ = std::make_unique<Spokes>(spokes_of(frame_));
        return *spokes_;
    }

    const BarFrame& frame_;
    std::unique_ptr<Spokes> spokes_;
};

}  // namespace

Table members_table(const BarFrame& frame) {
    const std::vector<Member>& members = frame.members();
    Table table{{}, members.size(), "members"};
    let_rows_be_items(table);
    add_text(table, "mark", [&](std::size_t row) { return member_mark(frame, members[row]); });
    add(table, "length", a_length, [&](std::size_t row) { return frame.length_of(members[row]); });
    add_text(table, "way", [&](std::size_t row) { return std::string(plain_name(members[row].way)); });
    add_whole(table, "row", false, [&](std::size_t row) { return static_cast<double>(members[row].row); });
    add_text(table, "from", [&](std::size_t row) { return node_mark(frame, members[row].from); });
    add_text(table, "to", [&](std::size_t row) { return node_mark(frame, members[row].to); });
    for (const Field& field : frame.fields())
        add_field(table, field);
    const auto meeting = std::make_shared<MeetingMembers>(frame);
    add(table, "from_cut", an_angle,
        [meeting](std::size_t row) { return meeting->cut_of(static_cast<std::uint32_t>(2 * row)); });
    add(table, "to_cut", an_angle,
        [meeting](std::size_t row) { return meeting->cut_of(static_cast<std::uint32_t>(2 * row + 1)); });
    return table;
}

Table nodes_table(const BarFrame& frame) {
    const PointLattice& nodes = frame.nodes();
    const auto rows = std::make_shared<std::vector<std::size_t>>();
    for (std::size_t node = 0; node < nodes.address_count(); ++node)
        if (nodes.present(node)) rows->push_back(node);
    Table table{{}, rows->size(), "nodes"};
    const std::size_t before = frame.member_count();
    table.item_of_row = [rows, before](std::size_t row) { return std::optional(before + (*rows)[row]); };
    table.row_of_item = [rows, before](std::size_t item) -> std::optional<std::size_t> {
        const auto found = std::ranges::lower_bound(*rows, item - before);
        if (item < before || found == rows->end() || *found != item - before) return {};
        return static_cast<std::size_t>(found - rows->begin());
    };
    add_text(table, "mark", [&frame, rows](std::size_t row) { return node_mark(frame, (*rows)[row]); });
    for (const auto& [name, part] : coordinates)
        add(table, name, a_length,
            [&nodes, rows, part = part](std::size_t row) { return nodes.point((*rows)[row]).*part; });
    const auto meeting = std::make_shared<MeetingMembers>(frame);
    add_whole(table, "members", false, [meeting, rows](std::size_t row) {
        return static_cast<double>(meeting->count_at((*rows)[row]));
    });
    for (const Field& field : nodes.fields()) {
        add(table, field.name, field.dimension,
            [values = field.values, rows](std::size_t row) { return values[(*rows)[row]]; });
        mark_if_whole(table.columns.back(), table.row_count);
    }
    add_list(table, "angles", an_angle,
             [meeting, rows](std::size_t row) { return meeting->angles((*rows)[row]); });
    return table;
}

}  // namespace plume
