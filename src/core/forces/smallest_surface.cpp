#include "core/forces/smallest_surface.hpp"

#include <Eigen/Sparse>
#include <algorithm>
#include <cmath>

namespace plume {
namespace {

using Matrix = Eigen::SparseMatrix<double>;
using Triangle = std::array<std::uint32_t, 3>;

constexpr double at_rest = 1e-9;
constexpr double no_area = 1e-14;  // of a triangle, over the square of its longest side

class Shrinking {
public:
    Shrinking(std::vector<Vec3> places, const std::vector<Triangle>& triangles,
              const std::vector<std::uint8_t>& held)
        : places_(std::move(places)), triangles_(triangles), column_(places_.size(), -1) {
        std::vector<std::uint8_t> used(places_.size(), 0);
        for (const Triangle& triangle : triangles)
            for (const std::uint32_t corner : triangle)
                used[corner] = 1;
        for (std::size_t place = 0; place < places_.size(); ++place)
            if (held[place] == 0 && used[place] != 0) column_[place] = free_++;
    }

    Result<SmallestSurface> all(std::size_t most_rounds, const Run& run) {
        SmallestSurface made;
        made.area = made.area_before = area();
        made.settled = free_ == 0;
        while (!made.settled && made.rounds < most_rounds) {
            if (run.cancelled()) return cancelled_error();
            if (!round()) break;
            const double now = area();
            made.settled = std::abs(made.area - now) <= at_rest * now;
            made.area = now;
            ++made.rounds;
            run.report(static_cast<double>(made.rounds) / static_cast<double>(most_rounds));
        }
        made.places = std::move(places_);
        return made;
    }
    double area() const {
        double sum = 0;
        for (const Triangle& one : triangles_)
            sum += length(cross(side(one, 0, 1), side(one, 0, 2))) / 2;
        return sum;
    }

private:
    Vec3 side(const Triangle& one, std::size_t from, std::size_t to) const {
        return places_[one[to]] - places_[one[from]];
    }
    // The places of smallest energy over the present triangles; false where there are none.
    bool round() {
        std::vector<Eigen::Triplet<double>> entries;
        entries.reserve(triangles_.size() * 9);
        Eigen::MatrixXd right = Eigen::MatrixXd::Zero(free_, 3);
        for (const Triangle& one : triangles_)
            for (std::size_t corner = 0; corner < 3; ++corner) {
                const std::size_t next = (corner + 1) % 3, last = (corner + 2) % 3;
                const Vec3 a = side(one, corner, next), b = side(one, corner, last);
                const double twice = length(cross(a, b));
                if (twice <= no_area * std::max(dot(a, a), dot(b, b))) continue;
                join(one[next], one[last], dot(a, b) / twice / 2, entries, right);
            }
        Matrix system(free_, free_);
        system.setFromTriplets(entries.begin(), entries.end());
        const Eigen::SimplicialLDLT<Matrix> factor(system);
        if (factor.info() != Eigen::Success) return false;
        const Eigen::MatrixXd found = factor.solve(right);
        if (!found.allFinite()) return false;
        for (std::size_t place = 0; place < places_.size(); ++place)
            if (const int row = column_[place]; row >= 0)
                places_[place] = {found(row, 0), found(row, 1), found(row, 2)};
        return true;
    }
    void join(std::uint32_t from, std::uint32_t to, double weight,
              std::vector<Eigen::Triplet<double>>& entries, Eigen::MatrixXd& right) const {
        const int row = column_[from], column = column_[to];
        if (row >= 0) entries.emplace_back(row, row, weight);
        if (column >= 0) entries.emplace_back(column, column, weight);
        if (row >= 0 && column >= 0) {
            entries.emplace_back(std::max(row, column), std::min(row, column), -weight);
        } else if (row >= 0) {
            right.row(row) += weight * Eigen::RowVector3d(places_[to].x, places_[to].y, places_[to].z);
        } else if (column >= 0) {
            right.row(column) +=
                weight * Eigen::RowVector3d(places_[from].x, places_[from].y, places_[from].z);
        }
    }

    std::vector<Vec3> places_;
    const std::vector<Triangle>& triangles_;
    std::vector<int> column_;
    int free_ = 0;
};

}  // namespace

Result<SmallestSurface> smallest_surface(std::vector<Vec3> places, const std::vector<Triangle>& triangles,
                                         const std::vector<std::uint8_t>& held, std::size_t most_rounds,
                                         const Run& run) {
    if (!std::ranges::all_of(places, [](Vec3 place) { return is_finite(place); }))
        return Error{ErrorCode::not_finite, "", "has a vertex that is not finite",
                     "Mend the step that makes it."};
    if (std::ranges::none_of(held, [](std::uint8_t one) { return one != 0; }))
        return Error{ErrorCode::empty_input, "",
                     "has no border and nothing held, and would shrink to nothing",
                     "Give a mesh that is open, or hold some of its points."};
    Shrinking shrinking(std::move(places), triangles, held);
    if (!(shrinking.area() > 0))
        return Error{ErrorCode::empty_input, "", "has no face with area", "Give a mesh that has some."};
    return shrinking.all(most_rounds, run);
}

}  // namespace plume
