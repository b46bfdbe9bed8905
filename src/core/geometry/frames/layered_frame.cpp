#include "core/geometry/frames/layered_frame.hpp"

#include <algorithm>
#include <map>

#include "core/data/address_text.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/lattice_members.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

std::uint32_t small(std::size_t number) {
    return static_cast<std::uint32_t>(number);
}

// Members with the layer they are of.
class Layers {
public:
    void add(Member member, double layer) {
        members_.push_back(member);
        layers_.push_back(layer);
    }
    void add(const std::vector<Member>& members, std::size_t shift, double layer) {
        for (Member member : members) {
            member.from += small(shift);
            member.to += small(shift);
            add(member, layer);
        }
    }
    void web(std::size_t from, std::size_t to, std::uint32_t row) {
        add({small(from), small(to), Way::web, row}, 0.5);
    }
    Result<BarFrame> frame(PointLattice nodes, std::vector<std::string> marks, const Run& run) {
        return assembled_frame(
            {std::move(nodes),
             std::move(members_),
             {{"layer", std::move(layers_), plain_number}},
             marks.empty() ? nullptr : std::make_shared<const std::vector<std::string>>(std::move(marks))},
            run);
    }

private:
    std::vector<Member> members_;
    Doubles layers_;
};

PointLattice moved_down(const PointLattice& lattice, const LayeredPattern& pattern) {
    const std::size_t count = lattice.address_count();
    Doubles x(count), y(count), z(count);
    for (std::size_t index = 0; index < count; ++index) {
        const Vec3 to = lattice.point(index) + (lattice.present(index) ? pattern.down(index) : Vec3{});
        x[index] = to.x;
        y[index] = to.y;
        z[index] = to.z;
    }
    return lattice.moved(std::move(x), std::move(y), std::move(z));
}

Result<BarFrame> one_above_the_other(const PointLattice& upper, const std::vector<Member>& chords,
                                     const LayeredPattern& pattern, const Run& run) {
    const std::size_t count = upper.address_count();
    PointLattice::Parts parts = stacked_parts({upper, moved_down(upper, pattern)});
    parts.arrangement = upper.arrangement();
    parts.counts = {upper.counts()[0], upper.counts()[1], 2};
    parts.closed = {upper.closed(0), upper.closed(1), false};
    auto nodes = PointLattice::make(std::move(parts));
    if (!nodes) return nodes.error();
    Layers layers;
    layers.add(chords, 0, 0);
    layers.add(chords, count, 1);
    if (pattern.webs != Webs::diagonals)
        for (std::size_t index = 0; index < count; ++index)
            if (upper.present(index)) layers.web(index, count + index, small(upper.address(index).j));
    if (pattern.webs != Webs::posts)
        for (const Member& chord : chords) {
            // By turns down and up, so that diagonals meet above and below.
            const Address at = upper.address(chord.from);
            const bool falls = (at.i + at.j) % 2 == 0;
            layers.web(falls ? chord.from : count + chord.from, falls ? count + chord.to : chord.to,
                       chord.row);
        }
    return layers.frame(*std::move(nodes), {}, run);
}

// Lower nodes stand as far below the middle of a cell as its corners do on average.
PointLattice nodes_below(const PointLattice& upper, const LatticeCells& cells,
                         const LayeredPattern& pattern) {
    std::vector<Vec3> places;
    places.reserve(cells.count());
    for (std::size_t cell = 0; cell < cells.count(); ++cell) {
        Vec3 sum;
        for (std::size_t at = cells.first[cell]; at < cells.first[cell + 1]; ++at)
            sum = sum + upper.point(cells.corners[at]) + pattern.down(cells.corners[at]);
        places.push_back(sum * (1 / static_cast<double>(cells.first[cell + 1] - cells.first[cell])));
    }
    return scattered(places);
}

Way way_between_cells(const PointLattice& upper, std::size_t from_corner, std::size_t to_corner) {
    const Address from = upper.address(from_corner), to = upper.address(to_corner);
    if (from.j == to.j) return Way::along_i;
    return from.i == to.i ? Way::along_j : Way::diagonal;
}

Result<BarFrame> below_cells(const PointLattice& upper, const std::vector<Member>& chords,
                             const LayeredPattern& pattern, const Run& run) {
    const LatticeCells cells = cells_of(upper);
    if (cells.count() == 0)
        return Error{ErrorCode::too_few_points, "", "have no cells to stand below",
                     "Take points with a bay each way."};
    const std::size_t count = upper.address_count();
    PointLattice::Parts parts = stacked_parts({upper, nodes_below(upper, cells, pattern)});
    parts.arrangement = Arrangement::scatter;
    parts.counts = {parts.x.size(), 1, 1};
    auto nodes = PointLattice::make(std::move(parts));
    if (!nodes) return nodes.error();
    std::vector<std::string> marks;
    for (std::size_t index = 0; index < count; ++index)
        marks.push_back(address_text(upper, index));
    Layers layers;
    layers.add(chords, 0, 0);
    std::map<std::pair<std::size_t, std::size_t>, std::size_t> cell_at;  // that came to a side first
    for (std::size_t cell = 0; cell < cells.count(); ++cell) {
        const std::size_t first = cells.first[cell], corners = cells.first[cell + 1] - first;
        const std::size_t* const corner = cells.corners.data() + first;
        marks.push_back(address_text(upper, corner[0]) + '/' + address_text(upper, corner[2]));
        const std::uint32_t row = small(upper.address(corner[0]).j);
        for (std::size_t at = 0; at < corners; ++at) {
            layers.web(corner[at], count + cell, row);
            const auto side = std::minmax(corner[at], corner[(at + 1) % corners]);
            const auto [known, fresh] = cell_at.try_emplace({side.first, side.second}, cell);
            if (fresh || known->second == cell) continue;
            const std::size_t other = known->second;
            layers.add({small(count + other), small(count + cell),
                        way_between_cells(upper, cells.corners[cells.first[other]], corner[0]),
                        small(upper.address(cells.corners[cells.first[other]]).j)},
                       1);
        }
    }
    return layers.frame(*std::move(nodes), std::move(marks), run);
}

}  // namespace

Result<BarFrame> layered_frame(const PointLattice& lattice, const LayeredPattern& pattern, const Run& run) {
    const bool layer = lattice.arrangement() != Arrangement::scatter &&
                       lattice.arrangement() != Arrangement::row && lattice.counts()[2] == 1;
    if (!layer)
        return Error{ErrorCode::wrong_kind, "", "are " + arrangement_text(lattice) + ", and no layer",
                     "Choose points in rows and columns."};
    const auto chords = members_of(lattice, {});
    if (!chords) return chords.error();
    return pattern.below_cells ? below_cells(lattice, chords->members, pattern, run)
                               : one_above_the_other(lattice, chords->members, pattern, run);
}

}  // namespace plume
