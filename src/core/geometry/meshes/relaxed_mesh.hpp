#pragma once
// Meshes evened out: every vertex goes towards the mean of its neighbours, over and over.
//
// Where the form is to be kept each round goes back out a little farther (Taubin, A signal processing
// approach to fair surface design, 1995, doi 10.1145/218380.218473), and a closed mesh is then scaled to the
// volume it had (Desbrun, Meyer, Schroeder & Barr, Implicit fairing of irregular meshes, 1999, doi
// 10.1145/311535.311576). O(sides) a round.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

enum class RimRule {
    held,  // stays where it is
    slid,  // is evened along itself
    freed  // is drawn in
};
struct RelaxRule {
    int rounds = 10;
    double share = 0.5;  // of the way to the mean, 0 to 1
    bool keeps_form = true;
    RimRule rim = RimRule::held;
};
// Error: cancelled.
Result<Mesh> relaxed(const Mesh& mesh, const RelaxRule& rule, const Run& run);

}  // namespace plume
