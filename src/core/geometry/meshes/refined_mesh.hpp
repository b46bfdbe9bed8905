#pragma once
// A mesh whose sides are halved until none has to be halved any more.
//
// A side is asked about once, whichever faces it belongs to, so that they go on meeting: a triangle with one,
// two or three halved sides becomes two, three or four. Faces of more corners that have to be halved become
// triangles first. O(sides) a round.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Whether the side between two vertices has to be halved; asked on several threads.
using HalvesSide = std::function<bool(Vec3 from, Vec3 to)>;

// Numbers of vertices are halved with their sides, those of faces and parts stay with them. It ends after so
// many rounds, or when it would have more faces than that. Error: cancelled.
Result<Mesh> halved_until(const Mesh& mesh, const HalvesSide& halves, int most_rounds, std::size_t most_faces,
                          const Run& run);

}  // namespace plume
