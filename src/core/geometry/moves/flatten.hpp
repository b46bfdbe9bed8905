#pragma once
// Faces made flat.
//
// Apart: every face is laid onto its own best-fit plane (best_fit.hpp), so that each is flat and neighbours
// no longer meet. Together: faces stay joined; vertices move again and again to the mean of their places on
// the planes of their faces (Bouaziz, Deuss, Schwartzburg, Weise, Pauly, Shape-Up, Computer Graphics Forum
// 31(5), 2012, doi 10.1111/j.1467-8659.2012.03171.x, with planes as the only constraint), sped up by what the
// last rounds did. O(corners) a round.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct Flattened {
    Mesh mesh;                // with the field `gap`: how far each vertex moved
    double worst_before = 0;  // largest distance of a corner from its face's best-fit plane
    double worst_after = 0;   // the same of the result
    double worst_gap = 0;     // largest distance between places where one vertex was; 0 when together
    std::size_t rounds = 0;
};

Result<Flattened> flattened_apart(const Mesh& mesh, const Run& run);
// Until no corner is further than `tolerance_abs` off its plane, at most `most_rounds` times.
Result<Flattened> flattened_together(const Mesh& mesh, double tolerance_abs, std::size_t most_rounds,
                                     const Run& run);

}  // namespace plume
