#pragma once
// Units behind numbers: "m", "kN/m" and "m^2", which nothing else can mean, since units are no names. Private
// to the formula layer.

#include <span>

#include "core/formula/tokens.hpp"

namespace plume {

// How many tokens from `at` on are a unit: none where there is none.
std::size_t unit_tokens(std::span<const Token> tokens, std::size_t at);
// So many of them as one text: "m²" for m^2.
std::string unit_in(std::span<const Token> tokens, std::size_t at, std::size_t count);

}  // namespace plume
