#include "core/milling/height_cells.hpp"

#include <array>
#include <cmath>
#include <limits>
#include <numbers>
#include <type_traits>
#include <utility>

#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

constexpr float nothing = -std::numeric_limits<float>::infinity();

// From the first cell whose middle is not before `from` to the one behind the last not after `to`.
std::pair<std::size_t, std::size_t> cells_between(double from, double to, double low, double cell,
                                                  std::size_t count) {
    const double first = std::ceil((from - low) / cell - 0.5), last = std::floor((to - low) / cell - 0.5);
    const double most = static_cast<double>(count);
    return {static_cast<std::size_t>(std::clamp(first, 0.0, most)),
            static_cast<std::size_t>(std::clamp(last + 1, 0.0, most))};
}

// A place on a side belongs to the triangle at its left, or below a level one: to one of two neighbours.
bool owns_side(Vec3 from, Vec3 to) {
    return to.y < from.y || (to.y == from.y && to.x < from.x);
}

void add_triangle(std::array<Vec3, 3> at, const CellGrid& grid, FormHeights& to) {
    const auto turning = [](Vec3 a, Vec3 b, double x, double y) {
        return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
    };
    double twice = turning(at[0], at[1], at[2].x, at[2].y);
    if (twice < 0) {
        std::swap(at[1], at[2]);
        twice = -twice;
    }
    if (!(twice > 0)) return;
    const auto [a, b, c] = at;
    const auto [low_row, end_row] =
        cells_between(std::min({a.y, b.y, c.y}), std::max({a.y, b.y, c.y}), grid.low_y, grid.cell, grid.rows);
    const auto [low_column, end_column] = cells_between(std::min({a.x, b.x, c.x}), std::max({a.x, b.x, c.x}),
                                                        grid.low_x, grid.cell, grid.columns);
    const auto inside = [](double turned, Vec3 from, Vec3 to_place) {
        return turned > 0 || (turned == 0 && owns_side(from, to_place));
    };
    for (std::size_t row = low_row; row < end_row; ++row)
        for (std::size_t column = low_column; column < end_column; ++column) {
            const double x = grid.x(column), y = grid.y(row);
            const double of_c = turning(a, b, x, y), of_a = turning(b, c, x, y), of_b = turning(c, a, x, y);
            if (!inside(of_c, a, b) || !inside(of_a, b, c) || !inside(of_b, c, a)) continue;
            const auto height = static_cast<float>((of_a * a.z + of_b * b.z + of_c * c.z) / twice);
            const std::size_t cell = grid.index(column, row);
            to.heights[cell] = std::max(to.heights[cell], height);
            if (to.layers[cell] < 255) ++to.layers[cell];
        }
}

enum class Sort { flat, ball, rounded };

// Where a rounded cutter touches, as a share of how far it reaches, by the square of how far off its way:
// between a few places. What is taken away is lowest there, so that it hardly matters where exactly.
//
// Where its rounding is as steep as an angle a, it touches a way that rises by r so far along and off it that
// cos = r / tan a between them, at a distance of flat + corner sin a: from a = atan r, straight ahead, to the
// right angle, straight beside. No equation is to be solved.
class Touches {
public:
    Touches(const Cutter& cutter, double rise) : apart_(cutter.radius * cutter.radius / (count - 1)) {
        if (rise == 0) return;
        const std::array<Place, samples> along = places_on_rounding(cutter, std::abs(rise));
        std::size_t behind = 1;
        for (std::size_t at = 0; at < count; ++at) {
            const double off_squared = apart_ * static_cast<double>(at);
            while (behind + 1 < samples && along[behind].off_squared < off_squared)
                ++behind;
            const Place &one = along[behind - 1], &other = along[behind];
            const double between = other.off_squared - one.off_squared;
            const double share =
                between > 0 ? std::clamp((off_squared - one.off_squared) / between, 0.0, 1.0) : 1;
            shares_[at] = std::copysign(std::lerp(one.share, other.share, share), rise);
        }
    }
    double share_at(double off_squared) const {
        const double place = off_squared / apart_;
        const std::size_t before = std::min(static_cast<std::size_t>(place), count - 2);
        const double share = place - static_cast<double>(before);
        return shares_[before] * (1 - share) + shares_[before + 1] * share;
    }

private:
    static constexpr std::size_t count = 9, samples = 17;
    struct Place {
        double off_squared = 0, share = 0;
    };
    static std::array<Place, samples> places_on_rounding(const Cutter& cutter, double rise) {
        const double flat = cutter.flat_radius(), radius = cutter.radius;
        const double first = std::atan(rise), step = (std::numbers::pi / 2 - first) / (samples - 1);
        std::array<Place, samples> places;
        for (std::size_t at = 0; at + 1 < samples; ++at) {
            const double angle = first + step * static_cast<double>(at);
            const double sine = std::sin(angle), cosine = at == 0 ? 1 : rise * std::cos(angle) / sine;
            const double distance = flat + cutter.corner * sine, along = distance * cosine;
            const double off_squared = std::max(0.0, distance * distance - along * along);
            places[at] = {off_squared, along / std::sqrt(radius * radius - off_squared)};
        }
        // Where both go to nothing.
        places.back() = {radius * radius, rise / std::sqrt(cutter.corner / radius + rise * rise)};
        return places;
    }
    double apart_;
    std::array<double, count> shares_{};
};
struct NoTouches {
    NoTouches(const Cutter& /*cutter*/, double /*rise*/) {}
};

// The tip's way over the cells.
template <Sort sort>
class TipWay {
public:
    TipWay(const Cutter& cutter, double length, double rise)
        : cutter_(cutter),
          length_(length),
          rise_(rise),
          lean_(rise / std::sqrt(1 + rise * rise)),
          touches_(cutter, rise) {}

    // The lowest of the cutter's lower side over a cell so far along the way and so far off it.
    double lowest_over(double along, double off_squared) const {
        const double reach_squared = cutter_.radius * cutter_.radius - off_squared;
        const double reach = std::sqrt(reach_squared);
        double touch = 0;
        if constexpr (sort == Sort::ball)
            touch = lean_ * reach;
        else if constexpr (sort == Sort::flat)
            touch = rise_ > 0 ? reach : rise_ < 0 ? -reach : 0;
        else
            touch = touches_.share_at(off_squared) * reach;
        const double begin = std::max(0.0, along - reach), end = std::min(length_, along + reach);
        if (begin > end) return std::numeric_limits<double>::infinity();
        const double at = std::clamp(along - touch, begin, end), beside = along - at;
        double up = 0;
        if constexpr (sort == Sort::ball)
            up = cutter_.radius - std::sqrt(std::max(0.0, reach_squared - beside * beside));
        else if constexpr (sort == Sort::rounded)
            up = cutter_.rise_at(std::min(cutter_.radius, std::sqrt(off_squared + beside * beside)));
        return rise_ * at + up;
    }

private:
    const Cutter& cutter_;
    double length_, rise_, lean_;
    std::conditional_t<sort == Sort::rounded, Touches, NoTouches> touches_;
};

template <Sort sort>
double cut_along(const Cutter& cutter, Vec3 from, Vec3 to, const CellGrid& grid,
                 std::vector<float>& heights) {
    const double radius = cutter.radius, length = std::hypot(to.x - from.x, to.y - from.y);
    float most = 0;
    // Straight down it is the lower end that counts.
    if (length == 0) from.z = std::min(from.z, to.z);
    const double ux = length > 0 ? (to.x - from.x) / length : 1,
                 uy = length > 0 ? (to.y - from.y) / length : 0;
    const TipWay<sort> way(cutter, length, length > 0 ? (to.z - from.z) / length : 0);
    const auto [low_row, end_row] = cells_between(
        std::min(from.y, to.y) - radius, std::max(from.y, to.y) + radius, grid.low_y, grid.cell, grid.rows);
    for (std::size_t row = low_row; row < end_row; ++row) {
        const double dy = grid.y(row) - from.y;
        // Where the way is within the radius of the row.
        double begin = 0, end = length;
        if (std::abs(uy) > 1e-12) {
            const double one = (dy - radius) / uy, other = (dy + radius) / uy;
            begin = std::clamp(std::min(one, other), 0.0, length);
            end = std::clamp(std::max(one, other), 0.0, length);
        }
        const double left = from.x + ux * (ux > 0 ? begin : end) - radius,
                     right = from.x + ux * (ux > 0 ? end : begin) + radius;
        const auto [low_column, end_column] = cells_between(left, right, grid.low_x, grid.cell, grid.columns);
        float* const cells = heights.data() + row * grid.columns;
        for (std::size_t column = low_column; column < end_column; ++column) {
            const double dx = grid.x(column) - from.x;
            const double along = dx * ux + dy * uy, off = dx * uy - dy * ux;
            if (off * off > radius * radius) continue;
            const double lowest = from.z + way.lowest_over(along, off * off);
            const float lower = std::min(cells[column], static_cast<float>(lowest));
            most = std::max(most, cells[column] - lower);
            cells[column] = lower;
        }
    }
    return static_cast<double>(most);
}

}  // namespace

CellGrid cells_over(double low_x, double low_y, double width, double depth, std::size_t about) {
    CellGrid grid{low_x, low_y, std::sqrt(width * depth / static_cast<double>(about)), 1, 1};
    grid.columns = std::max<std::size_t>(1, static_cast<std::size_t>(std::ceil(width / grid.cell - 1e-9)));
    grid.rows = std::max<std::size_t>(1, static_cast<std::size_t>(std::ceil(depth / grid.cell - 1e-9)));
    return grid;
}

FormHeights form_heights(const Mesh& mesh, const CellGrid& grid) {
    FormHeights form{std::vector<float>(grid.count(), nothing), std::vector<std::uint8_t>(grid.count(), 0)};
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto around = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            add_triangle({mesh.vertex(around[a]), mesh.vertex(around[b]), mesh.vertex(around[c])}, grid,
                         form);
        });
    }
    return form;
}

double Stock::cut(const Cutter& cutter, Vec3 from, Vec3 to) {
    if (cutter.is_flat()) return cut_along<Sort::flat>(cutter, from, to, grid_, heights_);
    if (cutter.is_ball()) return cut_along<Sort::ball>(cutter, from, to, grid_, heights_);
    return cut_along<Sort::rounded>(cutter, from, to, grid_, heights_);
}

}  // namespace plume
