#pragma once
// PartStory: why one part of a result is as it is, as the kind of step that made it tells it.

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace plume {

// Items are numbered as items_of() does (results/items.hpp), nodes of a frame behind its members; faces and
// vertices are those of a mesh, vertices of surfaces and curves the points these were made through
// (surface_nodes.hpp, curve_nodes.hpp).
enum class PartSort { item, face, vertex };
struct PartRef {
    PartSort sort = PartSort::item;
    std::size_t number = 0;
    auto operator<=>(const PartRef&) const = default;  // NOLINT(modernize-use-nullptr): made by the compiler
};

// A part of a result that the step has read.
struct PartOrigin {
    std::string slot;
    PartRef part;
};

struct PartStory {
    std::vector<std::string> lines = {};  // "9.3 m from north, within 12 m: t = 0.78"
    // What it came from; nothing: it is found by address and by place.
    std::optional<std::vector<PartOrigin>> origins = {};
};

}  // namespace plume
