#pragma once
// The colours that numbers give a result where it is drawn, for whoever keeps colours and draws nothing.

#include <string>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

// The colour that a coordinate of a drawable stands for (drawable.hpp).
Rgb colour_of(float coordinate, Rgb plain, const RampStyle& ramp);

// How a result is coloured: DrawOptions::colour_by and the ramp.
struct Paint {
    std::string colour_by;
    RampStyle ramp;
};

// One colour for each entry of the fields; none where nothing colours them.
std::vector<Rgb> painted(const std::vector<Field>& fields, const std::string& in_hand, const Paint& paint);

// Of a mesh its vertices are coloured or its faces, or neither.
struct PaintedMesh {
    std::vector<Rgb> vertices, faces;
};
PaintedMesh painted(const Mesh& mesh, const Paint& paint);

}  // namespace plume
