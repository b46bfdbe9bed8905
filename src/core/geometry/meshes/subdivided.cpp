#include "core/geometry/meshes/subdivided.hpp"

#include <opensubdiv/far/primvarRefiner.h>
#include <opensubdiv/far/topologyDescriptor.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numeric>

#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

namespace far = OpenSubdiv::Far;
namespace sdc = OpenSubdiv::Sdc;

// A column of numbers as the library reads and writes them: one at a time.
struct Number {
    double value = 0;
    void Clear() { value = 0; }  // NOLINT(readability-identifier-naming): names the library asks for
    void AddWithWeight(const Number& other, double weight) {  // NOLINT(readability-identifier-naming)
        value += weight * other.value;
    }
};

Mesh of_triangles(const Mesh& mesh) {
    FaceBuilder faces(mesh);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            faces.add(std::array{corners[a], corners[b], corners[c]}, face);
        });
    }
    return *std::move(faces).over_its_vertices();
}

// Pairs of vertices whose side stays sharp.
std::vector<int> creases_of(const Mesh& mesh, double angle_rad) {
    const MeshSides sides = sides_of(mesh);
    const std::vector<std::uint32_t> faces = faces_of_corners(mesh);
    std::vector<int> pairs;
    for (std::size_t side = 0; side < sides.count(); ++side) {
        if (sides.face_count(side) != 2) continue;
        const Vec3 one = area_vector(mesh, faces[sides.corners[sides.first[side]]]),
                   other = area_vector(mesh, faces[sides.corners[sides.first[side] + 1]]);
        if (std::atan2(length(cross(one, other)), dot(one, other)) > angle_rad)
            for (const std::uint32_t end : sides.ends[side])
                pairs.push_back(static_cast<int>(end));
    }
    return pairs;
}

using Refiner = std::unique_ptr<far::TopologyRefiner>;

Refiner refiner_of(const Mesh& mesh, const SubdivisionRule& rule) {
    std::vector<int> counts, corners;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        counts.push_back(static_cast<int>(mesh.face(face).size()));
    for (const std::uint32_t corner : mesh.parts().corners)
        corners.push_back(static_cast<int>(corner));
    const std::vector<int> creases =
        rule.crease_rad ? creases_of(mesh, *rule.crease_rad) : std::vector<int>{};
    const std::vector<float> sharp(creases.size() / 2, sdc::Crease::SHARPNESS_INFINITE);
    far::TopologyDescriptor described;
    described.numVertices = static_cast<int>(mesh.vertex_count());
    described.numFaces = static_cast<int>(counts.size());
    described.numVertsPerFace = counts.data();
    described.vertIndicesPerFace = corners.data();
    described.numCreases = static_cast<int>(sharp.size());
    described.creaseVertexIndexPairs = creases.data();
    described.creaseWeights = sharp.data();
    sdc::Options options;
    options.SetVtxBoundaryInterpolation(rule.sharp_corners ? sdc::Options::VTX_BOUNDARY_EDGE_AND_CORNER
                                                           : sdc::Options::VTX_BOUNDARY_EDGE_ONLY);
    using Factory = far::TopologyRefinerFactory<far::TopologyDescriptor>;
    return Refiner(Factory::Create(
        described, Factory::Options(rule.scheme == Subdivision::loop ? sdc::SCHEME_LOOP : sdc::SCHEME_CATMARK,
                                    options)));
}

// Of the last level, on the surface it comes to.
Doubles refined(const Column& column, const far::TopologyRefiner& refiner, int levels, const Run& run) {
    const far::PrimvarRefinerReal<double> weights(refiner);
    std::vector<Number> numbers(column.size()), finer;
    for (std::size_t at = 0; at < numbers.size(); ++at)
        numbers[at].value = column[at];
    for (int level = 1; level <= levels && !run.cancelled(); ++level) {
        finer.assign(static_cast<std::size_t>(refiner.GetLevel(level).GetNumVertices()), {});
        weights.Interpolate(level, numbers, finer);
        numbers.swap(finer);
    }
    finer.assign(numbers.size(), {});
    if (!run.cancelled()) weights.Limit(numbers, finer);
    Doubles values(finer.size());
    for (std::size_t at = 0; at < values.size(); ++at)
        values[at] = finer[at].value;
    return values;
}

// The face of the mesh that each face of the last level comes of.
std::vector<std::uint32_t> faces_from(const far::TopologyRefiner& refiner, int levels) {
    const far::TopologyLevel& last = refiner.GetLevel(levels);
    std::vector<std::uint32_t> from(static_cast<std::size_t>(last.GetNumFaces()));
    for (std::size_t face = 0; face < from.size(); ++face) {
        int ancestor = static_cast<int>(face);
        for (int level = levels; level > 0; --level)
            ancestor = refiner.GetLevel(level).GetFaceParentFace(ancestor);
        from[face] = static_cast<std::uint32_t>(ancestor);
    }
    return from;
}

}  // namespace

Result<Mesh> subdivided(const Mesh& mesh, const SubdivisionRule& rule, const Run& run) {
    const Mesh coarse = without_loose_vertices(rule.scheme == Subdivision::loop ? of_triangles(mesh) : mesh);
    const Refiner refiner = refiner_of(coarse, rule);
    far::TopologyRefiner::UniformOptions uniform(rule.levels);
    uniform.fullTopologyInLastLevel = true;  // which the surface it comes to needs
    refiner->RefineUniform(uniform);
    if (run.cancelled()) return cancelled_error();

    const far::TopologyLevel& last = refiner->GetLevel(rule.levels);
    const std::vector<std::uint32_t> from = faces_from(*refiner, rule.levels);
    std::vector<std::uint32_t> order(from.size());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, {}, [&](std::uint32_t face) { return from[face]; });
    FaceBuilder faces(coarse);
    std::vector<std::uint32_t> corners;
    for (const std::uint32_t face : order) {
        const auto found = last.GetFaceVertices(static_cast<int>(face));
        corners.clear();
        for (const int corner : found)
            corners.push_back(static_cast<std::uint32_t>(corner));
        faces.add(corners, from[face]);
    }
    std::vector<Field> fields;
    for (const Field& field : coarse.fields())
        fields.push_back({field.name, refined(field.values, *refiner, rule.levels, run), field.dimension});
    const auto column = [&](const Column& values) {
        return Column(refined(values, *refiner, rule.levels, run));
    };
    const Column x = column(coarse.x()), y = column(coarse.y()), z = column(coarse.z());
    if (run.cancelled()) return cancelled_error();
    return std::move(faces).over(x, y, z, std::move(fields));
}

double subdivided_count(const Mesh& mesh, const SubdivisionRule& rule) {
    const auto faces = static_cast<double>(mesh.face_count()),
               corners = static_cast<double>(mesh.corner_count());
    return (rule.scheme == Subdivision::loop ? (corners - 2 * faces) * 4 : corners) *
           std::pow(4, rule.levels - 1);
}

}  // namespace plume
