#include "core/receiving/taken_file.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/file.hpp"
#include "core/base/text.hpp"
#include "core/exchange/passing_file.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/readers/exact_file.hpp"

namespace plume {
namespace {

// Facets of a curved part for looking at, and figures that are exact.
struct CurvedShape {
    Mesh facets;
    double area = 0;
    std::optional<double> volume;
};
Result<CurvedShape> shape_of(const ExactPart& part, const Run& run) {
    constexpr std::size_t polygons = 2000;
    std::vector<Mesh> meshes;
    double area_of_all = 0, volume = 0;
    for (const ExactSolid& solid : part.solids) {
        const Result<Body> body = solid.patches.empty()
                                      ? meshed_body(*solid.mesh)
                                      : exact_body(solid.patches, run, solid.edges_within, solid.mesh);
        if (!body) return body.error();
        const Result<Mesh> mesh = closed_mesh(*body, polygons, run);
        if (!mesh) return mesh.error();
        meshes.push_back(*mesh);
        area_of_all += body->figures().area;
        volume += body->figures().volume;
    }
    if (!part.faces.empty()) {
        const Result<Mesh> mesh = mesh_of(SurfaceSet{part.faces}, polygons, run);
        if (!mesh) return mesh.error();
        meshes.push_back(*mesh);
        const Result<double> area = area_of(SurfaceSet{part.faces}, run);
        if (!area) return area.error();
        area_of_all += *area;
    }
    if (meshes.empty())
        return Error{ErrorCode::empty_input, "", "has a curved part without a face", "Have it written anew."};
    const Result<Mesh> all = joined(meshes);
    if (!all) return all.error();
    return CurvedShape{*all, area_of_all,
                       part.faces.empty() ? std::optional(volume) : std::optional<double>()};
}

// As one part.
Result<Mesh> placed(const Mesh& mesh, const Affine& map) {
    Mesh::Parts whole = mesh.parts();
    whole.part_starts.clear();
    Result<Mesh> made = Mesh::make(std::move(whole));
    if (!made) return made;
    Result<Value> moved = transformed(Value(*std::move(made)), map);
    if (!moved) return moved.error();
    return std::get<Mesh>(*std::move(moved));
}

// Gives curved elements their facets and figures.
Status take_curved(const BuildingFile& file, TakenFile& taken, const Run& run) {
    if (file.curved_shapes.empty()) return Done{};
    const PassingFile step;
    if (step.path().empty()) return no_passing_file("its curved shapes");
    if (Status written = write_file(step.path(), file.curved_shapes); !written) return written.error();
    const Result<ExactFile> shapes = read_exact_file(step.path(), run);
    if (!shapes) return shapes.error();
    // The STEP text calls the file's unit a metre.
    const double scale = shapes->metres_per_unit * file.metres_per_unit;
    for (TakenPart& part : taken.parts) {
        BuildingElement& element = part.element;
        if (element.curved.empty()) continue;
        const auto found = std::ranges::find(shapes->parts, element.curved, &ExactPart::name);
        if (found == shapes->parts.end()) {
            element.not_taken = "its curved shape";
            continue;
        }
        const Result<CurvedShape> shape = shape_of(*found, run);
        if (!shape && shape.error().code == ErrorCode::cancelled) return shape.error();
        if (!shape) {
            element.not_taken = "its curved shape, which " + shape.error().message;
            continue;
        }
        const auto& [origin, x, y, z] = element.frame;
        Result<Mesh> facets = placed(shape->facets, {x * scale, y * scale, z * scale, origin});
        if (!facets) return facets.error();
        element.facets = *std::move(facets);
        part.area_m2 = shape->area * scale * scale;
        if (shape->volume) part.volume_m3 = *shape->volume * scale * scale * scale;
    }
    return Done{};
}

void measure(TakenPart& part) {
    const BuildingElement& element = part.element;
    if (element.facets && !part.area_m2) {
        part.area_m2 = area(*element.facets);
        if (is_closed(*element.facets)) part.volume_m3 = std::abs(volume_of(*element.facets));
    }
    if (!element.axis.empty()) part.length_m = polyline_length(element.axis, false);
}

void add(Hasher& hasher, Vec3 place) {
    constexpr double fineness = 1e-7;  // metres
    for (const double coordinate : {place.x, place.y, place.z})
        hasher.add(std::round(coordinate / fineness) * fineness);
}

Hash fingerprint_of(const BuildingElement& element) {
    Hasher hasher;
    for (const std::string* text : {&element.entity, &element.name, &element.storey, &element.material})
        hasher.add(*text);
    for (std::size_t at = 0; element.colour && at < 3; ++at)
        hasher.add((*element.colour)[at]);
    for (const BuildingProperty& property : element.properties) {
        hasher.add(property.set).add(property.name).add(property.text);
        // To nine digits: another unit of the file leaves them as they are.
        if (property.number) {
            const double value = property.number->value;
            const double step = std::isfinite(value) && value != 0
                                    ? std::pow(10, std::floor(std::log10(std::abs(value))) - 9)
                                    : 1;
            hasher.add(std::round(value / step)).add(std::round(std::log10(step)));
        }
    }
    if (element.facets)
        for (std::size_t face = 0; face < element.facets->face_count(); ++face) {
            hasher.add(std::uint64_t{element.facets->face(face).size()});
            for (const std::uint32_t corner : element.facets->face(face))
                add(hasher, element.facets->vertex(corner));
        }
    for (const Vec3 place : element.axis)
        add(hasher, place);
    return hasher.finish();
}

// Whoever receives it knows parts by their identity.
Status check_identities(const std::vector<TakenPart>& parts) {
    std::set<std::string> known;
    for (const TakenPart& part : parts) {
        const std::string& identity = part.element.identity;
        if (identity.empty() || !known.insert(identity).second)
            return Error{ErrorCode::file_damaged, "",
                         "has elements " +
                             (identity.empty() ? std::string("without an identity")
                                               : "of one identity, " + shortened(identity)) +
                             ", so that none of them can be told from the others",
                         "Have it written anew."};
    }
    return Done{};
}

}  // namespace

const TakenPart* TakenFile::part(const std::string& identity) const {
    const auto found = std::ranges::lower_bound(
        parts, identity, {}, [](const TakenPart& one) -> const std::string& { return one.element.identity; });
    return found == parts.end() || found->element.identity != identity ? nullptr : &*found;
}

Result<TakenFile> take_file(const std::filesystem::path& path, const Run& run) {
    Result<BuildingFile> file = read_building_file(path, run);
    if (!file) return file.error();
    TakenFile taken;
    taken.project = file->project;
    taken.metres_per_unit = file->metres_per_unit;
    taken.losses = file->losses;
    for (BuildingElement& element : file->elements)
        taken.parts.push_back({std::move(element), {}, {}, {}, {}});
    if (Status checked = check_identities(taken.parts); !checked) return checked.error();
    if (Status curved = take_curved(*file, taken, run); !curved) return curved.error();
    for (TakenPart& part : taken.parts) {
        measure(part);
        part.fingerprint = fingerprint_of(part.element);
    }
    std::ranges::sort(taken.parts, {},
                      [](const TakenPart& one) -> const std::string& { return one.element.identity; });
    return taken;
}

}  // namespace plume
