#pragma once
// A value as what file formats hold: facets, lines or points.

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

// A line through places; a closed one goes back to its first.
struct WrittenLine {
    std::vector<Vec3> places;
    bool closed = false;
};

// One of the three, and of frames bars between the points; nothing in any of them where a value has no place.
struct Written {
    std::optional<Mesh> facets;
    std::vector<WrittenLine> lines;
    std::vector<Vec3> points;
    std::vector<std::array<std::uint32_t, 2>> bars;
};

// A mesh as it is; surfaces as quads between samples that include the interpolated points; curves through
// samples that look smooth. Errors: those of sampling; cancelled.
Result<Written> written_of(const Value& value, const Run& run);

}  // namespace plume
