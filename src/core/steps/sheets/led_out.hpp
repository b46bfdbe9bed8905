#pragma once
// A sheet that begins inside of what it is to fall over, or through it.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

struct LedOut {
    std::size_t led = 0;      // places that were inside, or beyond, and are not any more
    std::size_t held = 0;     // that are held firmly (1), and stay there
    std::size_t crowded = 0;  // that stay, since they would have come to lie on each other
    bool closed = false;      // the form encloses something, so that places were inside of it
};
// Places of a sheet that lie inside of a closed form go to where its surface is nearest and by a gap out of
// it. Of a sheet that edges take through an open form, what is not of the largest part on one side goes over
// to the other side the same way. All lengths in one unit. Error: cancelled.
Result<LedOut> lead_out(const Mesh& form, const Sheet& sheet, double gap, const std::vector<double>& firmness,
                        std::vector<Vec3>& places, const Run& run);

// How many edges of a sheet go through a form, and sides of the form through faces of the sheet.
struct GoesThrough {
    std::size_t edges = 0, sides = 0;
};
// `lying`: the mesh of the sheet there; without one (nullptr: threads) no side does. Error: cancelled.
Result<GoesThrough> what_goes_through(const Mesh& form, const Sheet& sheet, const std::vector<Vec3>& places,
                                      const Mesh* lying, const Run& run);

}  // namespace plume
