#include "core/geometry/points/cell_boxes.hpp"

#include <algorithm>

#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

Error no_boxes() {
    return {ErrorCode::unlike_arrangement, "", "has no cells of four corners",
            "Choose a rectangular or polar lattice, or a block."};
}

void add(CellBoxes& cells, const CellBox& box, const EightCorners& addresses) {
    if (!std::ranges::all_of(box.corners, is_finite)) {
        ++cells.not_finite;
        return;
    }
    cells.boxes.push_back(box);
    cells.addresses.push_back(addresses);
}

}  // namespace

EightCorners eight_corners(const PointLattice& lattice, Address cell) {
    const auto one = [&](int direction, std::size_t at) {
        return at % lattice.counts()[static_cast<std::size_t>(direction)];
    };
    EightCorners corners{};
    for (std::size_t corner = 0; corner < corners.size(); ++corner)
        corners[corner] = lattice.index({one(0, cell.i + (corner & 1U)), one(1, cell.j + (corner >> 1U & 1U)),
                                         one(2, cell.k + (corner >> 2U))});
    return corners;
}

Result<CellBoxes> block_boxes(const PointLattice& lattice) {
    if (lattice.arrangement() != Arrangement::block ||
        lattice.bays(0) * lattice.bays(1) * lattice.bays(2) == 0)
        return no_boxes();
    CellBoxes cells;
    for (std::size_t k = 0; k < lattice.bays(2); ++k)
        for (std::size_t j = 0; j < lattice.bays(1); ++j)
            for (std::size_t i = 0; i < lattice.bays(0); ++i) {
                const EightCorners corners = eight_corners(lattice, {i, j, k});
                if (!std::ranges::all_of(corners, [&](std::size_t at) { return lattice.present(at); }))
                    continue;
                CellBox box;
                for (std::size_t corner = 0; corner < 8; ++corner)
                    box.corners[corner] = lattice.point(corners[corner]);
                add(cells, box, corners);
            }
    return cells;
}

Result<CellBoxes> boxes_between(const PointLattice& lower, const PointLattice& upper) {
    const Arrangement arrangement = lower.arrangement();
    if (arrangement != Arrangement::grid && arrangement != Arrangement::polar) return no_boxes();
    if (!lower.same_arrangement(upper))
        return Error{ErrorCode::unlike_arrangement, "", "is arranged otherwise",
                     "Choose points with the same rows and columns."};
    CellBoxes cells;
    for (std::size_t j = 0; j < lower.bays(1); ++j)
        for (std::size_t i = 0; i < lower.bays(0); ++i) {
            EightCorners corners = eight_corners(lower, {i, j, 0});
            std::copy_n(corners.begin(), 4, corners.begin() + 4);
            if (!std::ranges::all_of(corners,
                                     [&](std::size_t at) { return lower.present(at) && upper.present(at); }))
                continue;
            CellBox box;
            for (std::size_t corner = 0; corner < 8; ++corner)
                box.corners[corner] = (corner < 4 ? lower : upper).point(corners[corner]);
            add(cells, box, corners);
        }
    if (cells.boxes.empty() && cells.not_finite == 0)
        return Error{ErrorCode::too_few_points, "", "has no whole cell", "Close its gaps, or add bays."};
    return cells;
}

PointLattice lifted(const PointLattice& lattice, double by) {
    std::vector<Vec3> normals(lattice.address_count());
    const LatticeCells cells = cells_of(lattice);
    for (std::size_t cell = 0; cell < cells.count(); ++cell) {
        const auto corners =
            std::span(cells.corners).subspan(cells.first[cell], cells.first[cell + 1] - cells.first[cell]);
        Vec3 area;
        const Vec3 origin = lattice.point(corners[0]);
        for (std::size_t corner = 1; corner + 1 < corners.size(); ++corner)
            area = area + cross(lattice.point(corners[corner]) - origin,
                                lattice.point(corners[corner + 1]) - origin);
        for (const std::size_t corner : corners)
            normals[corner] = normals[corner] + area;
    }
    Doubles x(normals.size()), y(normals.size()), z(normals.size());
    for (std::size_t index = 0; index < normals.size(); ++index) {
        const Vec3 to = lattice.point(index) + unit_or_zero(normals[index]) * by;
        x[index] = to.x;
        y[index] = to.y;
        z[index] = to.z;
    }
    return lattice.moved(std::move(x), std::move(y), std::move(z));
}

}  // namespace plume
