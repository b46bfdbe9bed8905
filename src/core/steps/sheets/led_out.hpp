#pragma once
// A sheet that begins inside of what it is to fall over.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct LedOut {
    std::size_t led = 0;   // places that were inside and are not any more
    std::size_t held = 0;  // that are held firmly (1), and stay inside
};
// Places (m) that lie inside of a closed form, of whose lengths one is so many metres, go to where its
// surface is nearest and by a gap (m) out of it. What encloses nothing leaves them. Error: cancelled.
Result<LedOut> lead_out(const Mesh& form, double metres, double gap_m, const std::vector<double>& firmness,
                        std::vector<Vec3>& places_m, const Run& run);

}  // namespace plume
