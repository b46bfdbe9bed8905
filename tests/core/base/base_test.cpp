#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/stat.h>

#include <atomic>
#include <clocale>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <limits>
#include <set>

#include "core/base/file.hpp"
#include "core/base/hash.hpp"
#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/base/units.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

TEST(Errors, EveryCodeHasItsOwnKey) {
    std::set<std::string_view> keys;
    for (int code = 0; code < static_cast<int>(ErrorCode::number_of_codes); ++code) {
        const std::string_view key = code_key(static_cast<ErrorCode>(code));
        EXPECT_FALSE(key.empty()) << code;
        EXPECT_TRUE(keys.insert(key).second) << key;
    }
}

TEST(Errors, SentencePutsPlaceMessageAndMendTogether) {
    EXPECT_EQ(sentence({ErrorCode::out_of_range, "Width", "has to be above 0 m", "Type more."}),
              "Width has to be above 0 m. Type more.");
    EXPECT_EQ(sentence({ErrorCode::cancelled, "", "It was cancelled", ""}), "It was cancelled.");
}

TEST(Numbers, ShortTextForPeople) {
    const std::pair<double, const char*> cases[] = {
        {0, "0"},         {-0.0, "0"},    {3.2, "3.2"},         {24, "24"},         {1234.56, "1235"},
        {0.001, "0.001"}, {1e12, "1e12"}, {-2.5e-7, "-2.5e-7"}, {999999, "999999"}, {0.1 + 0.2, "0.3"}};
    for (const auto& [value, text] : cases)
        EXPECT_EQ(short_text(value), text);
    EXPECT_EQ(short_text(NAN), "nan");
}

TEST(Numbers, ExactTextReadsBack) {
    for (const double value : {0.1, 1.0 / 3, 1e300, 5e-324, -123456.789})
        EXPECT_EQ(*read_number(exact_text(value)), value);
}

TEST(Numbers, ReadNumberTakesTheWholeTextOrNothing) {
    for (const char* text : {"", " 1", "1 ", "1,5", "1e999", "nan", "inf", "0x10", "--1", "1m"})
        EXPECT_FALSE(read_number(text)) << text;
    EXPECT_EQ(*read_number("+.5"), 0.5);
}

// Made for the test, so that it is there on every machine.
TEST(Numbers, LocaleNeverChangesThem) {
    const test::Folder folder;
    const std::string made = (folder / "comma.UTF-8").string();
    ASSERT_EQ(std::system(("localedef -i de_DE -f UTF-8 " + made).c_str()), 0);
    ASSERT_EQ(setenv("LOCPATH", folder.path().c_str(), 1), 0);
    const std::string kept = std::setlocale(LC_ALL, nullptr);
    ASSERT_TRUE(std::setlocale(LC_ALL, "comma.UTF-8"));
    char printed[16];
    std::snprintf(printed, sizeof printed, "%.1f", 1.5);
    EXPECT_STREQ(printed, "1,5") << "the locale has a decimal comma";
    EXPECT_EQ(*read_number("1.5"), 1.5);
    EXPECT_FALSE(read_number("1,5"));
    EXPECT_EQ(short_text(1.5), "1.5");
    EXPECT_EQ(exact_text(0.1), "0.1");
    std::setlocale(LC_ALL, kept.c_str());
    unsetenv("LOCPATH");
}

TEST(Numbers, GroupsAndBytes) {
    EXPECT_EQ(grouped_text(1002001), "1\u202f002\u202f001");
    EXPECT_EQ(duration_text(0.000123), "0.12 ms");
    EXPECT_EQ(duration_text(0.2), "200 ms");
    EXPECT_EQ(duration_text(12.06), "12.1 s");
    EXPECT_EQ(duration_text(501), "8.35 min");
    EXPECT_EQ(duration_text(9000), "2.5 h");
    EXPECT_EQ(grouped_text(-1234), "-1\u202f234");
    EXPECT_EQ(grouped_text(999), "999");
    EXPECT_EQ(bytes_text(38.4e9), "38.4 GB");
}

TEST(Units, QuantitiesAsPeopleWriteThem) {
    const Units metric;
    EXPECT_EQ(quantity_text({3.2, a_length}, metric), "3.2 m");
    EXPECT_EQ(quantity_text({std::acos(-1.0) / 6, an_angle}, metric), "30°");
    EXPECT_EQ(quantity_text({12, {2, 0}}, {LengthUnit::foot, AngleUnit::radian}), "12 ft²");
    EXPECT_EQ(range_text(4e-15, 63.7, a_length, metric), "0 m … 63.7 m");
    EXPECT_EQ(range_text(4e-15, 8e-15, a_length, metric), "4e-15 m … 8e-15 m");
    EXPECT_EQ(unit_text({-1, 1}, metric), "m⁻¹·°");
    EXPECT_DOUBLE_EQ(metres_per(LengthUnit::inch) * 12, metres_per(LengthUnit::foot));
}

TEST(Hash, DistinguishesWhatIsFed) {
    const auto of = [](auto... parts) {
        Hasher hasher;
        (hasher.add(parts), ...);
        return hasher.finish();
    };
    using namespace std::literals;
    EXPECT_EQ(of("a"sv, 1.0), of("a"sv, 1.0));
    EXPECT_NE(of("ab"sv, "c"sv), of("a"sv, "bc"sv));
    EXPECT_EQ(of(0.0), of(-0.0));
    EXPECT_NE(of(1.0), of(std::nextafter(1.0, 2.0)));
    EXPECT_EQ(hex_text(of("a"sv)).size(), 32U);
}

TEST(Parallel, CoversEveryIndexOnce) {
    std::vector<std::atomic<int>> seen(100'003);
    const bool finished =
        parallel_blocks(seen.size(), 1000, plume::Run(), [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                ++seen[index];
        });
    EXPECT_TRUE(finished);
    for (const auto& count : seen)
        ASSERT_EQ(count, 1);
}

TEST(Parallel, StopsWhenCancelledAndReports) {
    const plume::Run run;
    std::atomic<int> blocks{0};
    EXPECT_FALSE(parallel_blocks(1'000'000, 100, run, [&](std::size_t, std::size_t) {
        if (++blocks == 5) run.cancel();
    }));
    EXPECT_LT(blocks, 10'000);
    const plume::Run done;
    EXPECT_TRUE(parallel_blocks(1000, 10, done, [](std::size_t, std::size_t) {}));
    EXPECT_DOUBLE_EQ(done.fraction(), 1);
    EXPECT_TRUE(parallel_blocks(0, 10, done, [](std::size_t, std::size_t) { FAIL(); }));
}

TEST(Files, WriteReadAndReplace) {
    const test::Folder folder;
    ASSERT_TRUE(write_file(folder / "a", "one"));
    ASSERT_TRUE(write_file(folder / "a", "two"));
    EXPECT_EQ(*read_file(folder / "a", 100), "two");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1)
        << "a temporary file was left";
}

TEST(Files, RefusesWhatIsNoFile) {
    const test::Folder folder;
    EXPECT_EQ(read_file(folder / "none", 10).error().code, ErrorCode::file_missing);
    EXPECT_EQ(read_file(folder.path(), 10).error().code, ErrorCode::file_unreadable);
    EXPECT_EQ(read_file("/dev/zero", 10).error().code, ErrorCode::file_unreadable);
    ASSERT_TRUE(write_file(folder / "a", "12345678901"));
    EXPECT_EQ(read_file(folder / "a", 10).error().code, ErrorCode::file_too_large);
}

TEST(Files, FolderThatIsNotThereOrNotOurs) {
    EXPECT_EQ(write_file("/nowhere/at/all.plume", "x").error().code, ErrorCode::file_unwritable);
    EXPECT_EQ(write_file("/proc/study.plume", "x").error().code, ErrorCode::file_unwritable);
}

TEST(Files, ProducerThatFailsLeavesTheOldFile) {
    const test::Folder folder;
    ASSERT_TRUE(write_file(folder / "a", "old"));
    const Status failed = write_file(folder / "a", [](const ByteSink& sink) -> Status {
        sink("half of the new");
        return Error{ErrorCode::cancelled, "", "It was cancelled", ""};
    });
    EXPECT_EQ(failed.error().code, ErrorCode::cancelled);
    EXPECT_EQ(*read_file(folder / "a", 100), "old");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
}

// A limit on file sizes stands in for a full disk: writing fails in the middle either way.
TEST(Files, FullDiskLeavesTheOldFile) {
    const test::Folder folder;
    ASSERT_TRUE(write_file(folder / "a", "old"));
    rlimit before{};
    getrlimit(RLIMIT_FSIZE, &before);
    const auto handler = std::signal(SIGXFSZ, SIG_IGN);
    const rlimit small{65536, before.rlim_max};
    setrlimit(RLIMIT_FSIZE, &small);
    const Status full = write_file(folder / "a", std::string(3'000'000, 'x'));
    setrlimit(RLIMIT_FSIZE, &before);
    std::signal(SIGXFSZ, handler);
    ASSERT_FALSE(full);
    EXPECT_EQ(full.error().code, ErrorCode::disk_full);
    EXPECT_EQ(*read_file(folder / "a", 100), "old");
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
}

TEST(Files, KeepsPermissionsAndLinks) {
    const test::Folder folder;
    ASSERT_TRUE(write_file(folder / "a", "old"));
    std::filesystem::permissions(folder / "a", std::filesystem::perms(0640));
    std::filesystem::create_symlink(folder / "a", folder / "link");
    ASSERT_TRUE(write_file(folder / "link", "new"));
    EXPECT_TRUE(std::filesystem::is_symlink(folder / "link"));
    EXPECT_EQ(*read_file(folder / "a", 100), "new");
    EXPECT_EQ(std::filesystem::status(folder / "a").permissions(), std::filesystem::perms(0640));
}

TEST(Numbers, StepsOfGridsAndAxesAreRound) {
    const std::pair<double, double> cases[] = {{1, 1},         {1.01, 2},  {2.5, 5},     {7, 10},
                                               {0.003, 0.005}, {1e6, 1e6}, {300, 500},   {0, 1},
                                               {-3, 1},        {NAN, 1},   {INFINITY, 1}};
    for (const auto& [rough, step] : cases)
        EXPECT_DOUBLE_EQ(round_step(rough), step) << rough;
}

TEST(Text, WordsStandBetweenSeparators) {
    using Words = std::vector<std::string_view>;
    EXPECT_EQ(words_between("a, b;c", " ,;"), (Words{"a", "b", "c"}));
    EXPECT_EQ(words_between(" ; ;; ", " ;"), Words{});
    EXPECT_EQ(words_between("", ";"), Words{});
    EXPECT_EQ(words_between("0.3 m : 2;0.5 m", ";\n"), (Words{"0.3 m : 2", "0.5 m"}));
}

}  // namespace
}  // namespace plume
