#pragma once
// Bars as bodies: a section along every member, cut back at its nodes.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/frames/bar_section.hpp"

namespace plume {

// none: to the nodes. back: by a length. clear: at every node as far as its bars overlap. mitred: where two
// members meet, along the plane halfway between them; elsewhere as clear.
enum class BarEnds { none, back, clear, mitred };

// Asked about on several threads, by the number of the member.
struct BarPlan {
    std::function<BarSection(std::size_t member)> section;
    std::function<Vec3(std::size_t member)> up;          // where the section's up points, as nearly as it can
    std::function<double(std::size_t member)> turn_rad;  // about the member, from there
    BarEnds ends = BarEnds::none;
    double back = 0;     // of BarEnds::back
    double density = 0;  // kilograms of a volume of 1
};

struct BarBodies {
    // A part a member, in their order and with their marks; closed but for strips. Faces carry `length` and
    // `mass_kg` of the bar as it is cut, `section_width` and `section_height`, and the numbers of the member.
    Mesh mesh;
    double volume = 0;                  // of the bars as they are cut
    std::size_t overlapping_nodes = 0;  // where bars as they are cut run into each other
    double clearing = 0;                // the least cut-back everywhere with which none would
    std::size_t used_up = 0;            // members that cuts leave nothing of, left out
};
// Whether bars overlap is reckoned as if they were round, as far as their sections reach: two of radii r and
// s at an angle a clear each other from (s + r cos a) / sin a along the first, where their outlines cross in
// the plane of both. Errors: out_of_range for a section with a fault, naming the member; empty_input where
// cuts leave none; over_budget beyond 2^32 corners; cancelled. O(members x corners + squares of the
// valences).
Result<BarBodies> bar_bodies(const BarFrame& frame, const BarPlan& plan, const Run& run);

}  // namespace plume
