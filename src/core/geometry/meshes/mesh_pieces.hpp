#pragma once
// Pieces of a mesh that hang together, and which way their faces turn.

#include <cstdint>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// The piece each face belongs to, in the order of their first faces; faces hang together by a side.
struct MeshPieces {
    std::vector<std::uint32_t> of_face;
    std::size_t count = 0;
};
MeshPieces pieces_of(const Mesh& mesh);

// A part for each piece, or for each face; numbers stay with their faces.
Mesh parted_by_pieces(const Mesh& mesh);
Mesh parted_by_faces(const Mesh& mesh);

struct TurnedMesh {
    Mesh mesh;
    std::size_t turned = 0;     // faces that were turned round
    std::size_t one_sided = 0;  // sides where it cannot be done: a Moebius strip has one side alone
};
// Faces of each piece turned alike: outwards where it encloses a volume, else as most of its area does.
TurnedMesh turned_alike(const Mesh& mesh);

}  // namespace plume
