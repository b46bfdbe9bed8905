#include "core/base/numbers.hpp"
#include "core/geometry/solids/cell_bodies.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    auto cells = bodies_of_cells(in.lattice("points"), run);
    if (!cells) return about_slot(cells.error(), "points");
    if (cells->missing > 0)
        run.remark_loss(grouped_text(static_cast<std::int64_t>(cells->missing)) +
                        (cells->missing == 1 ? " cell has a gap at a corner and is left out."
                                             : " cells have gaps at corners and are left out."));
    return some_bodies(std::move(cells->set), "points", "has a gap at a corner of every cell");
}

Estimate estimate(const Inputs& in) {
    const auto cells = static_cast<double>(in.lattice("points").address_count());
    return {cells * 1500, cells * 4e-6};
}

}  // namespace

StepKind take_cells() {
    return {
        .key = "body.cells",
        .verb = "Make bodies of the cells of a block lattice",
        .synonyms = "blocks boxes voxels hexahedra bricks fill volume",
        .sentence = "Make bodies of the cells of {points}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::bodies},
        .result_name = "cells",
        .help =
            "A closed body between each eight neighbours of a block lattice, in the order of the addresses. "
            "Cells that a gap takes a corner of are left out.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
