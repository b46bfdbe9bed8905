#include "core/geometry/surfaces/facets.hpp"

#include <algorithm>
#include <array>
#include <limits>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/geometry/points/two_directions.hpp"

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

Error no_whole_cell() {
    return {ErrorCode::too_few_points, "", "No cell of the lattice has all its corners",
            "Keep points that are neighbours."};
}

// Cells of a lattice by row and column, and what becomes of them.
class Cells {
public:
    Cells(const PointLattice& lattice, FacetShape shape)
        : lattice_(lattice),
          columns_(lattice.counts()[0]),
          rows_(lattice.counts()[1]),
          across_(lattice.bays(0)),
          shape_(shape) {}

    std::size_t rows() const { return lattice_.bays(1); }
    std::size_t faces_per_cell() const { return shape_ == FacetShape::quads ? 1 : 2; }
    std::size_t corners_per_face() const { return shape_ == FacetShape::quads ? 4 : 3; }

    // How many cells of a row have all four corners.
    std::size_t whole_in_row(std::size_t j) const {
        if (!lattice_.has_gaps()) return across_;
        std::size_t count = 0;
        for (std::size_t i = 0; i < across_; ++i)
            count += whole(quad_at(i, j)) ? 1 : 0;
        return count;
    }

    // Writes the corners of a row's whole cells; returns where it ended.
    std::uint32_t* write_row(std::size_t j, std::uint32_t* to) const {
        for (std::size_t i = 0; i < across_; ++i) {
            const Quad quad = quad_at(i, j);
            if (!whole(quad)) continue;
            to = shape_ == FacetShape::quads ? std::copy(quad.begin(), quad.end(), to) : halves(quad, to);
        }
        return to;
    }

private:
    Quad quad_at(std::size_t i, std::size_t j) const {
        const std::size_t right = i + 1 == columns_ ? 0 : i + 1, above = j + 1 == rows_ ? 0 : j + 1;
        return {static_cast<std::uint32_t>(i + columns_ * j),
                static_cast<std::uint32_t>(right + columns_ * j),
                static_cast<std::uint32_t>(right + columns_ * above),
                static_cast<std::uint32_t>(i + columns_ * above)};
    }

    bool whole(const Quad& quad) const {
        return !lattice_.has_gaps() || (lattice_.present(quad[0]) && lattice_.present(quad[1]) &&
                                        lattice_.present(quad[2]) && lattice_.present(quad[3]));
    }

    // Along the shorter diagonal.
    std::uint32_t* halves(const Quad& quad, std::uint32_t* to) const {
        const Vec3 first = lattice_.point(quad[2]) - lattice_.point(quad[0]);
        const Vec3 second = lattice_.point(quad[3]) - lattice_.point(quad[1]);
        using Halves = std::array<std::uint32_t, 6>;
        const Halves corners = dot(first, first) <= dot(second, second)
                                   ? Halves{quad[0], quad[1], quad[2], quad[0], quad[2], quad[3]}
                                   : Halves{quad[0], quad[1], quad[3], quad[1], quad[2], quad[3]};
        return std::copy(corners.begin(), corners.end(), to);
    }

    const PointLattice& lattice_;
    std::size_t columns_, rows_, across_;
    FacetShape shape_;
};

// Rows at a time that are worth a thread of their own.
constexpr std::size_t rows_together = 16;

// Renumbers the corners over the points that faces use, in the order of their addresses, and brings those
// points along.
void take_points(const PointLattice& lattice, Mesh::Parts& parts, const Run& run) {
    if (!lattice.has_gaps()) {
        parts.x = lattice.x();
        parts.y = lattice.y();
        parts.z = lattice.z();
        parts.fields = lattice.fields();
        return;
    }
    std::vector<std::uint32_t> number(lattice.address_count(), 0), kept;
    for (const std::uint32_t corner : parts.corners)
        number[corner] = 1;
    kept.reserve(lattice.point_count());
    for (std::uint32_t address = 0; address < number.size(); ++address) {
        if (number[address] == 0) continue;
        number[address] = static_cast<std::uint32_t>(kept.size());
        kept.push_back(address);
    }
    parallel_blocks(parts.corners.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at)
            parts.corners[at] = number[parts.corners[at]];
    });
    parts.x = gathered(lattice.x(), kept, run);
    parts.y = gathered(lattice.y(), kept, run);
    parts.z = gathered(lattice.z(), kept, run);
    parts.fields = gathered(lattice.fields(), kept, run);
}

// Of arrangements whose cells are not quads.
Result<Mesh> facets_of_cells(const PointLattice& lattice, const Run& run) {
    const LatticeCells cells = cells_of(lattice);
    if (cells.count() == 0) return no_whole_cell();
    Mesh::Parts parts;
    parts.first.assign(cells.first.begin(), cells.first.end());
    parts.corners.assign(cells.corners.begin(), cells.corners.end());
    take_points(lattice, parts, run);
    if (run.cancelled()) return cancelled_error();
    return Mesh::make(std::move(parts));
}

}  // namespace

Result<Mesh> facets(const PointLattice& lattice, FacetShape shape, const Run& run) {
    if (Status status = check(lattice); !status) return status.error();
    if (lattice.arrangement() == Arrangement::triangular || lattice.arrangement() == Arrangement::hexagonal)
        return facets_of_cells(lattice, run);
    const Cells cells(lattice, shape);
    std::vector<std::size_t> before(cells.rows() + 1, 0);  // whole cells in the rows before
    const bool counted =
        parallel_blocks(cells.rows(), rows_together, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t j = begin; j < end; ++j)
                before[j + 1] = cells.whole_in_row(j);
        });
    if (!counted) return cancelled_error();
    std::partial_sum(before.begin(), before.end(), before.begin());
    if (before.back() == 0) return no_whole_cell();
    Mesh::Parts parts;
    const std::size_t faces = before.back() * cells.faces_per_cell(), corners = cells.corners_per_face();
    parts.corners.resize(faces * corners);
    parts.first.resize(faces + 1);
    for (std::size_t face = 0; face <= faces; ++face)
        parts.first[face] = static_cast<std::uint32_t>(face * corners);
    const bool written =
        parallel_blocks(cells.rows(), rows_together, run, [&](std::size_t begin, std::size_t end) {
            std::uint32_t* to = parts.corners.data() + before[begin] * cells.faces_per_cell() * corners;
            for (std::size_t j = begin; j < end; ++j)
                to = cells.write_row(j, to);
        });
    if (!written) return cancelled_error();
    take_points(lattice, parts, run);
    if (run.cancelled()) return cancelled_error();
    return Mesh::make(std::move(parts));
}

}  // namespace plume
