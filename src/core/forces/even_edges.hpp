#pragma once
// Edges of a mesh drawn to one length while its vertices stay on a form.
//
// S. Bouaziz, M. Deuss, Y. Schwartzburg, T. Weise, M. Pauly: Shape-Up: Shaping discrete geometry with
// projections, 2012: each edge alone is made as long as it is to be, then vertices go where all edges that
// they end at agree best (one factor for all rounds), and back onto the form.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct EvenEdgesWishes {
    double length = 0;     // 0: their mean, whatever that becomes
    double spread = 0.01;  // enough: by what share edges differ from that at most
    std::size_t rounds = 200;
    std::vector<char> held;          // of vertices: they stay
    std::function<Vec3(Vec3)> onto;  // the nearest place on the form
};

struct EvenEdges {
    std::vector<Vec3> at;  // of vertices
    double length = 0, spread = 0;
    std::size_t rounds = 0;
};

// Vertices that no face has only go onto the form. Errors: empty_input (no edge), not_finite, cancelled.
Result<EvenEdges> even_edges(const Mesh& mesh, const EvenEdgesWishes& wishes, const Run& run);

}  // namespace plume
