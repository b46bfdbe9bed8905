#include "core/steps/points/lattice_plane.hpp"

#include "core/base/parallel.hpp"

namespace plume {

std::vector<SlotSpec> with_plane(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot("plane", "Plane",
                                {{"xy", "XY", "flat on the ground"},
                                 {"xz", "XZ", "upright, facing along Y"},
                                 {"yz", "YZ", "upright, facing along X"},
                                 {"placed", "base", "the XY plane of a placement"}}));
    slots.push_back(reference_slot("placement", "Placement", {Kind::placements}));
    return slots;
}

std::vector<SlotSpec> with_facing_plane(std::vector<SlotSpec> slots) {
    slots = with_plane(std::move(slots));
    slots.push_back(
        choice_slot("facing", "Facing",
                    {{"front", "front", "normals to whoever looks at the front or side elevation"},
                     {"back", "back", "turned over about its upright middle: normals the other way"}}));
    return slots;
}

SlotSpec origin_slot() {
    return choice_slot("origin", "Origin",
                       {{"centre", "centre", "the middle lies at the origin"},
                        {"corner", "corner", "the first point lies at the origin"}});
}

Placement plane_of(const Inputs& in) {
    const std::string& plane = in.word("plane");
    Placement placement;
    if (plane == "xz") placement = {{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};
    if (plane == "yz") placement = {{}, {0, 1, 0}, {0, 0, 1}, {1, 0, 0}};
    if (plane == "placed") placement = in.held<Placements>("placement").present_placements().front();
    if (in.has("facing") && in.word("facing") == "back")
        return {placement.origin, placement.along * -1.0, placement.across, placement.up * -1.0};
    return placement;
}

Result<Value> laid_out(const Layout& layout, const Placement& plane, const Run& run) {
    const std::size_t rows = layout.counts[1] * layout.counts[2], columns = layout.counts[0];
    Doubles x(columns * rows), y(columns * rows), z(columns * rows);
    const bool finished = parallel_blocks(
        rows, std::max<std::size_t>(1, usual_block / std::max<std::size_t>(1, columns)), run,
        [&](std::size_t begin, std::size_t end) {
            for (std::size_t row = begin; row < end; ++row)
                for (std::size_t i = 0; i < columns; ++i) {
                    const Vec3 at =
                        plane.to_world(layout.place({i, row % layout.counts[1], row / layout.counts[1]}));
                    x[i + columns * row] = at.x;
                    y[i + columns * row] = at.y;
                    z[i + columns * row] = at.z;
                }
        });
    if (!finished) return cancelled_error();
    PointLattice::Parts parts;
    parts.arrangement = layout.arrangement;
    parts.counts = layout.counts;
    parts.closed = layout.closed;
    parts.present = layout.present;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    if (!lattice) return lattice.error();
    return Value(*std::move(lattice));
}

Result<Value> laid_out(Arrangement arrangement, const std::vector<Vec3>& places, bool closed,
                       const Placement& plane) {
    const Layout row{arrangement, {places.size(), 1, 1}, {closed, false, false}, {}, [&](Address at) {
                         return places[at.i];
                     }};
    return laid_out(row, plane, Run());
}

Estimate points_estimate(double count) {
    return {count * 3 * sizeof(double), count * 1e-8};
}

}  // namespace plume
