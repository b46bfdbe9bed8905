#include "core/geometry/curves/banded_solver.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

// Gauss-Jordan with partial pivoting for the small dense matrix of the correction.
bool invert(std::vector<double>& matrix, std::size_t n) {
    std::vector<double> inverse(n * n, 0);
    for (std::size_t r = 0; r < n; ++r)
        inverse[r * n + r] = 1;
    for (std::size_t column = 0; column < n; ++column) {
        std::size_t pivot = column;
        for (std::size_t r = column + 1; r < n; ++r)
            if (std::abs(matrix[r * n + column]) > std::abs(matrix[pivot * n + column])) pivot = r;
        const double size = matrix[pivot * n + column];
        if (size == 0) return false;
        for (std::size_t c = 0; c < n; ++c) {
            std::swap(matrix[pivot * n + c], matrix[column * n + c]);
            std::swap(inverse[pivot * n + c], inverse[column * n + c]);
            matrix[column * n + c] /= size;
            inverse[column * n + c] /= size;
        }
        for (std::size_t r = 0; r < n; ++r) {
            const double factor = r == column ? 0 : matrix[r * n + column];
            if (factor == 0) continue;
            for (std::size_t c = 0; c < n; ++c) {
                matrix[r * n + c] -= factor * matrix[column * n + c];
                inverse[r * n + c] -= factor * inverse[column * n + c];
            }
        }
    }
    matrix = std::move(inverse);
    return true;
}

}  // namespace

BandedSolver::BandedSolver(std::size_t size, std::size_t band, bool cyclic)
    : size_(size), band_(band), cyclic_(cyclic), bands_(size * (2 * band + 1), 0) {}

void BandedSolver::add(std::size_t row, std::size_t column, double value) {
    const std::size_t apart = row > column ? row - column : column - row;
    if (apart <= band_)
        entry(row, column) += value;
    else if (value != 0)
        corners_.push_back({row, column, value});
}

bool BandedSolver::factor() {
    for (std::size_t k = 0; k < size_; ++k) {
        const double pivot = entry(k, k);
        if (pivot == 0 || !std::isfinite(pivot)) return false;
        for (std::size_t row = k + 1; row < std::min(size_, k + band_ + 1); ++row) {
            const double factor = entry(row, k) / pivot;
            entry(row, k) = factor;
            for (std::size_t column = k + 1; column < std::min(size_, k + band_ + 1); ++column)
                entry(row, column) -= factor * entry(k, column);
        }
    }
    return !cyclic_ || prepare_corners();
}

bool BandedSolver::prepare_corners() {
    for (const Corner& corner : corners_)
        if (std::ranges::find(corner_rows_, corner.row) == corner_rows_.end())
            corner_rows_.push_back(corner.row);
    const std::size_t rank = corner_rows_.size();
    spread_.assign(size_ * rank, 0);
    for (std::size_t c = 0; c < rank; ++c)
        spread_[corner_rows_[c] * rank + c] = 1;
    solve_banded(spread_.data(), rank);
    inverse_.assign(rank * rank, 0);
    for (std::size_t c = 0; c < rank; ++c)
        inverse_[c * rank + c] = 1;
    for (const Corner& corner : corners_) {
        const auto r =
            static_cast<std::size_t>(std::ranges::find(corner_rows_, corner.row) - corner_rows_.begin());
        for (std::size_t c = 0; c < rank; ++c)
            inverse_[r * rank + c] += corner.value * spread_[corner.column * rank + c];
    }
    return invert(inverse_, rank);
}

void BandedSolver::solve_banded(double* sides, std::size_t width) const {
    for (std::size_t row = 0; row < size_; ++row)
        for (std::size_t k = row > band_ ? row - band_ : 0; k < row; ++k) {
            const double factor = entry(row, k);
            for (std::size_t s = 0; s < width; ++s)
                sides[row * width + s] -= factor * sides[k * width + s];
        }
    for (std::size_t row = size_; row-- > 0;) {
        for (std::size_t k = row + 1; k < std::min(size_, row + band_ + 1); ++k) {
            const double factor = entry(row, k);
            for (std::size_t s = 0; s < width; ++s)
                sides[row * width + s] -= factor * sides[k * width + s];
        }
        const double scale = 1 / entry(row, row);
        for (std::size_t s = 0; s < width; ++s)
            sides[row * width + s] *= scale;
    }
}

void BandedSolver::solve(double* sides, std::size_t width) const {
    solve_banded(sides, width);
    const std::size_t rank = corner_rows_.size();
    if (rank == 0) return;
    std::vector<double> pull(rank, 0), push(rank, 0);
    for (std::size_t s = 0; s < width; ++s) {
        std::ranges::fill(pull, 0.0);
        for (const Corner& corner : corners_) {
            const auto r =
                static_cast<std::size_t>(std::ranges::find(corner_rows_, corner.row) - corner_rows_.begin());
            pull[r] += corner.value * sides[corner.column * width + s];
        }
        for (std::size_t r = 0; r < rank; ++r) {
            push[r] = 0;
            for (std::size_t c = 0; c < rank; ++c)
                push[r] += inverse_[r * rank + c] * pull[c];
        }
        for (std::size_t row = 0; row < size_; ++row)
            for (std::size_t r = 0; r < rank; ++r)
                sides[row * width + s] -= spread_[row * rank + r] * push[r];
    }
}

}  // namespace plume
