#include "core/geometry/meshes/cell_units.hpp"

#include <algorithm>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

double share_of(double at, double low, double high, double flat) {
    if (!(high > low)) return flat;
    // The ends are met exactly.
    return at == high ? 1 : (at - low) / (high - low);
}

Vec3 shares_in(const Box& box, Vec3 place) {
    return {share_of(place.x, box.low.x, box.high.x, 0.5), share_of(place.y, box.low.y, box.high.y, 0.5),
            share_of(place.z, box.low.z, box.high.z, 0)};
}

Vec3 scaled(Vec3 shares, double scale) {
    if (scale == 1) return shares;
    return {0.5 + (shares.x - 0.5) * scale, 0.5 + (shares.y - 0.5) * scale, 0.5 + (shares.z - 0.5) * scale};
}

// Where the vertices, faces and corners of each cell begin.
struct Starts {
    std::vector<std::size_t> vertices{0}, faces{0}, corners{0};
};

Starts starts_of(const std::vector<CellUnit>& units, const std::vector<CellFill>& fills) {
    Starts starts;
    for (const CellFill& fill : fills) {
        const Mesh& mesh = units[fill.unit].mesh;
        const bool filled = fill.scale != 0;
        starts.vertices.push_back(starts.vertices.back() + (filled ? mesh.vertex_count() : 0));
        starts.faces.push_back(starts.faces.back() + (filled ? mesh.face_count() : 0));
        starts.corners.push_back(starts.corners.back() + (filled ? mesh.corner_count() : 0));
    }
    return starts;
}

// The numbers of vertices that all units carry.
std::vector<Field> common_fields(const std::vector<CellUnit>& units, const std::vector<CellFill>& fills,
                                 const Starts& starts) {
    std::vector<Field> fields;
    for (const Field& field : units.front().mesh.fields()) {
        std::vector<const Field*> of_unit;
        for (const CellUnit& unit : units) {
            const auto found = std::ranges::find(unit.mesh.fields(), field.name, &Field::name);
            if (found != unit.mesh.fields().end()) of_unit.push_back(&*found);
        }
        if (of_unit.size() < units.size()) continue;
        Doubles values(starts.vertices.back());
        for (std::size_t cell = 0; cell < fills.size(); ++cell)
            if (fills[cell].scale != 0)
                std::ranges::copy(of_unit[fills[cell].unit]->values.span(),
                                  values.begin() + static_cast<std::ptrdiff_t>(starts.vertices[cell]));
        fields.push_back({field.name, std::move(values), field.dimension});
    }
    return fields;
}

}  // namespace

Vec3 place_in_cell(const CellBox& cell, const Box& box, double scale, Vec3 place) {
    const Vec3 at = scaled(shares_in(box, place), scale);
    return cell.at(at.x, at.y, at.z);
}

Result<Mesh> units_in_cells(const std::vector<CellUnit>& units, const CellBoxes& cells,
                            const std::vector<CellFill>& fills, const Run& run) {
    const Starts starts = starts_of(units, fills);
    std::vector<std::vector<Vec3>> shares(units.size());
    for (std::size_t unit = 0; unit < units.size(); ++unit)
        for (std::size_t vertex = 0; vertex < units[unit].mesh.vertex_count(); ++vertex)
            shares[unit].push_back(shares_in(units[unit].box, units[unit].mesh.vertex(vertex)));
    Doubles x(starts.vertices.back()), y(x.size()), z(x.size());
    Mesh::Parts parts;
    parts.corners.resize(starts.corners.back());
    parts.first.resize(starts.faces.back() + 1);
    const bool done = parallel_blocks(fills.size(), 64, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t cell = begin; cell < end; ++cell) {
            const CellFill& fill = fills[cell];
            if (fill.scale == 0) continue;
            std::size_t vertex = starts.vertices[cell];
            for (const Vec3 share : shares[fill.unit]) {
                const Vec3 in = scaled(share, fill.scale), at = cells.boxes[cell].at(in.x, in.y, in.z);
                x[vertex] = at.x;
                y[vertex] = at.y;
                z[vertex++] = at.z;
            }
            const Mesh::Parts& unit = units[fill.unit].mesh.parts();
            const auto first_vertex = static_cast<std::uint32_t>(starts.vertices[cell]);
            std::ranges::transform(unit.corners,
                                   parts.corners.begin() + static_cast<std::ptrdiff_t>(starts.corners[cell]),
                                   [&](std::uint32_t corner) { return corner + first_vertex; });
            const auto first_corner = static_cast<std::uint32_t>(starts.corners[cell]);
            std::transform(unit.first.begin() + 1, unit.first.end(),
                           parts.first.begin() + static_cast<std::ptrdiff_t>(starts.faces[cell]) + 1,
                           [&](std::uint32_t end_of) { return end_of + first_corner; });
        }
    });
    if (!done) return cancelled_error();
    for (std::size_t cell = 0; cell < fills.size(); ++cell)
        if (starts.faces[cell + 1] > starts.faces[cell])
            parts.part_starts.push_back(static_cast<std::uint32_t>(starts.faces[cell]));
    parts.fields = common_fields(units, fills, starts);
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return Mesh::make(std::move(parts));
}

}  // namespace plume
