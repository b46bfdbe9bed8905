#pragma once
// Placements: coordinate systems, one on every point of a lattice.
//
// A placement is right-handed and orthonormal: `along` is its X axis, `across` its Y axis, `up` its Z axis.
// The lattice gives the origins, keeps their arrangement and may carry fields. Placements that grew know what
// part stands on each and what it came from.

#include <array>
#include <memory>

#include "core/data/part_tree.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct Placement {
    Vec3 origin;
    Vec3 along{1, 0, 0}, across{0, 1, 0}, up{0, 0, 1};

    Vec3 to_world(Vec3 local) const { return origin + turned(local); }
    Vec3 turned(Vec3 local) const { return along * local.x + across * local.y + up * local.z; }
    Vec3 to_local(Vec3 world) const {
        const Vec3 offset = world - origin;
        return {dot(offset, along), dot(offset, across), dot(offset, up)};
    }
};

// The placement whose up is `up` and whose along is as near to `along` as can be; where the two are parallel,
// or one has no length, another axis takes its place.
Placement placement_of(Vec3 origin, Vec3 up, Vec3 along);

class Placements {
public:
    // One placement per address of the lattice, whose points become the origins. Errors: empty_input;
    // not_finite; broken_invariant when counts disagree or a placement is not orthonormal to 1e-9.
    static Result<Placements> make(const PointLattice& arrangement, std::vector<Placement> placements,
                                   PartTreePointer tree = {});
    // The same placements with other fields or gaps; the arrangement and the points have to be the same.
    Placements with_origins(PointLattice origins) const;

    const PointLattice& origins() const { return origins_; }
    const Placement& placement(std::size_t index) const { return (*placements_)[index]; }
    // Placements of the points that are present, in order.
    std::vector<Placement> present_placements() const;
    const std::vector<Placement>& placements() const { return *placements_; }
    // nullptr of those that did not grow.
    const PartTreePointer& tree() const { return tree_; }

private:
    explicit Placements(PointLattice origins) : origins_(std::move(origins)) {}
    PointLattice origins_;
    std::shared_ptr<const std::vector<Placement>> placements_;
    PartTreePointer tree_;
};

}  // namespace plume
