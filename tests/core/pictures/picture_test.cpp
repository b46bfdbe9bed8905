#include <zlib.h>

#include <cmath>
#include <numbers>
#include <set>

#include "core/base/file.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/picture/labels.hpp"
#include "core/picture/picking.hpp"
#include "core/picture/png.hpp"
#include "core/picture/ramp.hpp"
#include "core/picture/still.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

Drawable drawn(const Value& value, const std::string& colour_by = {}) {
    return *make_drawable(value, {colour_by, 4000}, plume::Run());
}

TEST(Ramp, LightnessRisesEvenly) {
    for (const Ramp ramp : {Ramp::estuary, Ramp::dusk, Ramp::ink}) {
        double before = -1;
        for (int step = 0; step <= 100; ++step) {
            const Rgb c = ramp_colour(ramp, step / 100.0);
            const auto linear = [](float v) { return std::pow(static_cast<double>(v), 2.2); };
            const double luminance =
                0.2126 * linear(c.red) + 0.7152 * linear(c.green) + 0.0722 * linear(c.blue);
            EXPECT_GT(luminance, before) << step;
            before = luminance;
        }
        EXPECT_EQ(ramp_colour(ramp, -1).red, ramp_colour(ramp, 0).red);
        EXPECT_EQ(ramp_colour(ramp, 2).red, ramp_colour(ramp, 1).red);
    }
}

TEST(Ramp, TurnedRoundAndInSteps) {
    const RampStyle round{Ramp::dusk, true, 0}, steps{Ramp::dusk, false, 4};
    EXPECT_EQ(ramp_colour(round, 0).red, ramp_colour(Ramp::dusk, 1).red);
    std::set<float> seen;
    for (int at = 0; at <= 100; ++at)
        seen.insert(ramp_colour(steps, at / 100.0).green);
    EXPECT_EQ(seen.size(), 4U);
    EXPECT_EQ(ramp_colour(steps, 0).green, ramp_colour(Ramp::dusk, 0).green);
    EXPECT_EQ(ramp_colour(steps, 1).green, ramp_colour(Ramp::dusk, 1).green);
    for (const Ramp ramp : {Ramp::estuary, Ramp::dusk, Ramp::tide, Ramp::ink})
        EXPECT_EQ(ramp_from(key_of(ramp)), ramp);
    EXPECT_FALSE(ramp_from("no such ramp"));
}

TEST(Drawable, LatticePointsEdgesAndColours) {
    const PointLattice lattice =
        grid(4, 3).with_field({"f", Doubles{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, NAN}, a_length});
    const Drawable d = drawn(lattice);
    EXPECT_EQ(d.points.size(), 12U);
    EXPECT_EQ(d.edges.size(), 2U * (3 * 3 + 4 * 2));
    EXPECT_EQ(d.colour_field, "f");
    EXPECT_EQ(d.colour_low, 0);
    EXPECT_EQ(d.colour_high, 10);
    EXPECT_FLOAT_EQ(d.points[5].colour, 0.5F);
    EXPECT_EQ(d.points[11].colour, not_finite_coordinate);
    EXPECT_EQ(drawn(lattice, "-").points[5].colour, plain_coordinate);
    EXPECT_EQ(drawn(lattice, "gone").colour_field, "");
}

TEST(Drawable, EnormousLatticesAreThinnedOut) {
    const Drawable d = drawn(grid(3000, 1001));
    EXPECT_TRUE(d.thinned);
    EXPECT_LT(d.points.size(), 1'500'001U);
    EXPECT_GT(d.points.size(), 300'000U);
    EXPECT_TRUE(d.edges.empty());
    EXPECT_EQ(d.bounds.high.x, 2999) << "bounds are those of the whole";
    EXPECT_FALSE(drawn(grid(1000, 1000)).thinned);
}

TEST(Drawable, ClosedDirectionsGetTheirLastEdge) {
    EXPECT_EQ(drawn(test::torus(8, 6, 3, 1)).edges.size(), 2U * (48 + 48));
}

TEST(Drawable, PointsThatAreNotFiniteAreLeftOutAndCounted) {
    const Drawable d = drawn(grid(3, 3, [](double i, double) { return i == 1 ? NAN : 0; }));
    EXPECT_EQ(d.points.size(), 6U);
    EXPECT_EQ(d.not_finite_points, 3U);
}

TEST(Drawable, StaysSharpFarFromZero) {
    PointLattice::Parts parts;
    parts.counts = {2, 1, 1};
    parts.x = Doubles{1e9, 1e9 + 0.25};
    parts.y = parts.z = Column(Doubles(2, 0.0));
    const Drawable d = drawn(*PointLattice::make(std::move(parts)));
    EXPECT_EQ(d.absolute(d.points[1].x, d.points[1].y, d.points[1].z).x -
                  d.absolute(d.points[0].x, d.points[0].y, d.points[0].z).x,
              0.25);
}

TEST(Drawable, NumbersThatDifferByRoundingAreOne) {
    PointLattice::Parts parts;
    parts.counts = {3, 1, 1};
    parts.x = parts.y = parts.z = Column(Doubles(3, 0.0));
    for (const double apart : {1e-16, 1e-9}) {
        parts.fields = {{"gap", Doubles{0.3, 0.3 + 4 * apart, 0.3 - 4 * apart}, plain_number}};
        const Drawable d = drawn(*PointLattice::make(parts), {"gap"});
        EXPECT_EQ(d.colour_low == d.colour_high, apart < 1e-12);
        EXPECT_EQ(d.points[1].colour, apart < 1e-12 ? 0.5F : 1.0F);
    }
}

TEST(Drawable, SurfaceColoursSpanTheGivenNumbers) {
    const Evaluation evaluation = test::run(test::canopy().study);
    const Drawable d = drawn(test::value_of(evaluation, "roof"));
    EXPECT_NEAR(d.colour_low, 0, 1e-12);
    EXPECT_NEAR(d.colour_high, 3.2, 1e-12);
    for (const DrawVertex& v : d.vertices)
        EXPECT_TRUE(v.colour >= 0 && v.colour <= 1);
    for (const std::uint32_t index : d.triangles)
        ASSERT_LT(index, d.vertices.size());
}

TEST(Camera, MatrixAndProjectionAgree) {
    Camera camera;
    camera.target = {3, 4, 1};
    const Box box{{-18, -12, 0}, {18, 12, 3}};
    for (const bool perspective : {true, false}) {
        camera.perspective = perspective;
        const Vec3 origin{1, 2, 3};
        const Matrix4 m = camera.view_projection(1.5, origin, box);
        for (const Vec3 p : {Vec3{0, 0, 0}, Vec3{18, -12, 3}, Vec3{-5, 7, 2}}) {
            const Vec3 r = p - origin;
            const auto row = [&](std::size_t i) {
                return m[i] * r.x + m[i + 4] * r.y + m[i + 8] * r.z + m[i + 12];
            };
            double x = 0, y = 0, depth = 0;
            ASSERT_TRUE(camera.project(p, 1.5, x, y, depth));
            EXPECT_NEAR(0.5 + 0.5 * row(0) / row(3), x, 1e-12);
            EXPECT_NEAR(0.5 - 0.5 * row(1) / row(3), y, 1e-12);
            EXPECT_LE(std::abs(row(2) / row(3)), 1) << "inside the near and far planes";
        }
    }
}

TEST(Camera, RaysGoThroughWhatTheyShow) {
    Camera camera;
    for (const bool perspective : {true, false}) {
        camera.perspective = perspective;
        const Vec3 p{2, -3, 1};
        double x = 0, y = 0, depth = 0;
        ASSERT_TRUE(camera.project(p, 1.6, x, y, depth));
        const Ray ray = camera.ray_through(x, y, 1.6);
        const Vec3 across = cross(p - ray.origin, ray.direction);
        EXPECT_LT(length(across), 1e-12);
    }
}

TEST(Camera, FitFillsTheShareItPromises) {
    for (const double elevation : {0.0, 0.5, std::numbers::pi / 2})
        for (const double aspect : {0.6, 1.6}) {
            Camera camera;
            camera.elevation_rad = elevation;
            const Box box{{100, 200, 5}, {136, 224, 8}};
            camera.fit(box, aspect);
            double low_x = 1, high_x = 0, low_y = 1, high_y = 0;
            for (int corner = 0; corner < 8; ++corner) {
                double x = 0, y = 0, depth = 0;
                camera.project({corner & 1 ? 136.0 : 100, corner & 2 ? 224.0 : 200, corner & 4 ? 8.0 : 5},
                               aspect, x, y, depth);
                low_x = std::min(low_x, x);
                high_x = std::max(high_x, x);
                low_y = std::min(low_y, y);
                high_y = std::max(high_y, y);
            }
            EXPECT_NEAR(std::max(high_x - low_x, high_y - low_y), 0.8, 0.01);
            EXPECT_NEAR(low_x + high_x, 1, 0.01);
            EXPECT_NEAR(low_y + high_y, 1, 0.01);
            EXPECT_TRUE(camera.sees(box, aspect));
            EXPECT_FALSE(camera.sees({box.low, {136, 224, 80}}, aspect)) << "grown out of the view";
            EXPECT_FALSE(camera.sees({camera.eye() - Vec3{1, 1, 1}, camera.eye()}, aspect))
                << "behind the eye";
            EXPECT_TRUE(camera.sees({}, aspect));
        }
    Camera camera;
    camera.fit(Box{}, 1);
    camera.fit(Box{{1, 1, 1}, {1, 1, 1}}, 1);
    EXPECT_TRUE(std::isfinite(camera.distance) && camera.distance > 0) << "a single point";
}

TEST(Camera, StandardViewsLookAlongAxes) {
    const std::pair<const char*, Vec3> cases[] = {
        {"plan", {0, 0, -1}}, {"front", {0, 1, 0}}, {"side", {-1, 0, 0}}};
    Camera camera;
    camera.distance = 7;
    for (const auto& [key, forward] : cases) {
        const Camera seen = seen_from(*standard_view_from(key), camera);
        EXPECT_LT(length(seen.forward() - forward), 1e-12) << key;
        EXPECT_FALSE(seen.perspective) << key;
        EXPECT_EQ(seen.distance, 7) << key;
        EXPECT_LT(seen.light().x * seen.right().x + seen.light().y * seen.right().y, 0) << "from the left";
        EXPECT_GT(seen.light().z, 0) << "from above";
        EXPECT_NEAR(length(seen.light()), 1, 1e-12);
    }
    EXPECT_TRUE(seen_from(*standard_view_from("above"), camera).perspective);
    EXPECT_FALSE(standard_view_from("below"));
}

TEST(Picking, FindsTheNearestPointInFront) {
    const Drawable d = drawn(grid(5, 5));
    Camera camera;
    camera.fit(d.bounds, 1.5);
    const ViewSize view{600, 400};
    for (std::size_t index = 0; index < d.points.size(); ++index) {
        double x = 0, y = 0, depth = 0;
        camera.project(d.absolute(d.points[index].x, d.points[index].y, d.points[index].z), view.aspect(), x,
                       y, depth);
        const auto picked = pick_point(d, camera, view, {x * 600 + 1, y * 400 - 1}, 8);
        ASSERT_TRUE(picked);
        EXPECT_EQ(picked->point, index);
    }
    EXPECT_FALSE(pick_point(d, camera, view, {1, 1}, 8));
}

TEST(Labels, RoomIsTakenOnce) {
    LabelRoom room({200, 100});
    EXPECT_TRUE(room.take({20, 20}, {50, 9}));
    EXPECT_FALSE(room.take({60, 25}, {50, 9}));
    EXPECT_TRUE(room.take({90, 25}, {50, 9}));
    EXPECT_TRUE(room.take({20, 45}, {150, 9}));
    EXPECT_TRUE(room.take({-500, 80}, {510, 10})) << "partly outside";
    EXPECT_FALSE(room.take({0, 85}, {5, 5}));
    EXPECT_TRUE(room.take({190, 90}, {500, 500}));
    EXPECT_FALSE(room.take({195, 95}, {2, 2}));
}

TEST(Picking, DragsOnTheGroundAndUprightFromTheSide) {
    Camera camera;
    const ViewSize view{600, 400};
    const auto there = dragged_to(camera, view, {350, 260}, {1, 2, 0.7});
    ASSERT_TRUE(there);
    EXPECT_EQ(there->z, 0.7);
    double x = 0, y = 0, depth = 0;
    camera.project(*there, view.aspect(), x, y, depth);
    EXPECT_NEAR(x * 600, 350, 1e-6);
    EXPECT_NEAR(y * 400, 260, 1e-6);
    camera.elevation_rad = 0;
    EXPECT_NE(dragged_to(camera, view, {350, 100}, {1, 2, 0.7})->z, 0.7)
        << "from the side it goes up and down";
}

TEST(Picking, DragsHeldToAnAxisOrAPlaneLeaveTheRest) {
    const ViewSize view{600, 400};
    const Vec3 start{1, 2, 0.7};
    const ViewPoint cursor{350, 130};
    for (const bool perspective : {true, false}) {
        Camera camera;
        camera.perspective = perspective;
        const auto at = [&](DragHold hold) { return *dragged_to(camera, view, cursor, start, hold); };
        const Ray ray = camera.ray_through(cursor.x / 600, cursor.y / 400, view.aspect());
        const auto apart = [&](Vec3 p) { return length(cross(p - ray.origin, ray.direction)); };
        const struct {
            DragHold along, plane;
            double Vec3::*axis;
        } cases[] = {{DragHold::along_x, DragHold::square_to_x, &Vec3::x},
                     {DragHold::along_y, DragHold::square_to_y, &Vec3::y},
                     {DragHold::along_z, DragHold::square_to_z, &Vec3::z}};
        for (const auto& c : cases) {
            const Vec3 on = at(c.along), in = at(c.plane);
            for (double Vec3::*other : {&Vec3::x, &Vec3::y, &Vec3::z}) {
                if (other == c.axis)
                    EXPECT_EQ(in.*other, start.*other);
                else
                    EXPECT_EQ(on.*other, start.*other);
            }
            EXPECT_LT(apart(in), 1e-9) << "under the cursor";
            // No place on the axis is nearer to the ray.
            for (const double step : {-1e-3, 1e-3}) {
                Vec3 beside = on;
                beside.*c.axis += step;
                EXPECT_GT(apart(beside), apart(on));
            }
        }
        camera.elevation_rad = std::numbers::pi / 2;
        EXPECT_FALSE(dragged_to(camera, view, {300, 200}, camera.target, DragHold::along_z))
            << "seen from above there is no up and down";
    }
}

TEST(Picking, ZoomKeepsWhatIsUnderTheCursor) {
    Camera camera;
    camera.perspective = false;
    const ViewSize view{600, 400};
    const ViewPoint cursor{100, 300};
    const Vec3 before = camera.ray_through(cursor.x / 600, cursor.y / 400, view.aspect()).origin;
    zoom_to(camera, view, cursor, 1.7);
    const Ray after = camera.ray_through(cursor.x / 600, cursor.y / 400, view.aspect());
    EXPECT_LT(length(cross(before - after.origin, after.direction)), 1e-9);
    for (int n = 0; n < 1000; ++n)
        orbit(camera, {7, 9});
    EXPECT_LE(std::abs(camera.elevation_rad), std::numbers::pi / 2);
}

TEST(Picking, ZoomEndsWhereNothingMoreIsTold) {
    const ViewSize view{600, 400};
    const ViewPoint cursor{100, 300};
    for (const bool perspective : {false, true}) {
        Camera camera;
        camera.perspective = perspective;
        for (int n = 0; n < 500; ++n)
            zoom_to(camera, view, cursor, 1 / 1.15, 20);
        EXPECT_NEAR(camera.view_height(), 2000, 1e-6);
        const Camera out = camera;
        zoom_to(camera, view, cursor, 1 / 1.15, 20);
        EXPECT_EQ(camera.target, out.target) << "it does not slide along where it ends";
        for (int n = 0; n < 500; ++n)
            zoom_to(camera, view, cursor, 1.15, 20);
        EXPECT_NEAR(camera.view_height(), 2e-5, 1e-12);
        // What is seen became larger than where the camera stands: back is the only way.
        camera.distance *= 1e-3;
        const double height = camera.view_height();
        zoom_to(camera, view, cursor, 1.15, 20);
        EXPECT_DOUBLE_EQ(camera.view_height(), height);
        zoom_to(camera, view, cursor, 1 / 1.15, 20);
        EXPECT_NEAR(camera.view_height(), height * 1.15, height * 1e-9);
    }
}

StillOptions small() {
    StillOptions options;
    options.width = 160;
    options.height = 100;
    options.passes = 1;
    return options;
}

// Luminance of the pixel where a point of the model is seen.
int brightness(const Image& image, const Camera& fitted, Vec3 p) {
    double x = 0, y = 0, depth = 0;
    fitted.project(p, static_cast<double>(image.width) / image.height, x, y, depth);
    const std::size_t at =
        4 * (static_cast<std::size_t>(x * image.width) +
             static_cast<std::size_t>(image.width) * static_cast<std::size_t>(y * image.height));
    return image.rgba[at] + image.rgba[at + 1] + image.rgba[at + 2];
}

TEST(Still, ShowsTheFormItsColoursAndAShadow) {
    const PointLattice plate =
        grid(2, 2, [](double, double) { return 1.0; }).with_field({"f", Doubles{0, 1, 0, 1}, {}});
    const Value mesh = *facets(plate, FacetShape::quads, plume::Run());
    const Drawable d = drawn(mesh);
    // A speck on the ground below, so that the ground lies under the plate.
    const Drawable speck = drawn(*Attractors::make({{"speck", {0.5, 0.5, 0}, 1}}));
    StillOptions options = small();
    const Image image =
        *render_still({{&d, false, false, true}, {&speck, false, false, false}}, options, plume::Run());
    Camera fitted = options.camera;
    Box box = d.bounds;
    box.include(speck.bounds);
    fitted.fit(box, 1.6);
    EXPECT_GT(brightness(image, fitted, {0.9, 0.5, 1}), brightness(image, fitted, {0.1, 0.5, 1}) + 60)
        << "sand end is lighter than slate end";
    EXPECT_EQ(image.rgba.size(), 4U * 160 * 100);
    // The same view without the plate: where nothing but ground is seen the plate has made some of it darker.
    const Image bare =
        *render_still({{&d, false, false, false}, {&speck, false, false, false}}, options, plume::Run());
    std::size_t darker = 0;
    for (std::size_t at = 0; at < image.rgba.size(); at += 4) {
        const auto [low, high] = std::minmax({image.rgba[at], image.rgba[at + 1], image.rgba[at + 2]});
        const bool grey = high - low < 14;  // the plate itself is coloured
        darker += grey && image.rgba[at] + 12 < bare.rgba[at] ? 1 : 0;
    }
    EXPECT_GT(darker, 60U) << "a shadow lies on the ground";
}

TEST(Still, SameBytesEveryTime) {
    const Evaluation evaluation = test::run(test::canopy().study);
    const Drawable d = drawn(test::value_of(evaluation, "roof"));
    EXPECT_EQ(render_still({{&d}}, small(), plume::Run())->rgba,
              render_still({{&d}}, small(), plume::Run())->rgba);
}

// How many pixels are darker than so bright, of three times 255.
std::size_t dark_pixels(const Image& image, int below) {
    std::size_t count = 0;
    for (std::size_t at = 0; at < image.rgba.size(); at += 4)
        count += image.rgba[at] + image.rgba[at + 1] + image.rgba[at + 2] < below ? 1 : 0;
    return count;
}

TEST(Still, LabelsAndHeavierLinesAsInTheModel) {
    test::StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "circle").number("foot", "radius", "4 m");
    maker.add("surface.extrude", "heap");
    maker.set("heap", "curve", ResultName{"foot"}).number("heap", "by", "2 m");
    maker.word("heap", "sides", "leaning").number("heap", "lean", "45°");
    maker.add("curve.levels", "levels");
    maker.set("levels", "thing", ResultName{"heap"}).number("levels", "spacing", "0.4 m");
    const Value lines = test::value_of(test::run(maker.study), "levels");
    const Drawable d = *make_drawable(lines, {.colour_by = "-"}, plume::Run());
    StillOptions options = small();
    options.width = 640;
    options.height = 400;
    const auto dark = [&](const StillItem& item) {
        return dark_pixels(*render_still({item}, options, plume::Run()), 480);
    };
    const std::size_t plain = dark({&d});
    EXPECT_GT(plain, 300U);
    const std::size_t heavier = dark({.drawable = &d, .heavier_each = 1});
    EXPECT_GT(heavier, plain * 3 / 2) << "every line is two and a half times as wide";
    EXPECT_LT(dark({.drawable = &d, .heavier_each = 3}), heavier);
    std::vector<std::size_t> asked;
    const std::size_t labelled = dark({.drawable = &d, .label = [&](std::size_t item) {
                                           asked.push_back(item);
                                           return std::string("0.4 m");
                                       }});
    EXPECT_GT(labelled, plain + 60) << "letters are dark";
    ASSERT_FALSE(asked.empty());
    EXPECT_LT(*std::ranges::max_element(asked), std::get<CurveSet>(lines).curves.size());
}

// A plate of 4 by 3 at 50 pixels a length: so many pixels are covered, and those around are not.
TEST(Still, IsToScaleAndLetsThroughWhatIsBehind) {
    const Value plate = *facets(grid(5, 4), FacetShape::quads, plume::Run());
    const Drawable d = drawn(plate);
    const std::vector<StillItem> items{{&d, false, false, true}};
    StillOptions options;
    options.camera = seen_from(StandardView::plan, options.camera);
    options.pixels_per_length = 50;
    options.ground = StillGround::none;
    const PixelSize size = size_to_scale(items, options.camera, 50);
    EXPECT_NEAR(size.width, 4 * 50 + 48, 1e-9);
    EXPECT_NEAR(size.height, 3 * 50 + 48, 1e-9);
    options.width = 300;
    options.height = 250;
    const Image image = *render_still(items, options, plume::Run());
    const auto alpha = [&](int x, int y) {
        return image.rgba[static_cast<std::size_t>(4 * (x + 300 * y) + 3)];
    };
    int across = 0, down = 0;
    for (int x = 0; x < 300; ++x)
        across += alpha(x, 125) == 255 ? 1 : 0;
    for (int y = 0; y < 250; ++y)
        down += alpha(150, y) == 255 ? 1 : 0;
    EXPECT_NEAR(across, 200, 1);
    EXPECT_NEAR(down, 150, 1);
    EXPECT_EQ(alpha(2, 2), 0);
    options.ground = StillGround::shadow;
    const Image opaque = *render_still(items, options, plume::Run());
    for (std::size_t at = 3; at < opaque.rgba.size(); at += 4)
        ASSERT_EQ(opaque.rgba[at], 255);
}

TEST(Still, RefusesNothingAndSillySizes) {
    const Drawable d = drawn(grid(2, 2));
    EXPECT_EQ(render_still({}, small(), plume::Run()).error().code, ErrorCode::nothing_to_write);
    StillOptions options = small();
    options.width = 100'000;
    EXPECT_EQ(render_still({{&d}}, options, plume::Run()).error().code, ErrorCode::out_of_range);
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(render_still({{&d}}, small(), run).error().code, ErrorCode::cancelled);
}

TEST(Png, SaysHowLargeAPixelIsOnPaper) {
    const test::Folder folder;
    ASSERT_TRUE(write_png(Image{2, 3, std::vector<std::uint8_t>(24, 128), 150 / 0.0254}, folder / "a.png"));
    const std::string bytes = *read_file(folder / "a.png", 10'000);
    const std::size_t chunk = bytes.find("pHYs");
    ASSERT_EQ(chunk, 37U) << "behind the head";
    const auto number_at = [&](std::size_t at) {
        std::uint32_t number = 0;
        for (std::size_t byte = 0; byte < 4; ++byte)
            number = number << 8U | static_cast<unsigned char>(bytes[at + byte]);
        return number;
    };
    EXPECT_EQ(number_at(chunk + 4), 5906U);
    EXPECT_EQ(number_at(chunk + 8), 5906U);
    EXPECT_EQ(bytes[chunk + 12], 1);
    EXPECT_EQ(number_at(chunk + 13),
              crc32(0, reinterpret_cast<const unsigned char*>(bytes.data() + chunk), 13));
}

TEST(Png, HasItsSignatureAndSize) {
    const test::Folder folder;
    ASSERT_TRUE(write_png(Image{2, 3, std::vector<std::uint8_t>(24, 128)}, folder / "a.png"));
    const std::string bytes = *read_file(folder / "a.png", 10'000);
    EXPECT_EQ(bytes.substr(1, 3), "PNG");
    EXPECT_EQ(bytes[19], 2);
    EXPECT_EQ(bytes[23], 3);
}

}  // namespace
}  // namespace plume
