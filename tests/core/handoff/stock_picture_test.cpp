// The board that is milled, as it is drawn.

#include "core/handoff/stock_picture.hpp"

#include <gtest/gtest.h>

#include "core/picture/own_colours.hpp"

namespace plume {
namespace {

constexpr double metre = 1e-3;
const Board board{40, 24, 8};

Stock uncut() {
    return {cells_over(0, 0, board.width, board.depth, 960), 0};
}

struct Triangle {
    Vec3 a, b, c;
    Vec3 across() const { return cross(b - a, c - a); }
};
std::vector<Triangle> triangles_of(const Drawable& drawable, const DrawArray<std::uint32_t>& indices) {
    const auto place = [&](std::size_t at) {
        const DrawVertex& v = drawable.vertices.at(indices[at]);
        return drawable.absolute(v.x, v.y, v.z);
    };
    std::vector<Triangle> triangles;
    for (std::size_t at = 0; at + 2 < indices.size(); at += 3)
        triangles.push_back({place(at), place(at + 1), place(at + 2)});
    return triangles;
}

// Between the middles of the outermost cells, down to its bottom: all of it, roughly, and without gaps.
TEST(StockPicture, ClosesAroundItsTopAndSides) {
    Stock stock = uncut();
    stock.cut(Cutter::ball(4), {10, 12, -5}, {30, 12, -5});
    const auto drawn = drawn_stock(stock, {}, board);
    const double cell = stock.grid().cell;
    double plan = 0;
    for (const auto* indices : {&drawn->triangles, &drawn->coarse}) {
        Vec3 sum;
        plan = 0;
        for (const Triangle& triangle : triangles_of(*drawn, *indices)) {
            sum = sum + triangle.across();
            plan += std::max(0.0, triangle.across().z / 2);
        }
        const double wanted = (board.width - cell) * (board.depth - cell) * metre * metre;
        EXPECT_NEAR(plan, wanted, 1e-9);
        // All sides of what is closed below add up to its foot.
        EXPECT_NEAR(sum.x, 0, 1e-9);
        EXPECT_NEAR(sum.y, 0, 1e-9);
        EXPECT_NEAR(sum.z / 2, wanted, 1e-9);
    }
}

// Where a ball of 4 mm went 5 mm deep along a line, its cells stand at the ball's lower side.
TEST(StockPicture, ShowsEachCellAtItsHeightWithItsNormal) {
    Stock stock = uncut();
    const Cutter ball = Cutter::ball(4);
    stock.cut(ball, {-20, 12, -5}, {60, 12, -5});
    const auto drawn = drawn_stock(stock, {}, board);
    const CellGrid& grid = stock.grid();
    for (std::size_t row = 1; row + 1 < grid.rows; ++row) {
        const double off = std::abs(grid.y(row) - 12);
        const double wanted = off <= 4 ? std::min(0.0, -5 + ball.rise_at(off)) : 0;
        const DrawVertex& v = drawn->vertices[grid.index(grid.columns / 2, row)];
        EXPECT_NEAR(static_cast<double>(v.z), wanted * metre, 1e-7) << row;
        EXPECT_NEAR(static_cast<double>(v.y), grid.y(row) * metre, 1e-7);
        const Vec3 normal{static_cast<double>(v.nx), static_cast<double>(v.ny), static_cast<double>(v.nz)};
        EXPECT_NEAR(length(normal), 1, 1e-6);
        EXPECT_NEAR(normal.x, 0, 1e-6) << "level along the way";
        EXPECT_GT(normal.z, 0);
        // It leans towards the middle of the way on either side.
        const double below = static_cast<double>(stock.heights()[grid.index(grid.columns / 2, row - 1)]),
                     above = static_cast<double>(stock.heights()[grid.index(grid.columns / 2, row + 1)]);
        EXPECT_NEAR(normal.y / normal.z, (below - above) / (2 * grid.cell), 1e-5) << row;
    }
}

TEST(StockPicture, ColoursTellWhatIsLeft) {
    const Stock stock = uncut();
    FormHeights form{std::vector<float>(stock.grid().count(), 0.0F),
                     std::vector<std::uint8_t>(stock.grid().count(), 1)};
    form.heights[0] = 1.0F;    // cut too deep
    form.heights[1] = -2.0F;   // a little left
    form.heights[2] = -20.0F;  // all of it
    form.layers[3] = 0;        // nothing is wanted there
    const auto drawn = drawn_stock(stock, form, board);
    const auto colour = [&](std::size_t cell) { return own_colour(drawn->vertices[cell].colour); };
    const std::vector<ColourMeaning> meanings = stock_colours();
    const auto is = [](Rgb seen, Rgb wanted) {
        return std::abs(seen.red - wanted.red) < 0.01F && std::abs(seen.green - wanted.green) < 0.01F &&
               std::abs(seen.blue - wanted.blue) < 0.01F;
    };
    const auto [board_colour, left, done, deep] =
        std::tuple(meanings[0].colour, meanings[1].colour, meanings[2].colour, meanings[3].colour);
    EXPECT_TRUE(is(colour(0), deep));
    EXPECT_TRUE(is(colour(1), left));
    EXPECT_TRUE(is(colour(2), board_colour));
    EXPECT_TRUE(is(colour(3), board_colour));
    EXPECT_TRUE(is(colour(4), done));
}

}  // namespace
}  // namespace plume
