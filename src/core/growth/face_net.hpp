#pragma once
// Faces that are cut into others, each for itself, while those beside them are not.
//
// A side of a face runs along an edge, from one share of its length to another, either way. Edges stay what
// they are: who cuts a side makes a vertex that knows its edge and its share there, and nobody else is told.
// When all is done, vertices at one share of an edge become one, and every face along an edge gets those that
// lie between its corners (welded()). So faces can be cut in any order and by any thread, at O(1) a piece,
// and what was watertight is so again.

#include <cstdint>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// A side, in the direction in which its face goes round.
struct FaceSide {
    std::uint32_t edge;
    double from, to;

    double share(double at) const { return from + at * (to - from); }
    FaceSide part(double begin, double end) const { return {edge, share(begin), share(end)}; }
};

// A corner and the side that follows it.
struct FaceCorner {
    std::uint32_t vertex;
    FaceSide side;
};

// In large pages, and written in full before it is read: without, a million faces take 1.4 times as long.
template <class T>
using LargeVector = std::vector<T, UninitializedAllocator<T>>;

// Faces one behind the other.
struct FaceLoops {
    std::vector<std::uint32_t> first{0};
    LargeVector<FaceCorner> corners;

    std::size_t count() const { return first.size() - 1; }
    std::span<const FaceCorner> face(std::size_t index) const {
        return std::span(corners).subspan(first[index], first[index + 1] - first[index]);
    }
    void add(std::span<const FaceCorner> face);
};

struct FaceNet {
    static constexpr auto no_edge = static_cast<std::uint32_t>(-1);
    struct Edge {
        std::uint32_t a, b;
    };

    LargeVector<Vec3> places;            // of vertices
    LargeVector<std::uint32_t> on_edge;  // of each the edge it was made on, or no_edge
    LargeVector<double> shares;          // where on that
    LargeVector<Edge> edges;
    std::vector<Doubles> numbers;  // of vertices, a column for each field of the mesh

    // Room for so many more, which are written next.
    void add(std::size_t vertices, std::size_t edge_count);
    Vec3 place_on(std::uint32_t edge, double share) const {
        const Vec3 a = places[edges[edge].a], b = places[edges[edge].b];
        return a + (b - a) * share;
    }
};

// The faces of a mesh, and what they are made of.
struct NetOfMesh {
    FaceNet net;
    FaceLoops faces;
};
NetOfMesh net_of(const Mesh& mesh);

// Twice a face's area as a vector that stands on it (Newell), halved; the mean of its corners.
Vec3 area_vector(const FaceNet& net, std::span<const FaceCorner> face);
Vec3 middle_of(const FaceNet& net, std::span<const FaceCorner> face);

// Vertices and corners of a mesh, and which faces they are: those that have no area left because all their
// corners are one with others are left out.
struct WeldedFaces {
    Mesh::Parts parts;                // without fields of faces
    std::vector<std::uint32_t> kept;  // of the faces, in order
};
// `fields`: the names and units of FaceNet::numbers. Error: cancelled.
Result<WeldedFaces> welded(const FaceNet& net, const FaceLoops& faces, const std::vector<Field>& fields,
                           const Run& run);

}  // namespace plume
