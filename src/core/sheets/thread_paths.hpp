#pragma once
// Threads as lines of vertices: what each resists by itself is solved for exactly, one after the other, so
// that long and stiff ones settle as soon as short ones. What knots and contacts add is left to whoever asks
// (overlapping additive Schwarz; B. Smith, P. Bjørstad, W. Gropp: Domain decomposition, 1996).

#include <array>
#include <vector>

#include "core/sheets/sheet_stiffness.hpp"

namespace plume {

class ThreadPaths {
public:
    // The stiffness outlives it; its sheet has paths.
    explicit ThreadPaths(const SheetStiffness& stiffness);

    // Whether a vertex is on more than one of them.
    bool any_knots() const { return any_knots_; }
    // Of how the stiffness is now.
    void factor();
    // How far each vertex goes by what pushes all.
    void find_ways(const std::vector<Lanes>& force);
    Vec3 way_of(std::uint32_t vertex) const { return ways_[vertex]; }

private:
    // A row of the lower triangle, from its diagonal to the left: three vertices reach eight numbers far.
    static constexpr std::size_t reach = 8;
    using Row = std::array<double, reach + 1>;
    // Of a vertex on a path to those behind it on the path; none where nothing couples them.
    struct Couplings {
        std::uint32_t link, bend, bend_behind;
    };
    void add_vertex(std::size_t at);
    void factor_path(std::size_t first, std::size_t end);
    void solve_path(std::size_t first, std::size_t end);

    const SheetStiffness& stiffness_;
    std::vector<std::uint32_t> vertices_;  // of all paths, one after the other
    std::vector<std::size_t> firsts_;      // where each begins, and the end
    std::vector<Couplings> couplings_;     // of vertices_
    std::vector<Row> rows_;                // three of each of vertices_
    std::vector<double> solved_;
    std::vector<Vec3> ways_;
    bool any_knots_ = false;
};

}  // namespace plume
