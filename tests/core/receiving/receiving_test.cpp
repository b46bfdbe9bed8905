// The stand-in for whoever receives building models: what it reads of files, and how it updates in place.

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>
#include <numbers>

#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/study_file.hpp"
#include "core/handoff/hand_off.hpp"
#include "core/handoff/moments.hpp"
#include "core/made_forms.hpp"
#include "core/receiving/arrival.hpp"
#include "core/receiving/hand_made_ifc.hpp"
#include "core/receiving/model_groups.hpp"
#include "core/receiving/received_picture.hpp"
#include "folders.hpp"

namespace plume {
namespace {

using test::HandMadePart;
using test::identity_number;

class Receiving : public testing::Test {
protected:
    void write(const char* name, const std::string& text) const {
        ASSERT_TRUE(write_file(folder_ / name, text)) << name;
    }
    void write(const char* name, const std::vector<HandMadePart>& parts, const char* prefix = "$") const {
        write(name, test::hand_made_ifc(parts, prefix));
    }
    // Boxes 1 m wide and deep, of these heights, called by their places; 0: there is none.
    static std::vector<HandMadePart> boxes(const std::vector<double>& heights) {
        std::vector<HandMadePart> parts;
        for (std::size_t at = 0; at < heights.size(); ++at)
            if (heights[at] > 0)
                parts.push_back({identity_number(static_cast<int>(at)), "box " + std::to_string(at),
                                 "IFCWALL", test::box_of_triangles(1, 1, heights[at])});
        return parts;
    }
    Received here() const {
        auto model = Received::open(folder_.path(), plume::Run());
        if (!model) throw std::runtime_error(sentence(model.error()));
        return *std::move(model);
    }
    Arrival arrival() const {
        auto made = look_at_arrival(here(), plume::Run());
        if (!made) throw std::runtime_error(sentence(made.error()));
        return *std::move(made);
    }
    Received taken() const {
        auto made = take_in(here(), arrival(), plume::Run());
        if (!made) throw std::runtime_error(sentence(made.error()));
        return *std::move(made);
    }
    static std::vector<std::string> names(const Received& model) {
        std::vector<std::string> all;
        for (const Received::Part& part : model.parts())
            all.push_back(part.taken->element.name);
        std::ranges::sort(all);
        return all;
    }
    static ExportJob job_of(const Value& value, const std::string& name) {
        return {{{std::make_shared<const Value>(value), name}}, Units(), LengthUnit::metre};
    }
    static double volume_of_all(const Received& model) {
        double volume = 0;
        for (const Received::Part& part : model.parts())
            volume += part.volume_m3().value_or(0);
        return volume;
    }

    test::Folder folder_;
};

using Names = std::vector<std::string>;

// --- what is read

TEST_F(Receiving, ShapesOfOthersAreReadWhereTheyStandAndInMetres) {
    // 2 by 3 by 4 in millimetres of thousands: 24 m³, 52 m².
    const std::array shapes{test::box_of_triangles(2000, 3000, 4000),
                            test::pulled_rectangle(2000, 3000, 4000), test::faceted_box(2000, 3000, 4000)};
    std::vector<HandMadePart> parts;
    for (std::size_t at = 0; at < shapes.size(); ++at)
        parts.push_back({identity_number(static_cast<int>(at)), "block", "IFCCOLUMN", shapes[at]});
    parts[1].material = "Oak";
    parts[1].storey = "Loft";
    write("theirs.ifc", parts, ".MILLI.");
    const auto file = take_file(folder_ / "theirs.ifc", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    EXPECT_EQ(file->project, "Nests");
    EXPECT_EQ(file->metres_per_unit, 0.001);
    ASSERT_EQ(file->parts.size(), 3U);
    for (const TakenPart& part : file->parts) {
        ASSERT_TRUE(part.volume_m3 && part.area_m2) << part.element.identity;
        EXPECT_NEAR(*part.volume_m3, 24, 1e-9);
        EXPECT_NEAR(*part.area_m2, 52, 1e-9);
        EXPECT_EQ(part.element.entity, "IfcColumn");
        EXPECT_EQ(part.element.not_taken, "");
    }
    // Placed at 10 and 20 mm, with its X along Y: x' = 0.01 - y, y' = 0.02 + x.
    const Box box = file->part(identity_number(0))->element.facets->bounds();
    EXPECT_NEAR(box.low.x, 0.010 - 3, 1e-12);
    EXPECT_NEAR(box.high.x, 0.010, 1e-12);
    EXPECT_NEAR(box.low.y, 0.020, 1e-12);
    EXPECT_NEAR(box.high.y, 2.020, 1e-12);
    EXPECT_EQ(file->part(identity_number(1))->element.material, "Oak");
    EXPECT_EQ(file->part(identity_number(1))->element.storey, "Loft");
    EXPECT_EQ(file->part(identity_number(0))->element.material, "");
}

TEST_F(Receiving, AHoleInAnOutlineIsNoMaterialAndDownIsAWay) {
    // A square ring of 4 by 4 without 2 by 2, pulled down by 5: 60 m³.
    const std::string outer = "IFCCARTESIANPOINTLIST2D(((0.,0.),(4.,0.),(4.,4.),(0.,4.),(0.,0.)))",
                      inner = "IFCCARTESIANPOINTLIST2D(((1.,1.),(3.,1.),(3.,3.),(1.,3.),(1.,1.)))";
    write("ring.ifc", {{identity_number(0),
                        "ring",
                        "IFCBEAM",
                        {"IFCEXTRUDEDAREASOLID(@1,$,@6,5.)",
                         "IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,@2,(@3))", "IFCINDEXEDPOLYCURVE(@4,$,.F.)",
                         "IFCINDEXEDPOLYCURVE(@5,$,.F.)", outer, inner, "IFCDIRECTION((0.,0.,-1.))"}}});
    const auto file = take_file(folder_ / "ring.ifc", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    const TakenPart& ring = file->parts.front();
    ASSERT_TRUE(ring.volume_m3);
    EXPECT_NEAR(*ring.volume_m3, 60, 1e-9);
    EXPECT_NEAR(*ring.area_m2, 2 * 12 + (16 + 8) * 5, 1e-9);
    EXPECT_NEAR(ring.element.facets->bounds().low.z, -5, 1e-12);
}

TEST_F(Receiving, AxesHaveALengthAndWhatCannotBeShownIsNamed) {
    write("bars.ifc",
          {{identity_number(0),
            "bar",
            "IFCMEMBER",
            {"IFCPOLYLINE((@1,@2))", "IFCCARTESIANPOINT((0.,0.,0.))", "IFCCARTESIANPOINT((0.,3.,4.))"},
            "Axis"},
           {identity_number(1),
            "ball",
            "IFCMEMBER",
            {"IFCSPHERE(@1,2.)", "IFCAXIS2PLACEMENT3D(@2,$,$)", "IFCCARTESIANPOINT((0.,0.,0.))"}}});
    const auto file = take_file(folder_ / "bars.ifc", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    const TakenPart *bar = file->part(identity_number(0)), *ball = file->part(identity_number(1));
    EXPECT_NEAR(bar->length_m.value(), 5, 1e-12);
    EXPECT_FALSE(bar->volume_m3);
    EXPECT_EQ(ball->element.not_taken, "IfcSphere");
    EXPECT_FALSE(ball->area_m2);
    taken();
    const std::vector<std::string> doubts = doubts_about(here());
    ASSERT_EQ(doubts.size(), 1U);
    EXPECT_EQ(doubts[0], "1 part has a shape that is not shown here: IfcSphere.");
}

// A cylinder of 1 m about an axis of 3 m, as it leaves exactly: 3 pi and 8 pi.
TEST_F(Receiving, CurvedBodiesAreMeasuredExactly) {
    test::StudyMaker maker;
    maker.add("outline.shape", "outline");
    maker.word("outline", "shape", "circle").number("outline", "radius", "1 m");
    maker.add("body.extrude", "drum");
    maker.set("drum", "curves", ResultName{"outline"}).number("drum", "by", "3 m");
    const auto outcome = test::run(maker.study);
    const Value drum = test::value_of(outcome, "drum");
    ExportJob job = job_of(drum, "drum");
    for (const LengthUnit unit : {LengthUnit::metre, LengthUnit::millimetre, LengthUnit::foot}) {
        job.exact = true;
        job.unit = unit;
        ASSERT_TRUE(export_results(job, folder_ / "drum.ifc", plume::Run()));
        const auto file = take_file(folder_ / "drum.ifc", plume::Run());
        ASSERT_TRUE(file) << sentence(file.error());
        ASSERT_EQ(file->parts.size(), 1U);
        const TakenPart& part = file->parts.front();
        ASSERT_TRUE(part.volume_m3 && part.area_m2 && part.element.facets) << part.element.not_taken;
        EXPECT_NEAR(*part.volume_m3, 3 * std::numbers::pi, 1e-6);
        EXPECT_NEAR(*part.area_m2, 8 * std::numbers::pi, 1e-6);
        EXPECT_NEAR(part.element.facets->bounds().high.z - part.element.facets->bounds().low.z, 3, 1e-9);
        EXPECT_NEAR(part.element.property("BaseQuantities", "NetVolume")->number->value, 3 * std::numbers::pi,
                    1e-6);
        EXPECT_EQ(part.element.entity, "IfcBuildingElementProxy");
    }
}

// Bodies of cells have their corners in no ring's order: what is swept of them once crossed itself.
TEST_F(Receiving, CellsArriveAsTheBodiesTheyAre) {
    const auto outcome = test::run(test::boxes_of({2, 3, 1}, "4 m", "9 m", "5 m").study);
    const Value boxes = test::value_of(outcome, "boxes");
    ASSERT_TRUE(export_results(job_of(boxes, "boxes"), folder_ / "boxes.ifc", plume::Run()));
    const auto file = take_file(folder_ / "boxes.ifc", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    ASSERT_EQ(file->parts.size(), 6U);
    for (const TakenPart& part : file->parts) {
        ASSERT_TRUE(part.volume_m3) << part.element.not_taken;
        EXPECT_NEAR(*part.volume_m3, 2 * 3 * 5, 1e-9);
        EXPECT_NEAR(*part.area_m2, 2 * (2 * 3 + 3 * 5 + 2 * 5), 1e-9);
    }
}

// What is written of a frame keeps its identities when members go: they are marks, not numbers.
TEST_F(Receiving, MembersKeepTheirIdentityWhenOthersGo) {
    const auto frame_of = [](int bays) {
        test::StudyMaker maker;
        maker.add("lattice.rectangular", "spots");
        maker.number("spots", "columns", std::to_string(bays)).number("spots", "rows", "1");
        maker.number("spots", "width", std::to_string(bays) + " m").number("spots", "depth", "1 m");
        maker.word("spots", "origin", "corner");
        maker.add("frame.lattice", "net");
        maker.set("net", "points", ResultName{"spots"});
        maker.add("mesh.bars", "bars");
        maker.set("bars", "frame", ResultName{"net"});
        return test::run(maker.study);
    };
    const auto receive = [&](const Evaluation& outcome, const char* name) {
        const Value value = test::value_of(outcome, name);
        EXPECT_TRUE(export_results(job_of(value, name), folder_ / "net.ifc", plume::Run()));
        const std::string counts = arrival().files.at(0).counts_text();
        taken();
        return counts;
    };
    for (const char* name : {"net", "bars"}) {
        SCOPED_TRACE(name);
        // Four bays of two rows: 8 along and 5 across; with one bay less two along and one across go.
        EXPECT_EQ(receive(frame_of(4), name), "13 new");
        EXPECT_EQ(receive(frame_of(3), name), "3 gone, 10 as before");
        std::filesystem::remove_all(folder_ / received_folder_name);
    }
}

// --- updating in place

TEST_F(Receiving, PartsAreReplacedAndRemovedAndNoGhostStays) {
    write("nests.ifc", boxes({1, 2, 3}));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "3 new");
    EXPECT_EQ(names(taken()), (Names{"box 0", "box 1", "box 2"}));
    EXPECT_FALSE(arrival().changes_anything());
    EXPECT_EQ(arrival().files.at(0).counts_text(), "3 as before");
    // The first another, the second gone, one more.
    write("nests.ifc", boxes({1.5, 0, 3, 4}));
    const Arrival second = arrival();
    EXPECT_EQ(second.files.at(0).counts_text(), "1 new, 1 changed, 1 gone, 1 as before");
    const Received now = taken();
    EXPECT_EQ(names(now), (Names{"box 0", "box 2", "box 3"}));
    EXPECT_EQ(now.parts().size(), second.files.at(0).file->parts.size())
        << "as many as there are in the file";
    EXPECT_EQ(ghosts_of(now, second.files.at(0)), 0U);
    EXPECT_NEAR(volume_of_all(now), 1.5 + 3 + 4, 1e-9);
    // Only what parts are of is kept.
    std::size_t copies = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder_ / received_folder_name))
        copies += entry.path().extension() == ".ifc" ? 1U : 0U;
    EXPECT_EQ(copies, 1U);
    EXPECT_TRUE(here().model() == now.model()) << "as it was left";
}

TEST_F(Receiving, AnotherUnitOfTheSameFormChangesNothing) {
    write("nests.ifc", boxes({1, 2}));
    taken();
    std::vector<HandMadePart> same;
    for (const double height : {1.0, 2.0})
        same.push_back({identity_number(static_cast<int>(height) - 1), "box " + std::to_string(same.size()),
                        "IFCWALL", test::box_of_triangles(1000, 1000, 1000 * height)});
    std::string text = test::hand_made_ifc(same, ".MILLI.");
    text.replace(text.find("(10.,20.,0.)"), 12, "(10000.,20000.,0.)");
    write("nests.ifc", text);
    EXPECT_EQ(arrival().files.at(0).counts_text(), "2 as before");
}

TEST_F(Receiving, WhatIsLockedStaysAndIsCountedAsAGhost) {
    write("nests.ifc", boxes({1, 2, 3}));
    taken();
    for (const char* name : {"box 0", "box 1"})
        ASSERT_TRUE(with_lock(here(), name, true, plume::Run()));
    write("nests.ifc", boxes({1.5, 0, 3.5}));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "1 changed, 2 locked");
    const Received now = taken();
    EXPECT_EQ(names(now), (Names{"box 0", "box 1", "box 2"}));
    EXPECT_NEAR(volume_of_all(now), 1 + 2 + 3.5, 1e-9) << "the locked ones as they were";
    EXPECT_EQ(ghosts_of(now, arrival().files.at(0)), 1U) << "one of them is not in the file any more";
    // Unlocked, they follow.
    for (const char* name : {"box 0", "box 1"})
        ASSERT_TRUE(with_lock(here(), name, false, plume::Run()));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "1 changed, 1 gone, 1 as before");
    EXPECT_NEAR(volume_of_all(taken()), 1.5 + 3.5, 1e-9);
}

TEST_F(Receiving, WhatWasDeletedThereIsNotPlacedAgainUnlessItIsWanted) {
    write("nests.ifc", boxes({1, 2}));
    taken();
    ASSERT_TRUE(without_part(here(), "box 1", plume::Run()));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "1 deleted here, 1 as before");
    write("nests.ifc", boxes({1.5, 2.5}));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "1 changed, 1 deleted here");
    EXPECT_EQ(names(taken()), (Names{"box 0"}));
    ASSERT_TRUE(with_deleted_again(here(), plume::Run()));
    EXPECT_EQ(arrival().files.at(0).counts_text(), "1 new, 1 as before");
    EXPECT_NEAR(volume_of_all(taken()), 4, 1e-9);
    // One that its file no longer has need not be remembered.
    ASSERT_TRUE(without_part(here(), "box 1", plume::Run()));
    write("nests.ifc", boxes({1.5}));
    EXPECT_TRUE(taken().model().deleted.empty());
}

TEST_F(Receiving, PartsOfOthersStayWhateverArrives) {
    std::vector<HandMadePart> theirs{
        {identity_number(70), "neighbour", "IFCWALL", test::box_of_triangles(5, 1, 2)},
        {identity_number(0), "box 0 of theirs", "IFCWALL", test::box_of_triangles(9, 9, 9)}};
    const test::Folder elsewhere;
    ASSERT_TRUE(write_file(elsewhere / "theirs.ifc", test::hand_made_ifc(theirs)));
    write("nests.ifc", boxes({1, 2}));
    taken();
    ASSERT_TRUE(with_others(here(), elsewhere / "theirs.ifc", plume::Run()));
    EXPECT_EQ(names(here()), (Names{"box 0", "box 1", "neighbour"})) << "an identity that is here stays ours";
    std::filesystem::remove(elsewhere / "theirs.ifc");
    write("nests.ifc", boxes({0, 2.5}));
    const Received now = taken();
    EXPECT_EQ(names(now), (Names{"box 1", "neighbour"}));
    EXPECT_NEAR(volume_of_all(now), 2.5 + 10, 1e-9);
}

TEST_F(Receiving, TwoFilesOfOneIdentityDoNotFightForIt) {
    write("a.ifc", boxes({1}));
    write("b.ifc", boxes({7, 2}));
    Arrival both = arrival();
    EXPECT_EQ(both.files.at(0).counts_text(), "1 new");
    EXPECT_EQ(both.files.at(1).counts_text(), "1 new, 1 here already");
    EXPECT_NEAR(volume_of_all(taken()), 3, 1e-9);
    EXPECT_FALSE(arrival().changes_anything());
    EXPECT_EQ(arrival().files.at(1).counts_text(), "1 here already, 1 as before");
}

TEST_F(Receiving, LengthsReadInAWrongUnitAreSeenAndSaid) {
    write("nests.ifc", boxes({1, 2}));
    taken();
    ASSERT_TRUE(reading_as(here(), LengthUnit::millimetre, plume::Run()));
    const Received now = here();
    EXPECT_NEAR(volume_of_all(now), 3e-9, 1e-18);
    EXPECT_NEAR(box_of(now.parts()).size().z, 0.002, 1e-12);
    ASSERT_EQ(doubts_about(now).size(), 1U);
    EXPECT_EQ(
        doubts_about(now)[0],
        "‘nests.ifc’ has other lengths than the millimetres they are read as: all of it is 1000 times too "
        "small.");
    ASSERT_TRUE(reading_as(here(), LengthUnit::metre, plume::Run()));
    EXPECT_TRUE(doubts_about(here()).empty()) << "what the file says anyway";
}

TEST_F(Receiving, PartsAreGroupedWithWhatTheyComeTo) {
    std::vector<HandMadePart> parts = boxes({1, 2, 3});
    parts[0].material = "Oak";
    parts[1].material = "Oak";
    parts[1].entity = "IFCCOLUMN";
    parts[2].storey = "Loft";
    parts.push_back({identity_number(10), "box 10", "IFCWALL", test::box_of_triangles(1, 1, 10)});
    write("nests.ifc", parts);
    const Received now = taken();
    const ModelGroup by_material = grouped(now.parts(), {GroupBy::material});
    ASSERT_EQ(by_material.groups.size(), 2U);
    EXPECT_EQ(by_material.groups[0].name, "Oak");
    EXPECT_EQ(by_material.groups[0].parts, 2U);
    EXPECT_NEAR(by_material.groups[0].volume_m3, 3, 1e-9);
    EXPECT_NEAR(by_material.groups[0].area_m2, 2 + 4 + 2 + 8, 1e-9);
    EXPECT_EQ(by_material.groups[1].name, "no material");
    const ModelGroup tree =
        grouped(now.parts(), {GroupBy::storey, GroupBy::building_class, GroupBy::material});
    ASSERT_EQ(tree.groups.size(), 2U);
    EXPECT_EQ(tree.groups[0].name, "Ground");
    EXPECT_EQ(tree.groups[0].groups[0].name, "columns");
    EXPECT_EQ(tree.groups[0].groups[1].name, "walls");
    EXPECT_EQ(tree.groups[0].groups[1].parts, 2U);
    EXPECT_NEAR(tree.volume_m3, 16, 1e-9);
    EXPECT_TRUE(comes_before("box 2", "box 10") && !comes_before("box 10", "box 2"));
    EXPECT_TRUE(comes_before("box", "box 1") && !comes_before("box 1", "box 1"));
}

TEST_F(Receiving, ThePictureHasThePartsInTheirColours) {
    std::vector<HandMadePart> parts = boxes({1, 2});
    parts.push_back(
        {identity_number(9),
         "bar",
         "IFCMEMBER",
         {"IFCPOLYLINE((@1,@2))", "IFCCARTESIANPOINT((0.,0.,0.))", "IFCCARTESIANPOINT((0.,0.,4.))"},
         "Axis"});
    write("nests.ifc", parts);
    const Received now = taken();
    const auto all = picture_of(now.parts(), {}, plume::Run());
    ASSERT_TRUE(all) << sentence(all.error());
    ASSERT_TRUE(all->shapes && all->axes);
    EXPECT_EQ(all->shape_parts.size(), 2U);
    ASSERT_EQ(all->axis_parts.size(), 1U);
    EXPECT_EQ(now.parts()[all->axis_parts[0]].taken->element.name, "bar");
    EXPECT_NEAR(all->shapes->bounds.size().z, 2, 1e-9);
    const auto one = picture_of(now.parts(), {1, 0, 0}, plume::Run());
    ASSERT_TRUE(one);
    EXPECT_EQ(one->shape_parts, (std::vector<std::size_t>{0}));
    EXPECT_FALSE(one->axes);
}

// --- bad input

TEST_F(Receiving, WhatIsWrongWithAFileIsSaidAndItsPartsStay) {
    write("nests.ifc", boxes({1, 2}));
    taken();
    const std::string whole = *read_file(folder_ / "nests.ifc", 1'000'000);
    struct Case {
        std::string text;
        const char* says;
    };
    std::string without_identity = whole;
    without_identity.replace(without_identity.find(identity_number(1)), 22, identity_number(0));
    std::string older = whole;
    older.replace(older.find("'IFC4'"), 6, "'IFC2X3'");
    for (const Case& one :
         {Case{"", "is empty"}, Case{"ISO-10303-21; nothing", "is no IFC file"},
          Case{older, "is of the schema IFC2X3, not IFC4"}, Case{test::hand_made_ifc({}), "has no element"},
          Case{without_identity, "has elements of one identity"}}) {
        std::ofstream(folder_ / "nests.ifc", std::ios::trunc) << one.text;
        const Arrival made = arrival();
        ASSERT_TRUE(made.files.at(0).error) << one.says;
        EXPECT_NE(sentence(*made.files.at(0).error).find(one.says), std::string::npos)
            << sentence(*made.files.at(0).error);
        EXPECT_NE(sentence(*made.files.at(0).error).find("‘nests.ifc’"), std::string::npos);
        EXPECT_EQ(names(taken()), (Names{"box 0", "box 1"}));
    }
    std::filesystem::remove(folder_ / "nests.ifc");
    EXPECT_EQ(arrival().missing, Names{"nests.ifc"});
    EXPECT_EQ(names(taken()), (Names{"box 0", "box 1"})) << "what was taken in stays";
}

TEST_F(Receiving, CutOffAnywhereAFileIsReadOrRefusedWithASentence) {
    const std::string whole = test::hand_made_ifc(boxes({1}));
    for (std::size_t size = 0; size < whole.size(); size += 97) {
        std::ofstream(folder_ / "cut.ifc", std::ios::trunc) << whole.substr(0, size);
        const auto file = take_file(folder_ / "cut.ifc", plume::Run());
        if (!file) {
            EXPECT_FALSE(sentence(file.error()).empty()) << size;
        }
    }
}

TEST_F(Receiving, ADamagedModelIsNamedAndLeftAlone) {
    write("nests.ifc", boxes({1}));
    taken();
    const auto path = folder_ / received_folder_name / "model.json";
    const std::string good = *read_file(path, 1'000'000);
    struct Case {
        std::string text;
        const char* says;
    };
    std::string other_part = good;
    other_part.replace(other_part.find(identity_number(0)), 22, identity_number(5));
    for (const Case& one : {Case{"{", "model.json"}, Case{"[]", "has to be an object"},
                            Case{R"({"plume_received": 2})", "newer version"},
                            Case{R"({"plume_received": 1, "parts": [{"identity": "a"}]})", "has no ‘copy’"},
                            Case{R"({"plume_received": 1, "reads_as": "ell"})", "which is no unit"},
                            Case{other_part, "not in the copy of its file"}}) {
        std::ofstream(path, std::ios::trunc) << one.text;
        const auto model = Received::open(folder_.path(), plume::Run());
        ASSERT_FALSE(model) << one.says;
        EXPECT_NE(sentence(model.error()).find(one.says), std::string::npos) << sentence(model.error());
        EXPECT_EQ(*read_file(path, 1'000'000), one.text);
    }
    std::filesystem::remove_all(folder_ / received_folder_name);
    EXPECT_EQ(names(taken()), Names{"box 0"}) << "made anew from the files, as the sentence says";
    // What it says comes back as it was.
    ReceivedModel model{
        {{"a", "x.ifc", {1, 2}, true}, {"b", "", {3, 4}, false}}, {{"x.ifc", {"c"}}}, LengthUnit::foot};
    const auto again = received_model_from_text(received_model_to_text(model));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_TRUE(*again == model);
}

TEST_F(Receiving, WithoutAFolderOrAPartThereIsASentence) {
    const auto nowhere = Received::open(folder_ / "nowhere", plume::Run());
    ASSERT_FALSE(nowhere);
    EXPECT_NE(sentence(nowhere.error()).find("is no folder"), std::string::npos);
    EXPECT_TRUE(arrival().files.empty()) << "an empty folder is no error";
    write("nests.ifc", boxes({1}));
    std::vector<HandMadePart> twins = boxes({1, 1});
    twins[0].name = twins[1].name = "twin";
    write("twins.ifc", {twins[1], {identity_number(2), "twin", "IFCWALL", test::box_of_triangles(1, 1, 1)}});
    taken();
    EXPECT_EQ(with_lock(here(), "box 9", true, plume::Run()).error().code, ErrorCode::unknown_name);
    EXPECT_EQ(with_lock(here(), "twin", true, plume::Run()).error().code, ErrorCode::name_clash);
    EXPECT_TRUE(with_lock(here(), identity_number(2), true, plume::Run()));
    EXPECT_EQ(with_others(here(), folder_ / "none.ifc", plume::Run()).error().code, ErrorCode::file_missing);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(look_at_arrival(here(), cancelled).error().code, ErrorCode::cancelled);
    // A folder that is gone half-way.
    const Received held = here();
    const Arrival looked = arrival();
    write("nests.ifc", boxes({2}));
    const Arrival newer = arrival();
    std::filesystem::remove_all(folder_.path());
    EXPECT_EQ(look_at_arrival(held, plume::Run()).error().code, ErrorCode::file_unreadable);
    EXPECT_FALSE(take_in(held, newer, plume::Run()));
    EXPECT_FALSE(std::filesystem::exists(folder_.path())) << "nothing is made up in its place";
    std::filesystem::remove_all(folder_.path());
}

// --- the demos, as they leave

class EveryDemoArrives : public Receiving, public testing::WithParamInterface<std::string> {};

TEST_P(EveryDemoArrives, WithTheShapesThatAreStated) {
    const auto study = load_study(std::filesystem::path(test::demo_folder) / (GetParam() + ".plume"));
    ASSERT_TRUE(study) << sentence(study.error());
    const Evaluation outcome = test::run(*study);
    const HandOffPlace place{folder_ / "study.plume", "2031-05-04", "14:20"};
    const auto plan = plan_hand_off(outcome, place, plume::Run());
    ASSERT_TRUE(plan) << sentence(plan.error());
    std::size_t models = 0;
    for (const HandOffEntry& entry : plan->entries) {
        if (!entry.file.ends_with(".ifc")) continue;
        const MomentSource moments = test::moments_of(**study);
        ASSERT_TRUE(hand_off(*plan, entry, moments, place, false, plume::Run())) << entry.file;
        ++models;
    }
    ASSERT_GT(models, 0U);
    auto here = Received::open(plan->folder, plume::Run());
    ASSERT_TRUE(here) << sentence(here.error());
    const auto looked = look_at_arrival(*here, plume::Run());
    ASSERT_TRUE(looked);
    here = take_in(*here, *looked, plume::Run());
    ASSERT_TRUE(here) << sentence(here.error());
    std::size_t in_files = 0;
    for (const ArrivedFile& file : looked->files) {
        ASSERT_TRUE(file.file) << sentence(*file.error);
        in_files += file.file->parts.size();
    }
    EXPECT_EQ(here->parts().size(), in_files);
    EXPECT_TRUE(doubts_about(*here).empty()) << doubts_about(*here).front();
    for (const Received::Part& part : here->parts())
        EXPECT_TRUE(part.area_m2() || part.length_m()) << part.taken->element.name;
}

INSTANTIATE_TEST_SUITE_P(Demos, EveryDemoArrives,
                         testing::Values("wing-canopy", "flight-tower", "ridge-roof", "reed-dome",
                                         "rookery-blocks", "scale-skin"));

}  // namespace
}  // namespace plume
