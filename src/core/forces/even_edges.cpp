#include "core/forces/even_edges.hpp"

#include <Eigen/SparseCholesky>
#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
// How strongly a vertex keeps to its place on the form, against one edge.
constexpr double keeps = 0.1;
constexpr std::size_t block = 512;

class Evening {
public:
    Evening(const Mesh& mesh, const EvenEdgesWishes& wishes, const Run& run)
        : sides_(sides_of(mesh)), wishes_(wishes), run_(run), at_(vertex_places(mesh)) {}

    Result<EvenEdges> all() {
        if (sides_.count() == 0)
            return Error{ErrorCode::empty_input, "", "has no edge", "Give a mesh with faces."};
        if (!std::ranges::all_of(at_, [](Vec3 at) { return is_finite(at); }))
            return Error{ErrorCode::not_finite, "", "has a vertex that is not finite",
                         "Mend the step that makes it."};
        prepare();
        EvenEdges made;
        for (;; ++made.rounds) {
            if (!put_onto()) return cancelled_error();
            measure(made);
            if (made.rounds == wishes_.rounds || made.spread <= wishes_.spread) break;
            go_on(made.length);
            run_.report(static_cast<double>(made.rounds + 1) / static_cast<double>(wishes_.rounds));
        }
        made.at = std::move(at_);
        return made;
    }

private:
    bool stays(std::size_t vertex) const { return !wishes_.held.empty() && wishes_.held[vertex] != 0; }

    // Of free vertices: as many edges as they have, and what keeps them.
    void prepare() {
        std::vector<Eigen::Triplet<double>> entries;
        const auto index = [](std::size_t at) { return static_cast<Eigen::Index>(at); };
        for (std::size_t vertex = 0; vertex < at_.size(); ++vertex)
            entries.emplace_back(index(vertex), index(vertex), stays(vertex) ? 1 : keeps);
        for (const auto& [a, b] : sides_.ends) {
            if (!stays(a)) entries.emplace_back(index(a), index(a), 1);
            if (!stays(b)) entries.emplace_back(index(b), index(b), 1);
            if (stays(a) || stays(b)) continue;
            entries.emplace_back(index(a), index(b), -1);
            entries.emplace_back(index(b), index(a), -1);
        }
        Matrix system(index(at_.size()), index(at_.size()));
        system.setFromTriplets(entries.begin(), entries.end());
        factor_.compute(system);
    }

    bool put_onto() {
        return parallel_blocks(at_.size(), block, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t vertex = begin; vertex < end; ++vertex)
                if (!stays(vertex)) at_[vertex] = wishes_.onto(at_[vertex]);
        });
    }

    void measure(EvenEdges& made) const {
        double sum = 0;
        for (const auto& [a, b] : sides_.ends)
            sum += length(at_[b] - at_[a]);
        made.length = wishes_.length > 0 ? wishes_.length : sum / static_cast<double>(sides_.count());
        made.spread = 0;
        for (const auto& [a, b] : sides_.ends)
            made.spread = std::max(made.spread, std::abs(length(at_[b] - at_[a]) / made.length - 1));
    }

    void go_on(double wanted) {
        Eigen::MatrixX3d right(static_cast<Eigen::Index>(at_.size()), 3);
        const auto add = [&](std::size_t vertex, Vec3 more) {
            right.row(static_cast<Eigen::Index>(vertex)) += Eigen::RowVector3d(more.x, more.y, more.z);
        };
        right.setZero();
        for (std::size_t vertex = 0; vertex < at_.size(); ++vertex)
            add(vertex, at_[vertex] * (stays(vertex) ? 1 : keeps));
        for (const auto& [a, b] : sides_.ends) {
            const Vec3 way = unit_or_zero(at_[b] - at_[a]) * wanted;
            if (!stays(a)) add(a, stays(b) ? at_[b] - way : way * -1);
            if (!stays(b)) add(b, stays(a) ? at_[a] + way : way);
        }
        const Eigen::MatrixX3d solved = factor_.solve(right);
        for (std::size_t vertex = 0; vertex < at_.size(); ++vertex) {
            const auto row = static_cast<Eigen::Index>(vertex);
            if (!stays(vertex)) at_[vertex] = {solved(row, 0), solved(row, 1), solved(row, 2)};
        }
    }

    const MeshSides sides_;
    const EvenEdgesWishes& wishes_;
    const Run& run_;
    std::vector<Vec3> at_;
    Eigen::SimplicialLDLT<Matrix> factor_;
};

}  // namespace

Result<EvenEdges> even_edges(const Mesh& mesh, const EvenEdgesWishes& wishes, const Run& run) {
    return Evening(mesh, wishes, run).all();
}

}  // namespace plume
