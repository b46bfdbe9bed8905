// Every kind of step that reads a mesh, on meshes that are no sheets: three faces at an edge, faces of no
// size, a strip with one side, pieces that touch at a corner. Each is made, with numbers that are finite or
// said not to be, or refused in a sentence with a mend.

#include <cmath>

#include "core/catalogue/every_kind.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// Three leaves around one edge.
void add_book(StudyMaker& maker) {
    maker.add("lattice.rectangular", "page_points");
    maker.number("page_points", "columns", "3").number("page_points", "rows", "2");
    maker.word("page_points", "origin", "corner");
    maker.add("skin", "page_sheet");
    maker.set("page_sheet", "points", ResultName{"page_points"}).word("page_sheet", "surface", "flat");
    maker.add("thing.repeat", "pages");
    maker.set("pages", "thing", ResultName{"page_sheet"})
        .word("pages", "how", "turn")
        .word("pages", "axis", "y");
    maker.number("pages", "count", "3");
    maker.add("mesh.mend", "book");
    maker.set("book", "mesh", ResultName{"pages"})
        .word("book", "how", "weld")
        .number("book", "tolerance", "1 mm");
}

// Bent round and turned over once, its ends welded.
void add_strip(StudyMaker& maker) {
    maker.add("lattice.rectangular", "strip_points");
    maker.number("strip_points", "columns", "24").number("strip_points", "rows", "2");
    maker.number("strip_points", "width", "1 m").number("strip_points", "depth", "2 m");
    maker.add("points.move_formula", "strip_bent");
    maker.set("strip_bent", "points", ResultName{"strip_points"})
        .formula("strip_bent",
                 "turn = 360° * u\nout = 6 m + y * cos(turn / 2)\nto_x = out * cos(turn)\n"
                 "to_y = out * sin(turn)\nto_z = y * sin(turn / 2)");
    maker.add("skin", "strip_open");
    maker.set("strip_open", "points", ResultName{"strip_bent"}).word("strip_open", "surface", "flat");
    maker.add("mesh.mend", "strip");
    maker.set("strip", "mesh", ResultName{"strip_open"}).word("strip", "how", "weld");
}

// A sheet drawn together to a line.
void add_slivers(StudyMaker& maker) {
    maker.add("lattice.rectangular", "flat_points");
    maker.number("flat_points", "columns", "4").number("flat_points", "rows", "3");
    maker.add("points.move_formula", "line_points");
    maker.set("line_points", "points", ResultName{"flat_points"}).formula("line_points", "to_x = 0 m");
    maker.add("skin", "slivers");
    maker.set("slivers", "points", ResultName{"line_points"}).word("slivers", "surface", "flat");
}

// Two sheets with one corner in common.
void add_corner(StudyMaker& maker) {
    maker.add("thing.repeat", "steps_apart");
    maker.set("steps_apart", "thing", ResultName{"page_sheet"}).number("steps_apart", "count", "2");
    maker.number("steps_apart", "x", "36 m")
        .number("steps_apart", "y", "24 m")
        .number("steps_apart", "z", "0 m");
    maker.add("mesh.mend", "corner");
    maker.set("corner", "mesh", ResultName{"steps_apart"}).word("corner", "how", "weld");
}

const Mesh& mesh_called(const Evaluation& made, const char* name) {
    return std::get<Mesh>(*made.outcome(name)->value);
}

StudyMaker with_bad_meshes() {
    StudyMaker maker = test::ground(5, 4);
    add_book(maker);
    add_strip(maker);
    add_slivers(maker);
    add_corner(maker);
    return maker;
}

bool reads_meshes(const SlotSpec& slot) {
    return slot.type == SlotType::reference &&
           std::ranges::find(slot.accepts, Kind::mesh) != slot.accepts.end();
}

TEST(BadMeshes, AreWhatTheyAreCalled) {
    const Evaluation made = test::run(with_bad_meshes().study);
    for (const char* name : {"book", "strip", "slivers", "corner"})
        ASSERT_TRUE(made.outcome(name)->value) << name << ": " << sentence(*made.outcome(name)->error);
    EXPECT_EQ(mesh_called(made, "book").vertex_count(), 3U + 3 * 9) << "the spine is there once";
    EXPECT_EQ(mesh_called(made, "strip").vertex_count(), 24U * 3);
    EXPECT_EQ(mesh_called(made, "corner").vertex_count(), 23U);
}

TEST(BadMeshes, AreMadeOrRefusedByEveryStep) {
    const StudyMaker ground = with_bad_meshes();
    std::size_t asked = 0, made_of = 0;
    for (const StepKind& kind : standard_catalogue().kinds()) {
        if (test::reads_file(kind) || std::ranges::none_of(kind.slots, reads_meshes)) continue;
        for (const char* name : {"book", "strip", "slivers", "corner"}) {
            StudyMaker maker = test::with_subject(ground, kind);
            for (const SlotSpec& slot : kind.slots)
                if (reads_meshes(slot)) maker.set("subject", slot.key, ResultName{name});
            const Evaluation made = test::run(maker.study);
            const Outcome& outcome = *made.outcome("subject");
            const std::string what = kind.key + " of the " + name + ": ";
            ++asked;
            if (outcome.value) {
                ++made_of;
                bool said = false;
                for (const Remark& remark : outcome.remarks)
                    said = said || remark.text.find("finite") != std::string::npos;
                for (const double number : test::numbers_of(*outcome.value))
                    if (!std::isfinite(number) && !said) {
                        ADD_FAILURE() << what << "a number that is not finite, and nothing says so";
                        break;
                    }
            } else {
                EXPECT_NE(outcome.error->code, ErrorCode::broke_off) << what << sentence(*outcome.error);
                EXPECT_TRUE(outcome.error->mend.ends_with(".")) << what << sentence(*outcome.error);
                EXPECT_FALSE(outcome.error->slot.empty()) << what << sentence(*outcome.error);
            }
        }
    }
    EXPECT_GT(asked, 100U);
    EXPECT_GT(made_of, asked / 2);
}

}  // namespace
}  // namespace plume
