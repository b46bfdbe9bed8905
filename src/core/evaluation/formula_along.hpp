#pragma once
// Lines of a formula at single addresses of where it stands, without computing the rest of the form.

#include <array>
#include <vector>

#include "core/study/slot_context.hpp"

namespace plume {

// Addresses of a domain along one direction, with the others held.
struct AddressLine {
    std::size_t direction = 0;
    std::array<std::size_t, 3> held{};
    std::vector<std::size_t> indices;

    std::array<std::size_t, 3> address(std::size_t lane) const;
};
Address address_in(const Domain& domain, std::size_t flat);
// The one address with that flat index.
AddressLine address_line(const Domain& domain, std::size_t flat);

// What is read there.
double input_at(const Domain& domain, InputRef ref, const std::array<std::size_t, 3>& at);

// Numbers of every line along the addresses, in the order of the lines; none where the formula cannot be
// read. Error: cancelled.
Result<std::vector<Doubles>> terms_along(const ResolvedFormula& formula, const FormulaSite& site,
                                         const AddressLine& line, const Run& run);

std::vector<NodeId> nodes_of(const CheckedFormula& formula);

}  // namespace plume
