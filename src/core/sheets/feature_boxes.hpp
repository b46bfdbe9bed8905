#pragma once
// Boxes of a surface's vertices, edges and triangles on their ways, to tell quickly which of them come
// nowhere near each other.

#include "core/sheets/moving_tree.hpp"
#include "core/sheets/sheet_features.hpp"

namespace plume {

struct FeatureBoxes {
    std::vector<MovingBox> vertices, edges, triangles;

    // To where vertices are and go, measured from a middle of theirs; no ways: they stay. Corners of the
    // features count from `first` on.
    void fit(const SheetFeatures& features, std::uint32_t first, const std::vector<Vec3>& at,
             const std::vector<Vec3>& ways, Vec3 middle);
};

}  // namespace plume
