#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/growth/iterated_maps.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/growth/growth_roots.hpp"
#include "core/steps/growth/rules_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(lattice_in(in, "maps"));
    site.results.push_back({"", "the last line is how many times as large", true});
    return site;
}

// As many generations as there may be parts for.
struct Iterating {
    std::size_t generations = 0;
    double parts = 0, next = 0;  // with all of them; those of the one after
};

Iterating iterating(const Inputs& in) {
    const auto maps = static_cast<double>(lattice_in(in, "maps").point_count());
    const PointLattice* lattice = roots_lattice(in);
    Iterating made{0, lattice ? static_cast<double>(lattice->point_count()) : 1, 0};
    made.next = made.parts * maps;
    while (made.generations < in.count("generations") &&
           made.parts + made.next <= static_cast<double>(in.count("most"))) {
        ++made.generations;
        made.parts += made.next;
        made.next *= maps;
    }
    return made;
}

Estimate estimate(const Inputs& in) {
    const double parts = iterating(in).parts;
    const auto addresses = static_cast<double>(lattice_in(in, "maps").address_count());
    return {parts * 260 + evaluation_bytes(1, addresses), parts * 8e-8};
}

// Of the placements that are there.
Result<std::vector<double>> scales_of(const Inputs& in, const Run& run) {
    const PointLattice& maps = lattice_in(in, "maps");
    const Result<FormulaSite> site = site_of(in);
    const auto made = numbers_by_formula(in, *site, plain_number, run);
    if (!made) return made.error();
    std::vector<double> scales;
    for (std::size_t index = 0; index < maps.address_count(); ++index) {
        if (!maps.present(index)) continue;
        const double scale = (*made)[index];
        if (!(scale > 0 && std::isfinite(scale)))
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "is " + short_text(scale) + " of placement " + std::to_string(index),
                                    "Give every placement a factor above 0."},
                              "formula");
        scales.push_back(scale);
    }
    return scales;
}

Result<Value> make(const Inputs& in, const Run& run) {
    MapSystem system;
    system.maps = placements_in(in, "maps");
    auto scales = scales_of(in, run);
    if (!scales) return scales.error();
    system.scales = *std::move(scales);
    const std::vector<Placement> roots = root_placements(in);
    if (Status enough = room_for_roots(roots.size(), in); !enough) return enough.error();
    const Iterating wanted = iterating(in);
    const std::size_t asked = in.count("generations");
    if (wanted.generations < asked)
        tell_end({GrowthEnd::most, wanted.generations, asked,
                  static_cast<std::size_t>(std::min(wanted.next, 1e18)), in.count("most")},
                 {"part", "parts", {}}, run);
    return as_value(iterated_maps(system, roots, in.number("size"), wanted.generations, in.units(), run));
}

}  // namespace

StepKind iterate_placements() {
    return {
        .key = "growth.iterate",
        .verb = "Apply placements to themselves",
        .synonyms = "iterated function system ifs fractal self-similar recursion maps repeat gasket",
        .sentence = "Apply {maps} to themselves " + std::string(root_sentence) +
                    " over {generations} generations, {size} large at first and each {formula} times as "
                    "large[more|; at most {most} parts].",
        .slots =
            [] {
                std::vector<SlotSpec> slots = with_roots({length_above_zero_slot("size", "Size", "1 m"),
                                                          formula_slot("formula", "Formula", "1 / 2"),
                                                          generations_slot("4"), most_parts_slot()});
                slots.insert(slots.begin(), reference_slot("maps", "Placements",
                                                           {Kind::placements, Kind::points, Kind::field}));
                return slots;
            }(),
        .results = {Kind::placements},
        .result_name = "copies",
        .help =
            "Placements as maps, or points, on which they are upright: what stands there is moved to each of "
            "them, turned as it is and made "
            "smaller, and that again and again. So one triangle of three placements becomes a gasket, and a "
            "row of two a dust. Placements count from the world's axes; the formula reads their fields, so "
            "that each may shrink differently. What comes of it knows its size and what it came of: copy "
            "anything to the last generation, as large as its size.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
