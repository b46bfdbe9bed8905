#pragma once
// Numbers as lines tell them that say why a part is as it is: alike in all of them, so that one is recognised
// in the next.

#include <string>

#include "core/base/numbers.hpp"
#include "core/base/units.hpp"

namespace plume {

inline constexpr int told_digits = 5;

inline std::string told_number(double number) {
    return short_text(number, told_digits);
}

inline std::string told_number(const Quantity& quantity, const Units& units) {
    return quantity_text(quantity, units, told_digits);
}

}  // namespace plume
