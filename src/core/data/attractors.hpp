#pragma once
// Attractors: weighted points, lines and curves that other points are measured against. Positions are finite
// and in study lengths; weights are finite and not zero, 1 being neutral; a negative weight turns the answer
// of an attractor round: it repels.

#include <memory>
#include <string>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct Attractor {
    std::string name;
    Vec3 position;  // of a path, its first point
    double weight = 1;
    // The corners of a line or curve, at least two; a closed one repeats the first at the end. Null: a point.
    std::shared_ptr<const std::vector<Vec3>> path = {};
};

class Attractors {
public:
    // At least one; refuses positions that are not finite and weights that are 0 or not finite.
    static Result<Attractors> make(std::vector<Attractor> items);

    const std::vector<Attractor>& items() const { return items_; }

private:
    std::vector<Attractor> items_;
};

}  // namespace plume
