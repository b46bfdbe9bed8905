#pragma once
// Places and numbers of the rows of a PLY file.

#include "core/readers/ply_body.hpp"

namespace plume {

struct PlyPlaces {
    Doubles x, y, z;
    std::vector<Field> fields;
};

// Of its vertices; the rows' columns are taken. Errors: file_damaged without x, y and z.
Result<PlyPlaces> ply_places(PlyRows& rows, const PlyElement& element);

// All but x, y and z that are one number a row; colours of a byte from 0 to 1.
std::vector<Field> ply_numbers(const PlyRows& rows, const PlyElement& element);

}  // namespace plume
