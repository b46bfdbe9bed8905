#pragma once
// Addresses as text: "0,0 3,2 5,1", ranges "2..5,0", everything along a direction "*,3", and counted from the
// end "-1,0". One number alone counts points in their order. Separated by blanks, lines or semicolons.

#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "core/data/address_text.hpp"

namespace plume {

inline constexpr std::string_view list_separators = " ;\t\r\n";

struct NamedAddresses {
    std::vector<std::uint8_t> mask;  // 1 per address that is named
    std::size_t missing = 0;         // named, but beyond the lattice or a gap
    std::string first_missing;
    // Of points: those, each once, in the order they are named.
    std::vector<std::size_t> indices = {};
};

// Errors: bad_number (naming the word), empty_input.
Result<NamedAddresses> named_addresses(std::string_view text, const PointLattice& lattice);

// The same of a row of so many places, of which there is at least one.
Result<NamedAddresses> named_numbers(std::string_view text, std::size_t count);

// What was in a mask is out of it, and the other way round.
void turn_over(std::vector<std::uint8_t>& mask);

// How entries are named in lists, and which of them a list names.
struct Listing {
    std::function<std::string(std::size_t entry)> listed_as;
    std::function<Result<NamedAddresses>(std::string_view list)> named_in;
};
// The list with an entry added, or without it where it is named already; what else a word names that named it
// stays, each by itself. For picking. Error: too_long, where that would be thousands.
Result<std::string> with_turned_over(std::string_view list, std::size_t entry, const Listing& listing);

}  // namespace plume
