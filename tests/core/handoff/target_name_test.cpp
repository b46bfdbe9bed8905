// Names of files that are handed off.

#include "core/study/target_name.hpp"

#include "core/support.hpp"

namespace plume {
namespace {

Study titled(const std::string& title) {
    Study study;
    study.title = title;
    Control swell;
    swell.name = "swell";
    swell.value = 2.5;
    swell.unit = "m";
    study.controls.push_back(std::make_shared<const Control>(swell));
    return study;
}

std::string named(const std::string& name, const std::string& title = "Reed screen, 2nd") {
    const Study study = titled(title);
    const auto made = target_name(name, {study, "2031-05-04", "parts"});
    return made ? *made : sentence(made.error());
}

TEST(TargetName, PlaceholdersStandForStudyDayNameAndControls) {
    EXPECT_EQ(named("{study}"), "reed-screen-2nd");
    EXPECT_EQ(named("laser/{study} of {date}"), "laser/reed-screen-2nd of 2031-05-04");
    EXPECT_EQ(named("{name}-{swell}"), "parts-2.5m");
    EXPECT_EQ(named("plain"), "plain");
    EXPECT_EQ(named("{study}", "Öl, über"), "Öl-über") << "letters of other alphabets stay";
    EXPECT_EQ(named("{study}", "!?"), "untitled");
    EXPECT_EQ(named("a/{study}", ""), "a/untitled");
    EXPECT_EQ(file_word("  Two   words--here "), "two-words-here");
}

TEST(TargetName, WhatCannotBeIsSaid) {
    const struct {
        std::string name;
        ErrorCode code;
        const char* said;
    } cases[]{{"", ErrorCode::missing_input, "is empty"},
              {"{stude}", ErrorCode::unknown_name, "Did you mean ‘{study}’?"},
              {"{swel}", ErrorCode::unknown_name, "Did you mean ‘{swell}’?"},
              {"{zzzzzz}", ErrorCode::unknown_name, "stands for nothing"},
              {"{study", ErrorCode::bad_name, "a brace without its other"},
              {"study}", ErrorCode::bad_name, "a brace without its other"},
              {"{a/b}", ErrorCode::bad_name, "a brace without its other"},
              {"{{study}}", ErrorCode::bad_name, "a brace without its other"},
              {"../up", ErrorCode::bad_name, "begins with a dot"},
              {"a/../../up", ErrorCode::bad_name, "begins with a dot"},
              {".hidden", ErrorCode::bad_name, "begins with a dot"},
              {"/etc/passwd", ErrorCode::bad_name, "begins or ends with a ‘/’"},
              {"folder/", ErrorCode::bad_name, "begins or ends with a ‘/’"},
              {"a:b", ErrorCode::bad_name, "has a character"},
              {"a\nb", ErrorCode::bad_name, "has a character"},
              {std::string("a\0b", 3), ErrorCode::bad_name, "has a character"},
              {std::string(201, 'a'), ErrorCode::bad_name, "longer than 200 bytes"}};
    const Study study = titled("x");
    for (const auto& one : cases) {
        const auto made = target_name(one.name, {study, "2031-05-04", "parts"});
        ASSERT_FALSE(made) << one.name;
        EXPECT_EQ(made.error().code, one.code) << one.name;
        EXPECT_NE(sentence(made.error()).find(one.said), std::string::npos) << sentence(made.error());
        EXPECT_FALSE(made.error().mend.empty()) << one.name;
    }
}

}  // namespace
}  // namespace plume
