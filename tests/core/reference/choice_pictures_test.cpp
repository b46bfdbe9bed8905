#include "core/reference/choice_pictures.hpp"

#include <filesystem>

#include "core/base/file.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

const Catalogue& catalogue() {
    return standard_catalogue();
}

// Width and height as the head of a PNG says them.
std::pair<int, int> png_size(const std::filesystem::path& path) {
    const auto read = read_file(path, 10'000'000);
    if (!read || read->size() < 24) return {};
    const auto number = [&](std::size_t at) {
        int value = 0;
        for (std::size_t byte = 0; byte < 4; ++byte)
            value = value * 256 + static_cast<unsigned char>((*read)[at + byte]);
        return value;
    };
    return {number(16), number(20)};
}

TEST(ChoicePictures, AreOfWordsThatCanBeToldApart) {
    const StepKind& kind = *catalogue().find("outline.shape");
    const auto made = choice_pictures(kind, catalogue(), test::examples_folder, plume::Run());
    ASSERT_TRUE(made);
    const auto shape = std::ranges::find(*made, "shape", &ChoicePictures::slot);
    ASSERT_NE(shape, made->end()) << "a rectangle and a circle do not look alike";
    const auto words = static_cast<int>(kind.slot("shape")->words.size());
    EXPECT_EQ(shape->strip.width, words * choice_picture_width);
    EXPECT_EQ(shape->strip.height, choice_picture_height);
    EXPECT_EQ(
        shape->strip.rgba.size(),
        std::size_t{4} * static_cast<std::size_t>(words * choice_picture_width * choice_picture_height));
}

TEST(ChoicePictures, OfWhatShowsNothingThereAreNone) {
    // Numbers that are thrown change nothing that is seen of a single quantity.
    const auto made =
        choice_pictures(*catalogue().find("number.curve"), catalogue(), test::examples_folder, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_TRUE(made->empty());
    StepKind nobody = *catalogue().find("skin");
    nobody.key = "nobody's";
    EXPECT_TRUE(choice_pictures(nobody, catalogue(), test::examples_folder, plume::Run())->empty());
    const plume::Run cancelled;
    cancelled.cancel();
    const auto stopped =
        choice_pictures(*catalogue().find("skin"), catalogue(), test::examples_folder, cancelled);
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, ErrorCode::cancelled);
}

TEST(ChoicePictures, ThoseOfTheWindowHaveAPlaceForEachWord) {
    std::size_t count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(
             std::filesystem::path(test::examples_folder) / ".." / "choices")) {
        ++count;
        const std::string name = entry.path().stem().string();
        const std::size_t dot = name.rfind('.');
        const StepKind* kind = catalogue().find(name.substr(0, dot));
        ASSERT_TRUE(kind) << name;
        const SlotSpec* slot = kind->slot(name.substr(dot + 1));
        ASSERT_TRUE(slot) << name;
        EXPECT_EQ(
            png_size(entry.path()),
            (std::pair(static_cast<int>(slot->words.size()) * choice_picture_width, choice_picture_height)))
            << name << ": run scripts/reference " << kind->key;
    }
    EXPECT_GT(count, 60U);
}

}  // namespace
}  // namespace plume
