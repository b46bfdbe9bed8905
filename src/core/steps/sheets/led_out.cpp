#include "core/steps/sheets/led_out.hpp"

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"

namespace plume {
namespace {

constexpr std::size_t places_a_block = 256;

}  // namespace

Result<LedOut> lead_out(const Mesh& form, double metres, double gap_m, const std::vector<double>& firmness,
                        std::vector<Vec3>& places_m, const Run& run) {
    if (!is_closed(form)) return LedOut{};
    const TriangleTree tree(form, TriangleNormals::weighed);
    // Faces that look inwards all of them enclose as much as those that look outwards.
    const double outwards = volume_of(form) < 0 ? -1 : 1;
    std::vector<char> inside(places_m.size(), 0);
    const bool done =
        parallel_blocks(places_m.size(), places_a_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at) {
                const Vec3 place = places_m[at] * (1 / metres);
                const PlaceOnMesh nearest = tree.nearest(place);
                const Vec3 out = nearest.normal * outwards;
                if (dot(place - nearest.place, out) >= 0) continue;
                inside[at] = 1;
                if (firmness[at] < 1) places_m[at] = nearest.place * metres + out * (gap_m / length(out));
            }
        });
    if (!done) return cancelled_error();
    LedOut result;
    for (std::size_t at = 0; at < places_m.size(); ++at)
        if (inside[at] != 0) ++(firmness[at] < 1 ? result.led : result.held);
    return result;
}

}  // namespace plume
