// Handing off: what is new, changed, as before and gone; what is asked about; what is touched and what is
// not.

#include "core/handoff/hand_off.hpp"

#include <cmath>
#include <cstring>
#include <fstream>

#include "core/base/file.hpp"
#include "core/handoff/delivery_file.hpp"
#include "core/handoff/drawn_sheet.hpp"
#include "core/handoff/moments.hpp"
#include "core/handoff/state_colours.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// Blocks of a unit's side, so many in a row, their height a control: volumes are count x height.
StudyMaker blocks(int count, double height) {
    StudyMaker maker;
    maker.control("height", height, "m");
    maker.add("lattice.block", "corners");
    maker.number("corners", "columns", std::to_string(count)).number("corners", "rows", "1");
    maker.number("corners", "layers", "1").number("corners", "width", std::to_string(count) + " m");
    maker.number("corners", "depth", "1 m").number("corners", "height", "height");
    maker.word("corners", "origin", "corner");
    maker.add("body.cells", "boxes");
    maker.set("boxes", "points", ResultName{"corners"});
    maker.add("lattice.rectangular", "spots");
    maker.number("spots", "columns", std::to_string(count)).number("spots", "rows", "1");
    maker.add("skin", "cover");
    maker.set("cover", "points", ResultName{"spots"});
    maker.add("handoff.building", "parts");
    maker.set("parts", "results", ResultList{ResultList::Of::listed, "", {{"boxes", "slab"}}});
    maker.add("handoff.mesh", "scene");
    maker.set("scene", "results", ResultList{ResultList::Of::listed, "", {{"cover", ""}}});
    return maker;
}

class HandOff : public testing::Test {
protected:
    HandOffPlace place(const std::string& date = "2031-05-04") const {
        return {folder_ / "study.plume", date, "14:20"};
    }
    std::filesystem::path handed(const std::string& name) const { return folder_.path() / "handoff" / name; }
    static std::string bytes(const std::filesystem::path& path) { return *read_file(path, 100'000'000); }
    static std::string why(const Error& error) { return sentence(error); }

    HandOffPlan plan_of(const StudyPointer& study, const std::string& date = "2031-05-04") const {
        auto plan = plan_hand_off(test::run(study), place(date), plume::Run());
        if (!plan) throw std::runtime_error(sentence(plan.error()));
        return *std::move(plan);
    }
    static const HandOffEntry& entry(const HandOffPlan& plan, const std::string& name) {
        return *std::ranges::find(plan.entries, name, &HandOffEntry::name);
    }
    // All that has changed; the errors of those that could not be.
    std::vector<Error> write(const StudyPointer& study, bool over = false,
                             const std::string& date = "2031-05-04") const {
        const HandOffPlan plan = plan_of(study, date);
        std::vector<Error> errors;
        for (const HandOffEntry& one : plan.entries) {
            const auto report =
                hand_off(plan, one, test::moments_of(*study), place(date), over, plume::Run());
            if (!report) errors.push_back(report.error());
        }
        return errors;
    }

    test::Folder folder_;
};

TEST_F(HandOff, FirstEverythingIsNewThenAsBefore) {
    const StudyPointer study = blocks(3, 2).study;
    const HandOffPlan first = plan_of(study);
    EXPECT_EQ(first.folder, handed("").parent_path());
    ASSERT_EQ(first.entries.size(), 2U);
    EXPECT_EQ(entry(first, "parts").file, "untitled.ifc");
    EXPECT_EQ(counts_text(entry(first, "parts").counts), "3 new");
    EXPECT_EQ(entry(first, "parts").parts.front().is->as, "slab");
    EXPECT_EQ(entry(first, "parts").parts[1].is->mark, "boxes 1,0,0");
    EXPECT_NEAR(entry(first, "parts").parts[1].is->value.value, 2, 1e-12) << "of 1 by 1 by 2";
    EXPECT_EQ(first.to_write().size(), 2U);
    EXPECT_TRUE(write(study).empty());
    const auto touched = std::filesystem::last_write_time(handed("untitled.ifc")),
               manifest = std::filesystem::last_write_time(handed("handoff.json"));
    const HandOffPlan second = plan_of(study);
    EXPECT_EQ(second.to_write().size(), 0U);
    EXPECT_EQ(counts_text(entry(second, "parts").counts), "as before");
    EXPECT_EQ(entry(second, "parts").written, "2031-05-04 14:20");
    EXPECT_TRUE(write(study).empty());
    EXPECT_EQ(std::filesystem::last_write_time(handed("untitled.ifc")), touched);
    EXPECT_EQ(std::filesystem::last_write_time(handed("handoff.json")), manifest) << "nothing is touched";
}

TEST_F(HandOff, FacetsAreAsTrueAsASentenceSays) {
    const auto triangles = [&](double within) {
        DeliveryContent delivery;
        delivery.results.push_back(
            {"ball", std::make_shared<const Value>(SurfaceSet{{test::sphere(3)}}), {}, {}, {}});
        delivery.ending = ".stl";
        delivery.wishes.within = within;
        const auto written =
            write_delivery(delivery, test::moments_of(Study()), handed("ball.stl"), plume::Run());
        EXPECT_TRUE(written) << sentence(written.error());
        const std::string text = bytes(handed("ball.stl"));
        std::uint32_t count = 0;
        std::memcpy(&count, text.data() + 80, sizeof count);
        return count;
    };
    std::filesystem::create_directories(handed(""));
    const std::uint32_t coarse = triangles(0.1), fine = triangles(0.01), usual = triangles(0);
    EXPECT_GT(fine, 4 * coarse);
    EXPECT_LT(fine, 25 * coarse);
    EXPECT_GT(usual, fine);
}

TEST_F(HandOff, ChangedGoneAndNewAreCounted) {
    ASSERT_TRUE(write(blocks(4, 2).study).empty());
    // One block less, and each of another height.
    const HandOffPlan lower = plan_of(blocks(3, 1.5).study);
    const HandOffEntry& parts = entry(lower, "parts");
    EXPECT_EQ(counts_text(parts.counts), "3 changed, 1 gone");
    ASSERT_EQ(parts.parts.size(), 4U);
    EXPECT_EQ(parts.parts[0].state, PartState::changed);
    EXPECT_NEAR(parts.parts[0].was->value.value, 2, 1e-12);
    EXPECT_NEAR(parts.parts[0].is->value.value, 1.5, 1e-12);
    EXPECT_EQ(parts.parts[3].state, PartState::gone);
    EXPECT_EQ(parts.parts[3].part().mark, "boxes 3,0,0");
    EXPECT_EQ(parts.parts[3].was->figure, "volume");
    EXPECT_TRUE(parts.parts[3].was->value.dimension == (Dimension{3, 0}));
    // Where it was is seen: a box of a unit's side, two high.
    const auto gone = drawn_gone(parts.parts);
    ASSERT_TRUE(gone);
    EXPECT_NEAR(length(gone->bounds.low - Vec3{3, 0, 0}), 0, 1e-6);
    EXPECT_NEAR(length(gone->bounds.high - Vec3{4, 1, 2}), 0, 1e-6);
    EXPECT_EQ(gone->edges.size(), 12 * 2U);
    EXPECT_FALSE(drawn_gone(entry(lower, "scene").parts));
    EXPECT_EQ(counts_text(entry(lower, "scene").counts), "1 changed") << "the cover has fewer points";
    // One more, the others as they were.
    EXPECT_EQ(counts_text(entry(plan_of(blocks(5, 2).study), "parts").counts), "1 new, 4 as before");
    ASSERT_TRUE(write(blocks(3, 1.5).study).empty());
    EXPECT_EQ(plan_of(blocks(3, 1.5).study).to_write().size(), 0U);
}

// Whoever plans again and again looks at the parts of a state once, and forgets those of other states.
TEST_F(HandOff, PartsThatWereLookedAtAreKept) {
    const Evaluation two = test::run(blocks(2, 1).study), three = test::run(blocks(3, 1).study);
    KeptParts kept;
    ASSERT_TRUE(plan_hand_off(two, place(), plume::Run(), &kept));
    EXPECT_EQ(kept.size(), 2U);
    const Hash parts = two.outcome("parts")->key;
    kept.at(parts).front().mark = "kept";
    const auto again = plan_hand_off(two, place(), plume::Run(), &kept);
    EXPECT_EQ(entry(*again, "parts").parts.front().part().mark, "kept");
    ASSERT_TRUE(plan_hand_off(three, place(), plume::Run(), &kept));
    EXPECT_FALSE(kept.contains(parts));
}

TEST_F(HandOff, ClassAndMaterialAreChangesOfTheirOwn) {
    StudyMaker maker = blocks(2, 1);
    ASSERT_TRUE(write(maker.study).empty());
    StudyMaker classed = maker;
    classed.set("parts", "results", ResultList{ResultList::Of::listed, "", {{"boxes", "beam"}}});
    EXPECT_EQ(counts_text(entry(plan_of(classed.study), "parts").counts), "2 changed");
    Show oak = maker.study->step("boxes")->show;
    oak.material.key = "timber";
    const StudyPointer of_oak = *set_show(*maker.study, maker.study->step("boxes")->id, oak);
    EXPECT_EQ(counts_text(entry(plan_of(of_oak), "parts").counts), "2 changed");
    EXPECT_TRUE(entry(plan_of(of_oak), "scene").unchanged) << "nothing of it is given there";
    // What is not handed over makes no difference: notes, names of controls, other results.
    EXPECT_EQ(plan_of(set_title(*maker.study, maker.study->title, "another note")).to_write().size(), 0U);
}

TEST_F(HandOff, SomebodyElsesChangesAreAskedAbout) {
    const StudyPointer study = blocks(2, 1).study, higher = blocks(2, 2).study;
    ASSERT_TRUE(write(study).empty());
    std::ofstream(handed("untitled.ifc"), std::ios::app) << "/* by hand */";
    const std::string by_hand = bytes(handed("untitled.ifc"));
    const HandOffPlan plan = plan_of(higher);
    ASSERT_TRUE(entry(plan, "parts").asks);
    EXPECT_NE(why(*entry(plan, "parts").asks).find("was changed by somebody else"), std::string::npos);
    EXPECT_FALSE(entry(plan, "scene").asks);
    const std::vector<Error> errors = write(higher);
    ASSERT_EQ(errors.size(), 1U);
    EXPECT_EQ(errors[0].code, ErrorCode::file_changed);
    EXPECT_EQ(bytes(handed("untitled.ifc")), by_hand) << "nothing is lost";
    EXPECT_TRUE(write(higher, true).empty());
    EXPECT_EQ(plan_of(higher).to_write().size(), 0U);
    // Touched, but the same: nobody is asked.
    std::filesystem::last_write_time(handed("untitled.ifc"), std::filesystem::file_time_type::clock::now());
    EXPECT_EQ(plan_of(higher).to_write().size(), 0U);
    // Taken away: written anew, without a question.
    std::filesystem::remove(handed("untitled.ifc"));
    EXPECT_FALSE(entry(plan_of(higher), "parts").asks);
    EXPECT_FALSE(entry(plan_of(higher), "parts").unchanged);
    EXPECT_TRUE(write(higher).empty());
    EXPECT_TRUE(std::filesystem::exists(handed("untitled.ifc")));
}

TEST_F(HandOff, FilesThatWereThereBeforeAreAskedAbout) {
    const StudyPointer study = blocks(2, 1).study;
    std::filesystem::create_directories(handed(""));
    std::ofstream(handed("untitled.ifc")) << "theirs";
    const std::vector<Error> errors = write(study);
    ASSERT_EQ(errors.size(), 1U);
    EXPECT_NE(why(errors[0]).find("was not written by this sentence"), std::string::npos);
    EXPECT_EQ(bytes(handed("untitled.ifc")), "theirs");
    // A folder of that name.
    std::filesystem::remove(handed("untitled.ifc"));
    std::filesystem::create_directories(handed("untitled.ifc"));
    const std::vector<Error> over = write(study, true);
    ASSERT_EQ(over.size(), 1U);
    EXPECT_FALSE(over[0].mend.empty());
}

TEST_F(HandOff, TwoSentencesOfOneFileAreRefused) {
    StudyMaker maker = blocks(2, 1);
    maker.add("handoff.building", "again");
    maker.set("again", "results", ResultList{ResultList::Of::seen, "", {}});
    const HandOffPlan plan = plan_of(maker.study);
    for (const char* name : {"parts", "again"}) {
        ASSERT_TRUE(entry(plan, name).error) << name;
        EXPECT_EQ(entry(plan, name).error->code, ErrorCode::name_clash);
    }
    EXPECT_EQ(write(maker.study).size(), 2U);
    EXPECT_FALSE(std::filesystem::exists(handed("untitled.ifc")));
    EXPECT_TRUE(std::filesystem::exists(handed("untitled.glb"))) << "the others are written";
    maker.word("again", "file", "{study}-{name}");
    EXPECT_TRUE(write(maker.study).empty());
    EXPECT_TRUE(std::filesystem::exists(handed("untitled-again.ifc")));
}

TEST_F(HandOff, AStepThatFailsKeepsItsOldFile) {
    ASSERT_TRUE(write(blocks(2, 1).study).empty());
    const std::string before = bytes(handed("untitled.ifc"));
    StudyMaker broken = blocks(2, 1);
    broken.number("corners", "height", "nothing");
    const HandOffPlan plan = plan_of(broken.study);
    ASSERT_TRUE(entry(plan, "parts").error);
    EXPECT_NE(why(*entry(plan, "parts").error).find("boxes"), std::string::npos);
    EXPECT_EQ(write(broken.study).size(), 1U);
    EXPECT_EQ(bytes(handed("untitled.ifc")), before);
    // A result that is gone.
    StudyMaker renamed = blocks(2, 1);
    renamed.set("parts", "results", ResultList{ResultList::Of::listed, "", {{"sheds", ""}}});
    EXPECT_NE(why(*entry(plan_of(renamed.study), "parts").error).find("‘sheds’"), std::string::npos);
    // A print of what is open is refused, and says where.
    StudyMaker print = blocks(2, 1);
    print.add("handoff.print", "peg");
    print.set("peg", "results", ResultList{ResultList::Of::listed, "", {{"cover", ""}}});
    const std::vector<Error> errors = write(print.study);
    ASSERT_EQ(errors.size(), 1U);
    EXPECT_FALSE(std::filesystem::exists(handed("untitled.3mf")));
    EXPECT_TRUE(plan_of(print.study).left_over.empty());
}

TEST_F(HandOff, WhatIsNoLongerHandedOffIsNamedAndStays) {
    ASSERT_TRUE(write(blocks(2, 1).study).empty());
    const StudyMaker all = blocks(2, 1);
    const StudyPointer less = *remove_items(*all.study, {all.study->step("scene")->id}, false);
    EXPECT_EQ(plan_of(less).left_over, std::vector<std::string>{"untitled.glb"});
    EXPECT_TRUE(write(less).empty());
    EXPECT_TRUE(std::filesystem::exists(handed("untitled.glb")));
    // Under another name: the old file is left over, too.
    StudyMaker other = blocks(2, 1);
    other.word("scene", "file", "model");
    EXPECT_EQ(plan_of(other.study).left_over, std::vector<std::string>{"untitled.glb"});
}

TEST_F(HandOff, NamesThatFollowTheDayOrAControlKeepTheirFiles) {
    StudyMaker dated = blocks(2, 1);
    dated.word("parts", "file", "{study}-{date}").word("scene", "file", "{study}-{height}");
    ASSERT_TRUE(write(dated.study, false, "2031-05-04").empty());
    // Nothing changed: no file of the next day.
    const HandOffPlan next = plan_of(dated.study, "2031-05-05");
    EXPECT_EQ(next.to_write().size(), 0U);
    EXPECT_EQ(entry(next, "parts").file, "untitled-2031-05-04.ifc");
    StudyMaker higher = blocks(2, 3);
    higher.word("parts", "file", "{study}-{date}").word("scene", "file", "{study}-{height}");
    ASSERT_TRUE(write(higher.study, false, "2031-05-05").empty());
    for (const char* name :
         {"untitled-2031-05-04.ifc", "untitled-2031-05-05.ifc", "untitled-1m.glb", "untitled-3m.glb"})
        EXPECT_TRUE(std::filesystem::exists(handed(name))) << name;
    EXPECT_TRUE(plan_of(higher.study, "2031-05-05").left_over.empty());
    // Back to the first: its file is there, as it was left.
    EXPECT_TRUE(entry(plan_of(dated.study, "2031-05-05"), "scene").unchanged);
}

TEST_F(HandOff, AllBelowAHeadingAndAllThatIsSeen) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.study = add_heading(*maker.study, 1, "Roof").study;
    maker.add("skin", "canopy");
    maker.add("mesh.posts", "posts");
    maker.study = add_heading(*maker.study, 4, "Rest").study;
    maker.add("curve.arc", "arc");
    maker.add("handoff.mesh", "roof");
    maker.set("roof", "results", ResultList{ResultList::Of::heading, "Roof", {}});
    maker.add("handoff.mesh", "all");
    maker.set("all", "results", ResultList{ResultList::Of::seen, "", {}}).word("all", "file", "all");
    const auto given = [&](const std::string& name) {
        std::vector<std::string> names;
        const Delivery delivery = entry(plan_of(maker.study), name).delivery;
        for (const GivenResult& one : delivery->results)
            names.push_back(one.name);
        return names;
    };
    EXPECT_EQ(given("roof"), (std::vector<std::string>{"canopy", "posts"}));
    EXPECT_EQ(given("all").back(), "arc");
    // Hidden ones are not given; the heading may be called otherwise.
    const Step posts = *maker.study->step("posts");
    Show hidden = posts.show;
    hidden.visible = false;
    maker.study = *set_show(*maker.study, posts.id, hidden);
    Heading renamed = *heading_of(maker.study->items[1]);
    renamed.title = "Canopy";
    maker.study = *set_heading(*maker.study, renamed.id, renamed);
    EXPECT_EQ(given("roof"), std::vector<std::string>{"canopy"});
    maker.study = *rename_step(*maker.study, maker.study->step("canopy")->id, "wing");
    EXPECT_EQ(given("roof"), std::vector<std::string>{"wing"});
    // A heading that has nothing.
    maker.set("roof", "results", ResultList{ResultList::Of::heading, "Nowhere", {}});
    EXPECT_NE(why(*entry(plan_of(maker.study), "roof").error).find("“Nowhere” has nothing below it"),
              std::string::npos);
}

TEST_F(HandOff, FoldersAndManifestsThatCannotBe) {
    const StudyPointer study = blocks(2, 1).study;
    // A study without a file.
    EXPECT_EQ(plan_hand_off(test::run(study), {"", "2031-05-04", "14:20"}, plume::Run()).error().code,
              ErrorCode::missing_input);
    const StudyPointer outside = *set_hand_off_folder(*study, "../up");
    EXPECT_EQ(plan_hand_off(test::run(outside), place(), plume::Run()).error().code, ErrorCode::bad_name);
    // A whole path may lead anywhere.
    const StudyPointer elsewhere = *set_hand_off_folder(*study, (folder_ / "else where").string());
    EXPECT_TRUE(write(elsewhere).empty());
    EXPECT_TRUE(std::filesystem::exists(folder_ / "else where" / "untitled.ifc"));
    // A file where the folder has to be.
    std::ofstream(folder_ / "handoff") << "a file";
    const std::vector<Error> errors = write(study);
    ASSERT_FALSE(errors.empty());
    EXPECT_FALSE(errors[0].mend.empty());
    std::filesystem::remove(folder_ / "handoff");
    ASSERT_TRUE(write(study).empty());
    const std::string good = bytes(handed("handoff.json"));
    // Another study's.
    const StudyPointer other = set_title(*study, "Another", "");
    const HandOffPlan plan = plan_of(other);
    ASSERT_TRUE(plan.asks);
    EXPECT_NE(why(*plan.asks).find("was written by the study"), std::string::npos);
    EXPECT_EQ(write(other).size(), 2U);
    EXPECT_EQ(bytes(handed("handoff.json")), good);
    // Damaged at every hundredth byte, newer, or nonsense: said, and left alone.
    std::vector<std::string> damaged{"",
                                     "{",
                                     "[]",
                                     "{}",
                                     R"({"plume_handoff": 0})",
                                     R"({"plume_handoff": 1.5})",
                                     R"({"plume_handoff": 99})",
                                     R"({"plume_handoff": 1, "deliveries": [3]})",
                                     R"({"plume_handoff": 1, "deliveries": [{"name": "a", "key": "x"}]})"};
    for (std::size_t size = 1; size + 2 < good.size(); size += 100)
        damaged.push_back(good.substr(0, size));
    for (const char* file : {"../../secret", "/etc/passwd", "a/../../b", ""})
        damaged.push_back(R"({"plume_handoff": 1, "deliveries": [{"name": "a", "key": ")" +
                          std::string(32, '0') + R"(", "files": [{"name": ")" + file +
                          R"(", "fingerprint": ")" + std::string(32, '0') + R"("}]}]})");
    for (const std::string& text : damaged) {
        std::ofstream(handed("handoff.json"), std::ios::trunc) << text;
        const HandOffPlan broken = plan_of(study);
        ASSERT_TRUE(broken.error) << text;
        EXPECT_FALSE(broken.error->mend.empty()) << text;
        EXPECT_EQ(write(study, true).size(), 2U) << text;
        EXPECT_EQ(bytes(handed("handoff.json")), text) << "left alone";
    }
}

// What a writing that broke off between the file and the manifest leaves is known to be ours.
TEST_F(HandOff, WhatBrokeOffIsTakenUpAgain) {
    const StudyPointer study = blocks(2, 1).study;
    ASSERT_TRUE(write(study).empty());
    Manifest manifest = **load_manifest(handed("").parent_path());
    manifest.entries.at("untitled.ifc").writing = Hash{1, 2};
    ASSERT_TRUE(save_manifest(manifest, handed("").parent_path()));
    std::ofstream(handed("untitled.ifc")) << "the new one";
    EXPECT_FALSE(entry(plan_of(study), "parts").asks);
    EXPECT_FALSE(entry(plan_of(study), "parts").unchanged);
    EXPECT_TRUE(write(study).empty());
    EXPECT_TRUE(entry(plan_of(study), "parts").unchanged);
}

TEST_F(HandOff, AFolderThatVanishesHalfWayIsMadeAgain) {
    const StudyPointer study = blocks(2, 1).study;
    const HandOffPlan plan = plan_of(study);
    const auto write_one = [&](const char* name) {
        return hand_off(plan, entry(plan, name), test::moments_of(*study), place(), false, plume::Run());
    };
    ASSERT_TRUE(write_one("parts"));
    std::filesystem::remove_all(handed("").parent_path());
    const auto written = write_one("scene");
    EXPECT_TRUE(written) << sentence(written.error());
    // What went with it is known to be missing.
    EXPECT_FALSE(entry(plan_of(study), "parts").unchanged);
    EXPECT_TRUE(entry(plan_of(study), "scene").unchanged);
    EXPECT_TRUE(write(study).empty());
    EXPECT_TRUE(std::filesystem::exists(handed("untitled.ifc")));
    // Something else stands where it was.
    std::filesystem::remove_all(handed("").parent_path());
    std::ofstream(folder_ / "handoff") << "a file";
    const auto refused = write_one("scene");
    ASSERT_FALSE(refused);
    EXPECT_FALSE(refused.error().mend.empty()) << sentence(refused.error());
    EXPECT_EQ(bytes(folder_ / "handoff"), "a file");
}

TEST_F(HandOff, WhatCannotBeWrittenSaysWhichSlotItIsAbout) {
    StudyMaker maker = blocks(2, 1);
    maker.add("handoff.milling", "mill");
    maker.set("mill", "results", ResultList{ResultList::Of::listed, "", {{"boxes", ""}}});
    maker.number("mill", "thickness", "200 mm");
    const std::vector<Error> errors = write(maker.study);
    ASSERT_EQ(errors.size(), 1U);
    EXPECT_EQ(errors[0].slot, "thickness");
    const std::string label = standard_catalogue().find("handoff.milling")->slot("thickness")->label;
    EXPECT_EQ(why(errors[0]), label + " of 0.2 m is less than the relief is deep, 1 m. Type at least that.");
}

TEST_F(HandOff, MaterialsBesideAnObjAreThoseItRefersTo) {
    StudyMaker maker = blocks(2, 1);
    Show oak = maker.study->step("cover")->show;
    oak.material.key = "timber";
    maker.study = *set_show(*maker.study, maker.study->step("cover")->id, oak);
    maker.word("scene", "format", ".obj");
    ASSERT_TRUE(write(maker.study).empty());
    const auto companion = [&] {
        const std::string text = bytes(handed("untitled.obj"));
        const std::size_t from = text.find("mtllib ") + 7;
        return text.substr(from, text.find('\n', from) - from);
    };
    const std::string first = companion();
    EXPECT_TRUE(std::filesystem::exists(handed(first))) << first;
    EXPECT_NE(first, "untitled.mtl") << "its name says what is in it";
    oak.material.key = "metal";
    maker.study = *set_show(*maker.study, maker.study->step("cover")->id, oak);
    ASSERT_TRUE(write(maker.study).empty());
    EXPECT_NE(companion(), first);
    EXPECT_TRUE(std::filesystem::exists(handed(companion())));
    EXPECT_FALSE(std::filesystem::exists(handed(first))) << "nothing refers to it any more";
    EXPECT_EQ(plan_of(maker.study).to_write().size(), 0U);
}

// A figure that is no number is left out, and the manifest can be read again.
TEST_F(HandOff, FiguresThatAreNotFinite) {
    Manifest manifest;
    ManifestEntry& entry = manifest.entries["a.ifc"];
    entry.name = "parts";
    entry.files.push_back({"a.ifc", 1, {}, 0});
    entry.parts.push_back({"a", "", "", {}, "area", {std::nan(""), {2, 0}}});
    const auto again = manifest_from_text(manifest_to_text(manifest));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_EQ(again->entries.at("a.ifc").parts.front().value.value, 0);
}

TEST_F(HandOff, ManifestsSayAgainWhatTheySaid) {
    ASSERT_TRUE(write(blocks(3, 2).study).empty());
    const auto folder = handed("").parent_path();
    const Manifest manifest = **load_manifest(folder);
    const ManifestEntry& parts = manifest.entries.at("untitled.ifc");
    EXPECT_EQ(parts.name, "parts");
    EXPECT_TRUE(parts.sentence.starts_with("Give boxes as slab to the building model")) << parts.sentence;
    EXPECT_EQ(parts.parts.size(), 3U);
    EXPECT_EQ(parts.files.front().bytes, std::filesystem::file_size(handed("untitled.ifc")));
    const std::string before = bytes(handed("handoff.json"));
    ASSERT_TRUE(save_manifest(manifest, folder));
    EXPECT_EQ(bytes(handed("handoff.json")), before);
}

// Every kind of result is told in parts, and a change of any of its numbers is a change of one of them.
TEST(HandedParts, EveryKindHasItsFigure) {
    StudyMaker maker = test::canopy();
    maker.add("frame.lattice", "net");
    maker.set("net", "points", ResultName{"lattice"});
    maker.add("curve.arc", "arc");
    const Evaluation evaluation = test::run(maker.study);
    const struct {
        const char* name;
        const char* figure;
        std::size_t parts;
    } cases[]{{"lattice", "count", 1},
              {"perches", "count", 1},
              {"roof", "area", 1},
              {"net", "length", std::get<BarFrame>(test::value_of(evaluation, "net")).member_count()},
              {"arc", "length", 1}};
    for (const auto& one : cases) {
        const Outcome& outcome = *evaluation.outcome(one.name);
        DeliveryContent delivery{{{one.name, outcome.value, outcome.key, {}, {}}}, ".ply", "x", {}};
        const auto parts = handed_parts(delivery, plume::Run());
        ASSERT_TRUE(parts) << one.name;
        EXPECT_EQ(parts->size(), one.parts) << one.name;
        EXPECT_EQ(parts->front().figure, one.figure) << one.name;
        delivery.results[0].as = "beam";
        EXPECT_FALSE((*handed_parts(delivery, plume::Run()))[0].fingerprint == parts->front().fingerprint);
    }
    // 4 m and 12 m of a half circle about both.
    const Outcome& arc = *evaluation.outcome("arc");
    const auto parts = handed_parts({{{"arc", arc.value, arc.key, {}, {}}}, ".step", "x", {}}, plume::Run());
    EXPECT_GT(parts->front().value.value, 0);
}

StudyMaker drawn_blocks() {
    StudyMaker maker = blocks(2, 3);
    maker.add("handoff.drawing", "sheet");
    maker.set("sheet", "results", ResultList{ResultList::Of::listed, "", {{"boxes", "scheduled"}}});
    maker.word("sheet", "views", "in plan, section looking north");
    return maker;
}

TEST_F(HandOff, ASheetHasWhatItsSentenceSays) {
    const HandOffPlan plan = plan_of(drawn_blocks().study);
    const HandOffEntry& sheet = entry(plan, "sheet");
    ASSERT_TRUE(sheet.delivery) << sentence(*sheet.error);
    EXPECT_TRUE(is_drawing(*sheet.delivery));
    EXPECT_FALSE(is_drawing(*entry(plan, "parts").delivery));
    const auto drawn = drawn_sheet(*sheet.delivery, {}, plume::Run());
    ASSERT_TRUE(drawn) << sentence(drawn.error());
    std::vector<std::string> names;
    for (const PlanItem& item : drawn->items)
        names.push_back(item.name);
    EXPECT_EQ(names, (std::vector<std::string>{"in plan", "section looking north", "schedule of boxes"}));
}

TEST_F(HandOff, WhatStandsOnASheetIsPlacedByAnEdit) {
    const StudyPointer rows = drawn_blocks().study;
    const ItemId sheet = rows->step("sheet")->id;
    EXPECT_TRUE(is_sheet_in_rows(*rows, sheet));
    const StudyPointer one = *with_place_on_sheet(*rows, sheet, {"in plan", 30, 140});
    EXPECT_FALSE(is_sheet_in_rows(*one, sheet));
    const StudyPointer two = *with_place_on_sheet(*one, sheet, {"schedule of boxes", 200, 50});
    const StudyPointer again = *with_place_on_sheet(*two, sheet, {"in plan", 31.26, 140});
    const auto wishes = entry(plan_of(again), "sheet").delivery->wishes;
    EXPECT_EQ(sheet_places_text(wishes.placed), "in plan at 31.3 140; schedule of boxes at 200 50");
    const StudyPointer back = *with_sheet_in_rows(*again, sheet);
    EXPECT_TRUE(is_sheet_in_rows(*back, sheet));
    EXPECT_TRUE(entry(plan_of(back), "sheet").delivery->wishes.placed.empty());
    // From rows on, only what is moved then is placed.
    const StudyPointer anew = *with_place_on_sheet(*back, sheet, {"in plan", 40, 150});
    EXPECT_EQ(entry(plan_of(anew), "sheet").delivery->wishes.placed.size(), 1U);
    EXPECT_FALSE(with_place_on_sheet(*rows, 4711, {"in plan", 1, 1}));
}

TEST_F(HandOff, ADrawingNeedsAForm) {
    StudyMaker maker = drawn_blocks();
    maker.set("sheet", "results", ResultList{ResultList::Of::listed, "", {{"boxes", "schedule"}}});
    EXPECT_EQ(
        why(*entry(plan_of(maker.study), "sheet").error),
        "Results hold nothing that is drawn as a form. Give a result as a form, or list it with “Give a "
        "table”.");
    maker = drawn_blocks();
    maker.word("sheet", "layout", "placed").set("sheet", "places", Lines{"in plan somewhere"});
    EXPECT_NE(why(*entry(plan_of(maker.study), "sheet").error).find("cannot read ‘in plan somewhere’"),
              std::string::npos);
}

}  // namespace
}  // namespace plume
