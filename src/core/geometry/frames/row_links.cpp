#include "core/geometry/frames/row_links.hpp"

#include <cmath>
#include <optional>

namespace plume {
namespace {

std::optional<std::size_t> number_at(std::ptrdiff_t number, std::size_t count, bool wraps) {
    const auto all = static_cast<std::ptrdiff_t>(count);
    if (wraps) number = ((number % all) + all) % all;
    if (number < 0 || number >= all) return {};
    return static_cast<std::size_t>(number);
}

Way way_of(std::ptrdiff_t shift) {
    if (shift == 0) return Way::along_j;
    return shift > 0 ? Way::diagonal : Way::counter;
}

// The shifts that a point of a row has.
std::vector<std::ptrdiff_t> shifts_of(const RowLink& link, std::size_t index, std::size_t row) {
    const std::ptrdiff_t shift = link.shift(index);
    if (link.turns == LinkTurns::both && shift != 0) return {shift, -shift};
    return {link.turns == LinkTurns::alternating && row % 2 == 1 ? -shift : shift};
}

// Closed rows have as many bays as points, open ones one less: shares run over the bays.
std::size_t match_by_share(std::size_t number, const PointLattice& from, const PointLattice& to) {
    const auto bays = [](const PointLattice& row) {
        return static_cast<double>(row.closed(0) ? row.address_count() : row.address_count() - 1);
    };
    if (bays(from) == 0) return 0;
    return static_cast<std::size_t>(std::lround(static_cast<double>(number) / bays(from) * bays(to)));
}

}  // namespace

Result<std::vector<Member>> linked_rows(const PointLattice& lattice, std::size_t reach, const RowLink& link,
                                        const Run& run) {
    const auto& [columns, rows, layers] = lattice.counts();
    std::vector<Member> members;
    for (std::size_t line = 0; line < rows * layers; ++line) {
        if (run.cancelled()) return cancelled_error();
        const std::size_t row = line % rows, layer = line / rows;
        const auto to_row = number_at(static_cast<std::ptrdiff_t>(row + reach), rows, lattice.closed(1));
        if (!to_row) continue;
        for (std::size_t column = 0; column < columns; column += link.every) {
            const std::size_t from = lattice.index({column, row, layer});
            if (!lattice.present(from)) continue;
            for (const std::ptrdiff_t shift : shifts_of(link, from, row)) {
                const auto to_column =
                    number_at(static_cast<std::ptrdiff_t>(column) + shift, columns, link.wraps);
                if (!to_column) continue;
                const std::size_t to = lattice.index({*to_column, *to_row, layer});
                if (to == from || !lattice.present(to)) continue;
                members.push_back({static_cast<std::uint32_t>(from), static_cast<std::uint32_t>(to),
                                   reach == 0 ? Way::along_i : way_of(shift),
                                   static_cast<std::uint32_t>(line)});
            }
        }
    }
    return members;
}

std::vector<Member> linked_points(const PointLattice& from, const PointLattice& to, bool by_share,
                                  const RowLink& link) {
    std::vector<Member> members;
    for (std::size_t number = 0; number < from.address_count(); number += link.every) {
        if (!from.present(number)) continue;
        const std::size_t match = by_share ? match_by_share(number, from, to) : number;
        for (const std::ptrdiff_t shift : shifts_of(link, number, 0)) {
            const auto there =
                number_at(static_cast<std::ptrdiff_t>(match) + shift, to.address_count(), link.wraps);
            if (!there || !to.present(*there)) continue;
            members.push_back({static_cast<std::uint32_t>(number),
                               static_cast<std::uint32_t>(from.address_count() + *there), way_of(shift), 0});
        }
    }
    return members;
}

}  // namespace plume
