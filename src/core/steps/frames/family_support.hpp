#pragma once
// What the steps that group what is alike share.

#include "core/geometry/frames/families.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Tolerances to try: rising evenly in their logarithms up to the largest that makes a difference, and the
// present one among them.
std::vector<double> tolerances_up_to(double most, double present);

// "12 families, the largest of 48"; where all are one, what they differ by; where the tolerance is 0, that
// rounding tells apart what is meant to be alike.
void say_families(const Families& families, double tolerance, const Run& run);

// A number a family, as a field.
Column family_numbers(const Families& families);

// Counts for shapes; an error where there are too many to be tried again and again beside other work.
Result<FamilyCounts> counts_of(const ShapeRows& shapes, double most, Quantity tolerance, const Run& run);

}  // namespace plume
