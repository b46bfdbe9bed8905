#pragma once
// What the steps with a formula share.

#include <optional>

#include "core/study/step_kind.hpp"

namespace plume {

// A formula over the points of a lattice: reads x, y, z, i, j, k, u, v, w, counts and every field.
FormulaSite site_on_lattice(const PointLattice& lattice);
// Adds i, j, k, u, v, w and the counts, as far as no input has these names yet.
void add_address_inputs(FormulaSite& site);

// An input with a number for each place, which the site keeps; in the place of one of this name.
void add_numbers(FormulaSite& site, const std::string& name, Column numbers, Dimension dimension,
                 std::string help);
// x, y and z: coordinates of whatever is named.
void add_places(FormulaSite& site, const std::vector<Vec3>& places, const std::string& of);
// Over places along a curve: reads u, s, x, y, z and length.
FormulaSite site_along(const std::vector<Vec3>& places, Doubles lengths, double total, bool closed,
                       const std::string& of);

// The formula of the step, checked where it stands; an error is about the slot.
Result<CheckedFormula> checked_formula(const Inputs& in, const FormulaSite& site);

// The term of that name, or nullptr; of an empty name the last line.
const Term* term_of(const CheckedFormula& formula, std::string_view name);

// A coordinate: its line, its unit, what it means.
struct WantedTerm {
    std::string name;
    Dimension dimension;
    std::string help;
};

// The error of a term in another unit than wanted, about the slot.
Result<NodeId> node_of(CheckedFormula& formula, const Term& term, Dimension wanted, const Inputs& in);

// What a term gives, one number for each place of the site; nothing where there is no term of the name.
// Errors are about the slot.
Result<std::optional<Doubles>> computed(CheckedFormula& formula, std::string_view name, Dimension wanted,
                                        const FormulaSite& site, const Inputs& in, const Run& run);

// What the last line of the step's formula gives, one number for each place of the site. Errors are about the
// slot.
Result<Doubles> numbers_by_formula(const Inputs& in, const FormulaSite& site, Dimension wanted,
                                   const Run& run);

// Fields that lines begin with `field`.
struct NamedNode {
    std::string name;
    NodeId node;
    Dimension dimension;
};
std::vector<NamedNode> field_nodes(const CheckedFormula& formula);
// The points with these fields, whose columns are taken from the result, `first` and on.
PointLattice with_fields(PointLattice points, const std::vector<NamedNode>& fields, Evaluated& result,
                         std::size_t first);

// 1 where the condition holds, 0 elsewhere and where it is no number. Error (empty_input) when it holds
// nowhere.
Result<std::vector<std::uint8_t>> mask_of(const Doubles& condition);

// Of steps whose formula is a condition over the slot `points`.
Result<FormulaSite> condition_site(const Inputs& in);
Estimate condition_estimate(const Inputs& in);
// The points with gaps where the condition does not hold, and with the formula's fields.
Result<PointLattice> kept_by_formula(const Inputs& in, const Run& run);

// The slot's label.
inline constexpr const char* formula_label = "Formula";

}  // namespace plume
