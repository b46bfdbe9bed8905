#pragma once
// What of a value can be pointed at, labelled and picked: points by their flat address, attractors by their
// number, parts of meshes, surfaces, bodies, curves, members of frames and behind them their nodes.

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/data/value.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/picture/labels.hpp"

namespace plume {

inline constexpr const char* in_the_middle = "in the middle";

struct Items {
    std::string are;        // "points", "parts", "attractors"
    std::size_t count = 0;  // 0: nothing can be pointed at; numbers run below it, gaps among them
    std::function<Vec3(std::size_t item)> place = {};
    std::string place_is = {};  // of what is not at one place alone: "half way", in_the_middle
    std::function<std::string(std::size_t item)> name = {};   // for labels: "3, 2", "north"
    std::function<std::string(std::size_t item)> title = {};  // "i 3  j 2", "north  weight 1", "part 4 of 12"
    // Numbers the items carry, by name; of curves those that are one number all along each.
    std::span<const Field> fields = {};
    // What labels them where nothing else is wished for, a name of a field; empty: what they are called.
    std::string labelled_by = {};
    std::optional<Listing> listing = {};                        // where lists can name them
    std::shared_ptr<const std::vector<Field>> own_fields = {};  // that `fields` reads
    // What is found out about an item when it is looked at: the length of a member.
    std::function<std::vector<std::pair<std::string, Quantity>>(std::size_t item)> figures = {};
    // Why it is there, of what grew: a sentence for each it came of, from the first on, and for itself.
    std::function<std::vector<std::string>(std::size_t item)> why = {};
    bool noted = true;                         // false: the one there is, whose middle tells nobody anything
    std::shared_ptr<const Items> others = {};  // numbered on behind these: the nodes of a frame

    std::size_t total() const { return count + (others ? others->count : 0); }
};

// The sort an item is of, and its number there. The item is below total().
struct PointedAt {
    const Items& items;
    std::size_t number;
};
PointedAt pointed_at(const Items& items, std::size_t item);

// Reads `value`, which has to outlive it. O(1), of curves O(poles).
Items items_of(const Value& value);

// Its points, the nodes of a frame, the vertices of a mesh, whatever else can be pointed at; none where it
// has none that lists could name. Reads `value` likewise.
Items point_items_of(const Value& value);

// Where those are that a list names, in that order; none where it cannot be read, or names other sorts.
std::vector<Vec3> listed_places(const Items& items, std::string_view list);

// The items that bear labels: those that carry that number, of a frame else its nodes.
ItemRange labelled_items(const Items& items, const std::string& label_by);

// What is written at an item: its number of a field, where the items carry it, or of the one they are usually
// labelled by; else what it is called.
std::string label_text(const Items& all, std::size_t item, const std::string& label_by, const Units& units);

}  // namespace plume
