// What results are made of, and how still pictures show it.

#include <cmath>
#include <numbers>

#include "core/data/material.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/picture/still.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

TEST(Materials, AreFoundByTheirKeys) {
    EXPECT_GE(materials().size(), 7U);
    for (const Material& material : materials()) {
        EXPECT_EQ(find_material(material.key), &material);
        EXPECT_TRUE(material_of({std::string(material.key)})) << material.key;
        for (const float share : {material.roughness, material.metalness, material.transparency})
            EXPECT_TRUE(share >= 0 && share <= 1) << material.key;
    }
    EXPECT_FALSE(material_of({}));
    EXPECT_FALSE(material_of({"basalt"})) << "of another version: shown without, and kept";
}

TEST(Materials, PaintHasTheColourThatIsChosen) {
    EXPECT_EQ(material_of({"paint", "#102030"})->colour, 0x102030U);
    EXPECT_EQ(material_of({"timber", "#102030"})->colour, find_material("timber")->colour);
    for (const char* odd : {"", "#", "#12345", "#1234567", "102030", "#10203g", "#-12345", "blue"})
        EXPECT_FALSE(material_of({"paint", odd})) << odd;
}

Drawable drawn(const Value& value) {
    return *make_drawable(value, {}, plume::Run());
}
// A square plate of 4 m at a height, about the origin.
Drawable plate(double height, double half = 2) {
    const PointLattice corners = grid(2, 2, [&](double, double) { return height; });
    Doubles x, y, z;
    for (std::size_t at = 0; at < 4; ++at) {
        x.push_back(at % 2 == 0 ? -half : half);
        y.push_back(at < 2 ? -half : half);
        z.push_back(height);
    }
    return drawn(*facets(corners.moved(x, y, z), FacetShape::quads, plume::Run()));
}

struct Pixel {
    int red = 0, green = 0, blue = 0;
    int sum() const { return red + green + blue; }
};
// Seen from above.
Image picture_of(const std::vector<StillItem>& items) {
    StillOptions options;
    options.width = 120;
    options.height = 120;
    options.camera.elevation_rad = 1.5;
    return *render_still(items, options, plume::Run());
}
// In the middle of the picture.
Pixel seen(const std::vector<StillItem>& items) {
    const Image image = picture_of(items);
    const std::size_t at = 4 * (60 + 120 * std::size_t{60});
    return {image.rgba[at], image.rgba[at + 1], image.rgba[at + 2]};
}
std::size_t darker_than(int sum, const Image& image) {
    std::size_t count = 0;
    for (std::size_t at = 0; at < image.rgba.size(); at += 4)
        count += image.rgba[at] + image.rgba[at + 1] + image.rgba[at + 2] < sum ? 1 : 0;
    return count;
}
StillItem of(const Drawable& drawable, const std::string& material, const std::string& paint = "#B5533C") {
    return {&drawable, false, false, true, {}, material_of({material, paint})};
}

TEST(Materials, PaintIsSeenInItsColour) {
    const Drawable d = plate(0);
    const Pixel red = seen({of(d, "paint", "#C02020")}), blue = seen({of(d, "paint", "#2020C0")});
    EXPECT_GT(red.red, red.blue + 60);
    EXPECT_GT(blue.blue, blue.red + 60);
    // What has no material looks as it always did.
    const Pixel plain = seen({{&d, false, false, true}});
    EXPECT_LT(std::abs(plain.red - plain.green), 12);
}

TEST(Materials, GlassShowsWhatIsBehindAndThrowsAFaintShadow) {
    const Drawable pane = plate(2), wall = plate(0);
    const Pixel behind = seen({of(wall, "paint", "#C02020")}),
                through = seen({of(pane, "glass"), of(wall, "paint", "#C02020")}),
                covered = seen({of(pane, "plaster"), of(wall, "paint", "#C02020")});
    EXPECT_GT(through.red, through.blue + 30) << "the red is seen through it";
    EXPECT_LT(std::abs(covered.red - covered.blue), 30) << "and not through plaster";
    EXPECT_LT(through.red - through.blue, behind.red - behind.blue) << "the pane mirrors some sky";
    // Its shadow on a larger floor.
    const Drawable floor = plate(0, 6), small = plate(2, 1.5);
    const std::size_t dark = darker_than(600, picture_of({of(small, "plaster"), of(floor, "plaster")})),
                      faint = darker_than(600, picture_of({of(small, "glass"), of(floor, "plaster")}));
    EXPECT_GT(dark, 30U);
    EXPECT_LT(faint, dark / 2);
}

TEST(Materials, MetalMirrorsWhatStandsBesideIt) {
    // A floor of metal below a red plate: seen at a slant, red lies in the metal.
    const Drawable floor = plate(0, 6), above = plate(3, 2);
    StillOptions options;
    options.width = 160;
    options.height = 120;
    options.camera.elevation_rad = 0.5;
    const auto reddest = [&](const char* material) {
        const Image image =
            *render_still({of(floor, material), of(above, "paint", "#C02020")}, options, plume::Run());
        // In the lower half of the picture, where only the floor is.
        int most = 0;
        for (std::size_t at = image.rgba.size() * 5 / 8; at < image.rgba.size(); at += 4)
            most = std::max(most, image.rgba[at] - image.rgba[at + 2]);
        return most;
    };
    EXPECT_GT(reddest("metal"), reddest("concrete") + 20);
}

// Seen from straight above, a roof that leans by an angle mirrors what stands at twice that angle: as it is
// tilted by a whole stripe the picture comes round, by half of one it is the other tone.
TEST(Materials, StripesAreThoseThatAMirrorShows) {
    const auto tone = [](double lean) {
        const PointLattice flat = grid(2, 2);
        Doubles x, y, z;
        for (std::size_t at = 0; at < 4; ++at) {
            x.push_back(at % 2 == 0 ? -2 : 2);
            y.push_back(at < 2 ? -2 : 2);
            z.push_back(std::tan(lean) * y.back());
        }
        const Drawable d = drawn(*facets(flat.moved(x, y, z), FacetShape::quads, plume::Run()));
        StillOptions options;
        options.width = options.height = 40;
        options.camera.elevation_rad = std::numbers::pi / 2 - 1e-4;
        options.camera.perspective = false;
        const Image image = *render_still({of(d, "stripes")}, options, plume::Run());
        const std::size_t at = 4 * (20 + 40 * std::size_t{20});
        return image.rgba[at] + image.rgba[at + 1] + image.rgba[at + 2];
    };
    const double stripe = 2 * std::numbers::pi / static_cast<double>(find_material("stripes")->stripes);
    const int level = tone(0);
    EXPECT_GT(level, 500) << "upwards there is a light";
    EXPECT_LT(tone(stripe / 4), 200);
    EXPECT_NEAR(tone(stripe / 2), level, 40);
    EXPECT_LT(tone(3 * stripe / 4), 200);
}

}  // namespace
}  // namespace plume
