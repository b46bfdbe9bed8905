#include <gtest/gtest.h>

#include <fstream>
#include <numbers>

#include "core/picture/png.hpp"
#include "core/picture/sun.hpp"
#include "core/support.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using Json = nlohmann::json;
constexpr double degree = std::numbers::pi / 180;

struct Asked {
    double latitude, longitude;
    int year, month, day;
    double hour;
};

// All over the world, through the year and the day, in Universal Time.
std::vector<Asked> places_and_hours() {
    std::vector<Asked> asked;
    const std::pair<double, double> places[] = {{54, 1}, {0, 0}, {-33.9, 151.2}, {69.6, 18.9}, {35.7, 139.7}};
    for (const auto& [latitude, longitude] : places)
        for (const auto& [month, day] :
             {std::pair(3, 20), std::pair(6, 21), std::pair(9, 1), std::pair(12, 31)})
            for (const double hour : {0.0, 7.5, 12.0, 16.25, 21.0})
                asked.push_back({latitude, longitude, 2026, month, day, hour});
    return asked;
}

std::string instant(const Asked& asked) {
    char text[40];
    std::snprintf(text, sizeof text, "%04d-%02d-%02dT%02d:%02d:00Z", asked.year, asked.month, asked.day,
                  static_cast<int>(asked.hour), static_cast<int>(asked.hour * 60) % 60);
    return text;
}

TEST(JudgedSun, StandsWhereAnotherEphemerisHasIt) {
    const test::Folder folder;
    const std::vector<Asked> all = places_and_hours();
    Json list = Json::array();
    for (const Asked& asked : all)
        list.push_back({asked.latitude, asked.longitude, instant(asked)});
    std::ofstream(folder / "moments.json") << list;
    const Json judged = test::judged("sun.mjs", folder / "moments.json")["answer"];
    ASSERT_EQ(judged.size(), all.size());
    int up = 0;
    for (std::size_t at = 0; at < all.size(); ++at) {
        const Asked& asked = all[at];
        const auto ours = sun_place({asked.latitude * degree, asked.longitude * degree, asked.year,
                                     asked.month, asked.day, asked.hour, 0});
        ASSERT_TRUE(ours);
        const double bearing = judged[at][0].get<double>() * degree,
                     height = judged[at][1].get<double>() * degree;
        up += height > 0 ? 1 : 0;
        // How far air bends what stands below the horizon nobody has measured.
        const double within = height > 0 ? 0.01 : 0.7;
        const double apart =
            std::acos(std::min(1.0, dot(direction_of(*ours), direction_of({bearing, height}))));
        EXPECT_LT(apart / degree, within) << instant(asked) << " at " << asked.latitude;
    }
    EXPECT_GT(up, 40);
}

TEST(JudgedPng, WhatMovesIsReadByAnother) {
    const test::Folder folder;
    const auto picture_of = [](std::size_t picture) -> Result<Image> {
        Image image{40, 30, {}};
        for (int pixel = 0; pixel < 40 * 30; ++pixel)
            for (const int part : {20, 100 + static_cast<int>(picture), pixel % 200, 255})
                image.rgba.push_back(static_cast<std::uint8_t>(part));
        return image;
    };
    ASSERT_TRUE(write_moving_png(folder / "turn.png", 3, 0.25, picture_of));
    const Json read = test::judged("moving_png.mjs", folder / "turn.png");
    EXPECT_EQ(read["width"], 40);
    EXPECT_EQ(read["height"], 30);
    EXPECT_EQ(read["delays"], Json({250, 250, 250}));
    ASSERT_EQ(read["pixels"].size(), 3U);
    for (int picture = 0; picture < 3; ++picture)
        EXPECT_EQ(read["pixels"][static_cast<std::size_t>(picture)], Json({20, 100 + picture, 0, 255}));
}

}  // namespace
}  // namespace plume
