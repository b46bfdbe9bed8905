#pragma once
// Which closed lines of a plane surround a place.
//
// A ray is cast from the place to one side, and lines it crosses an odd number of times surround it (Shimrat,
// Algorithm 112, Communications of the ACM 5(8), 1962, doi 10.1145/368637.368653). Edges are kept by strips,
// so that a ray meets only those beside it.

#include <cstdint>
#include <vector>

#include "core/geometry/curves/outline.hpp"

namespace plume {

struct FlatEdge {
    FlatPoint from, to;
    std::uint32_t line = 0;
};

// Those between the places of a line; of a closed one from its last to its first, too.
void add_edges(std::vector<FlatEdge>& edges, const std::vector<FlatPoint>& places, bool closed,
               std::uint32_t line = 0);

class LineStrips {
public:
    // All edges of all lines. O(edges x strips that each reaches).
    explicit LineStrips(std::vector<FlatEdge> edges);

    // The lines around a place, by their numbers, in that order. O(edges in its strip).
    void find_around(FlatPoint place, std::vector<std::uint32_t>& lines) const;

private:
    std::size_t strip_of(double y) const;
    template <class Each>
    void for_each_strip(const FlatEdge& edge, const Each& each) const;

    std::vector<FlatEdge> edges_;
    double low_ = 0, height_ = 1;
    std::size_t count_ = 1;
    std::vector<std::size_t> starts_;
    std::vector<std::uint32_t> members_;
};

}  // namespace plume
