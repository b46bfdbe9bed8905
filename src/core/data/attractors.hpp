#pragma once
// Attractors: weighted points that other points are measured against. Positions are finite and in study
// lengths; weights are positive and finite, 1 being neutral.

#include <string>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct Attractor {
    std::string name;
    Vec3 position;
    double weight = 1;
};

class Attractors {
public:
    // At least one; refuses positions that are not finite and weights that are not positive.
    static Result<Attractors> make(std::vector<Attractor> items);

    const std::vector<Attractor>& items() const { return items_; }

private:
    std::vector<Attractor> items_;
};

}  // namespace plume
