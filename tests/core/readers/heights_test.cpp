// Heights and clouds of points from files.

#include <cmath>

#include "core/readers/cloud_file.hpp"
#include "core/readers/files.hpp"
#include "core/readers/height_grid.hpp"

namespace plume {
namespace {

const std::string head = "ncols 3\nNROWS 2\nxllcorner 1000\nyllcorner 2000\ncellsize 10\nNODATA_value -1\n";

HeightGrid grid_of(const std::string& text) {
    auto grid = read_height_grid(text, plume::Run());
    EXPECT_TRUE(grid) << sentence(grid.error());
    return grid ? *std::move(grid) : HeightGrid{};
}
Error grid_error(const std::string& text) {
    const auto grid = read_height_grid(text, plume::Run());
    EXPECT_FALSE(grid);
    return grid ? Error{} : grid.error();
}

TEST(HeightGrid, RowsComeFromTheNorth) {
    const HeightGrid grid = grid_of(head + "1 2 3\n4 -1 6\n");
    EXPECT_EQ(grid.columns, 3U);
    EXPECT_EQ(grid.rows, 2U);
    EXPECT_EQ(grid.west, 1005);
    EXPECT_EQ(grid.south, 2005);
    EXPECT_EQ(grid.heights[0], 4);
    EXPECT_TRUE(std::isnan(grid.heights[1]));
    EXPECT_EQ(grid.heights[5], 3);
}

TEST(HeightGrid, CentresAndOblongCells) {
    const HeightGrid grid =
        grid_of("ncols 2\r\nnrows 1\r\nxllcenter 5\r\nyllcenter 6\r\ndx 2\r\ndy 3\r\n7 8\r\n");
    EXPECT_EQ(grid.west, 5);
    EXPECT_EQ(grid.width, 2);
    EXPECT_EQ(grid.depth, 3);
    // Rows may break anywhere.
    EXPECT_EQ(grid_of(head + "1 2\n3 4 5\n6").heights[2], 6);
}

TEST(HeightGrid, WhatCannotBeReadSaysWhere) {
    EXPECT_EQ(sentence(grid_error(head + "100 200 300 400")), "ends after 4 of 6 heights. Get it anew.");
    EXPECT_EQ(sentence(grid_error(head + "1 2 reed 4 5 6")), "has ‘reed’ after 2 of 6 heights. Get it anew.");
    EXPECT_EQ(sentence(grid_error("ncols 3\ncellsize 1\n1 2 3")),
              "does not say its numbers of columns and rows (ncols, nrows). Get it anew, or mend its head.");
    EXPECT_EQ(sentence(grid_error("ncols 1000000\nnrows 1000000\ncellsize 1\n1 2 3")),
              "says that it has 1000000 × 1000000 heights, more than it has room for. Get it anew.");
    EXPECT_EQ(grid_error(head + "-1 -1 -1 -1 -1 -1").code, ErrorCode::empty_input);
    EXPECT_EQ(grid_error("").code, ErrorCode::empty_input);
    EXPECT_EQ(grid_error("ncols three\n").code, ErrorCode::file_damaged);
    EXPECT_EQ(grid_error("ncols 3\nnrows 1\ncellsize 0\n1 2 3").code, ErrorCode::file_damaged);
    EXPECT_EQ(grid_error("ncols 3\nnrows 1\ncellsize inf\n1 2 3").code, ErrorCode::file_damaged);
    const HeightGrid longer = grid_of(head + "1 2 3 4 5 6 7");
    EXPECT_EQ(longer.losses.size(), 1U);
}

TEST(CloudFile, VerticesOfPlyWithTheirNumbers) {
    const std::string text =
        "ply\nformat ascii 1.0\ncomment units: feet\nelement vertex 3\nproperty float x\nproperty float y\n"
        "property float z\nproperty uchar green\nproperty float intensity\nend_header\n"
        "1 2 3 255 0.5\nnan 0 0 0 0\n4 5 6 0 0.25\n";
    const auto cloud = read_cloud_bytes(text, plume::Run());
    ASSERT_TRUE(cloud) << sentence(cloud.error());
    EXPECT_EQ(cloud->points.point_count(), 2U);
    EXPECT_EQ(cloud->metres_per_unit, 0.3048);
    EXPECT_EQ(cloud->points.field("green")->values[0], 1);
    EXPECT_EQ(cloud->points.field("intensity")->values[2], 0.25);
    EXPECT_EQ(cloud->losses, (std::vector<std::string>{"1 point is a gap: its place is not finite."}));
}

TEST(CloudFile, LinesOfNumbers) {
    const auto cloud = read_cloud_bytes("512300.25 218400.5 3.5\n512301 218401 4\n", plume::Run());
    ASSERT_TRUE(cloud);
    EXPECT_EQ(cloud->points.point(0), (Vec3{512300.25, 218400.5, 3.5}));
    EXPECT_EQ(cloud->metres_per_unit, std::nullopt);
    EXPECT_FALSE(read_cloud_bytes("", plume::Run()));
    EXPECT_FALSE(read_cloud_bytes("no numbers here\n", plume::Run()));
}

}  // namespace
}  // namespace plume
