#pragma once
// Linear systems of spline interpolation: banded, or banded with the corners of a cyclic one, for many right
// hand sides at once. LU without pivoting, which is stable for the totally positive matrices of B-spline
// collocation (de Boor & Pinkus, Backward error analysis for totally positive linear systems, Numer. Math.
// 27, 1977). The cyclic corners are a correction of low rank (Woodbury identity). O(n band^2) to factor, O(n
// band) a right hand side.

#include <cstddef>
#include <optional>
#include <vector>

namespace plume {

class BandedSolver {
public:
    // Row r has entries at columns within `band` of r, cyclically when `cyclic`. size > 2 * band for cyclic.
    BandedSolver(std::size_t size, std::size_t band, bool cyclic);

    void add(std::size_t row, std::size_t column, double value);
    // False when the matrix is singular.
    bool factor();
    // Solves for `width` right hand sides stored row after row: value of side s in row r at [r * width + s].
    void solve(double* sides, std::size_t width) const;

private:
    double& entry(std::size_t row, std::size_t column) {
        return bands_[row * (2 * band_ + 1) + column + band_ - row];
    }
    double entry(std::size_t row, std::size_t column) const {
        return bands_[row * (2 * band_ + 1) + column + band_ - row];
    }
    void solve_banded(double* sides, std::size_t width) const;
    bool prepare_corners();

    std::size_t size_, band_;
    bool cyclic_;
    std::vector<double> bands_;
    struct Corner {
        std::size_t row, column;
        double value;
    };
    std::vector<Corner> corners_;
    // Woodbury: x = y - Z (I + V Z)^-1 V y, with V the corner rows and Z = A^-1 U.
    std::vector<std::size_t> corner_rows_;
    std::vector<double> spread_;   // Z, size_ x rank
    std::vector<double> inverse_;  // (I + V Z)^-1, rank x rank
};

}  // namespace plume
