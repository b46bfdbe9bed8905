#pragma once
// Where growth begins: what the steps that grow something share.

#include "core/geometry/surfaces/form_search.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The slots `from`, `placements` and `points`, then the rest; and how they read.
std::vector<SlotSpec> with_roots(const std::vector<SlotSpec>& rest);
inline constexpr const char* root_sentence = "{from}[from=placements| {placements}][from=points| {points}]";

// The count `most`: parts are numbered in 32 bits.
SlotSpec most_parts_slot();
// The count `generations`, with a slider.
SlotSpec generations_slot(std::string preset);

// Placements, or points with an upright placement on each, of a slot that takes both: the lattice they stand
// on; one placement for each address that is present.
const PointLattice& lattice_in(const Inputs& in, const std::string& slot);
std::vector<Placement> placements_in(const Inputs& in, const std::string& slot);

// The lattice that the roots stand on; nullptr at the origin.
const PointLattice* roots_lattice(const Inputs& in);
// One placement for each address that is present, at least one.
std::vector<Placement> root_placements(const Inputs& in);
// One each, of the slot `seed` and of where it stands: what chance goes by.
std::vector<std::uint64_t> root_identities(const Inputs& in);

// Error, about the slot `most`: out_of_range where so many roots are more than it allows.
Status room_for_roots(std::size_t count, const Inputs& in);
// To ask what is inside of the slot `form`. Errors, about it: has_gaps of one that is not closed;
// empty_input; cancelled.
Result<FormSearch> closed_form(const Inputs& in, const Run& run);

}  // namespace plume
