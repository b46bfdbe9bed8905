#include "core/steps/growth/growth_roots.hpp"

#include "core/base/noise.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

std::uint64_t root_identity(double seed, Address at) {
    const auto number = static_cast<std::uint64_t>(address_number(at.i, at.j, at.k));
    return random_bits(random_bits(static_cast<std::uint64_t>(seed)) ^ number) >> 11U;
}

}  // namespace

const PointLattice& lattice_in(const Inputs& in, const std::string& slot) {
    const auto* placements = std::get_if<Placements>(&in.value(slot));
    return placements ? placements->origins() : in.lattice(slot);
}

std::vector<Placement> placements_in(const Inputs& in, const std::string& slot) {
    if (const auto* placements = std::get_if<Placements>(&in.value(slot)))
        return placements->present_placements();
    const PointLattice& lattice = in.lattice(slot);
    std::vector<Placement> upright;
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index)) continue;
        upright.emplace_back();
        upright.back().origin = lattice.point(index);
    }
    return upright;
}

std::vector<SlotSpec> with_roots(const std::vector<SlotSpec>& rest) {
    std::vector<SlotSpec> slots{
        choice_slot("from", "From",
                    {{"origin", "at the origin", ""},
                     {"placements", "on", "one on each of these placements"},
                     {"points", "on the points of", "one on each, standing upright"}}),
        reference_slot("placements", "Placements", {Kind::placements}),
        reference_slot("points", "Points", {Kind::points, Kind::field})};
    slots.insert(slots.end(), rest.begin(), rest.end());
    return slots;
}

SlotSpec most_parts_slot() {
    SlotSpec most = count_slot("most", "Most parts", "1000000", 1);
    most.most = 2e9;
    return most;
}

SlotSpec generations_slot(std::string preset) {
    SlotSpec generations = count_slot("generations", "Generations", std::move(preset), 0);
    generations.most = 100'000;
    generations.played = true;
    return generations;
}

const PointLattice* roots_lattice(const Inputs& in) {
    const std::string& from = in.word("from");
    return from == "origin" ? nullptr : &lattice_in(in, from);
}

std::vector<Placement> root_placements(const Inputs& in) {
    const std::string& from = in.word("from");
    return from == "origin" ? std::vector<Placement>{Placement{}} : placements_in(in, from);
}

std::vector<std::uint64_t> root_identities(const Inputs& in) {
    const double seed = in.number("seed");
    const PointLattice* lattice = roots_lattice(in);
    if (!lattice) return {root_identity(seed, {})};
    std::vector<std::uint64_t> identities;
    for (std::size_t index = 0; index < lattice->address_count(); ++index)
        if (lattice->present(index)) identities.push_back(root_identity(seed, lattice->address(index)));
    return identities;
}

Status room_for_roots(std::size_t count, const Inputs& in) {
    if (count <= in.count("most")) return Done{};
    return about_slot(Error{ErrorCode::out_of_range, "",
                            "is fewer than the " + count_text(count, "part", "parts") + " it begins with",
                            "Allow more parts, or begin on fewer points."},
                      "most");
}

Result<FormSearch> closed_form(const Inputs& in, const Run& run) {
    auto form = FormSearch::make(in.value("form"), run);
    if (!form) return about_slot(form.error(), "form");
    if (form->closed()) return form;
    return about_slot(Error{ErrorCode::has_gaps, "", "is not closed, so that nothing is inside of it",
                            "Choose a closed mesh or bodies."},
                      "form");
}

}  // namespace plume
