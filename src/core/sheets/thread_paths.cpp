#include "core/sheets/thread_paths.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace plume {
namespace {

constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

// Where `other` stands in the row of a vertex.
std::uint32_t found_in(const std::vector<std::uint32_t>& first, const std::vector<std::uint32_t>& of,
                       std::uint32_t vertex, std::uint32_t other) {
    for (std::uint32_t k = first[vertex]; k < first[vertex + 1]; ++k)
        if (of[k] == other) return k;
    return none;
}

}  // namespace

ThreadPaths::ThreadPaths(const SheetStiffness& stiffness) : stiffness_(stiffness) {
    const Sheet& sheet = stiffness.sheet();
    ways_.resize(sheet.vertex_count);
    std::vector<char> seen(sheet.vertex_count, 0);
    for (const std::vector<std::uint32_t>& path : sheet.paths) {
        firsts_.push_back(vertices_.size());
        for (std::size_t at = 0; at < path.size(); ++at) {
            any_knots_ = any_knots_ || seen[path[at]] != 0;
            seen[path[at]] = 1;
            vertices_.push_back(path[at]);
            Couplings& couples = couplings_.emplace_back(Couplings{none, none, none});
            const auto& bends = stiffness.bends();
            if (at > 0) {
                couples.link = found_in(sheet.ring.first, sheet.ring.of, path[at], path[at - 1]);
                couples.bend = found_in(bends.first, bends.other, path[at], path[at - 1]);
            }
            if (at > 1) couples.bend_behind = found_in(bends.first, bends.other, path[at], path[at - 2]);
        }
    }
    firsts_.push_back(vertices_.size());
    rows_.resize(3 * vertices_.size());
    solved_.resize(3 * vertices_.size());
}

// Its rows of the system: itself, the vertex before and the one before that.
void ThreadPaths::add_vertex(std::size_t at) {
    const std::uint32_t vertex = vertices_[at];
    Row* rows = &rows_[3 * at];
    for (std::size_t axis = 0; axis < 3; ++axis)
        rows[axis].fill(0);
    if (stiffness_.stays[vertex] != 0) {
        for (std::size_t axis = 0; axis < 3; ++axis)
            rows[axis][0] = 1;
        return;
    }
    const StiffnessBlock& own = stiffness_.own[vertex];
    rows[0][0] = own.xx;
    rows[1][0] = own.yy;
    rows[1][1] = own.xy;
    rows[2][0] = own.zz;
    rows[2][1] = own.yz;
    rows[2][2] = own.zx;
    const auto stays = [&](std::size_t back) { return stiffness_.stays[vertices_[at - back]] != 0; };
    const auto add = [&](std::size_t back, std::size_t row, std::size_t column, double value) {
        rows[row][3 * back + row - column] += value;
    };
    const auto& bends = stiffness_.bends();
    const Couplings& couples = couplings_[at];
    if (couples.link != none && !stays(1)) {
        const SheetStiffness::Link& link = stiffness_.links[couples.link];
        const Vec3 way = link.axis();
        const std::array<double, 3> axis{way.x, way.y, way.z};
        for (std::size_t row = 0; row < 3; ++row)
            for (std::size_t column = 0; column < 3; ++column)
                add(1, row, column, -axis[row] * axis[column] - (row == column ? link.across() : 0));
    }
    for (std::size_t axis = 0; axis < 3; ++axis) {
        if (couples.bend != none && !stays(1)) add(1, axis, axis, bends.weight[couples.bend]);
        if (couples.bend_behind != none && !stays(2)) add(2, axis, axis, bends.weight[couples.bend_behind]);
    }
}

void ThreadPaths::factor() {
    for (std::size_t at = 0; at < vertices_.size(); ++at)
        add_vertex(at);
    for (std::size_t path = 0; path + 1 < firsts_.size(); ++path)
        factor_path(3 * firsts_[path], 3 * firsts_[path + 1]);
}

// Cholesky's, of a band.
void ThreadPaths::factor_path(std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
        const std::size_t far = std::min(reach, row - first);
        for (std::size_t back = far + 1; back-- > 0;) {
            const std::size_t column = row - back;
            double sum = rows_[row][back];
            for (std::size_t further = back + 1; further <= far; ++further)
                sum -= rows_[row][further] * rows_[column][further - back];
            rows_[row][back] = back == 0 ? std::sqrt(std::max(sum, 1e-300)) : sum / rows_[column][0];
        }
    }
}

void ThreadPaths::solve_path(std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
        for (std::size_t back = 1; back <= std::min(reach, row - first); ++back)
            solved_[row] -= rows_[row][back] * solved_[row - back];
        solved_[row] /= rows_[row][0];
    }
    for (std::size_t row = end; row-- > first;) {
        solved_[row] /= rows_[row][0];
        for (std::size_t back = 1; back <= std::min(reach, row - first); ++back)
            solved_[row - back] -= rows_[row][back] * solved_[row];
    }
}

void ThreadPaths::find_ways(const std::vector<Lanes>& force) {
    for (std::size_t at = 0; at < vertices_.size(); ++at) {
        const Vec3 here = stiffness_.stays[vertices_[at]] != 0 ? Vec3{} : force[vertices_[at]].vec3();
        solved_[3 * at] = here.x;
        solved_[3 * at + 1] = here.y;
        solved_[3 * at + 2] = here.z;
    }
    for (std::size_t path = 0; path + 1 < firsts_.size(); ++path)
        solve_path(3 * firsts_[path], 3 * firsts_[path + 1]);
    std::ranges::fill(ways_, Vec3{});
    for (std::size_t at = 0; at < vertices_.size(); ++at) {
        Vec3& way = ways_[vertices_[at]];
        way = way + Vec3{solved_[3 * at], solved_[3 * at + 1], solved_[3 * at + 2]};
    }
}

}  // namespace plume
