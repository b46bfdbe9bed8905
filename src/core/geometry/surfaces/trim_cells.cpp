#include "core/geometry/surfaces/trim_cells.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

class Cells {
public:
    Cells(const std::vector<double>& u, const std::vector<double>& v)
        : u_(u), v_(v), cells_((u.size() - 1) * (v.size() - 1), TrimCell::outside) {}

    // Row by row, the bays over which the line from one place to another passes, with a little to spare.
    void cross(Vec3 from, Vec3 to) {
        if (from.y > to.y) std::swap(from, to);
        const auto [first, last] = bays(v_, from.y, to.y);
        for (std::size_t row = first; row <= last; ++row) {
            // What lies beyond the lines, by rounding or more, belongs to the bays at their ends.
            const double low = row == first ? from.x : at_height(from, to, v_[row]);
            const double high = row == last ? to.x : at_height(from, to, v_[row + 1]);
            const auto [left, right] = bays(u_, std::min(low, high), std::max(low, high));
            for (std::size_t column = left; column <= right; ++column)
                at(column, row) = TrimCell::crossed;
        }
    }

    // Neighbours that no loop parts are on the same side of all: one of them tells for all.
    void fill(const std::vector<std::vector<Vec3>>& loops) {
        std::vector<std::uint8_t> known(cells_.size(), 0);
        std::vector<std::size_t> front;
        for (std::size_t start = 0; start < cells_.size(); ++start) {
            if (known[start] != 0 || cells_[start] == TrimCell::crossed) continue;
            const TrimCell side = is_inside(middle(start), loops) ? TrimCell::inside : TrimCell::outside;
            known[start] = 1;
            front.assign(1, start);
            while (!front.empty()) {
                const std::size_t cell = front.back();
                front.pop_back();
                cells_[cell] = side;
                const auto reach = [&](std::size_t next) {
                    if (known[next] != 0 || cells_[next] == TrimCell::crossed) return;
                    known[next] = 1;
                    front.push_back(next);
                };
                if (cell % columns() > 0) reach(cell - 1);
                if (cell % columns() + 1 < columns()) reach(cell + 1);
                if (cell >= columns()) reach(cell - columns());
                if (cell + columns() < cells_.size()) reach(cell + columns());
            }
        }
    }

    std::vector<TrimCell> taken() && { return std::move(cells_); }

private:
    std::size_t columns() const { return u_.size() - 1; }
    TrimCell& at(std::size_t column, std::size_t row) { return cells_[column + columns() * row]; }

    // The first and the last bay that a stretch touches.
    static std::pair<std::size_t, std::size_t> bays(const std::vector<double>& lines, double low,
                                                    double high) {
        const double spare = 1e-9 * (lines.back() - lines.front());
        const auto bay = [&](auto line) {
            const auto index = line - lines.begin() - 1;
            return static_cast<std::size_t>(
                std::clamp<std::ptrdiff_t>(index, 0, static_cast<std::ptrdiff_t>(lines.size()) - 2));
        };
        return {bay(std::ranges::upper_bound(lines, low - spare)),
                bay(std::ranges::upper_bound(lines, high + spare))};
    }
    static double at_height(Vec3 from, Vec3 to, double v) {
        if (v <= from.y) return from.x;
        if (v >= to.y) return to.x;
        return std::lerp(from.x, to.x, (v - from.y) / (to.y - from.y));
    }
    Vec3 middle(std::size_t cell) const {
        const std::size_t column = cell % columns(), row = cell / columns();
        return {(u_[column] + u_[column + 1]) / 2, (v_[row] + v_[row + 1]) / 2, 0};
    }
    static bool is_inside(Vec3 place, const std::vector<std::vector<Vec3>>& loops) {
        bool odd = false;
        for (const std::vector<Vec3>& loop : loops)
            odd = odd != is_in_loop(loop, place.x, place.y);
        return odd;
    }

    const std::vector<double>&u_, &v_;
    std::vector<TrimCell> cells_;
};

}  // namespace

bool is_in_loop(const std::vector<Vec3>& loop, double u, double v) {
    bool odd = false;
    for (std::size_t at = 0, before = loop.size() - 1; at < loop.size(); before = at++)
        if ((loop[at].y > v) != (loop[before].y > v) &&
            u < (loop[before].x - loop[at].x) * (v - loop[at].y) / (loop[before].y - loop[at].y) + loop[at].x)
            odd = !odd;
    return odd;
}

std::vector<TrimCell> trim_cells(const std::vector<double>& u, const std::vector<double>& v,
                                 const std::vector<std::vector<Vec3>>& loops) {
    if (u.size() < 2 || v.size() < 2) return {};
    Cells cells(u, v);
    for (const std::vector<Vec3>& loop : loops)
        for (std::size_t at = 0, before = loop.size() - 1; at < loop.size(); before = at++)
            cells.cross(loop[before], loop[at]);
    cells.fill(loops);
    return std::move(cells).taken();
}

}  // namespace plume
