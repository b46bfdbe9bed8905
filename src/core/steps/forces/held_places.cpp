#include "core/steps/forces/held_places.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/geometry/meshes/mesh_borders.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/geometry/points/sub_lattice.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

// Where a border turns by more than this, a mesh has a corner.
constexpr double corner_turn = std::numbers::pi / 6;

// Of members that lie anyhow only frames over a lattice have a border.
Status has_arrangement(const PointLattice& lattice, const char* what) {
    if (lattice.arrangement() != Arrangement::scatter) return Done{};
    return Error{ErrorCode::wrong_kind, "", std::string("has no ") + what + ": its points lie in no rows",
                 "Hold those near other points, or those where a condition holds."};
}

std::vector<std::uint8_t> mask_of_vertices(const Mesh& mesh, bool corners_only) {
    std::vector<std::uint8_t> mask(mesh.vertex_count(), 0);
    for (const std::vector<std::uint32_t>& way : border_ways(mesh)) {
        const bool closed = way.size() > 1 && way.front() == way.back();
        const std::size_t count = closed ? way.size() - 1 : way.size();
        for (std::size_t at = 0; at < count; ++at) {
            if (!corners_only) {
                mask[way[at]] = 1;
                continue;
            }
            const bool end = !closed && (at == 0 || at + 1 == count);
            const Vec3 here = mesh.vertex(way[at]);
            const Vec3 in = here - mesh.vertex(way[(at + count - 1) % count]);
            const Vec3 out = mesh.vertex(way[(at + 1) % count]) - here;
            if (end || std::atan2(length(cross(in, out)), dot(in, out)) > corner_turn) mask[way[at]] = 1;
        }
    }
    return mask;
}

Error no_border(const char* what) {
    return {ErrorCode::wrong_kind, "", std::string("has no ") + what + ": it is closed",
            "Hold those near other points, or those where a condition holds."};
}

Result<std::vector<std::uint8_t>> some(std::vector<std::uint8_t> mask, const char* what) {
    if (std::ranges::none_of(mask, [](std::uint8_t one) { return one != 0; })) return no_border(what);
    return mask;
}

}  // namespace

const PointLattice* lattice_in(const Value& thing) {
    if (const auto* frame = std::get_if<BarFrame>(&thing)) return &frame->nodes();
    return lattice_of(thing);
}

const std::vector<Field>& numbers_in(const Value& thing) {
    if (const PointLattice* lattice = lattice_in(thing)) return lattice->fields();
    return std::get<Mesh>(thing).fields();
}

PlacesOfThing places_in(const Value& thing) {
    PlacesOfThing places;
    if (const PointLattice* lattice = lattice_in(thing)) {
        for (std::size_t at = 0; at < lattice->address_count(); ++at) {
            places.at.push_back(lattice->point(at));
            places.present.push_back(lattice->present(at) ? 1 : 0);
        }
        return places;
    }
    places.at = vertex_places(std::get<Mesh>(thing));
    places.present.assign(places.at.size(), 1);
    return places;
}

Result<std::vector<double>> firmness_in(const Value& thing) {
    const PointLattice* lattice = lattice_in(thing);
    std::vector<double> firmness(lattice ? lattice->address_count() : std::get<Mesh>(thing).vertex_count(),
                                 0);
    const auto& numbers = numbers_in(thing);
    const auto held = std::ranges::find(numbers, held_name, &Field::name);
    if (held == numbers.end()) return firmness;
    for (std::size_t at = 0; at < firmness.size(); ++at) {
        if (lattice && !lattice->present(at)) continue;
        firmness[at] = held->values[at];
        if (!(firmness[at] >= 0 && firmness[at] <= 1))
            return Error{ErrorCode::out_of_range, "", "carries a number ‘held’ that is not between 0 and 1",
                         "Hold points by ‘Hold points’, or bring that number to a range from 0 to 1."};
    }
    return firmness;
}

Result<Value> with_places(const Value& thing, const std::vector<Vec3>& places) {
    if (const auto* mesh = std::get_if<Mesh>(&thing)) {
        Mesh::Parts parts = mesh->parts();
        set_vertices(parts, places);
        return as_value(Mesh::make(std::move(parts)));
    }
    const PointLattice* lattice = lattice_in(thing);
    const PointLattice to = points_at(shape_of(*lattice), places);
    const PointLattice moved = lattice->moved(to.x(), to.y(), to.z());
    if (const auto* frame = std::get_if<BarFrame>(&thing)) return as_value(frame->with_nodes(moved));
    return Value(moved);
}

Result<Value> with_number_of_places(const Value& thing, Field number) {
    if (const auto* mesh = std::get_if<Mesh>(&thing)) {
        Mesh::Parts parts = mesh->parts();
        std::erase_if(parts.fields, [&](const Field& field) { return field.name == number.name; });
        parts.fields.push_back(std::move(number));
        return as_value(Mesh::make(std::move(parts)));
    }
    const PointLattice numbered = lattice_in(thing)->with_field(std::move(number));
    if (const auto* frame = std::get_if<BarFrame>(&thing)) return as_value(frame->with_nodes(numbered));
    return Value(numbered);
}

Result<std::vector<std::uint8_t>> corners_of(const Value& thing) {
    constexpr const char* what = "corners";
    const PointLattice* lattice = lattice_in(thing);
    if (!lattice) return some(mask_of_vertices(std::get<Mesh>(thing), true), what);
    if (Status arranged = has_arrangement(*lattice, what); !arranged) return arranged.error();
    std::vector<std::uint8_t> mask(lattice->address_count(), 0);
    bool open = false;
    for (int direction = 0; direction < 3; ++direction)
        open = open ||
               (lattice->counts()[static_cast<std::size_t>(direction)] > 1 && !lattice->closed(direction));
    for (std::size_t at = 0; at < mask.size() && open; ++at) {
        const Address address = lattice->address(at);
        const std::size_t along[] = {address.i, address.j, address.k};
        bool corner = lattice->present(at);
        for (std::size_t direction = 0; direction < 3; ++direction) {
            const std::size_t count = lattice->counts()[direction];
            if (lattice->closed(static_cast<int>(direction))) continue;
            corner = corner && (along[direction] == 0 || along[direction] + 1 == count);
        }
        mask[at] = corner ? 1 : 0;
    }
    return some(std::move(mask), what);
}

Result<std::vector<std::uint8_t>> border_of(const Value& thing) {
    constexpr const char* what = "border";
    const PointLattice* lattice = lattice_in(thing);
    if (!lattice) return some(mask_of_vertices(std::get<Mesh>(thing), false), what);
    if (Status arranged = has_arrangement(*lattice, what); !arranged) return arranged.error();
    return some(border_mask(*lattice), what);
}

FormulaSite site_on_places(const Value& thing) {
    if (const PointLattice* lattice = lattice_in(thing)) return site_on_lattice(*lattice);
    const Mesh& mesh = std::get<Mesh>(thing);
    FormulaSite site;
    site.domain.directions[0] = {mesh.vertex_count(), 0, static_cast<double>(mesh.vertex_count()) - 1, false};
    site.direction_names = {"vertex", "", ""};
    add_places(site, vertex_places(mesh), "the vertex");
    for (const Field& field : mesh.fields())
        add_numbers(site, field.name, field.values, field.dimension, "number of the vertices");
    return site;
}

}  // namespace plume
