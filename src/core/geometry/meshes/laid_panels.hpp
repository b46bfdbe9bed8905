#pragma once
// Panels laid flat on sheets of a stock size.

#include <vector>

#include "core/data/mesh.hpp"
#include "core/geometry/meshes/packing.hpp"

namespace plume {

// Which way a panel may lie on its sheet: up along its length; that or turned over end for end; its longest
// edge along the sheet's sides; that turned by any multiple of 15°.
enum class Turning { up, half, quarter, any };

struct LaidPanels {
    // A part a panel, in the ground plane: sheets stand beside the mesh, in rows. Faces keep their
    // numbers, and carry those of panel_names.hpp; so do corners, where it is known what is beyond.
    Mesh mesh;
    std::size_t sheet_count = 0;
    double area = 0;       // of the panels, openings taken off
    double worst_gap = 0;  // how far a corner was from the plane of its panel
    struct LeftOut {
        double panel = 0;  // its mark
        double width = 0, length = 0;
    };
    std::vector<LeftOut> too_large;
    std::vector<double> not_flat;  // marks of parts that are no plates
};

// Parts of a mesh that are plates (plates.hpp), seen from outside, square to the plane of their larger side.
// `by_face` lays each face for itself. Errors: empty_input where nothing is a plate; out_of_range where
// every plate is larger than a sheet; cancelled. Most of its
// time is packed()'s.
Result<LaidPanels> laid_on_sheets(const Mesh& mesh, bool by_face, const StockSheet& sheet, Turning turning,
                                  const Run& run);

}  // namespace plume
