#pragma once
// A value as exact formats hold it: points, splines, trimmed patches, closed bodies; facets where there is
// nothing smooth.

#include <optional>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

// A patch and what trims it: closed curves over its parameters, the outermost first; none: it is whole.
struct ExactFace {
    SplinePatch patch;
    std::vector<SplineCurve> trims;
};

// Patches whose edges meet, within that distance, and enclose a volume; normals outwards.
struct ExactBody {
    std::vector<ExactFace> faces;
    double edges_within = 0;
    std::size_t item = 0;  // which of the value's bodies, exact or not
    double area = 0, volume = 0;
};

struct ExactForm {
    std::vector<Vec3> points;
    std::vector<SplineCurve> curves;  // bars as straight ones
    std::vector<ExactFace> faces;
    std::vector<ExactBody> bodies;
    std::vector<Mesh> facets;  // a mesh a part, or a body that is one
};

ExactForm exact_form_of(const Value& value);

}  // namespace plume
