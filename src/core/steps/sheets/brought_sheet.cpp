#include "core/steps/sheets/brought_sheet.hpp"

#include <cmath>

#include "core/base/noise.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/sheets/bring_to_lengths.hpp"

namespace plume {
namespace {

// Of an edge: what lies evenly would not know which way to fold.
constexpr double unevenness = 0.05;
// How it resists bending, against how it resists being stretched over an edge: folds are some edges wide.
constexpr double bending_share = 4e-2;

bool is_held(const SheetToBring& sheet, std::size_t vertex) {
    return !sheet.held.empty() && sheet.held[vertex] != 0;
}

// Rounded, so that other units leave nothing else in the last digits, which folding would make large.
std::vector<Vec3> thrown_about(const SheetToBring& sheet, double seed) {
    constexpr double steps = 1 << 20;
    std::vector<Vec3> places = sheet.from;
    for (std::size_t vertex = 0; vertex < places.size(); ++vertex) {
        const auto thrown = [&](std::size_t axis) {
            return is_held(sheet, vertex)
                       ? 0
                       : (random_of(seed, static_cast<double>(3 * vertex + axis)) - 0.5) * unevenness;
        };
        Vec3& at = places[vertex];
        at = at + Vec3{thrown(0), thrown(1), thrown(2)};
        at = {std::round(at.x * steps) / steps, std::round(at.y * steps) / steps,
              std::round(at.z * steps) / steps};
    }
    return places;
}

Result<Mesh> mesh_of(const std::vector<std::array<std::uint32_t, 3>>& triangles,
                     const std::vector<Vec3>& places) {
    Mesh::Parts parts;
    set_vertices(parts, places);
    add_faces(parts, triangles);
    return Mesh::make(std::move(parts));
}

std::string share_text(double times) {
    return short_text(100 * std::abs(times - 1), 2) + " %";
}

}  // namespace

std::vector<SlotSpec> with_brought_slots(std::vector<SlotSpec> slots) {
    SlotSpec spread = number_slot("spread", "Alike within", "0.05");
    spread.least = 0;
    slots.push_back(length_above_zero_slot("edge", "Edges", "10 cm"));
    slots.push_back(spread);
    slots.push_back(seed_slot("seed", "Seed", "1"));
    return slots;
}

Result<Value> brought(SheetToBring sheet, const Inputs& in, const Run& run) {
    const double edge = in.number("edge"), spread = in.number("spread");
    const std::vector<Vec3> from = thrown_about(sheet, in.number("seed"));
    const auto lying = mesh_of(sheet.triangles, from);
    if (!lying) return lying.error();
    const auto crossing = crossing_faces(*lying, run);
    if (!crossing) return crossing.error();
    if (!crossing->empty())
        return about_slot(Error{ErrorCode::not_converged, "",
                                "meets itself, so that the sheet would cross itself before it grows",
                                "Grow it another way, or from a line that keeps away from itself."},
                          sheet.from_slot);
    const RestLengths rest = [&](std::uint32_t a, std::uint32_t b) {
        return is_held(sheet, a) && is_held(sheet, b) ? length(from[b] - from[a]) : sheet.rest(a, b);
    };
    const auto made = make_sheet(*lying, rest, {1, 1, 1, bending_share});
    if (!made) return about_slot(made.error(), "edge");
    auto form = bring_to_lengths(*made, from, sheet.held, spread, run);
    if (!form) return form.error();
    const std::string edges = "Its edges are up to " + share_text(form->longest) + " longer and " +
                              share_text(form->shortest) + " shorter than asked.";
    if (form->spread() > spread)
        run.remark(edges + " They came no nearer to it: so many stitches find no more room.");
    else
        run.remark(edges);
    form->at.resize(sheet.vertex_count);
    for (std::size_t vertex = 0; vertex < sheet.vertex_count; ++vertex)
        form->at[vertex] = (is_held(sheet, vertex) ? sheet.from : form->at)[vertex] * edge;
    set_vertices(sheet.parts, form->at);
    return as_value(Mesh::make(std::move(sheet.parts)));
}

Estimate brought_estimate(double vertices, double times) {
    const double steps = 50 * std::log(std::max(times, 1.0)) + 100;
    return {vertices * 3000, vertices * steps * 1.5e-5};
}

}  // namespace plume
