#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_bending.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/flatness.hpp"
#include "core/geometry/surfaces/interlaced_grid.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/steps/surfaces/surface_grid.hpp"
#include "core/steps/surfaces/surface_measures.hpp"

namespace plume {
namespace {

// Of faces alone ------------------------------------------------------------------------------------------

double face_area(const Mesh& mesh, std::size_t face) {
    return length(area_vector(mesh, face));
}

// The longest or shortest.
double edge_of(const Mesh& mesh, std::size_t face, bool longest) {
    const auto corners = mesh.face(face);
    double best = longest ? 0 : Box::infinite;
    for (std::size_t corner = 0; corner < corners.size(); ++corner) {
        const double edge =
            length(mesh.vertex(corners[(corner + 1) % corners.size()]) - mesh.vertex(corners[corner]));
        best = longest ? std::max(best, edge) : std::min(best, edge);
    }
    return best;
}

bool is_of_faces(const std::string& what) {
    return what == "area" || what == "longest" || what == "shortest" || what == "flatness";
}

Result<Doubles> face_numbers(const Mesh& mesh, const std::string& what, const Run& run) {
    if (what == "flatness") {
        const auto gaps = panel_gaps(mesh, run);
        if (!gaps) return gaps.error();
        return Doubles(gaps->begin(), gaps->end());
    }
    Doubles numbers(mesh.face_count());
    for (std::size_t face = 0; face < numbers.size(); ++face)
        numbers[face] = what == "area" ? face_area(mesh, face) : edge_of(mesh, face, what == "longest");
    return numbers;
}

// Meshes --------------------------------------------------------------------------------------------------

// A third of every triangle's share of the faces around.
Doubles vertex_areas(const Mesh& mesh) {
    Doubles areas(mesh.vertex_count(), 0.0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        const double share = face_area(mesh, face) / static_cast<double>(corners.size());
        for (const std::uint32_t corner : corners)
            areas[corner] += share;
    }
    return areas;
}

// The mean of the faces around each vertex, so that lines can be drawn of it.
Doubles at_vertices(const Mesh& mesh, const Doubles& numbers) {
    Doubles sums(mesh.vertex_count(), 0.0);
    std::vector<std::uint32_t> counts(mesh.vertex_count(), 0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face)) {
            sums[corner] += numbers[face];
            ++counts[corner];
        }
    for (std::size_t vertex = 0; vertex < sums.size(); ++vertex)
        sums[vertex] /= std::max(counts[vertex], 1U);
    return sums;
}

Result<Value> faces_measured(const Mesh& mesh, const Inputs& in, const Run& run) {
    const std::string& what = in.word("what");
    auto numbers = face_numbers(mesh, what, run);
    if (!numbers) return numbers.error();
    const Dimension dimension = what == "area" ? Dimension{2, 0} : a_length;
    Doubles areas(mesh.face_count());
    for (std::size_t face = 0; face < areas.size(); ++face)
        areas[face] = face_area(mesh, face);
    remark_weighed_mean(*numbers, areas, dimension, in.units(), run);
    Mesh::Parts parts = mesh.parts();
    parts.fields = with_number(mesh.fields(), {in.result_name(), at_vertices(mesh, *numbers), dimension});
    parts.face_fields = with_number(mesh.face_fields(), {in.result_name(), *std::move(numbers), dimension});
    return as_value(Mesh::make(std::move(parts)));
}

PointLattice vertices_of(const Mesh& mesh) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {mesh.vertex_count(), 1, 1};
    parts.x = mesh.x();
    parts.y = mesh.y();
    parts.z = mesh.z();
    return *PointLattice::make(std::move(parts));
}

Result<Value> mesh_measured(const Mesh& mesh, const Inputs& in, const Run& run) {
    const SurfaceMeasure measure(in);
    const auto bending = bending_at_vertices(mesh, run);
    if (!bending) return bending.error();
    const Doubles areas = vertex_areas(mesh);
    MeasuredPlaces measured(measure, mesh.vertex_count());
    for (std::size_t vertex = 0; vertex < areas.size(); ++vertex)
        measured.set(vertex, (*bending)[vertex], mesh.vertex(vertex), areas[vertex]);
    if (measure.is_direction()) return std::move(measured).on(vertices_of(mesh), in, run);
    Doubles numbers = std::move(measured).take_numbers();
    remark_weighed_mean(numbers, areas, measure.dimension(), in.units(), run);
    Mesh::Parts parts = mesh.parts();
    parts.fields = with_number(mesh.fields(), {in.result_name(), std::move(numbers), measure.dimension()});
    // Of a face its slope is known for itself.
    std::erase_if(parts.face_fields, [&](const Field& field) { return field.name == in.result_name(); });
    if (measure.dimension() == an_angle) {
        Doubles faces(mesh.face_count());
        for (std::size_t face = 0; face < faces.size(); ++face) {
            faces[face] =
                measure.number({unit_or_zero(area_vector(mesh, face)), {}, {}}, face_middle(mesh, face));
        }
        parts.face_fields.push_back({in.result_name(), std::move(faces), an_angle});
    }
    return as_value(Mesh::make(std::move(parts)));
}

// Points --------------------------------------------------------------------------------------------------

// Measured at the points of the smooth surface through a grid. `address_at`: of each of its points that is
// one of theirs which one, or none.
constexpr std::size_t none = std::numeric_limits<std::size_t>::max();

Result<Value> smooth_measured(const PointLattice& points, const SplinePatch& skin,
                              const std::vector<std::size_t>& address_at, const Inputs& in, const Run& run) {
    std::vector<double> u = breaks_of(skin.u()), v = breaks_of(skin.v());
    if (skin.u().closed) u.pop_back();
    if (skin.v().closed) v.pop_back();
    const std::vector<double> across = widths_around(u, skin.u()), up = widths_around(v, skin.v());
    MeasuredPlaces measured{SurfaceMeasure(in), points.address_count()};
    const auto each = [&](std::size_t i, std::size_t j, const SurfaceBend& bend) {
        const std::size_t at = i + u.size() * j, address = address_at.empty() ? at : address_at[at];
        if (address == none) return;
        const double area = length(cross(bend.point.along_u, bend.point.along_v)) * across[i] * up[j];
        measured.set(address, bending_of(bend), bend.point.position, area);
    };
    if (!visit_bends(skin, u, v, each, run)) return cancelled_error();
    return std::move(measured).on(points, in, run);
}

// Nothing where a gap keeps a smooth surface from going through the points.
Result<std::optional<Value>> interlaced_measured(const PointLattice& points, const Inputs& in,
                                                 const Run& run) {
    const auto even = evened_grid(points, run);
    if (!even && even.error().code == ErrorCode::has_gaps) return std::optional<Value>();
    if (!even) return about_slot(even.error(), "thing");
    const auto skin = interpolate_grid(even->grid, run);
    if (!skin) return about_slot(skin.error(), "thing");
    std::vector<std::size_t> address_at(even->grid.address_count(), none);
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index)) address_at[even->own[index]] = index;
    auto measured = smooth_measured(points, *skin, address_at, in, run);
    if (!measured) return measured.error();
    return std::optional(*std::move(measured));
}

// Of an arrangement that no smooth surface goes through: at the corners of its facets.
Result<Value> facets_measured(const PointLattice& points, const Inputs& in, const Run& run) {
    constexpr const char* address = " address";  // no field of anybody's
    Doubles addresses(points.address_count());
    for (std::size_t index = 0; index < addresses.size(); ++index)
        addresses[index] = static_cast<double>(index);
    const auto mesh =
        facets(points.with_field({address, std::move(addresses), plain_number}), FacetShape::triangles, run);
    if (!mesh) return about_slot(mesh.error(), "thing");
    const auto bending = bending_at_vertices(*mesh, run);
    if (!bending) return bending.error();
    const Doubles areas = vertex_areas(*mesh);
    MeasuredPlaces measured{SurfaceMeasure(in), points.address_count()};
    for (std::size_t index = 0; index < points.address_count(); ++index)
        measured.set_unknown(index);
    const Column& at = mesh->fields().back().values;
    for (std::size_t vertex = 0; vertex < areas.size(); ++vertex)
        measured.set(static_cast<std::size_t>(at[vertex]), (*bending)[vertex], mesh->vertex(vertex),
                     areas[vertex]);
    return std::move(measured).on(points, in, run);
}

Result<Value> points_measured(const PointLattice& points, const Inputs& in, const Run& run) {
    if (is_interlaced(points)) {
        auto measured = interlaced_measured(points, in, run);
        if (!measured) return measured.error();
        return *measured ? Result<Value>(**std::move(measured)) : facets_measured(points, in, run);
    }
    if (points.has_gaps()) return facets_measured(points, in, run);
    const auto skin = interpolate_grid(points, run);
    return skin ? smooth_measured(points, *skin, {}, in, run)
                : Result<Value>(about_slot(skin.error(), "thing"));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Value& thing = in.value("thing");
    const std::string& what = in.word("what");
    if (const auto* mesh = std::get_if<Mesh>(&thing)) {
        if (mesh->face_count() == 0)
            return about_slot(Error{ErrorCode::empty_input, "", "has no face", "Choose another."}, "thing");
        return is_of_faces(what) ? faces_measured(*mesh, in, run) : mesh_measured(*mesh, in, run);
    }
    if (is_of_faces(what))
        return about_slot(Error{ErrorCode::wrong_kind, "", "is measured of faces, and points have none",
                                "Skin the points with flat facets first."},
                          "what");
    return points_measured(*lattice_of(thing), in, run);
}

Estimate estimate(const Inputs& in) {
    const Value& thing = in.value("thing");
    if (const auto* mesh = std::get_if<Mesh>(&thing)) {
        const auto corners = static_cast<double>(mesh->corner_count());
        const auto vertices = static_cast<double>(mesh->vertex_count());
        const bool faces = is_of_faces(in.word("what"));
        return {corners * (faces ? 6 : 20) + vertices * (faces ? 24 : 250), corners * 2e-7};
    }
    const auto points = static_cast<double>(lattice_of(thing)->address_count());
    return {points * 120, points * 5e-7};
}

}  // namespace

StepKind measure_skin() {
    std::vector<Word> words = surface_measures();
    words.insert(words.end(), {{"area", "the area of the faces", "of a mesh"},
                               {"longest", "the longest edge of the faces", "of a mesh"},
                               {"shortest", "the shortest edge of the faces", "of a mesh"},
                               {"flatness", "the planarity gap of the faces", "of a mesh"}});
    return {
        .key = "thing.measure",
        .verb = "Measure a skin or mesh",
        .synonyms =
            "curvature gaussian mean principal radius slope steepness facing sun normal angle area edge "
            "length planarity analyse directions faces",
        .sentence = std::string("Measure {what} of {thing}") + measured_against_words + ".",
        .slots = with_measured_against(
            {choice_slot("what", "What", std::move(words)),
             reference_slot("thing", "Thing", {Kind::points, Kind::field, Kind::mesh})}),
        .results = {Kind::field, Kind::directions, Kind::mesh},
        .result_name = "measured",
        .help =
            "A number on each point, as the smooth surface through the points has it there; where there is "
            "none, as their facets have it. On meshes numbers of vertices, and of faces those that faces "
            "have. "
            "Curvatures are above 0 where the surface bends towards its normal. Directions come as points.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
