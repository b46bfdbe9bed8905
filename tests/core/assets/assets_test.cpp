// Pictures and tables from files: what is read, and what is said of files that cannot be.

#include <sys/stat.h>

#include <OpenImageIO/imageio.h>

#include <cmath>
#include <fstream>

#include "core/assets/file_store.hpp"
#include "core/assets/point_table.hpp"
#include "core/base/file.hpp"
#include "core/geometry/pictures/image_sampling.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::Folder;
using test::StudyMaker;

// Written by the library that reads, in the file's own number type.
void write_picture(const std::filesystem::path& path, int width, int height, int channels,
                   OIIO::TypeDesc type, const std::function<float(int x, int y, int c)>& value,
                   const std::vector<std::pair<const char*, int>>& attributes = {}) {
    std::vector<float> pixels;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < channels; ++c)
                pixels.push_back(value(x, y, c));
    const auto output = OIIO::ImageOutput::create(path.string());
    ASSERT_TRUE(output);
    OIIO::ImageSpec spec(width, height, channels, type);
    for (const auto& [name, number] : attributes)
        spec.attribute(name, number);
    ASSERT_TRUE(output->open(path.string(), spec));
    ASSERT_TRUE(output->write_image(OIIO::TypeDesc::FLOAT, pixels.data()));
    output->close();
}

float slope(int x, int y, int c) {
    return static_cast<float>((x + 2 * y + 3 * c) % 11) / 11.0F;
}

TEST(ImageFile, EightSixteenBitsAndFloats) {
    const Folder folder;
    const struct {
        const char* name;
        OIIO::TypeDesc type;
        int channels;
        double slack;
    } cases[]{
        {"a.png", OIIO::TypeDesc::UINT8, 1, 0.5 / 255}, {"b.png", OIIO::TypeDesc::UINT16, 3, 0.5 / 65535},
        {"c.tif", OIIO::TypeDesc::FLOAT, 3, 1e-7},      {"d.tif", OIIO::TypeDesc::UINT16, 4, 0.5 / 65535},
        {"e.tif", OIIO::TypeDesc::UINT8, 1, 0.5 / 255}, {"g.exr", OIIO::TypeDesc::FLOAT, 3, 1e-7},
        {"h.hdr", OIIO::TypeDesc::FLOAT, 3, 0.5 / 128}, {"i.bmp", OIIO::TypeDesc::UINT8, 3, 0.5 / 255},
        {"k.ppm", OIIO::TypeDesc::UINT8, 3, 0.5 / 255}};
    for (const auto& one : cases) {
        write_picture(folder / one.name, 13, 7, one.channels, one.type, slope);
        const Result<Raster> raster = read_image(folder / one.name, plume::Run());
        ASSERT_TRUE(raster) << one.name << " " << sentence(raster.error());
        EXPECT_EQ(raster->width, 13U);
        EXPECT_EQ(raster->channels, static_cast<std::size_t>(one.channels));
        for (int y = 0; y < 7; ++y)
            for (int x = 0; x < 13; ++x)
                for (int c = 0; c < std::min(one.channels, 3); ++c) {
                    if (one.channels == 4) continue;  // TransparentPicturesKeepTheirColours
                    EXPECT_NEAR(static_cast<double>(raster->at(static_cast<std::size_t>(x),
                                                               static_cast<std::size_t>(y),
                                                               static_cast<std::size_t>(c))),
                                static_cast<double>(slope(x, y, c)), one.slack + 1e-7)
                        << one.name;
                }
        EXPECT_EQ(read_image_facts(folder / one.name)->height, 7U);
    }
    write_picture(folder / "f.jpg", 32, 16, 3, OIIO::TypeDesc::UINT8, [](int, int, int) { return 0.5F; });
    EXPECT_NEAR(static_cast<double>(read_image(folder / "f.jpg", plume::Run())->at(5, 5, 1)), 0.5, 0.02);
}

// A camera held on its side: the corner that was painted has to come to lie where the table of EXIF says.
TEST(ImageFile, OrientationIsFollowed) {
    const Folder folder;
    // The file's first row and column: 1 at its first pixel, falling along the row, less along the column.
    const auto value = [](int x, int y, int) {
        return 1.0F - 0.1F * static_cast<float>(x) - 0.3F * static_cast<float>(y);
    };
    // Where the file's pixel (x, y) of 3 x 2 comes to lie.
    using Place = std::pair<std::size_t, std::size_t>;
    const std::function<Place(std::size_t, std::size_t)> places[]{[](std::size_t x, std::size_t y) {
                                                                      return Place{x, y};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{2 - x, y};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{2 - x, 1 - y};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{x, 1 - y};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{y, x};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{1 - y, x};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{1 - y, 2 - x};
                                                                  },
                                                                  [](std::size_t x, std::size_t y) {
                                                                      return Place{y, 2 - x};
                                                                  }};
    for (int orientation = 1; orientation <= 8; ++orientation) {
        write_picture(folder / "o.tif", 3, 2, 1, OIIO::TypeDesc::FLOAT, value,
                      {{"Orientation", orientation}});
        const auto raster = read_image(folder / "o.tif", plume::Run());
        ASSERT_TRUE(raster);
        const bool lies = orientation >= 5;
        EXPECT_EQ(raster->width, lies ? 2U : 3U) << orientation;
        EXPECT_EQ(read_image_facts(folder / "o.tif")->width, lies ? 2U : 3U) << orientation;
        for (std::size_t y = 0; y < 2; ++y)
            for (std::size_t x = 0; x < 3; ++x) {
                const auto [to_x, to_y] = places[orientation - 1](x, y);
                EXPECT_FLOAT_EQ(raster->at(to_x, to_y, 0), value(static_cast<int>(x), static_cast<int>(y), 0))
                    << orientation << ": " << x << ", " << y;
            }
    }
}

TEST(ImageFile, TransparentPicturesKeepTheirColours) {
    const Folder folder;
    const auto value = [](int x, int, int c) { return c == 3 ? 0.2F + 0.2F * static_cast<float>(x) : 0.8F; };
    // Colours as painted, in the file as they are.
    write_picture(folder / "p.png", 4, 2, 4, OIIO::TypeDesc::UINT16, value, {{"oiio:UnassociatedAlpha", 1}});
    // Colours times alpha in the file.
    const auto times_alpha = [&](int x, int y, int c) {
        return c == 3 ? value(x, y, 3) : 0.8F * value(x, y, 3);
    };
    write_picture(folder / "t.tif", 4, 2, 4, OIIO::TypeDesc::UINT16, times_alpha);
    for (const char* name : {"p.png", "t.tif"}) {
        const auto raster = read_image(folder / name, plume::Run());
        ASSERT_TRUE(raster) << name;
        for (std::size_t x = 0; x < 4; ++x) {
            EXPECT_NEAR(static_cast<double>(raster->at(x, 1, 1)), 0.8, 1e-3) << name;
            EXPECT_NEAR(static_cast<double>(raster->at(x, 1, 3)), 0.2 + 0.2 * static_cast<double>(x), 1e-3)
                << name;
        }
    }
}

TEST(ImageFile, FoldersPipesAndDevicesAreNamedAsSuch) {
    const Folder folder;
    ASSERT_EQ(mkfifo((folder / "pipe.png").c_str(), 0600), 0);
    std::filesystem::create_directory(folder / "folder.png");
    const struct {
        std::filesystem::path path;
        const char* said;
    } cases[]{{folder / "pipe.png", "is a pipe"},
              {folder / "folder.png", "is a folder"},
              {"/dev/null", "is a device"},
              {folder / "none.png", "does not exist"}};
    for (const auto& one : cases) {
        const auto raster = read_image(one.path, plume::Run());
        ASSERT_FALSE(raster) << one.path;
        EXPECT_EQ(raster.error().message, one.said) << one.path;
    }
}

TEST(ImageFile, WhatCannotBeReadIsSaid) {
    const Folder folder;
    EXPECT_EQ(read_image(folder / "none.png", plume::Run()).error().code, ErrorCode::file_missing);
    std::ofstream(folder / "empty.png").flush();
    EXPECT_EQ(read_image(folder / "empty.png", plume::Run()).error().code, ErrorCode::file_damaged);
    std::ofstream(folder / "text.png") << "this is no picture at all, whatever its name says";
    EXPECT_EQ(read_image(folder / "text.png", plume::Run()).error().code, ErrorCode::file_unreadable);
    // Of a format whose decoder sets aside gigabytes for what a few bytes claim.
    std::ofstream(folder / "huge.gif") << "GIF89a\xff\xff\xff\xff";
    const Error refused = read_image_facts(folder / "huge.gif").error();
    EXPECT_EQ(refused.code, ErrorCode::file_unreadable);
    EXPECT_NE(refused.mend.find("PNG"), std::string::npos);
    // The end is missing.
    for (const char* name : {"whole.png", "whole.jpg", "whole.tif"}) {
        write_picture(folder / name, 64, 64, 3, OIIO::TypeDesc::UINT8, [](int x, int y, int c) {
            return static_cast<float>((x * 37 + y * 91 + c * 13) % 256) / 255.0F;
        });
        const std::string bytes = *read_file(folder / name, 1'000'000);
        const auto cut = folder / (std::string("cut") + (name + 5)).c_str();
        std::ofstream(cut, std::ios::binary) << bytes.substr(0, bytes.size() * 6 / 10);
        const Result<Raster> raster = read_image(cut, plume::Run());
        ASSERT_FALSE(raster) << name;
        EXPECT_TRUE(raster.error().code == ErrorCode::file_damaged ||
                    raster.error().code == ErrorCode::file_unreadable);
        EXPECT_FALSE(raster.error().mend.empty());
    }
    // A picture under another picture's name is read all the same.
    std::filesystem::copy_file(folder / "whole.png", folder / "really-png.jpg");
    EXPECT_TRUE(read_image(folder / "really-png.jpg", plume::Run()));
    // A folder is no picture.
    std::filesystem::create_directory(folder / "folder.png");
    EXPECT_FALSE(read_image(folder / "folder.png", plume::Run()));
}

TEST(FileStore, StaysAsItWasUntilReadAgain) {
    const Folder folder;
    FileStore store(folder.path());
    EXPECT_EQ(store.stamp("later.txt").error().code, ErrorCode::file_missing);
    EXPECT_EQ(store.stamp("").error().code, ErrorCode::missing_input);
    std::ofstream(folder / "later.txt") << "one";
    const Hash before = *store.stamp("later.txt");
    EXPECT_EQ(**store.bytes("later.txt", 100), "one");
    EXPECT_TRUE(store.changed().empty());
    std::ofstream(folder / "later.txt") << "another";
    EXPECT_EQ(store.changed(), std::vector<std::string>{"later.txt"});
    EXPECT_EQ(*store.stamp("later.txt"), before);
    EXPECT_EQ(**store.bytes("later.txt", 100), "one") << "a result never mixes two states";
    store.refresh("later.txt");
    EXPECT_NE(*store.stamp("later.txt"), before);
    EXPECT_EQ(**store.bytes("later.txt", 100), "another");
    std::filesystem::remove(folder / "later.txt");
    EXPECT_EQ(store.changed().size(), 1U);
}

TEST(FileStore, HoldsOnlyWhatIsWanted) {
    const Folder folder;
    FileStore store(folder.path());
    for (const char* name : {"kept.txt", "left.txt"})
        std::ofstream(folder / name) << "one";
    const std::weak_ptr<const std::string> kept = *store.bytes("kept.txt", 100),
                                           left = *store.bytes("left.txt", 100);
    store.keep_only({"kept.txt"});
    EXPECT_FALSE(kept.expired());
    EXPECT_TRUE(left.expired());
    EXPECT_EQ(**store.bytes("left.txt", 100), "one") << "it is read again";
    // The study knew it as it was.
    store.keep_only({});
    std::ofstream(folder / "left.txt") << "another";
    EXPECT_EQ(store.bytes("left.txt", 100).error().code, ErrorCode::file_changed);
}

// Sampling ------------------------------------------------------------------------------------------------

Raster raster_of(std::size_t width, std::size_t height,
                 const std::function<float(std::size_t, std::size_t)>& value) {
    Raster raster{width, height, 1, {}};
    for (std::size_t y = 0; y < height; ++y)
        for (std::size_t x = 0; x < width; ++x)
            raster.values.push_back(value(x, y));
    return raster;
}

TEST(ImageSampling, ExactAtTheMiddlesOfPixels) {
    const Raster raster = raster_of(
        7, 5, [](std::size_t x, std::size_t y) { return static_cast<float>((x * x + 3 * y) % 8) / 8; });
    for (const Filter filter : {Filter::nearest, Filter::linear, Filter::cubic})
        for (const Beyond beyond : {Beyond::edge, Beyond::tile, Beyond::mirror}) {
            const ImageSampler sampler(raster, filter, beyond);
            for (std::size_t y = 0; y < 5; ++y)
                for (std::size_t x = 0; x < 7; ++x)
                    EXPECT_NEAR(
                        sampler((static_cast<double>(x) + 0.5) / 7, 1 - (static_cast<double>(y) + 0.5) / 5),
                        static_cast<double>(raster.at(x, y, 0)), 1e-6);
        }
}

TEST(ImageSampling, FiltersBetweenPixels) {
    // A slope is reproduced exactly by linear and cubic, a parabola by cubic alone (Keys: third order).
    const Raster line =
        raster_of(16, 3, [](std::size_t x, std::size_t) { return static_cast<float>(x) / 16; });
    const Raster parabola =
        raster_of(16, 3, [](std::size_t x, std::size_t) { return static_cast<float>(x * x) / 256; });
    for (double x = 4; x < 11; x += 0.17) {
        const double u = (x + 0.5) / 16;
        EXPECT_NEAR(ImageSampler(line, Filter::linear, Beyond::edge)(u, 0.5), x / 16, 1e-6);
        EXPECT_NEAR(ImageSampler(line, Filter::cubic, Beyond::edge)(u, 0.5), x / 16, 1e-6);
        EXPECT_NEAR(ImageSampler(parabola, Filter::cubic, Beyond::edge)(u, 0.5), x * x / 256, 1e-6);
        EXPECT_EQ(ImageSampler(line, Filter::nearest, Beyond::edge)(u, 0.5), std::round(x) / 16);
    }
}

TEST(ImageSampling, BeyondTheEdges) {
    const Raster raster = raster_of(4, 1, [](std::size_t x, std::size_t) { return static_cast<float>(x); });
    const auto at = [&](Beyond beyond, double pixel) {
        return ImageSampler(raster, Filter::nearest, beyond)((pixel + 0.5) / 4, 0.5);
    };
    EXPECT_EQ(at(Beyond::edge, -3), 0);
    EXPECT_EQ(at(Beyond::edge, 9), 3);
    EXPECT_EQ(at(Beyond::tile, 5), 1);
    EXPECT_EQ(at(Beyond::tile, -1), 3);
    EXPECT_EQ(at(Beyond::mirror, 4), 3);
    EXPECT_EQ(at(Beyond::mirror, -2), 1);
    EXPECT_TRUE(std::isnan(ImageSampler(raster, Filter::cubic, Beyond::tile)(NAN, 0)));
    EXPECT_TRUE(std::isnan(ImageSampler(raster, Filter::cubic, Beyond::tile)(1e300, 0)));
}

TEST(ImageSampling, OnePixelIsTheSameEverywhere) {
    const Raster one = raster_of(1, 1, [](std::size_t, std::size_t) { return 0.25F; });
    for (const Filter filter : {Filter::nearest, Filter::linear, Filter::cubic})
        for (const double u : {-1.0, 0.0, 0.3, 1.0, 7.0})
            EXPECT_NEAR(ImageSampler(one, filter, Beyond::mirror)(u, 1 - u), 0.25, 1e-7);
}

TEST(ImagePlan, ChannelsCropContrastAndBlur) {
    Raster colour{2, 1, 3, {1, 0.5F, 0.25F, 0, 0, 0}};
    const auto first = [&](ImagePlan plan) {
        return static_cast<double>(prepared(colour, plan, plume::Run())->values[0]);
    };
    EXPECT_NEAR(first({}), 0.2126 + 0.7152 * 0.5 + 0.0722 * 0.25, 1e-6);
    EXPECT_EQ(first({Channel::red}), 1);
    EXPECT_EQ(first({Channel::blue}), 0.25);
    EXPECT_EQ(first({Channel::alpha}), 1);
    ImagePlan plan{Channel::green};
    plan.contrast = 2;
    EXPECT_NEAR(first(plan), 0.5, 1e-6);
    plan.channel = Channel::blue;
    EXPECT_NEAR(first(plan), 0, 1e-6);
    plan.invert = true;
    EXPECT_NEAR(first(plan), 1, 1e-6);
    plan = {};
    plan.left = 0.5;
    EXPECT_EQ(prepared(colour, plan, plume::Run())->width, 1U);
    plan.right = 0.5;
    EXPECT_EQ(prepared(colour, plan, plume::Run()).error().code, ErrorCode::out_of_range);
    // Blurring keeps the sum of a spot in the middle and spreads it by its deviation.
    const Raster spot =
        raster_of(41, 41, [](std::size_t x, std::size_t y) { return x == 20 && y == 20 ? 1.0F : 0.0F; });
    plan = {};
    plan.blur = 3;
    const Raster soft = *prepared(spot, plan, plume::Run());
    double sum = 0, square = 0;
    for (std::size_t y = 0; y < 41; ++y)
        for (std::size_t x = 0; x < 41; ++x) {
            const auto value = static_cast<double>(soft.at(x, y, 0));
            sum += value;
            square += value * std::pow(static_cast<double>(x) - 20, 2);
        }
    EXPECT_NEAR(sum, 1, 1e-5);
    EXPECT_NEAR(std::sqrt(square), 3, 0.05);
}

// The step ------------------------------------------------------------------------------------------------

Evaluation run_in(const StudyMaker& maker, const std::filesystem::path& folder, Budget budget = {}) {
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.files = std::make_shared<FileStore>(folder);
    plan.budget = budget;
    return evaluate(maker.study, plan, plume::Run());
}

StudyMaker screen() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "board");
    maker.number("board", "columns", "8").number("board", "rows", "4").number("board", "width", "8 m");
    maker.number("board", "depth", "4 m");
    maker.add("field.image", "picture");
    maker.set("picture", "file", FileName{"slope.png"}).word("picture", "filter", "linear");
    return maker;
}

TEST(ImageStep, RowsAcrossAndUp) {
    const Folder folder;
    write_picture(folder / "slope.png", 80, 40, 1, OIIO::TypeDesc::UINT16, [](int x, int y, int) {
        return (static_cast<float>(x) + 0.5F) / 160 + (39.5F - static_cast<float>(y)) / 80;
    });
    StudyMaker maker = screen();
    for (const char* over : {"rows", "plan"})
        for (const char* laying : {"stretch", "fit", "fill"}) {
            maker.word("picture", "over", over).word("picture", "laying", laying);
            const auto item =
                std::get<FieldOnPoints>(test::value_of(run_in(maker, folder.path()), "picture"));
            // Half of u and half of v; edges are half a pixel flat.
            for (std::size_t index = 0; index < 45; ++index) {
                const double u = static_cast<double>(index % 9) / 8, v = static_cast<double>(index / 9) / 4;
                EXPECT_NEAR(item.field().values[index], u / 2 + v / 2, 0.013)
                    << over << " " << laying << " " << index;
            }
        }
}

TEST(ImageStep, FittedAndFillingKeepProportions) {
    const Folder folder;
    write_picture(folder / "slope.png", 40, 40, 1, OIIO::TypeDesc::UINT16,
                  [](int x, int, int) { return (static_cast<float>(x) + 0.5F) / 40; });
    StudyMaker maker = screen();  // twice as wide as deep; the picture is square
    const auto along = [&](const char* laying) {
        maker.word("picture", "laying", laying);
        const auto item = std::get<FieldOnPoints>(test::value_of(run_in(maker, folder.path()), "picture"));
        return std::vector<double>(item.field().values.data() + 18, item.field().values.data() + 27);
    };
    const auto fitted = along("fit"), filling = along("fill");
    EXPECT_NEAR(fitted[2], 0, 0.02) << "whole between a quarter and three quarters";
    EXPECT_NEAR(fitted[4], 0.5, 0.02);
    EXPECT_NEAR(fitted[3], 0.25, 0.02);
    EXPECT_NEAR(filling[0], 0, 0.02);
    EXPECT_NEAR(filling[2], 0.25, 0.02);
    maker.number("picture", "repeats", "2");
    EXPECT_NEAR(along("tile")[1], 0.25, 0.02);
    EXPECT_NEAR(along("tile")[5], 0.25, 0.02);
    EXPECT_NEAR(along("mirror")[7], 0.25, 0.02) << "every other one is turned round";
}

// A picture with a pixel that is no number, and one repeated so often that no pixel can be told.
TEST(ImageStep, NumbersThatAreNotFiniteAreRemarked) {
    const Folder folder;
    write_picture(folder / "slope.tif", 8, 8, 1, OIIO::TypeDesc::FLOAT,
                  [](int x, int, int) { return x == 3 ? NAN : static_cast<float>(x) / 8; });
    StudyMaker maker = screen();
    maker.set("picture", "file", FileName{"slope.tif"}).word("picture", "filter", "nearest");
    const Evaluation torn = run_in(maker, folder.path());
    ASSERT_EQ(torn.outcome("picture")->remarks.size(), 1U);
    EXPECT_NE(torn.outcome("picture")->remarks[0].text.find("not finite"), std::string::npos);
    write_picture(folder / "slope.tif", 8, 8, 1, OIIO::TypeDesc::FLOAT,
                  [](int x, int, int) { return static_cast<float>(x) / 8; });
    maker.word("picture", "laying", "tile").number("picture", "repeats", "1e12");
    const Evaluation tiled = run_in(maker, folder.path());
    const Outcome& outcome = *tiled.outcome("picture");
    ASSERT_TRUE(outcome.value) << sentence(*outcome.error);
    bool all = true;
    for (const double value : std::get<FieldOnPoints>(*outcome.value).field().values.span())
        all = all && value >= 0 && value <= 1;
    EXPECT_EQ(outcome.remarks.empty(), all) << "either a pixel is told, or that none is";
}

TEST(ImageStep, BadFilesStayOnTheStepAndTheRestRuns) {
    const Folder folder;
    StudyMaker maker = screen();
    Evaluation evaluation = run_in(maker, folder.path());
    EXPECT_EQ(evaluation.outcome("picture")->error->code, ErrorCode::file_missing);
    EXPECT_TRUE(evaluation.outcome("board")->value);
    maker.set("picture", "file", FileName{""});
    EXPECT_EQ(run_in(maker, folder.path()).outcome("picture")->error->code, ErrorCode::missing_input);
    std::ofstream(folder / "slope.png") << "nonsense";
    maker.set("picture", "file", FileName{"slope.png"});
    EXPECT_EQ(run_in(maker, folder.path()).outcome("picture")->error->code, ErrorCode::file_unreadable);
}

TEST(ImageStep, AHugePictureAsksFirst) {
    const Folder folder;
    // 30 000 x 30 000 grey pixels, as its head says; nothing of them is read before somebody agrees.
    std::ofstream(folder / "huge.pgm") << "P5\n30000 30000\n255\nnot that many";
    StudyMaker maker = screen();
    maker.set("picture", "file", FileName{"huge.pgm"});
    const Evaluation evaluation = run_in(maker, folder.path());
    EXPECT_EQ(evaluation.outcome("picture")->state, StepState::asks);
    EXPECT_NE(evaluation.outcome("picture")->error->message.find("GB"), std::string::npos);
}

// Tables --------------------------------------------------------------------------------------------------

PointTable table(std::string_view text) {
    Result<PointTable> read = read_point_table(text, {}, plume::Run());
    EXPECT_TRUE(read) << sentence(read.error());
    return *std::move(read);
}

TEST(PointTable, SeparatorsHeadersAndUnits) {
    const struct {
        const char* text;
        std::size_t points;
        Vec3 last;
    } cases[]{{"1,2,3\n4,5,6", 2, {4, 5, 6}},
              {"x;y;z\n1,5;2;3\n4,25;5;6", 2, {4.25, 5, 6}},
              {"x\ty\n1\t2\n", 1, {1, 2, 0}},
              {"1 2 3\r\n4 5 6\r7 8 9\n", 3, {7, 8, 9}},
              {"\xef\xbb\xbfx,y,z\n1,2,3", 1, {1, 2, 3}},
              {"# survey\n\nname_z,y,x\n3,2,1\n", 1, {1, 2, 0}},
              {"\"x\",\"y\"\n\"1\",\"2\"", 1, {1, 2, 0}},
              {"x [mm],y [cm]\n1000,100", 1, {1, 1, 0}},
              {"1e3,-2.5,+3", 1, {1000, -2.5, 3}},
              {"\"1,5\",\"2,25\",3", 1, {1.5, 2.25, 3}},
              {"x,y,z\n\"1,5\", 2 ,\"-3,5\"", 1, {1.5, 2, -3.5}},
              {"x m,y cm,z mm\n1,100,1000", 1, {1, 1, 1}},
              {"i,j,x cm,y cm\n0,0,150,250", 1, {1.5, 2.5, 0}}};
    for (const auto& one : cases) {
        const PointTable read = table(one.text);
        EXPECT_EQ(read.points.point_count(), one.points) << one.text;
        EXPECT_LT(length(read.points.point(read.points.point_count() - 1) - one.last), 1e-12) << one.text;
        EXPECT_EQ(read.bad_row_count, 0U) << one.text;
    }
}

TEST(PointTable, FurtherColumnsAreFields) {
    const PointTable read = table("x,y,z,height [mm],turn [°],name 2\n1,2,3,500,90,7\n1,2,3,250,45,8");
    EXPECT_DOUBLE_EQ(read.points.field("height")->values[0], 0.5);
    EXPECT_EQ(read.points.field("height")->dimension, a_length);
    EXPECT_NEAR(read.points.field("turn")->values[1], std::acos(-1.0) / 4, 1e-15);
    EXPECT_TRUE(read.points.field("name 2")) << "labels stay as they stand";
}

TEST(PointTable, BadRowsAreListedByLine) {
    const PointTable read = table("x,y,z\n1,2,3\n4,oops,6\n7,8\n9,,1\n1,1,1\nnan,1,1");
    EXPECT_EQ(read.points.point_count(), 2U);
    ASSERT_EQ(read.bad_row_count, 4U);
    EXPECT_EQ(read.bad_rows[0].line, 3U);
    EXPECT_EQ(read.bad_rows[1].line, 4U);
    const std::string text = bad_rows_text(read);
    EXPECT_NE(text.find("line 3 has ‘oops’"), std::string::npos) << text;
    EXPECT_NE(text.find("2 of 3"), std::string::npos) << text;
}

TEST(PointTable, CellsBeyondTheColumnsAreCounted) {
    const PointTable read = table("x,y\n1,2\n3,4,5\n6,7,,\n8,9,a,b");
    EXPECT_EQ(read.points.point_count(), 4U);
    EXPECT_EQ(read.bad_row_count, 0U);
    EXPECT_EQ(read.long_row_count, 2U) << "empty cells at the end are nothing";
    EXPECT_EQ(read.first_long_row, 3U);
}

// The same table in both byte orders, with a letter outside ASCII and one outside the first plane.
TEST(PointTable, Utf16IsRecognised) {
    const std::u16string text = u"x;y;z;h\u00f6he;\U0001F426\n1,5;2;3;4;5\n";
    for (const bool little : {true, false}) {
        std::string bytes = little ? "\xff\xfe" : "\xfe\xff";
        for (const char16_t unit : text) {
            const char low = static_cast<char>(unit & 0xff), high = static_cast<char>(unit >> 8);
            bytes += little ? low : high;
            bytes += little ? high : low;
        }
        const PointTable read = table(bytes);
        EXPECT_EQ(read.points.point(0), (Vec3{1.5, 2, 3}));
        EXPECT_TRUE(read.points.field("h\u00f6he"));
        EXPECT_TRUE(read.points.field("\U0001F426"));
        EXPECT_FALSE(read_point_table(bytes.substr(0, 3), {}, plume::Run()))
            << "cut in the middle of a letter";
    }
}

TEST(ReadPoints, LabelsFollowTheRuleOfNamesAndChangesAreSaid) {
    StudyMaker maker;
    maker.add("points.typed", "p");
    maker.set("p", "rows", Lines{"x,y,z,h\u00f6he,name 2,2nd,m,sin,count,,name-2\n1,2,3,4,5,6,7,8,9,10,11"});
    const Evaluation evaluation = test::run(maker.study);
    const Value value = test::value_of(evaluation, "p");
    std::vector<std::string> names;
    for (const Field& field : lattice_of(value)->fields())
        names.push_back(field.name);
    EXPECT_EQ(names, (std::vector<std::string>{"h\u00f6he", "name_2", "c2nd", "m_", "sin_", "count_", "c",
                                               "name_2_2"}));
    ASSERT_EQ(evaluation.outcome("p")->remarks.size(), 1U);
    const std::string& said = evaluation.outcome("p")->remarks.front().text;
    EXPECT_NE(said.find("‘m’ as ‘m_’"), std::string::npos) << said;
    EXPECT_EQ(said.find("h\u00f6he"), std::string::npos) << said;
    // What was renamed can be read.
    maker.add("field.formula", "sum");
    maker.formula("sum", "h\u00f6he + name_2 + c2nd + m_ + sin_ + count_");
    EXPECT_EQ(std::get<FieldOnPoints>(test::value_of(test::run(maker.study), "sum")).field().values[0], 39);
}

TEST(PointTable, NothingToRead) {
    for (const char* text : {"", "\n\n", "# only a comment", "x,y,z\n"})
        EXPECT_EQ(read_point_table(text, {}, plume::Run()).error().code, ErrorCode::empty_input) << text;
    EXPECT_EQ(read_point_table("1\n2\n3", {}, plume::Run()).error().code, ErrorCode::bad_number);
    EXPECT_FALSE(read_point_table("x,y\na,b\nc,d", {}, plume::Run()));
    const std::string zeros("\0\0\0,\0\n\0", 7);
    EXPECT_FALSE(read_point_table(zeros, {}, plume::Run()));
}

TEST(PointTable, AMillionRowsAndCancelling) {
    std::string text = "x,y,z\n";
    for (int row = 0; row < 1'000'000; ++row)
        text += "1.25,2.5,3\n";
    EXPECT_EQ(table(text).points.point_count(), 1'000'000U);
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(read_point_table(text, {}, run).error().code, ErrorCode::cancelled);
}

TEST(ReadPoints, FromAFileWithBadRowsRemarked) {
    const Folder folder;
    std::ofstream(folder / "survey.csv") << "x;y;z\r\n1,5;2;3\r\nbad;2;3\r\n";
    StudyMaker maker;
    maker.add("points.file", "survey");
    maker.set("survey", "file", FileName{"survey.csv"});
    const Evaluation evaluation = run_in(maker, folder.path());
    EXPECT_EQ(std::get<PointLattice>(test::value_of(evaluation, "survey")).point_count(), 1U);
    ASSERT_EQ(evaluation.outcome("survey")->remarks.size(), 1U);
    EXPECT_NE(evaluation.outcome("survey")->remarks[0].text.find("line 3"), std::string::npos);
}

TEST(Links, OfTheStudyAreListed) {
    StudyMaker maker = screen();
    EXPECT_EQ(linked_files(*maker.study), std::vector<std::string>{"slope.png"});
    maker.set("picture", "file", FileName{""});
    EXPECT_TRUE(linked_files(*maker.study).empty());
}

TEST(Links, LeadFromAnotherFolder) {
    StudyMaker maker = screen();
    maker.set("picture", "file", FileName{"pictures/reeds.png"});
    const auto path = [](const StudyPointer& study) {
        return std::get<FileName>(study->step("picture")->slots.at("file")).path;
    };
    EXPECT_EQ(path(with_links_from(*maker.study, "/home/a/studies", "/home/a/studies")),
              "pictures/reeds.png");
    EXPECT_EQ(path(with_links_from(*maker.study, "/home/a/studies", "/home/a/other")),
              "../studies/pictures/reeds.png");
    EXPECT_EQ(path(with_links_from(*maker.study, "/home/a/studies", "/mnt/far/away/now")),
              "/home/a/studies/pictures/reeds.png");
    maker.set("picture", "file", FileName{"/home/a/x.png"});
    EXPECT_EQ(path(with_links_from(*maker.study, "", "/home/a")), "x.png");
}

}  // namespace
}  // namespace plume
