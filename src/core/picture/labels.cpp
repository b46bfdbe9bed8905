#include "core/picture/labels.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

#include "core/picture/projection.hpp"

namespace plume {
namespace {

// The cells of a view, each of which one label may take.
class LabelCells {
public:
    LabelCells(ViewSize view, ViewSize cell)
        : view_(view),
          cell_(cell),
          columns_(static_cast<std::size_t>(view.width / cell.width) + 1),
          taken_(columns_ * (static_cast<std::size_t>(view.height / cell.height) + 1), 0) {}
    bool see(const Projection::Spot& spot) const {
        return spot.depth > 0 && spot.x >= 0 && spot.x < view_.width && spot.y >= 0 && spot.y < view_.height;
    }
    bool take(const Projection::Spot& spot) {
        if (!see(spot)) return false;
        std::uint8_t& here = taken_[static_cast<std::size_t>(spot.x / cell_.width) +
                                    columns_ * static_cast<std::size_t>(spot.y / cell_.height)];
        return std::exchange(here, std::uint8_t{1}) == 0;
    }

private:
    ViewSize view_, cell_;
    std::size_t columns_;
    std::vector<std::uint8_t> taken_;
};

// As text is read: from left to right.
double reading_turn(const Projection::Spot& from, const Projection::Spot& to) {
    const double turn = std::atan2(to.y - from.y, to.x - from.x);
    return std::abs(turn) <= std::numbers::pi / 2 ? turn : turn - std::copysign(std::numbers::pi, turn);
}

// A label soon after a curve comes into view, and then every so often along it.
void add_spots_along(const Drawable& drawable, const Projection& projection, LabelCells& cells,
                     std::size_t most, std::vector<LabelSpot>& spots) {
    constexpr double between = 420;  // pixels
    std::uint32_t curve = 0;
    double along = 0;
    for (std::size_t edge = 0; edge + 1 < drawable.edges.size() && spots.size() < most; edge += 2) {
        const std::uint32_t from = drawable.edges[edge], to = drawable.edges[edge + 1];
        if (drawable.vertex_parts[from] != curve || edge == 0) {
            curve = drawable.vertex_parts[from];
            along = between * 0.75;
        }
        const Projection::Spot a = projection.at(drawable.vertices[from]),
                               b = projection.at(drawable.vertices[to]);
        if (!cells.see(a) || !cells.see(b)) continue;
        along += std::hypot(b.x - a.x, b.y - a.y);
        const Projection::Spot middle{(a.x + b.x) / 2, (a.y + b.y) / 2, (a.depth + b.depth) / 2};
        if (along < between || !cells.take(middle)) continue;
        along = 0;
        spots.push_back({curve, {middle.x, middle.y}, true, reading_turn(a, b), middle.depth});
    }
}

// In the middle of every bar.
void add_spots_on(const Drawable& drawable, ItemRange items, const Projection& projection, LabelCells& cells,
                  std::size_t most, std::vector<LabelSpot>& spots) {
    for (std::size_t edge = 0; edge + 1 < drawable.edges.size() && spots.size() < most; edge += 2) {
        const std::uint32_t from = drawable.edges[edge];
        if (!items.has(drawable.vertex_parts[from])) continue;
        const Projection::Spot a = projection.at(drawable.vertices[from]),
                               b = projection.at(drawable.vertices[drawable.edges[edge + 1]]);
        const Projection::Spot middle{(a.x + b.x) / 2, (a.y + b.y) / 2, (a.depth + b.depth) / 2};
        if (!cells.take(middle)) continue;
        spots.push_back(
            {drawable.vertex_parts[from], {middle.x, middle.y}, true, reading_turn(a, b), middle.depth});
    }
}

}  // namespace

std::vector<LabelSpot> label_spots(const Drawable& drawable, ItemRange items, const Camera& camera,
                                   ViewSize view, ViewSize cell, std::size_t most) {
    const Projection projection(camera, view, drawable.origin);
    LabelCells cells(view, cell);
    std::vector<LabelSpot> spots;
    if (drawable.lines_are == LineRole::lines && !drawable.vertex_parts.empty())
        add_spots_along(drawable, projection, cells, most, spots);
    if (drawable.lines_are == LineRole::bars) add_spots_on(drawable, items, projection, cells, most, spots);
    for (std::size_t index = 0; index < drawable.points.size() && spots.size() < most; ++index) {
        if (!items.has(drawable.points[index].index)) continue;
        const auto spot = projection.at(drawable.points[index]);
        if (cells.take(spot))
            spots.push_back({drawable.points[index].index, {spot.x, spot.y}, false, 0, spot.depth});
    }
    return spots;
}

LabelRoom::LabelRoom(ViewSize view)
    : columns_(static_cast<std::size_t>(view.width / square) + 1),
      rows_(static_cast<std::size_t>(view.height / square) + 1),
      taken_(columns_ * rows_, 0) {}

bool LabelRoom::take(ViewPoint top_left, ViewSize size) {
    const auto cells = [](double from, double length, std::size_t count) {
        const auto within = [&](double at) {
            return static_cast<std::size_t>(std::clamp(at / square, 0.0, static_cast<double>(count)));
        };
        return std::pair(within(from), std::min(count, within(from + length) + 1));
    };
    const auto [left, right] = cells(top_left.x, size.width, columns_);
    const auto [top, bottom] = cells(top_left.y, size.height, rows_);
    for (std::size_t y = top; y < bottom; ++y)
        for (std::size_t x = left; x < right; ++x)
            if (taken_[x + columns_ * y] != 0) return false;
    for (std::size_t y = top; y < bottom; ++y)
        for (std::size_t x = left; x < right; ++x)
            taken_[x + columns_ * y] = 1;
    return true;
}

}  // namespace plume
