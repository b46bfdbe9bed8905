#pragma once
// Loose triangles by the ten million, whose corners at the very same place become shared vertices.

#include <array>
#include <cstdint>
#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/column.hpp"

namespace plume {

// Copies bytes of a file from a place on; false where they are not there. Called from several threads.
using ReadAt = std::function<bool(std::uint64_t from, std::size_t count, char* into)>;

struct WeldedTriangles {
    std::vector<std::array<float, 3>> places;  // in the order in which they come first
    std::vector<std::uint32_t> corners;        // three a triangle
};

// Of `count` records of `record` bytes from `begin` on, each with nine floats from `offset` on. The two zeros
// are one; what is not a number is a place of its own by its bits. Files mostly list what lies together one
// after the other: pieces of them are looked through beside each other with the places asked for last in the
// processor's cache, which leaves about as many candidates as there are vertices; these are dealt out by
// their hash and compared within each deal. The same on any number of threads. Errors: file_damaged where it
// cannot be read; file_too_large; cancelled.
struct TriangleRecords {
    std::uint64_t begin = 0, count = 0;
    std::size_t record = 50, offset = 12;
};
Result<WeldedTriangles> welded_triangles(const TriangleRecords& records, const ReadAt& read_at,
                                         const Run& run);

}  // namespace plume
