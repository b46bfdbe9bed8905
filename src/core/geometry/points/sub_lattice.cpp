#include "core/geometry/points/sub_lattice.hpp"

#include <algorithm>

#include "core/geometry/parts/subset.hpp"
#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

bool square_cells(const PointLattice& lattice) {
    const bool flat =
        lattice.arrangement() == Arrangement::grid || lattice.arrangement() == Arrangement::polar;
    return flat && lattice.counts()[2] == 1;
}

Error needs(const std::string& what, const std::string& which, const PointLattice& lattice) {
    return {ErrorCode::wrong_kind, "",
            what + " needs " + which + "; this lattice has " + arrangement_text(lattice),
            "Choose other points, or another part."};
}

// Addresses of every n-th place of a direction.
std::vector<std::size_t> strided(std::size_t count, std::size_t n) {
    std::vector<std::size_t> numbers;
    for (std::size_t number = 0; number < count; number += n)
        numbers.push_back(number);
    return numbers;
}

// How many neighbours a point in the middle has.
std::size_t inner_neighbours(Arrangement arrangement) {
    switch (arrangement) {
        case Arrangement::scatter:
            return 1;  // all are border
        case Arrangement::row:
            return 2;
        case Arrangement::hexagonal:
            return 3;
        case Arrangement::grid:
        case Arrangement::polar:
            return 4;
        case Arrangement::triangular:
        case Arrangement::block:
            return 6;
    }
    return 0;
}

PointLattice centres_of_grid(const PointLattice& lattice) {
    Shape shape = shape_of(lattice);
    const auto counts = lattice.counts();
    const bool block = lattice.arrangement() == Arrangement::block;
    for (int d = 0; d < 3; ++d)
        shape.counts[static_cast<std::size_t>(d)] =
            d < 2 || block ? std::max<std::size_t>(lattice.bays(d), 1) : 1;
    Blends blends;
    const std::size_t far_k = block && counts[2] > 1 ? 2 : 1;
    for (std::size_t k = 0; k < shape.counts[2]; ++k)
        for (std::size_t j = 0; j < shape.counts[1]; ++j)
            for (std::size_t i = 0; i < shape.counts[0]; ++i) {
                for (std::size_t dk = 0; dk < far_k; ++dk)
                    for (std::size_t dj = 0; dj < 2; ++dj)
                        for (std::size_t di = 0; di < 2; ++di)
                            blends.add(lattice.index({(i + di) % counts[0], (j + dj) % counts[1],
                                                      (k + dk) % counts[2]}),
                                       far_k == 2 ? 0.125 : 0.25);
                blends.end();
            }
    return blended(lattice, shape, blends);
}

// Triangles of a row, one after the other, are a zigzag; those that share a side across a row of points are
// at i + j even, once one gap stands before each row.
PointLattice centres_of_triangles(const PointLattice& lattice) {
    const std::size_t across = lattice.counts()[0] - 1, up = lattice.counts()[1] - 1;
    Blends blends;
    const auto triangle = [&](Address a, Address b, Address c) {
        for (const Address corner : {a, b, c})
            blends.add(lattice.index(corner), 1.0 / 3);
        blends.end();
    };
    for (std::size_t j = 0; j < up; ++j) {
        blends.end();
        for (std::size_t i = 0; i < across; ++i) {
            if (j % 2 == 0) {
                triangle({i, j}, {i + 1, j}, {i, j + 1});
                triangle({i + 1, j}, {i + 1, j + 1}, {i, j + 1});
            } else {
                triangle({i, j}, {i + 1, j + 1}, {i, j + 1});
                triangle({i, j}, {i + 1, j}, {i + 1, j + 1});
            }
        }
    }
    return blended(lattice, {Arrangement::hexagonal, {2 * across + 1, up, 1}, {}}, blends);
}

PointLattice centres_of_hexagons(const PointLattice& lattice) {
    const std::size_t across = (lattice.counts()[0] - 2) / 2, up = lattice.counts()[1] - 1;
    Blends blends;
    for (std::size_t j = 0; j < up; ++j)
        for (std::size_t at = 0; at < across; ++at) {
            const std::size_t i = 2 * at + j % 2;
            for (std::size_t step = 0; step < 3; ++step)
                for (std::size_t row = 0; row < 2; ++row)
                    blends.add(lattice.index({i + step, j + row}), 1.0 / 6);
            blends.end();
        }
    return blended(lattice, {Arrangement::triangular, {across, up, 1}, {}}, blends);
}

}  // namespace

Result<PointLattice> checkerboard(const PointLattice& lattice, BoardHalf half) {
    if (!square_cells(lattice)) return needs("A checkerboard", "rows and columns", lattice);
    const std::size_t columns = lattice.counts()[0], rows = lattice.counts()[1],
                      odd = half == BoardHalf::odd ? 1 : 0;
    if (columns < 2 || rows < 2) return needs("A checkerboard", "at least two rows and columns", lattice);
    // i + j = 2 p + odd and j - i = 2 q + odd - 2 r, where r makes the smallest q zero.
    const std::size_t lowered = (columns - 1 + odd) / 2;
    const std::size_t along = (columns + rows - 2 - odd) / 2 + 1;
    const std::size_t across = lowered + (rows - 1 - odd) / 2 + 1;
    if (static_cast<double>(along) * static_cast<double>(across) > 1e9)
        return Error{ErrorCode::over_budget, "",
                     "Turned by 45°, the arrangement would have more than 10⁹ addresses",
                     "Take fewer points, or split the lattice."};
    std::vector<std::size_t> from(along * across, no_address);
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            if ((i + j) % 2 != odd) continue;
            const std::size_t p = (i + j - odd) / 2;
            const std::size_t q = (j + 2 * lowered - i - odd) / 2;
            from[p + along * q] = lattice.index({i, j});
        }
    return rearranged(lattice, {Arrangement::grid, {along, across, 1}, {}}, from);
}

Result<PointLattice> every_nth(const PointLattice& lattice, std::size_t along_i, std::size_t along_j) {
    if (lattice.arrangement() == Arrangement::triangular || lattice.arrangement() == Arrangement::hexagonal)
        return needs("Every n-th point", "rows and columns that cross squarely", lattice);
    Shape shape = shape_of(lattice);
    const auto take_i = strided(shape.counts[0], along_i), take_j = strided(shape.counts[1], along_j);
    if (shape.counts[0] % along_i != 0) shape.closed[0] = false;
    if (shape.counts[1] % along_j != 0) shape.closed[1] = false;
    shape.counts[0] = take_i.size();
    shape.counts[1] = take_j.size();
    std::vector<std::size_t> from;
    for (std::size_t k = 0; k < shape.counts[2]; ++k)
        for (const std::size_t j : take_j)
            for (const std::size_t i : take_i)
                from.push_back(lattice.index({i, j, k}));
    return rearranged(lattice, shape, from);
}

std::vector<std::uint8_t> border_mask(const PointLattice& lattice) {
    std::vector<std::uint8_t> links(lattice.address_count(), 0);
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        ++links[from];
        ++links[to];
    });
    const std::size_t inside = inner_neighbours(lattice.arrangement());
    for (std::uint8_t& count : links)
        count = count < inside ? 1 : 0;
    return links;
}

Result<PointLattice> cell_centres(const PointLattice& lattice) {
    const auto& counts = lattice.counts();
    const std::size_t least = lattice.arrangement() == Arrangement::hexagonal ? 4 : 2;
    if (counts[0] < least || counts[1] < 2 || lattice.arrangement() == Arrangement::scatter)
        return needs("Cell centres", "points in two directions", lattice);
    PointLattice centres = lattice.arrangement() == Arrangement::triangular  ? centres_of_triangles(lattice)
                           : lattice.arrangement() == Arrangement::hexagonal ? centres_of_hexagons(lattice)
                                                                             : centres_of_grid(lattice);
    if (centres.point_count() == 0)
        return Error{ErrorCode::too_few_points, "", "No cell of the lattice has all its corners",
                     "Keep points that are neighbours."};
    return centres;
}

Result<PointLattice> refined(const PointLattice& lattice, std::size_t n) {
    const Arrangement arrangement = lattice.arrangement();
    if (arrangement == Arrangement::triangular || arrangement == Arrangement::hexagonal ||
        arrangement == Arrangement::scatter)
        return needs("A refined lattice", "rows that cross squarely", lattice);
    Shape shape = shape_of(lattice);
    for (int d = 0; d < 3; ++d)
        shape.counts[static_cast<std::size_t>(d)] = lattice.bays(d) * n + (lattice.closed(d) ? 0 : 1);
    // Along each direction: the two old places a new one lies between, and its share of the way.
    struct Between {
        std::size_t low, high;
        double share;
    };
    const auto between = [&](std::size_t number, std::size_t d) -> Between {
        const std::size_t low = number / n, rest = number % n;
        return {low, rest == 0 ? low : (low + 1) % lattice.counts()[d],
                static_cast<double>(rest) / static_cast<double>(n)};
    };
    Blends blends;
    for (std::size_t k = 0; k < shape.counts[2]; ++k)
        for (std::size_t j = 0; j < shape.counts[1]; ++j)
            for (std::size_t i = 0; i < shape.counts[0]; ++i) {
                const Between a = between(i, 0), b = between(j, 1), c = between(k, 2);
                for (const auto& [at_k, weight_k] : {std::pair{c.low, 1 - c.share}, {c.high, c.share}})
                    for (const auto& [at_j, weight_j] : {std::pair{b.low, 1 - b.share}, {b.high, b.share}})
                        for (const auto& [at_i, weight_i] :
                             {std::pair{a.low, 1 - a.share}, {a.high, a.share}})
                            if (weight_i * weight_j * weight_k > 0)
                                blends.add(lattice.index({at_i, at_j, at_k}), weight_i * weight_j * weight_k);
                blends.end();
            }
    return blended(lattice, shape, blends);
}

}  // namespace plume
