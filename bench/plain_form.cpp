#include "plain_form.hpp"

#include <cmath>

namespace plume {
namespace {

constexpr double turn = 6.283185307179586;

double radius(double a, double b) {
    return 4 + std::sin(5 * a + 2 * b) * std::cos(3 * b - a) + 0.3 * std::sin(9 * a * b) +
           0.2 * std::exp(-(a - b) * (a - b)) + 0.1 * std::atan(a * b);
}

}  // namespace

void plain_form(std::size_t columns, std::size_t rows, FormArrays out) {
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            const double a = turn * static_cast<double>(i) / static_cast<double>(columns - 1);
            const double b = turn / 2 * static_cast<double>(j) / static_cast<double>(rows - 1);
            const double r = radius(a, b);
            const std::size_t at = i + columns * j;
            out.x[at] = r * std::sin(b) * std::cos(a);
            out.y[at] = r * std::sin(b) * std::sin(a);
            out.z[at] = r * std::cos(b);
        }
}

void plain_entangled_form(std::size_t columns, std::size_t rows, FormArrays out) {
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            const double a = turn * static_cast<double>(i) / static_cast<double>(columns - 1);
            const double b = turn / 2 * static_cast<double>(j) / static_cast<double>(rows - 1);
            const double r = radius(a, b), p = a + 0.1 * r, q = b + 0.1 * r;
            const std::size_t at = i + columns * j;
            out.x[at] = r * std::sin(q) * std::cos(p);
            out.y[at] = r * std::sin(q + a) * std::sin(p);
            out.z[at] = r * std::cos(q);
        }
}

}  // namespace plume
