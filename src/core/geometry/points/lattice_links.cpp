#include "core/geometry/points/lattice_links.hpp"

#include <array>
#include <optional>

namespace plume {
namespace {

// Addresses of a lattice by signed steps; nothing beyond an open end or at a gap.
class Walker {
public:
    explicit Walker(const PointLattice& lattice) : lattice_(lattice) {}

    std::optional<std::size_t> at(std::ptrdiff_t i, std::ptrdiff_t j, std::ptrdiff_t k) const {
        const std::array<std::ptrdiff_t, 3> wanted{i, j, k};
        std::array<std::size_t, 3> found{};
        for (std::size_t d = 0; d < 3; ++d) {
            const auto count = static_cast<std::ptrdiff_t>(lattice_.counts()[d]);
            std::ptrdiff_t number = wanted[d];
            if (lattice_.closed(static_cast<int>(d)) && count > 0)
                number = ((number % count) + count) % count;
            if (number < 0 || number >= count) return {};
            found[d] = static_cast<std::size_t>(number);
        }
        const std::size_t index = lattice_.index({found[0], found[1], found[2]});
        if (!lattice_.present(index)) return {};
        return index;
    }

private:
    const PointLattice& lattice_;
};

struct Step3 {
    std::ptrdiff_t i, j, k;
};

// Steps from an address to those neighbours that come after it.
void steps_from(Arrangement arrangement, Address at, std::vector<Step3>& steps) {
    steps.clear();
    switch (arrangement) {
        case Arrangement::scatter:
            return;
        case Arrangement::row:
            steps = {{1, 0, 0}};
            return;
        case Arrangement::grid:
        case Arrangement::polar:
            steps = {{1, 0, 0}, {0, 1, 0}};
            return;
        case Arrangement::block:
            steps = {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}};
            return;
        case Arrangement::triangular:
            steps = {{1, 0, 0}, {0, 1, 0}, {at.j % 2 == 0 ? -1 : 1, 1, 0}};
            return;
        case Arrangement::hexagonal:
            steps = {{1, 0, 0}};
            if ((at.i + at.j) % 2 == 0) steps.push_back({0, 1, 0});
            return;
    }
}

using Corners = std::vector<Step3>;

// Cells that begin at an address, as steps to their corners.
void cells_from(const PointLattice& lattice, Address at, std::vector<Corners>& cells) {
    cells.clear();
    switch (lattice.arrangement()) {
        case Arrangement::scatter:
        case Arrangement::row:
            return;
        case Arrangement::grid:
        case Arrangement::polar:
            cells = {{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}}};
            return;
        case Arrangement::block:
            cells = {{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}},
                     {{0, 0, 0}, {1, 0, 0}, {1, 0, 1}, {0, 0, 1}},
                     {{0, 0, 0}, {0, 1, 0}, {0, 1, 1}, {0, 0, 1}}};
            return;
        case Arrangement::triangular:
            if (at.j % 2 == 0)
                cells = {{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, {{1, 0, 0}, {1, 1, 0}, {0, 1, 0}}};
            else
                cells = {{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}}, {{0, 0, 0}, {1, 1, 0}, {0, 1, 0}}};
            return;
        case Arrangement::hexagonal:
            if ((at.i + at.j) % 2 == 0)
                cells = {{{0, 0, 0}, {1, 0, 0}, {2, 0, 0}, {2, 1, 0}, {1, 1, 0}, {0, 1, 0}}};
            return;
    }
}

std::ptrdiff_t signed_of(std::size_t number) {
    return static_cast<std::ptrdiff_t>(number);
}

}  // namespace

void for_each_link(const PointLattice& lattice,
                   const std::function<void(std::size_t from, std::size_t to)>& link) {
    const Walker walker(lattice);
    std::vector<Step3> steps;
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index)) continue;
        const Address at = lattice.address(index);
        steps_from(lattice.arrangement(), at, steps);
        for (const Step3& step : steps) {
            const auto to =
                walker.at(signed_of(at.i) + step.i, signed_of(at.j) + step.j, signed_of(at.k) + step.k);
            if (to && *to != index) link(index, *to);
        }
    }
}

LatticeCells cells_of(const PointLattice& lattice) {
    const Walker walker(lattice);
    LatticeCells cells;
    std::vector<Corners> here;
    std::vector<std::size_t> corners;
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        const Address at = lattice.address(index);
        cells_from(lattice, at, here);
        for (const Corners& cell : here) {
            corners.clear();
            for (const Step3& step : cell)
                if (const auto corner = walker.at(signed_of(at.i) + step.i, signed_of(at.j) + step.j,
                                                  signed_of(at.k) + step.k))
                    corners.push_back(*corner);
            if (corners.size() != cell.size()) continue;
            cells.corners.insert(cells.corners.end(), corners.begin(), corners.end());
            cells.first.push_back(cells.corners.size());
        }
    }
    return cells;
}

}  // namespace plume
