// The step that lets a sheet fall, from moment to moment.

#include "core/exchange/study_file.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

StudyPointer read(const std::string& page) {
    const auto study =
        study_from_text(R"({"plume": 1, "time": {"seconds": 2, "rate": 30}, "page": [)" + page + "]}");
    EXPECT_TRUE(study) << sentence(study.error());
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

// A cloth of 1 m with 8 by 8 faces 1 m up, rippled a little, its corners held; and the fall with these slots.
StudyPointer hung(const std::string& slots = {}, const std::string& held = R"("at": "corners")") {
    return read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "points.move_formula", "result": "lifted", "slots": {"points": {"result": "weave"},
        "formula": "to_z = 1 m + sin(360° * (x + 2 * y) / 0.7 m) * 2 mm"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "lifted"}, "surface": "flat"}},
      {"step": "points.move_formula", "result": "lower", "slots": {"points": {"result": "weave"}, "formula": "to_z = 0.8 m"}},
      {"step": "skin", "result": "table", "slots": {"points": {"result": "lower"}, "surface": "flat"}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, )" +
                held + R"(}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"})" +
                slots + "}}");
}

class DrapeSteps : public testing::Test {
protected:
    Evaluation at(const StudyPointer& study, double seconds, ResultStore* store = nullptr) {
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.store = store ? store : &store_;
        plan.moment = moment_at(study->time, seconds);
        return evaluate(study, plan, plume::Run());
    }
    Mesh mesh_at(const StudyPointer& study, double seconds) {
        return std::get<Mesh>(test::value_of(at(study, seconds), "fallen"));
    }
    static double lowest(const Mesh& mesh) { return mesh.bounds().low.z; }
    static double most(const Mesh& mesh, const char* number) {
        const auto field = std::ranges::find(mesh.fields(), number, &Field::name);
        double most = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
            most = std::max(most, field->values[vertex]);
        return most;
    }
    ResultStore store_{200'000'000};
};

TEST_F(DrapeSteps, ItFallsFromMomentToMomentAndStaysWhereItIsHeld) {
    const StudyPointer study = hung();
    const Mesh first = mesh_at(study, 0), later = mesh_at(study, 1);
    EXPECT_NEAR(lowest(first), 1, 3e-3);
    EXPECT_LT(lowest(later), 0.97);
    for (const std::size_t corner : {0U, 8U, 72U, 80U})
        EXPECT_NEAR(length(later.vertex(corner) - first.vertex(corner)), 0, 1e-12);
    EXPECT_GT(most(later, "strain"), 0);
    EXPECT_LT(most(later, "strain"), 0.05);
    EXPECT_NE(test::remarks_of(at(study, 1), "fallen").find("longer than at rest"), std::string::npos);
}

TEST_F(DrapeSteps, ScrubbedOrPlayedItIsTheSame) {
    const StudyPointer study = hung();
    std::vector<double> played;
    for (int frame = 0; frame <= 20; ++frame)
        played.push_back(lowest(mesh_at(study, frame / 30.0)));
    ResultStore another(200'000'000);
    for (const int frame : {20, 7, 13})
        EXPECT_EQ(lowest(std::get<Mesh>(test::value_of(at(study, frame / 30.0, &another), "fallen"))),
                  played[static_cast<std::size_t>(frame)]);
}

TEST_F(DrapeSteps, EveryClothFallsItsOwnWay) {
    std::set<double> lows;
    for (const char* cloth : {"silk", "linen", "felt", "rubber", "card"})
        lows.insert(lowest(mesh_at(hung(R"(, "cloth": ")" + std::string(cloth) + "\""), 1)));
    EXPECT_EQ(lows.size(), 5U);
    EXPECT_GT(*lows.rbegin() - *lows.begin(), 0.02) << "card hangs less than rubber";
}

TEST_F(DrapeSteps, EdgesAreAsLongAsThoseOfAnotherMesh) {
    // Moved to handles that stand nearer its corners are; its edges stay as long as they were.
    const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "attractors.points", "result": "posts", "slots": {"places": [
        {"name": "a", "x": "-0.5 m", "y": "-0.5 m", "z": "0 m"},
        {"name": "b", "x": "0.5 m", "y": "0.5 m", "z": "0 m", "keys": [
          {"at": 0, "x": "0.5 m", "y": "0.5 m", "z": "0 m"}, {"at": 1, "x": "0.1 m", "y": "0.1 m", "z": "0.2 m"}]}]}},
      {"step": "time.keep", "result": "first", "slots": {"thing": {"result": "posts"}, "seconds": 0}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, "at": "near",
        "spots": {"result": "first"}, "moved": "onto", "targets": {"result": "posts"}}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "lengths": "of", "rest": {"result": "cloth"}}})");
    const Mesh later = mesh_at(study, 1.5);
    EXPECT_NEAR(length(later.vertex(80) - Vec3{0.1, 0.1, 0.2}), 0, 1e-9) << "the same corner all the time";
    EXPECT_LT(most(later, "strain"), 0.1);
    EXPECT_LT(lowest(later), -0.3);
}

TEST_F(DrapeSteps, WindInflationGroundAndFormsCount) {
    const double still = lowest(mesh_at(hung(), 1));
    EXPECT_GT(mesh_at(hung(R"(, "blown": "wind", "wind": 12)"), 1).bounds().high.x,
              mesh_at(hung(), 1).bounds().high.x - 1e-9);
    EXPECT_NE(lowest(mesh_at(hung(R"(, "blown": "wind", "wind": 12)"), 1)), still);
    EXPECT_GT(mesh_at(hung(R"(, "blown": "inflated", "pressure": 20)"), 1).bounds().high.z, 1.02);
    const std::string loose = R"("at": "where", "formula": "x < 0.4 m", "firmness": 0.001)";
    EXPECT_GT(lowest(mesh_at(hung(R"(, "below": "ground", "height": "0.9 m")", loose), 1.5)), 0.9);
    EXPECT_GT(lowest(mesh_at(hung(R"(, "touching": "form", "form": {"result": "table"})", loose), 0.5)), 0.8)
        << "it lies on the table";
}

TEST_F(DrapeSteps, ABodyIsFallenOnAsItsMeshIs) {
    const std::string loose = R"("at": "where", "formula": "x < 0.4 m", "firmness": 0.001)";
    const std::string cloth = R"(, "touching": "form", "form": {"result": ")";
    const StudyPointer plain = hung(cloth + "table\"}", loose);
    Study bodied = *hung(cloth + "board\"}", loose);
    Step board;
    board.id = 99;
    board.name = "board";
    board.kind = "body.thicken";
    board.slots["surface"] = ResultName{"table"};
    board.slots["by"] = NumberText{"2 cm"};
    bodied.items.insert(bodied.items.end() - 2, Item(std::make_shared<const Step>(board)));
    const auto on_body = std::make_shared<const Study>(in_form(bodied, standard_catalogue()));
    const Mesh fallen = mesh_at(on_body, 0.5);
    EXPECT_GT(lowest(fallen), 0.8);
    EXPECT_LT(lowest(fallen), lowest(mesh_at(plain, 0.5)) + 0.021) << "at most as much higher as it is thick";
}

// A table of 1 m whose board reaches 3 cm higher than the cloth is at first.
TEST_F(DrapeSteps, WhatBeginsInsideAFormIsLedOutOfIt) {
    const auto laid = [&](const std::string& held) {
        return read(R"(
          {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 20, "rows": 20, "width": "2 m", "depth": "2 m"}},
          {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
          {"step": "lattice.rectangular", "result": "top", "slots": {"columns": 1, "rows": 1, "width": "0.96 m", "depth": "0.96 m"}},
          {"step": "skin", "result": "plate", "slots": {"points": {"result": "top"}, "surface": "flat"}},
          {"step": "body.thicken", "result": "board", "slots": {"surface": {"result": "plate"}, "by": "0.4 m"}},
          {"step": "thing.move", "result": "table", "slots": {"thing": {"result": "board"}, "x": "0 m", "y": "0 m", "z": "-0.17 m"}},
          {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, )" +
                    held + R"(}},
          {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "cloth": "linen",
            "thickness": "5 mm", "touching": "form", "form": {"result": "table"}}})");
    };
    const auto inside = [](const Mesh& mesh) {
        std::size_t count = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
            const Vec3 at = mesh.vertex(vertex);
            if (std::abs(at.x) < 0.48 && std::abs(at.y) < 0.48 && at.z < 0.03 && at.z > -0.37) ++count;
        }
        return count;
    };
    const StudyPointer study = laid(R"("at": "corners")");
    const Mesh first = mesh_at(study, 0), later = mesh_at(study, 1);
    EXPECT_NE(test::remarks_of(at(study, 0), "fallen").find("81 points begin inside the form"),
              std::string::npos)
        << test::remarks_of(at(study, 0), "fallen");
    EXPECT_EQ(inside(first), 0U);
    EXPECT_NEAR(first.bounds().high.z, 0.035, 1e-9) << "as far out of the board as the cloth is thick";
    EXPECT_EQ(inside(later), 0U);
    EXPECT_LT(lowest(later), -0.1) << "its rim hangs";
    EXPECT_LT(most(later, "strain"), 0.1);
    // What is held firmly stays where it is.
    const StudyPointer held = laid(R"("at": "where", "formula": "abs(x) < 0.05 m")");
    EXPECT_EQ(inside(mesh_at(held, 0)), 9U);
    EXPECT_NE(test::remarks_of(at(held, 0), "fallen").find("9 points that are held firmly begin inside"),
              std::string::npos)
        << test::remarks_of(at(held, 0), "fallen");
    EXPECT_TRUE(is_finite(mesh_at(held, 0.5).bounds().low));
}

// A cloth of 1 m with 8 by 8 faces, through which an open form goes that was moved by a formula.
StudyPointer gone_through(const std::string& size, const std::string& moved, const std::string& held) {
    return read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "lattice.rectangular", "result": "plan", "slots": {"columns": 1, "rows": 1, "width": ")" +
                size + R"(", "depth": ")" + size + R"("}},
      {"step": "points.move_formula", "result": "moved", "slots": {"points": {"result": "plan"}, "formula": ")" +
                moved + R"("}},
      {"step": "skin", "result": "form", "slots": {"points": {"result": "moved"}, "surface": "flat"}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, )" +
                held + R"(}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "thickness": "5 mm",
        "touching": "form", "form": {"result": "form"}}})");
}

TEST_F(DrapeSteps, WhatBeginsThroughAnOpenFormGoesToTheSideWhereMostOfItIs) {
    // A slope that leaves two columns of nine points below it.
    const auto sloped = [&](const std::string& held) {
        return gone_through("3 m", "to_z = 0.1 * (x - 0.3 m)", held);
    };
    const auto above = [](Vec3 at) { return (at.z - 0.1 * (at.x - 0.3)) / std::sqrt(1.01); };
    const StudyPointer free = sloped(R"("at": "where", "formula": "x < -0.45 m")");
    const Mesh first = mesh_at(free, 0), later = mesh_at(free, 0.5);
    const std::string told = test::remarks_of(at(free, 0), "fallen");
    EXPECT_NE(told.find("18 points begin on the other side of the form"), std::string::npos) << told;
    EXPECT_EQ(told.find("through the form"), std::string::npos) << told;
    std::size_t led = 0;
    for (std::size_t vertex = 0; vertex < first.vertex_count(); ++vertex) {
        const Vec3 begun = first.vertex(vertex);
        if (std::abs(above(begun) - 0.005) < 1e-12) ++led;
        EXPECT_GT(above(begun), 0.0049);
        EXPECT_GT(above(later.vertex(vertex)), 0);
    }
    EXPECT_EQ(led, 18U) << "as far over it as the cloth is thick";

    // Two of its corners are held below, two edges of each go through.
    const StudyPointer tied = sloped(R"("at": "corners")");
    const std::string held = test::remarks_of(at(tied, 0), "fallen");
    EXPECT_NE(held.find("16 points begin on the other side"), std::string::npos) << held;
    EXPECT_NE(held.find("2 points that are held firmly begin on the other side"), std::string::npos) << held;
    EXPECT_NE(held.find("4 edges of it go through the form from the beginning"), std::string::npos) << held;
    EXPECT_TRUE(is_finite(mesh_at(tied, 0.5).bounds().low));
}

TEST_F(DrapeSteps, AFormThatGoesThroughAFaceIsTold) {
    // A strip that stands upright within one of its faces.
    const StudyPointer study =
        gone_through("4 cm", R"(to_x = x - 0.04 m\nto_y = -0.06 m\nto_z = 10 * y)", R"("at": "corners")");
    const std::string told = test::remarks_of(at(study, 0), "fallen");
    EXPECT_NE(told.find("2 sides of the form go through it from the beginning"), std::string::npos) << told;
    EXPECT_EQ(told.find("edge"), std::string::npos) << told;
    EXPECT_TRUE(is_finite(mesh_at(study, 0.5).bounds().low));
}

// A tray that rises by six times the thickness of the cloth a moment, and one that ripples as well.
TEST_F(DrapeSteps, AFormThatMovesCarriesItAndOneThatBendsSaysThatItMayNot) {
    const auto on_tray = [](const std::string& height) {
        return read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "points.move_formula", "result": "lifted", "slots": {"points": {"result": "weave"},
        "formula": "to_z = 1 m + sin(360° * (x + 2 * y) / 0.7 m) * 2 mm"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "lifted"}, "surface": "flat"}},
      {"step": "lattice.rectangular", "result": "wide", "slots": {"columns": 8, "rows": 8, "width": "3 m", "depth": "3 m"}},
      {"step": "points.move_formula", "result": "lower", "slots": {"points": {"result": "wide"}, "formula": "to_z = )" +
                    height + R"("}},
      {"step": "skin", "result": "tray", "slots": {"points": {"result": "lower"}, "surface": "flat"}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "cloth"}, "touching": "form",
        "form": {"result": "tray"}}})");
    };
    const StudyPointer rising = on_tray("0.6 m + 0.9 m * time + 0.1 * x");
    const Mesh cloth = mesh_at(rising, 1);
    for (std::size_t vertex = 0; vertex < cloth.vertex_count(); ++vertex) {
        const Vec3 at = cloth.vertex(vertex);
        EXPECT_GT(at.z, 1.5 + 0.1 * at.x) << vertex;
    }
    EXPECT_EQ(test::remarks_of(at(rising, 1), "fallen").find("another shape"), std::string::npos);
    const StudyPointer rippling = on_tray("0.6 m + 0.1 m * sin(360° * (x / 1 m + time))");
    EXPECT_NE(test::remarks_of(at(rippling, 0.2), "fallen").find("! The form has another shape"),
              std::string::npos)
        << test::remarks_of(at(rippling, 0.2), "fallen");
}

TEST_F(DrapeSteps, ItIsAtRestWhereNothingMovesByMoreThanIsSaid) {
    const StudyPointer calm = hung(R"(, "still": 20)"), never = hung(R"(, "still": 0)");
    const auto rests_at = [&](const StudyPointer& study, int frame) {
        return test::remarks_of(at(study, frame / 30.0), "fallen").find("It is at rest") != std::string::npos;
    };
    int frame = 1;
    while (frame < 300 && !rests_at(calm, frame))
        ++frame;
    ASSERT_LT(frame, 300);
    EXPECT_GT(frame, 5);
    const Mesh before = mesh_at(calm, (frame - 1) / 30.0), then = mesh_at(calm, frame / 30.0),
               later = mesh_at(calm, (frame + 30) / 30.0);
    EXPECT_EQ(vertex_places(then), vertex_places(before)) << "it stays where it is";
    EXPECT_EQ(vertex_places(later), vertex_places(before));
    EXPECT_EQ(most(then, "speed_z"), 0);
    EXPECT_FALSE(rests_at(never, frame));
}

// What a window goes on from: what holds a sheet may change, the sheet may not.
TEST_F(DrapeSteps, AnotherSheetBeginsAgainAndAnotherHoldGoesOn) {
    const StepKind& kind = *standard_catalogue().find("sheet.drape");
    const auto inputs = [&](const StudyPointer& study) { return at(study, 0).outcome("fallen")->inputs; };
    const auto hanging = inputs(hung());
    EXPECT_EQ(kind.begins_again(*hanging, *inputs(hung(R"(, "cloth": "card", "blown": "wind")"))), "");
    EXPECT_EQ(kind.begins_again(*hanging, *inputs(hung("", R"("at": "border")"))), "");
    EXPECT_EQ(kind.begins_again(*hanging, *inputs(hung(R"(, "lengths": "of", "rest": {"result": "table"})"))),
              "What falls has another form than before.");
    Study finer = *hung();
    auto weave = std::make_shared<Step>(*finer.step("weave"));
    weave->slots["columns"] = NumberText{"9"};
    finer.items.front() = Item(std::shared_ptr<const Step>(weave));
    EXPECT_EQ(kind.begins_again(*hanging, *inputs(std::make_shared<const Study>(finer))),
              "What falls is put together otherwise than before.");
}

TEST_F(DrapeSteps, StrainIsMeasuredEdgeByEdge) {
    // Twice as wide, and half as deep: edges along x are 100 % longer, across 50 % shorter.
    const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 3, "rows": 2, "width": "3 m", "depth": "2 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "points.move_formula", "result": "pulled", "slots": {"points": {"result": "weave"},
        "formula": {"formula": ["to_x = 2 * x", "to_y = y / 2"]}}},
      {"step": "skin", "result": "wide", "slots": {"points": {"result": "pulled"}, "surface": "flat"}},
      {"step": "lattice.rectangular", "result": "finer", "slots": {"columns": 4, "rows": 2}},
      {"step": "skin", "result": "other", "slots": {"points": {"result": "finer"}, "surface": "flat"}},
      {"step": "sheet.strain", "result": "strain", "slots": {"sheet": {"result": "wide"}, "rest": {"result": "cloth"}}},
      {"step": "sheet.strain", "result": "unlike", "slots": {"sheet": {"result": "wide"}, "rest": {"result": "other"}}},
      {"step": "sheet.strain", "result": "none", "slots": {"sheet": {"result": "wide"}, "rest": {"result": "wide"}}})");
    const Evaluation made = at(study, 0);
    const BarFrame frame = std::get<BarFrame>(test::value_of(made, "strain"));
    ASSERT_EQ(frame.member_count(), 3U * 3 + 4 * 2);
    for (std::size_t at = 0; at < frame.member_count(); ++at) {
        const Vec3 along = frame.end(frame.members()[at]) - frame.start(frame.members()[at]);
        EXPECT_NEAR(frame.fields().back().values[at], std::abs(along.x) > 0.1 ? 1 : -0.5, 1e-12);
    }
    EXPECT_NE(test::remarks_of(made, "strain").find("Edges are at most 100 % ("), std::string::npos);
    EXPECT_NE(test::remarks_of(made, "strain").find("longer and 50 % ("), std::string::npos);
    EXPECT_EQ(test::error_of(made, "unlike").slot, "rest");
    EXPECT_NE(test::remarks_of(made, "none").find("at most 0 % ("), std::string::npos);
}

// A fringe of five threads of 12 pieces, 60 cm long and level, their first pieces held.
class ThreadSteps : public DrapeSteps {
protected:
    static StudyPointer fringe(const std::string& slots = {}, const std::string& table = "to_z = -20 cm") {
        return read(R"(
      {"step": "lattice.rectangular", "result": "ground", "slots": {"columns": 4, "rows": 12, "width": "40 cm", "depth": "60 cm"}},
      {"step": "frame.lattice", "result": "threads", "slots": {"points": {"result": "ground"}, "ways": "j"}},
      {"step": "points.move_formula", "result": "lower", "slots": {"points": {"result": "ground"}, "formula": ")" +
                    table + R"("}},
      {"step": "skin", "result": "table", "slots": {"points": {"result": "lower"}, "surface": "flat"}},
      {"step": "frame.lattice", "result": "net", "slots": {"points": {"result": "lower"}}},
      {"step": "attractors.points", "result": "lamp", "slots": {"places": [{"name": "a", "x": "1 m", "y": "0 m", "z": "0 m"}]}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "threads"}, "at": "named", "addresses": "*,0 *,1"}},
      {"step": "threads.drop", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "thickness": "8 mm")" +
                    slots + "}}");
    }
    BarFrame frame_at(const StudyPointer& study, double seconds) {
        return std::get<BarFrame>(test::value_of(at(study, seconds), "fallen"));
    }
    double lowest_at(const StudyPointer& study, double seconds) {
        return frame_at(study, seconds).nodes().bounds().low.z;
    }
};

TEST_F(ThreadSteps, TheySwingDownFromWhatHoldsThem) {
    const BarFrame first = frame_at(fringe(), 0), later = frame_at(fringe(), 0.6);
    EXPECT_EQ(first.member_count(), 5U * 12);
    EXPECT_LT(later.nodes().bounds().low.z, -0.3);
    for (std::size_t top = 0; top < 10; ++top)
        EXPECT_EQ(later.nodes().point(top), first.nodes().point(top));
    const auto strain = std::ranges::find(later.fields(), "strain", &Field::name);
    ASSERT_NE(strain, later.fields().end());
    for (std::size_t at = 0; at < later.member_count(); ++at) {
        const double now = later.length_of(later.members()[at]);
        EXPECT_NEAR(strain->values[at], now / 0.05 - 1, 1e-9);
        EXPECT_LT(std::abs(strain->values[at]), 0.1);
    }
    EXPECT_NE(later.nodes().field("speed_z"), nullptr);
}

TEST_F(ThreadSteps, EachFallsItsOwnWay) {
    std::set<double> lows;
    for (const char* cord : {"wool", "hemp", "rubber", "reed", "willow"})
        lows.insert(lowest_at(fringe(R"(, "cord": ")" + std::string(cord) + "\""), 0.5));
    EXPECT_EQ(lows.size(), 5U);
    EXPECT_GT(*lows.rbegin() - *lows.begin(), 0.1) << "willow stands out where wool hangs";
    const double plain = lowest_at(fringe(), 0.5);
    EXPECT_GT(frame_at(fringe(R"(, "falls": "up")"), 0.5).nodes().bounds().high.z, 0.2);
    EXPECT_NEAR(lowest_at(fringe(R"(, "falls": "nowhere")"), 0.5), 0, 1e-9);
    EXPECT_GT(frame_at(fringe(R"(, "falls": "along", "bearing": "0°", "slope": "0°")"), 0.5)
                  .nodes()
                  .bounds()
                  .high.x,
              0.4);
    EXPECT_GT(frame_at(fringe(R"(, "blown": "wind", "wind": 20)"), 0.5).nodes().bounds().high.x, 0.3);
    EXPECT_GT(
        frame_at(fringe(R"(, "drawn": "to", "attractors": {"result": "lamp"}, "pull": 500, "reach": "3 m")"),
                 0.3)
            .nodes()
            .bounds()
            .high.x,
        0.25);
    EXPECT_GT(lowest_at(fringe(R"(, "below": "ground", "height": "-10 cm")"), 0.6), -0.1);
    EXPECT_GT(lowest_at(fringe(R"(, "touching": "form", "form": {"result": "table"})"), 0.6), -0.2 - 1e-9);
    EXPECT_LT(lowest_at(fringe(R"(, "grows": "by", "formula": "0.5")"), 0.6), plain - 0.05);
}

// A wall between the last two pieces of each and the others, which leans by 45 degrees.
TEST_F(ThreadSteps, WhatBeginsThroughAFormGoesToTheSideWhereMostOfItIs) {
    const auto walled = [&](const char* wall) {
        return fringe(R"(, "touching": "form", "form": {"result": "table"})", wall);
    };
    const StudyPointer leaning = walled(R"(to_x = 2 * x\nto_y = 22 cm + y\nto_z = y)");
    const std::string told = test::remarks_of(at(leaning, 0), "fallen");
    EXPECT_NE(told.find("10 points begin on the other side of the form"), std::string::npos) << told;
    EXPECT_EQ(told.find("through the form"), std::string::npos) << told;
    // Their ends were 8 cm along the thread beyond it, and are 8 mm off it, as thick as they are.
    const Vec3 end = frame_at(leaning, 0).nodes().bounds().high;
    EXPECT_NEAR(end.y, 0.3 - 0.04 - 0.008 / std::sqrt(2.0), 1e-12);
    EXPECT_NEAR(end.z, 0.04 + 0.008 / std::sqrt(2.0), 1e-12);
    const BarFrame later = frame_at(leaning, 0.5);
    for (std::size_t node = 0; node < later.nodes().point_count(); ++node)
        EXPECT_LT(later.nodes().point(node).y - later.nodes().point(node).z, 0.22);
    // Straight across one that stands upright their ends would come to lie on each other.
    const StudyPointer upright = walled(R"(to_x = 2 * x\nto_y = 22 cm\nto_z = y)");
    const std::string stays = test::remarks_of(at(upright, 0), "fallen");
    EXPECT_NE(stays.find("10 points begin on the other side of the form than most of it, and stay there"),
              std::string::npos)
        << stays;
    EXPECT_NE(stays.find("5 edges of it go through the form"), std::string::npos) << stays;
    EXPECT_TRUE(is_finite(frame_at(upright, 0.5).nodes().bounds().low));
}

TEST_F(ThreadSteps, BadOnesAreTold) {
    const auto told = [&](const std::string& slots) {
        return test::error_of(at(fringe(slots), 0), "fallen");
    };
    EXPECT_EQ(told(R"(, "lengths": "of", "rest": {"result": "net"})").slot, "rest");
    EXPECT_EQ(told(R"(, "grows": "by", "formula": "-1")").slot, "formula");
    StudyPointer thin = fringe();
    Study changed = *thin;
    auto step = std::make_shared<Step>(*changed.step("fallen"));
    step->slots["thickness"] = NumberText{"0 m"};
    changed.items.back() = Item(std::shared_ptr<const Step>(step));
    EXPECT_EQ(test::error_of(at(std::make_shared<const Study>(changed), 0), "fallen").slot, "thickness");
}

// Without a ground and held nowhere but softly, a second in each direction.
TEST_F(DrapeSteps, ItFallsAnyWay) {
    const double first = lowest(mesh_at(hung(), 0));
    EXPECT_LT(lowest(mesh_at(hung(), 1)), first - 0.02);
    EXPECT_GT(mesh_at(hung(R"(, "falls": "up")"), 1).bounds().high.z, first + 0.02);
    EXPECT_NEAR(lowest(mesh_at(hung(R"(, "falls": "nowhere")"), 1)), first, 5e-3);
    const std::string edge = R"("at": "where", "formula": "x < -0.49 m")";
    const Mesh beside = mesh_at(hung(R"(, "falls": "along", "bearing": "90°", "slope": "0°")", edge), 1.5);
    EXPECT_GT(beside.bounds().high.y, 0.6) << "it swings level, across what holds it";
    EXPECT_NEAR(lowest(beside), first, 0.1);
}

// Held at its border a sheet that grows has to go out of its plane: on a square of side a by about the
// a sqrt(share) / 2 or more of an arch as long.
TEST_F(DrapeSteps, ItGrowsByAFormula) {
    const std::string border = R"("at": "border")";
    const auto height = [&](const char* formula, double seconds) {
        const Mesh mesh =
            mesh_at(hung(R"(, "falls": "nowhere", "grows": "by", "formula": ")" + std::string(formula) + "\"",
                         border),
                    seconds);
        EXPECT_LT(most(mesh, "strain"), 0.12);
        return mesh.bounds().size().z;
    };
    EXPECT_LT(height("0", 1), 0.02);
    EXPECT_GT(height("0.2 * min(time, 1)", 1.5), 0.15);
    EXPECT_GT(height("0.2 * min(time, 1)", 1.5), 3 * height("0.2 * min(time, 1)", 0.1));
    EXPECT_EQ(test::error_of(at(hung(R"(, "grows": "by", "formula": "0 - 2")"), 0), "fallen").slot,
              "formula");
}

// A handle that stands a little off its point does not move that point before the sheet can follow.
TEST_F(DrapeSteps, ItBeginsWhereItWasAndFollowsWhatHoldsIt) {
    const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "attractors.points", "result": "handle", "slots": {"places": [{"name": "a", "x": "0.3 m", "y": "0.1 m", "z": "0.4 m", "weight": 1}]}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, "at": "near", "spots": {"result": "handle"}}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "lengths": "of", "rest": {"result": "cloth"}}})");
    const Mesh first = mesh_at(study, 0), later = mesh_at(study, 1);
    EXPECT_NEAR(first.bounds().high.z, 0, 1e-12);
    double nearest = 1;
    for (std::size_t vertex = 0; vertex < later.vertex_count(); ++vertex)
        nearest = std::min(nearest, length(later.vertex(vertex) - Vec3{0.3, 0.1, 0.4}));
    EXPECT_LT(nearest, 1e-9) << "it is there soon";
    EXPECT_LT(most(later, "strain"), 0.2);
}

TEST_F(DrapeSteps, AttractorsDrawIt) {
    const auto drawn = [&](const char* weight) {
        const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "cloth"}, "at": "border"}},
      {"step": "attractors.points", "result": "lamp", "slots": {"places": [
        {"name": "a", "x": "0 m", "y": "0 m", "z": "0.5 m", "weight": ")" +
                                        std::string(weight) + R"("}]}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "cloth": "rubber", "falls": "nowhere",
        "drawn": "to", "attractors": {"result": "lamp"}, "pull": 60, "reach": "1 m"}})");
        const Mesh mesh = mesh_at(study, 1);
        return mesh.vertex(40).z;
    };
    EXPECT_GT(drawn("1"), 0.02);
    EXPECT_NEAR(drawn("-1"), -drawn("1"), 0.3 * drawn("1")) << "a little less the farther away it is";
}

TEST_F(DrapeSteps, WhatNothingHoldsFallsByItsOwnSizeAndNoFarther) {
    const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 3, "rows": 3, "width": "0.5 m", "depth": "0.5 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "cloth"}}})");
    EXPECT_NE(test::remarks_of(at(study, 0), "fallen").find("Nothing holds it"), std::string::npos);
    const double low = lowest(mesh_at(study, 2));
    EXPECT_LT(low, -0.7);
    EXPECT_GT(low, -1.2);
    EXPECT_NE(test::remarks_of(at(study, 2), "fallen").find("stops here"), std::string::npos);
}

// One cloth hangs, another beside it is held nowhere.
TEST_F(DrapeSteps, APartThatNothingHoldsStopsByItself) {
    const StudyPointer study = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 4, "rows": 4, "width": "0.5 m", "depth": "0.5 m"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "thing.move", "result": "beside", "slots": {"thing": {"result": "cloth"}, "x": "2 m", "y": "0 m", "z": "0 m"}},
      {"step": "thing.join", "result": "both", "slots": {"first": {"result": "cloth"}, "second": {"result": "beside"}}},
      {"step": "forces.hold", "result": "tied", "slots": {"thing": {"result": "both"}, "at": "where", "formula": "x < -0.2 m"}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}}})");
    EXPECT_NE(test::remarks_of(at(study, 0), "fallen").find("1 part of it is held nowhere"),
              std::string::npos)
        << test::remarks_of(at(study, 0), "fallen");
    const auto lowest_of = [](const Mesh& mesh, bool held) {
        double low = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
            if ((mesh.vertex(vertex).x < 1) == held) low = std::min(low, mesh.vertex(vertex).z);
        return low;
    };
    const Mesh early = mesh_at(study, 1), late = mesh_at(study, 2);
    EXPECT_LT(lowest_of(early, false), -std::sqrt(0.5)) << "its diagonal";
    EXPECT_GT(lowest_of(early, false), -std::sqrt(0.5) - 0.2);
    EXPECT_NEAR(lowest_of(late, false), lowest_of(early, false), 1e-12) << "it stays there";
    EXPECT_NE(test::remarks_of(at(study, 2), "fallen").find("1 part of it that nothing holds fell"),
              std::string::npos)
        << test::remarks_of(at(study, 2), "fallen");
    EXPECT_LT(lowest_of(early, true), -0.2);
    EXPECT_NE(lowest_of(late, true), lowest_of(early, true)) << "the other goes on";
}

// It goes on to a form that it meets, past one that it misses, and up above a ground.
TEST_F(DrapeSteps, WhatIsLooseFallsOntoWhatItMeetsAndNoFarther) {
    const auto dropped = [](const std::string& aside, const std::string& slots) {
        return read(R"(
          {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 4, "rows": 4, "width": "0.3 m", "depth": "0.3 m"}},
          {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
          {"step": "thing.scale", "result": "large", "slots": {"thing": {"result": "cloth"}, "factor": "3"}},
          {"step": "thing.move", "result": "tray", "slots": {"thing": {"result": "large"}, "x": ")" +
                    aside + R"(", "y": "0 m", "z": "-1.5 m"}},
          {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "cloth"})" +
                    slots + "}}");
    };
    const std::string over = R"(, "touching": "form", "form": {"result": "tray"})";
    const Mesh caught = mesh_at(dropped("0 m", over), 2);
    EXPECT_GT(lowest(caught), -1.5) << "three times as far as it is long";
    EXPECT_LT(caught.bounds().high.z, -1.4);
    const double missed = lowest(mesh_at(dropped("4 m", over), 2));
    EXPECT_LT(missed, -1.5) << "past it";
    EXPECT_GT(missed, -2);
    const Mesh up = mesh_at(dropped("0 m", R"(, "falls": "up", "below": "ground", "height": "-1 m")"), 2);
    EXPECT_GT(up.bounds().low.z, 0.3 * std::sqrt(2));
    EXPECT_LT(up.bounds().high.z, 1);
}

// The cloth is 1 m up, and its ground 3 m; or the ground jumps there when half a second has passed.
TEST_F(DrapeSteps, WhatIsBelowItsGroundComesUpAndIsNotThrown) {
    const auto above = [&](const std::string& height, const std::string& ripple) {
        return read(R"(
          {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": 8, "rows": 8, "width": "1 m", "depth": "1 m"}},
          {"step": "points.move_formula", "result": "lifted", "slots": {"points": {"result": "weave"}, "formula": "to_z = 1 m + )" +
                    ripple + R"("}},
          {"step": "skin", "result": "cloth", "slots": {"points": {"result": "lifted"}, "surface": "flat"}},
          {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "cloth"}, "below": "ground", "height": ")" +
                    height + R"("}})");
    };
    const std::string ripple = "sin(360° * (x + 2 * y) / 0.7 m) * 2 mm";
    for (const char* height : {"3 m", "0.8 m + 2.2 m * floor(time + 0.5)"}) {
        const StudyPointer study = above(height, ripple);
        double highest = 0;
        for (int frame = 0; frame < 42; ++frame)
            highest = std::max(highest, mesh_at(study, frame / 30.0).bounds().high.z);
        EXPECT_GT(lowest(mesh_at(study, 1.4)), 3) << height;
        EXPECT_LT(highest, 3.05) << height;
        EXPECT_LT(most(mesh_at(study, 1.4), "strain"), 0.1) << height;
    }
    // One that is level comes up all of it at once, and is not at rest meanwhile.
    EXPECT_NEAR(lowest(mesh_at(above("2 m", "0 m"), 1.4)), 2.005, 1e-3);
    const auto told = [&](const StudyPointer& study) { return test::remarks_of(at(study, 0), "fallen"); };
    EXPECT_NE(told(above("3 m", ripple)).find("81 points begin below the ground, and come up"),
              std::string::npos);
    const std::string held = told(hung(R"(, "below": "ground", "height": "3 m")"));
    EXPECT_NE(held.find("77 points begin below"), std::string::npos) << held;
    EXPECT_NE(held.find("4 points that are held firmly begin below"), std::string::npos) << held;
}

TEST_F(DrapeSteps, WhatCannotFallIsSaid) {
    const auto error = [&](const std::string& slots) { return test::error_of(at(hung(slots), 0), "fallen"); };
    EXPECT_EQ(error(R"(, "thickness": "-1 mm")").slot, "thickness");
    EXPECT_EQ(error(R"(, "friction": "-1")").slot, "friction");
    const StudyPointer unlike = read(R"(
      {"step": "lattice.rectangular", "result": "weave", "slots": {"columns": "= 3 + floor(2 * time) * 1", "rows": 3}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "lattice.rectangular", "result": "other", "slots": {"columns": 2, "rows": 3}},
      {"step": "skin", "result": "rest", "slots": {"points": {"result": "other"}, "surface": "flat"}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "cloth"}}},
      {"step": "sheet.drape", "result": "wrong", "slots": {"sheet": {"result": "cloth"}, "lengths": "of", "rest": {"result": "rest"}}})");
    EXPECT_EQ(test::error_of(at(unlike, 0), "wrong").slot, "rest");
    EXPECT_TRUE(at(unlike, 0.4).outcome("fallen")->value);
    EXPECT_EQ(test::error_of(at(unlike, 0.5), "fallen").slot, "sheet") << "it has another count then";
    EXPECT_NE(
        test::remarks_of(at(hung(R"(, "thickness": "1 m")"), 0), "fallen").find("half of its shortest edge"),
        std::string::npos);
}

TEST_F(DrapeSteps, ItIsTheSameInOtherUnits) {
    const StudyPointer metres = hung();
    const StudyPointer feet = with_units(*metres, standard_catalogue(), {LengthUnit::foot, {}});
    EXPECT_NEAR(lowest(mesh_at(feet, 0.5)) * 0.3048, lowest(mesh_at(metres, 0.5)), 1e-6);
}

}  // namespace
}  // namespace plume
