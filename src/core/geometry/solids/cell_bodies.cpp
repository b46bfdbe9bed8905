#include "core/geometry/solids/cell_bodies.hpp"

#include <algorithm>
#include <array>

#include "core/geometry/points/cell_boxes.hpp"
#include "core/geometry/solids/bodies.hpp"

namespace plume {
namespace {

// By eight_corners(); faces outwards.
constexpr std::array<std::array<std::uint32_t, 4>, 6> faces{
    {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}}};

Result<Body> body_between(const PointLattice& lattice, const EightCorners& corners) {
    Doubles x, y, z;
    for (const std::size_t corner : corners) {
        const Vec3 place = lattice.point(corner);
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
    }
    Mesh::Parts parts;
    for (const auto& face : faces) {
        parts.corners.insert(parts.corners.end(), face.begin(), face.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    auto mesh = Mesh::make(std::move(parts));
    if (!mesh) return mesh.error();
    return meshed_body(*std::move(mesh));
}

}  // namespace

Result<CellBodies> bodies_of_cells(const PointLattice& lattice, const Run& run) {
    if (lattice.arrangement() != Arrangement::block ||
        lattice.bays(0) * lattice.bays(1) * lattice.bays(2) == 0)
        return Error{ErrorCode::unlike_arrangement, "", "has no cells with a volume",
                     "Choose a block lattice, or repeat a grid upwards."};
    CellBodies made;
    std::vector<Address> cells;
    for (std::size_t k = 0; k < lattice.bays(2); ++k)
        for (std::size_t j = 0; j < lattice.bays(1); ++j) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(k * lattice.bays(1) + j) /
                       static_cast<double>(lattice.bays(1) * lattice.bays(2)));
            for (std::size_t i = 0; i < lattice.bays(0); ++i) {
                const EightCorners corners = eight_corners(lattice, {i, j, k});
                if (!std::ranges::all_of(corners, [&](std::size_t at) { return lattice.present(at); })) {
                    ++made.missing;
                    continue;
                }
                Result<Body> body = body_between(lattice, corners);
                if (!body)
                    return Error{ErrorCode::out_of_range, "",
                                 "has a cell without a volume at i " + std::to_string(i) + ", j " +
                                     std::to_string(j) + ", k " + std::to_string(k),
                                 "Move its points apart, or leave them out."};
                made.set.bodies.push_back(*std::move(body));
                cells.push_back({i, j, k});
            }
        }
    const std::size_t count = cells.size();
    made.set.marks = std::make_shared<const PartMarks>(PartMarks{
        count, [cells = std::move(cells)](std::size_t body) {
            const Address& cell = cells[body];
            return std::to_string(cell.i) + ',' + std::to_string(cell.j) + ',' + std::to_string(cell.k);
        }});
    return made;
}

}  // namespace plume
