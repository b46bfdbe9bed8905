#pragma once
// Parameters of a patch at even lengths.

#include <vector>

#include "core/data/surface_set.hpp"
#include "core/geometry/measures/gauss_points.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {

// The length of the lines of a direction (0: u, 1: v) from its start, in the mean of nine of them across.
class MeanLength {
public:
    MeanLength(const SplinePatch& patch, int direction);

    double total() const { return lengths_.back(); }
    // The parameter at a length from the start, 0 to total().
    double parameter_at(double length) const;
    // The length up to a parameter of the domain.
    double length_at(double parameter) const;

private:
    double speed_at(double parameter) const;
    double between(double from, double to) const;

    PatchEvaluator evaluator_;
    int direction_;
    GaussPoints points_;
    std::vector<double> lines_, lengths_, across_;
};

// From the start of a direction (0: u, 1: v) to its end, or round: so that the mean lengths between
// neighbours are equal to 1e-9. A closed direction of n bays has n, an open one n + 1.
std::vector<double> even_length_parameters(const SplinePatch& patch, int direction, std::size_t bays);

}  // namespace plume
