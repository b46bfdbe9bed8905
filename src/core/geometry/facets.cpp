#include "core/geometry/facets.hpp"

#include <array>
#include <limits>

#include "core/geometry/two_directions.hpp"

namespace plume {
namespace {

using Quad = std::array<std::uint32_t, 4>;

Status check(const PointLattice& lattice) {
    if (Status status = check_two_directions(lattice, "A skin"); !status) return status;
    if (lattice.address_count() > std::numeric_limits<std::uint32_t>::max() / 4)
        return Error{ErrorCode::over_budget, "", "A mesh can have at most a thousand million points",
                     "Lower the number of bays."};
    return Done{};
}

void append(const PointLattice& lattice, const Quad& quad, FacetShape shape, Mesh::Parts& parts) {
    const auto add = [&](std::initializer_list<std::uint32_t> corners) {
        parts.corners.insert(parts.corners.end(), corners);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    };
    if (shape == FacetShape::quads) return add({quad[0], quad[1], quad[2], quad[3]});
    const Vec3 first = lattice.point(quad[2]) - lattice.point(quad[0]);
    const Vec3 second = lattice.point(quad[3]) - lattice.point(quad[1]);
    if (dot(first, first) <= dot(second, second)) {
        add({quad[0], quad[1], quad[2]});
        add({quad[0], quad[2], quad[3]});
    } else {
        add({quad[0], quad[1], quad[3]});
        add({quad[1], quad[2], quad[3]});
    }
}

Column gathered(const Column& column, const std::vector<std::uint32_t>& kept) {
    Doubles result(kept.size());
    for (std::size_t index = 0; index < kept.size(); ++index)
        result[index] = column[kept[index]];
    return result;
}

// Renumbers the corners over the points that faces use and brings those points along.
void take_points(const PointLattice& lattice, Mesh::Parts& parts) {
    if (!lattice.has_gaps()) {
        parts.x = lattice.x();
        parts.y = lattice.y();
        parts.z = lattice.z();
        parts.fields = lattice.fields();
        return;
    }
    constexpr auto unused = std::numeric_limits<std::uint32_t>::max();
    std::vector<std::uint32_t> number(lattice.address_count(), unused), kept;
    for (std::uint32_t& corner : parts.corners) {
        if (number[corner] == unused) {
            number[corner] = static_cast<std::uint32_t>(kept.size());
            kept.push_back(corner);
        }
        corner = number[corner];
    }
    parts.x = gathered(lattice.x(), kept);
    parts.y = gathered(lattice.y(), kept);
    parts.z = gathered(lattice.z(), kept);
    for (const Field& field : lattice.fields())
        parts.fields.push_back({field.name, gathered(field.values, kept), field.dimension});
}

}  // namespace

Result<Mesh> facets(const PointLattice& lattice, FacetShape shape, const Run& run) {
    if (Status status = check(lattice); !status) return status.error();
    const std::size_t columns = lattice.counts()[0], rows = lattice.counts()[1];
    Mesh::Parts parts;
    parts.corners.reserve(lattice.address_count() * (shape == FacetShape::quads ? 4 : 6));
    parts.first.reserve(lattice.address_count() * (shape == FacetShape::quads ? 1 : 2) + 1);
    for (std::size_t j = 0; j < lattice.bays(1); ++j) {
        if (run.cancelled()) return cancelled_error();
        const std::size_t above = (j + 1) % rows;
        for (std::size_t i = 0; i < lattice.bays(0); ++i) {
            const std::size_t right = (i + 1) % columns;
            const std::array<std::size_t, 4> corners{i + columns * j, right + columns * j,
                                                     right + columns * above, i + columns * above};
            bool whole = true;
            Quad quad{};
            for (std::size_t corner = 0; corner < 4; ++corner) {
                whole = whole && lattice.present(corners[corner]);
                quad[corner] = static_cast<std::uint32_t>(corners[corner]);
            }
            if (whole) append(lattice, quad, shape, parts);
        }
    }
    if (parts.corners.empty())
        return Error{ErrorCode::too_few_points, "", "No cell of the lattice has all four corners",
                     "Keep points that are neighbours."};
    take_points(lattice, parts);
    return Mesh::make(std::move(parts));
}

}  // namespace plume
