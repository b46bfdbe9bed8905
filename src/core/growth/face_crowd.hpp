#pragma once
// FaceCrowd: faces that are grown, one after the other in plain columns.

#include <cstdint>
#include <vector>

#include "core/formula/rules_syntax.hpp"
#include "core/growth/face_net.hpp"

namespace plume {

struct FaceCrowd {
    FaceLoops shape;
    std::vector<std::uint16_t> names, lines;  // in GrowthRules::parts, line_texts
    std::vector<std::uint32_t> rows;          // in FaceTree
    std::vector<std::uint32_t> numbers, siblings, i, j;
    std::vector<PiecePlace> places;
    std::vector<std::uint64_t> identities;  // below 2^53
    std::vector<Doubles> values;            // as GrowthRules::values

    std::size_t count() const { return shape.count(); }
};

// Of so many faces, with nothing said of them yet; without shapes.
FaceCrowd crowd_of(std::size_t count, std::size_t values);
FaceCrowd gathered(const FaceCrowd& crowd, const std::vector<std::uint32_t>& kept);
// Puts these faces of a crowd behind others; both have the same values.
void append(FaceCrowd& crowd, const FaceCrowd& more, const std::vector<std::uint32_t>& which);

}  // namespace plume
