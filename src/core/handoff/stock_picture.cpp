#include "core/handoff/stock_picture.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/base/parallel.hpp"
#include "core/picture/own_colours.hpp"

namespace plume {
namespace {

constexpr double metre = 1e-3;  // a millimetre
// What is that near the form is as it should be; cells of the picture are coarse.
constexpr double as_wanted = 0.25, little = 3;
constexpr Rgb board_colour{0.87F, 0.77F, 0.60F}, done_colour{0.55F, 0.72F, 0.62F},
    left_colour{0.93F, 0.72F, 0.35F}, deep_colour{0.78F, 0.25F, 0.22F}, steel{0.55F, 0.57F, 0.60F};

// How cells are coloured, as coordinates: there are too many cells to reckon these for each.
struct CellColours {
    float board = own_colour_coordinate(board_colour), done = own_colour_coordinate(done_colour),
          left = own_colour_coordinate(left_colour), deep = own_colour_coordinate(deep_colour);

    float of(const Stock& stock, const FormHeights& form, std::size_t cell) const {
        const bool compared = cell < form.layers.size() && form.layers[cell] > 0;
        if (!compared) return board;
        const double over =
            static_cast<double>(stock.heights()[cell]) - static_cast<double>(form.heights[cell]);
        if (over < -as_wanted) return deep;
        if (over <= as_wanted) return done;
        return over <= little ? left : board;
    }
};

class StockDrawer {
public:
    StockDrawer(const Stock& stock, const FormHeights& form, const Board& board)
        : stock_(stock), form_(form), grid_(stock.grid()), bottom_(-board.thickness) {}

    std::shared_ptr<const Drawable> draw() {
        auto made = std::make_shared<Drawable>();
        made_ = made.get();
        made_->bounds.include(Vec3{0, 0, bottom_} * metre);
        made_->bounds.include(Vec3{grid_.cell * static_cast<double>(grid_.columns),
                                   grid_.cell * static_cast<double>(grid_.rows), 0} *
                              metre);
        add_top();
        add_coarse_top();
        const auto top = static_cast<std::ptrdiff_t>(made_->triangles.size());
        add_sides();
        made_->coarse.insert(made_->coarse.end(), made_->triangles.begin() + top, made_->triangles.end());
        return made;
    }

private:
    double height(std::size_t column, std::size_t row) const {
        return std::max(bottom_, static_cast<double>(stock_.heights()[grid_.index(column, row)]));
    }
    Vec3 place(std::size_t column, std::size_t row) const {
        return {grid_.x(column), grid_.y(row), height(column, row)};
    }
    static DrawVertex vertex(Vec3 at, Vec3 normal, float colour) {
        const auto number = [](double value) { return static_cast<float>(value); };
        return {number(at.x * metre),
                number(at.y * metre),
                number(at.z * metre),
                number(normal.x),
                number(normal.y),
                number(normal.z),
                colour};
    }

    // A vertex a cell and two triangles between four cells.
    void add_top() {
        made_->vertices.resize(grid_.columns * grid_.rows);
        made_->triangles.resize(6 * (grid_.columns - 1) * (grid_.rows - 1));
        constexpr std::size_t rows_at_once = 16;
        parallel_blocks(grid_.rows, rows_at_once, Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t row = begin; row < end; ++row) {
                for (std::size_t column = 0; column < grid_.columns; ++column)
                    made_->vertices[grid_.index(column, row)] = top_vertex(column, row);
                if (row + 1 < grid_.rows) add_row_of_triangles(row);
            }
        });
    }
    // Its normal by what its neighbours are higher.
    DrawVertex top_vertex(std::size_t column, std::size_t row) const {
        const std::size_t left = column > 0 ? column - 1 : 0, right = std::min(column + 1, grid_.columns - 1),
                          below = row > 0 ? row - 1 : 0, above = std::min(row + 1, grid_.rows - 1);
        const double along = std::max<double>(1, static_cast<double>(right - left)) * grid_.cell,
                     across = std::max<double>(1, static_cast<double>(above - below)) * grid_.cell;
        const Vec3 normal{(height(left, row) - height(right, row)) / along,
                          (height(column, below) - height(column, above)) / across, 1};
        return vertex(place(column, row), unit_or_zero(normal),
                      colours_.of(stock_, form_, grid_.index(column, row)));
    }
    void add_row_of_triangles(std::size_t row) {
        std::uint32_t* to = made_->triangles.data() + 6 * row * (grid_.columns - 1);
        for (std::size_t column = 0; column + 1 < grid_.columns; ++column) {
            const auto corner = static_cast<std::uint32_t>(grid_.index(column, row));
            const auto above = static_cast<std::uint32_t>(grid_.index(column, row + 1));
            to = std::ranges::copy(std::array{corner, corner + 1, above + 1, corner, above + 1, above}, to)
                     .out;
        }
    }
    // Between every so many cells and the last ones.
    void add_coarse_top() {
        constexpr std::size_t apart = 4;
        const auto every = [](std::size_t count) {
            std::vector<std::size_t> lines;
            for (std::size_t at = 0; at + 1 < count; at += apart)
                lines.push_back(at);
            lines.push_back(count - 1);
            return lines;
        };
        const std::vector<std::size_t> columns = every(grid_.columns), rows = every(grid_.rows);
        for (std::size_t row = 0; row + 1 < rows.size(); ++row)
            for (std::size_t column = 0; column + 1 < columns.size(); ++column) {
                const auto corner = [&](std::size_t right, std::size_t up) {
                    return static_cast<std::uint32_t>(grid_.index(columns[column + right], rows[row + up]));
                };
                for (const std::uint32_t at :
                     {corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 0), corner(1, 1), corner(0, 1)})
                    made_->coarse.push_back(at);
            }
    }
    void add_sides() {
        const std::size_t last_column = grid_.columns - 1, last_row = grid_.rows - 1;
        for (std::size_t column = 0; column < last_column; ++column) {
            side(place(column, 0), place(column + 1, 0), {0, -1, 0});
            side(place(column + 1, last_row), place(column, last_row), {0, 1, 0});
        }
        for (std::size_t row = 0; row < last_row; ++row) {
            side(place(0, row + 1), place(0, row), {-1, 0, 0});
            side(place(last_column, row), place(last_column, row + 1), {1, 0, 0});
        }
    }
    void side(Vec3 from, Vec3 to, Vec3 normal) {
        const auto first = static_cast<std::uint32_t>(made_->vertices.size());
        for (const Vec3 at : {Vec3{from.x, from.y, bottom_}, Vec3{to.x, to.y, bottom_}, to, from})
            made_->vertices.push_back(vertex(at, normal, colours_.board));
        for (const std::uint32_t corner : {0U, 1U, 2U, 0U, 2U, 3U})
            made_->triangles.push_back(first + corner);
    }

    const Stock& stock_;
    const FormHeights& form_;
    const CellGrid& grid_;
    double bottom_;
    CellColours colours_;
    Drawable* made_ = nullptr;
};

}  // namespace

std::shared_ptr<const Drawable> drawn_stock(const Stock& stock, const FormHeights& form, const Board& board) {
    return StockDrawer(stock, form, board).draw();
}

std::vector<ColourMeaning> stock_colours() {
    return {{board_colour, "board"},
            {left_colour, "up to 3 mm left"},
            {done_colour, "as it should be"},
            {deep_colour, "too deep"}};
}

std::shared_ptr<const Drawable> drawn_cutter(const Cutter& cutter, Vec3 tip, double length) {
    constexpr std::uint32_t around = 24;
    // Its outline, from the tip out and up.
    std::vector<std::array<double, 2>> outline{{0, 0}};
    constexpr int pieces = 6;
    for (int piece = 0; piece <= pieces; ++piece) {
        const double angle = std::numbers::pi / 2 * piece / pieces;
        outline.push_back(
            {cutter.flat_radius() + cutter.corner * std::sin(angle), cutter.corner * (1 - std::cos(angle))});
    }
    outline.push_back({cutter.radius, length});
    outline.push_back({0, length});
    auto made = std::make_shared<Drawable>();
    const float colour = own_colour_coordinate(steel);
    for (std::size_t at = 0; at < outline.size(); ++at) {
        const std::size_t before = at > 0 ? at - 1 : 0, after = std::min(at + 1, outline.size() - 1);
        const double out = outline[after][1] - outline[before][1],
                     up = outline[before][0] - outline[after][0];
        for (std::uint32_t step = 0; step < around; ++step) {
            const double angle = 2 * std::numbers::pi * step / around;
            const Vec3 place = (tip + Vec3{outline[at][0] * std::cos(angle), outline[at][0] * std::sin(angle),
                                           outline[at][1]}) *
                               metre;
            const Vec3 normal = unit_or_zero({out * std::cos(angle), out * std::sin(angle), up});
            made->bounds.include(place);
            made->vertices.push_back({static_cast<float>(place.x), static_cast<float>(place.y),
                                      static_cast<float>(place.z), static_cast<float>(normal.x),
                                      static_cast<float>(normal.y), static_cast<float>(normal.z), colour});
        }
    }
    for (std::uint32_t ring = 0; ring + 1 < outline.size(); ++ring)
        for (std::uint32_t step = 0; step < around; ++step) {
            const std::uint32_t a = ring * around + step, b = ring * around + (step + 1) % around;
            for (const std::uint32_t corner : {a, b, b + around, a, b + around, a + around})
                made->triangles.push_back(corner);
        }
    return made;
}

}  // namespace plume
