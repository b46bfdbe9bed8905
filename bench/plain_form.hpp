#pragma once
// The form of the formula benchmarks as a designer's own loop would compute it: the baseline, at -O2.

#include <cstddef>

namespace plume {

struct FormArrays {
    double *x, *y, *z;
};

// rows x columns samples, the first angle fastest; 10 transcendental calls a sample, of which 5 depend on
// one angle alone.
void plain_form(std::size_t columns, std::size_t rows, FormArrays out);
// The same number of calls, every one of which depends on both angles.
void plain_entangled_form(std::size_t columns, std::size_t rows, FormArrays out);

// The same as formulas of a (first angle) and b, in radians.
inline constexpr const char* form_text =
    "r = 4 + sin(5 * a + 2 * b) * cos(3 * b - a) + 0.3 * sin(9 * a * b) + 0.2 * exp(-(a - b)^2) + 0.1 * "
    "atan(a * b)\n"
    "x = r * sin(b) * cos(a)\n"
    "y = r * sin(b) * sin(a)\n"
    "z = r * cos(b)\n";
inline constexpr const char* entangled_text =
    "r = 4 + sin(5 * a + 2 * b) * cos(3 * b - a) + 0.3 * sin(9 * a * b) + 0.2 * exp(-(a - b)^2) + 0.1 * "
    "atan(a * b)\n"
    "p = a + 0.1 * r\n"
    "q = b + 0.1 * r\n"
    "x = r * sin(q) * cos(p)\n"
    "y = r * sin(q + a) * sin(p)\n"
    "z = r * cos(q)\n";

}  // namespace plume
