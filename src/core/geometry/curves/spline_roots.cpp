#include "core/geometry/curves/spline_roots.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/geometry/curves/spline_change.hpp"

namespace plume {
namespace {

using Piece = std::vector<double>;  // Bernstein coefficients

// At a share of the piece, which is cut there into two.
std::pair<Piece, Piece> cut(Piece piece, double share) {
    Piece left, right(piece.size());
    for (std::size_t level = piece.size(); level > 0; --level) {
        left.push_back(piece.front());
        right[level - 1] = piece[level - 1];
        for (std::size_t at = 0; at + 1 < level; ++at)
            piece[at] = std::lerp(piece[at], piece[at + 1], share);
    }
    return {left, right};
}

int sign_changes(const Piece& piece) {
    int changes = 0;
    double last = 0;
    for (const double value : piece) {
        if (value == 0) continue;
        if (last != 0 && (value > 0) != (last > 0)) ++changes;
        last = value;
    }
    return changes;
}

class RootSearch {
public:
    RootSearch(double from, double to, double scale) : from_(from), to_(to), none_(1e-14 * scale) {}

    void search(const Piece& piece, double low, double high, int depth, std::vector<double>& roots) const {
        const double size =
            std::abs(*std::ranges::max_element(piece, {}, [](double value) { return std::abs(value); }));
        if (size <= none_) {  // zero throughout
            roots.push_back(at(low));
            roots.push_back(at(high));
            return;
        }
        if (std::abs(piece.front()) <= none_) roots.push_back(at(low));
        if (std::abs(piece.back()) <= none_) roots.push_back(at(high));
        if (sign_changes(piece) == 0) return touch(piece, low, high, depth, roots);
        // 2^-52 of the piece: two roots are not told apart any further.
        if (depth == 52) return roots.push_back(at(std::midpoint(low, high)));
        const double middle = std::midpoint(low, high);
        const auto [left, right] = cut(piece, 0.5);
        search(left, low, middle, depth + 1, roots);
        search(right, middle, high, depth + 1, roots);
    }

private:
    double at(double share) const { return std::lerp(from_, to_, share); }

    // Poles all on one side may come within rounding of zero: then the piece touches it.
    void touch(const Piece& piece, double low, double high, int depth, std::vector<double>& roots) const {
        const double nearest =
            std::abs(*std::ranges::min_element(piece, {}, [](double value) { return std::abs(value); }));
        if (nearest > none_ || depth > 30) return;
        const bool inner = std::ranges::any_of(piece.begin() + 1, piece.end() - 1,
                                               [&](double value) { return std::abs(value) <= none_; });
        if (!inner || piece.size() < 3) return;
        const double middle = std::midpoint(low, high);
        const auto [left, right] = cut(piece, 0.5);
        search(left, low, middle, depth + 1, roots);
        search(right, middle, high, depth + 1, roots);
    }

    double from_, to_, none_;
};

}  // namespace

std::vector<double> roots_of(const SplineBasis& basis, const std::vector<double>& poles) {
    std::vector<double> knots;
    for (const double knot : knot_breaks(basis))
        knots.insert(knots.end(), static_cast<std::size_t>(basis.degree), knot);
    const SplineChange pieces = refined(opened(basis).basis, knots);
    const Doubles rows = changed_rows(opened(basis), Doubles(poles.begin(), poles.end()), 1);
    const Doubles all = changed_rows(pieces, rows, 1);
    double scale = 0;
    for (const double pole : poles)
        scale = std::max(scale, std::abs(pole));
    std::vector<double> roots;
    const std::vector<double> breaks = knot_breaks(basis);
    const auto degree = static_cast<std::size_t>(basis.degree);
    for (std::size_t piece = 0; piece + 1 < breaks.size(); ++piece) {
        const auto from = all.begin() + static_cast<std::ptrdiff_t>(piece * degree);
        const RootSearch search(breaks[piece], breaks[piece + 1], scale);
        search.search(Piece(from, from + static_cast<std::ptrdiff_t>(degree) + 1), 0, 1, 0, roots);
    }
    std::ranges::sort(roots);
    const double apart = 1e-12 * (basis.end() - basis.start());
    std::vector<double> distinct;
    for (const double root : roots)
        if (distinct.empty() || root - distinct.back() > apart) distinct.push_back(root);
    return distinct;
}

}  // namespace plume
