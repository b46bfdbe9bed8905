// STEP and IGES: what our writer makes of forms comes back as it was, and what cannot be read says so.

#include <cmath>
#include <fstream>
#include <numbers>

#include "core/base/file.hpp"
#include "core/base/helper_program.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/export_jobs.hpp"
#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/readers/exact_file.hpp"
#include "core/readers/files.hpp"
#include "folders.hpp"

namespace plume {
namespace {

using test::Folder;

constexpr const char* formats[] = {"it.step", "it.igs"};
constexpr double millimetre = 0.001;

ExactFile read(const std::filesystem::path& path) {
    auto file = read_exact_file(path, plume::Run());
    EXPECT_TRUE(file) << sentence(file.error());
    return file ? *std::move(file) : ExactFile{};
}
ExactFile there_and_back(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    return read(path);
}
Value from_example(const std::string& study, const std::string& result) {
    return test::value_of(test::run(*load_study(std::string(test::examples_folder) + '/' + study)), result);
}
Value from_demo(const std::string& study, const std::string& result) {
    return test::value_of(test::run(*load_study(std::string(test::demo_folder) + '/' + study)), result);
}

SplineCurve hand_made(bool rational) {
    SplineCurve::Parts parts;
    parts.basis.degree = 3;
    parts.basis.knots = {0, 0, 0, 0, 1.0 / 3, 0.7, 1, 1, 1, 1};
    parts.x = Doubles{0.1, 1.7, 2.2, 3.9, 5, 6};
    parts.y = Doubles{0, 1, 1.0 / 7, 1, 0, 2};
    parts.z = Doubles{0, 0.5, 1e-3, 2, 0, std::numbers::pi};
    if (rational) parts.weights = Doubles{1, 0.75, 1.0 / 3, 2, 1, 1};
    return *SplineCurve::make(std::move(parts));
}

TEST(ExactFile, SplinesKeepPolesKnotsAndWeights) {
    const Folder folder;
    for (const char* name : formats)
        for (const bool rational : {false, true}) {
            const SplineCurve curve = hand_made(rational);
            const ExactFile file =
                there_and_back(test::job_of(Value(CurveSet{{curve}}), "reed"), folder / name);
            ASSERT_EQ(file.parts.size(), 1U) << name;
            EXPECT_EQ(file.parts[0].name, "reed");
            ASSERT_EQ(file.parts[0].curves.size(), 1U) << name;
            const SplineCurve& back = file.parts[0].curves[0];
            ASSERT_EQ(back.basis().knots.size(), 10U) << name;
            for (std::size_t knot = 0; knot < 10; ++knot)
                EXPECT_NEAR(back.basis().knots[knot], curve.basis().knots[knot], 1e-12) << name;
            for (std::size_t pole = 0; pole < 6; ++pole) {
                EXPECT_NEAR(length(back.pole(pole) * millimetre - curve.pole(pole)), 0, 1e-12)
                    << name << pole;
                EXPECT_NEAR(back.weight(pole), curve.weight(pole), 1e-12) << name;
            }
        }
}

TEST(ExactFile, SurfacesKeepPolesAndKnots) {
    const Folder folder;
    const Value canopy = from_demo("wing-canopy.plume", "canopy");
    const SplinePatch& patch = std::get<SurfaceSet>(canopy).patches.front();
    for (const char* name : formats) {
        const ExactFile file = there_and_back(test::job_of(canopy, "canopy"), folder / name);
        ASSERT_EQ(file.parts.size(), 1U);
        ASSERT_EQ(file.parts[0].faces.size(), 1U);
        const SplinePatch& back = file.parts[0].faces[0];
        ASSERT_EQ(back.x().size(), patch.x().size());
        EXPECT_FALSE(back.trimmed());
        double off = 0;
        for (std::size_t pole = 0; pole < patch.x().size(); ++pole)
            off = std::max({off, std::abs(back.x()[pole] * millimetre - patch.x()[pole]),
                            std::abs(back.y()[pole] * millimetre - patch.y()[pole]),
                            std::abs(back.z()[pole] * millimetre - patch.z()[pole])});
        EXPECT_LT(off, 36 * 1e-12) << name;
        for (std::size_t knot = 0; knot < patch.u().knots.size(); ++knot)
            EXPECT_NEAR(back.u().knots[knot], patch.u().knots[knot], 1e-12) << name;
    }
}

TEST(ExactFile, TrimsStayTrims) {
    const Folder folder;
    const Value trimmed = from_example("surface.trim.plume", "open_boards");
    const double area = 24 - std::numbers::pi;
    for (const char* name : formats) {
        const ExactFile file = there_and_back(test::job_of(trimmed, "trimmed"), folder / name);
        SurfaceSet back;
        for (const ExactPart& part : file.parts)
            back.patches.insert(back.patches.end(), part.faces.begin(), part.faces.end());
        ASSERT_EQ(back.patches.size(), std::get<SurfaceSet>(trimmed).patches.size()) << name;
        EXPECT_TRUE(back.patches.front().trimmed());
        EXPECT_NEAR(*area_of(back, plume::Run()) * 1e-6, area, 1e-6 * area) << name;
    }
}

TEST(ExactFile, BodiesStayExactBodies) {
    const Folder folder;
    for (const auto& [study, result] :
         {std::pair{"body.between.plume", "plinth"}, {"body.thicken.plume", "wall"}}) {
        const Value body = from_example(study, result);
        const double volume = figures_of(std::get<SolidSet>(body)).volume;
        const ExactFile file = there_and_back(test::job_of(body, result), folder / "it.step");
        ASSERT_EQ(file.parts.size(), 1U);
        ASSERT_EQ(file.parts[0].solids.size(), 1U);
        const ExactSolid& solid = file.parts[0].solids[0];
        EXPECT_FALSE(solid.mesh);
        EXPECT_NEAR(exact_body(solid.patches, plume::Run(), solid.edges_within)->figures().volume * 1e-9,
                    volume, 1e-9 * volume);
        EXPECT_EQ(file.losses, std::vector<std::string>());
    }
}

// Where samples of trimmed faces would not meet, the kernel's closed mesh stands beside them.
TEST(ExactFile, BodiesOfTrimmedFacesStayExactWithAMeshBesides) {
    const Folder folder;
    const Value roof = from_demo("ridge-roof.plume", "roof");
    const BodyFigures figures = figures_of(std::get<SolidSet>(roof));
    const ExactFile file = there_and_back(test::job_of(roof, "roof"), folder / "it.step");
    ASSERT_EQ(file.parts.size(), 1U);
    ASSERT_EQ(file.parts[0].solids.size(), 1U);
    const ExactSolid& solid = file.parts[0].solids[0];
    ASSERT_TRUE(solid.mesh);
    EXPECT_EQ(solid.patches.size(), 8U);
    EXPECT_EQ(solid.mesh->part_count(), 8U);
    EXPECT_EQ(test::open_edges(*solid.mesh), 0U);
    EXPECT_NEAR(test::volume(*solid.mesh) * 1e-9, figures.volume, 2e-3 * figures.volume);
    EXPECT_EQ(file.losses, std::vector<std::string>());
    const Body body = *exact_body(solid.patches, plume::Run(), solid.edges_within, solid.mesh);
    EXPECT_NEAR(body.figures().volume * 1e-9, figures.volume, 1e-5 * figures.volume);
    EXPECT_NEAR(body.figures().area * 1e-6, figures.area, 1e-5 * figures.area);
    // Wherever it is moved, and on the other side of a mirror, it stays a closed body that looks outwards.
    const Affine maps[] = {scaled_about({}, {0.001, 0.001, 0.001}), turned_about({}, {0, 1, 1}, 1),
                           scaled_about({}, {-1, 1, 1})};
    for (const Affine& map : maps) {
        const Value moved = *transformed(Value(SolidSet{{body}}), map);
        const Body& there = std::get<SolidSet>(moved).bodies.front();
        EXPECT_TRUE(there.exact());
        const Result<Mesh> mesh = closed_mesh(there, 1000, plume::Run());
        ASSERT_TRUE(mesh) << sentence(mesh.error());
        EXPECT_EQ(test::open_edges(*mesh), 0U);
        const double volume = there.figures().volume;
        EXPECT_NEAR(volume, std::abs(map.determinant()) * body.figures().volume, 1e-9 * volume);
        EXPECT_NEAR(test::volume(*mesh), volume, 2e-3 * volume);
    }
    // And it goes out as the solid of trimmed faces that it came as.
    const Value in_metres = *transformed(Value(SolidSet{{body}}), maps[0]);
    const ExactFile again = there_and_back(test::job_of(in_metres, "roof"), folder / "it.step");
    ASSERT_EQ(again.parts[0].solids.size(), 1U);
    EXPECT_EQ(again.parts[0].solids[0].patches.size(), 8U);
}

// A box of planes, which become patches by themselves.
TEST(ExactFile, FacetsAreSolidsOfPlanes) {
    const Folder folder;
    const auto box = read_mesh_bytes(test::box_obj(), "box.obj", plume::Run());
    const SolidSet set{{*meshed_body(box->mesh)}};
    const ExactFile file = there_and_back(test::job_of(Value(set), "box"), folder / "it.step");
    ASSERT_EQ(file.parts.size(), 1U);
    ASSERT_EQ(file.parts[0].solids.size(), 1U);
    const ExactSolid& solid = file.parts[0].solids[0];
    ASSERT_EQ(solid.patches.size(), 6U);
    for (const SplinePatch& patch : solid.patches)
        EXPECT_FALSE(patch.trimmed());
    EXPECT_NEAR(exact_body(solid.patches, plume::Run())->figures().volume * 1e-9, 30, 1e-9);
}

TEST(ExactFile, UnitsOfTheFileAreConverted) {
    const Folder folder;
    const SplineCurve line = *line_between({0, 0, 0}, {2, 0, 0});
    for (const LengthUnit unit :
         {LengthUnit::inch, LengthUnit::foot, LengthUnit::metre, LengthUnit::millimetre})
        for (const char* name : formats) {
            const ExactFile file =
                there_and_back(test::job_of(Value(CurveSet{{line}}), "line", unit), folder / name);
            ASSERT_EQ(file.parts.size(), 1U) << name;
            EXPECT_NEAR(poles_box(file.parts[0].curves[0]).high.x, 2000, 1e-9) << name;
        }
}

TEST(ExactFile, AssembliesTellTheirParts) {
    const Folder folder;
    ExportJob job =
        test::job_of(Value(CurveSet{{hand_made(false), *line_between({0, 0, 0}, {1, 0, 0})}}), "reeds");
    const ExactFile file = there_and_back(job, folder / "it.step");
    ASSERT_EQ(file.parts.size(), 2U);
    EXPECT_EQ(file.parts[0].name, "reeds / reeds 0");
    EXPECT_EQ(file.parts[1].name, "reeds / reeds 1");
}

TEST(ExactFile, HandedOverItIsTheSame) {
    ExactFile file;
    ExactPart part;
    part.name = "shed / roof";
    part.curves = {hand_made(true)};
    part.solids.push_back({{}, 0.25, read_mesh_bytes(test::box_obj(), "box.obj", plume::Run())->mesh});
    file.parts = {part};
    file.losses = {"One was lost."};
    const std::string bytes = bytes_of(Result<ExactFile>(file));
    const auto back = exact_file_from(bytes);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->parts[0].name, "shed / roof");
    EXPECT_EQ(back->parts[0].curves[0].weights()[2], 1.0 / 3);
    EXPECT_EQ(back->parts[0].solids[0].mesh->face_count(), 6U);
    EXPECT_EQ(back->losses, file.losses);
    for (std::size_t size = 0; size < bytes.size(); ++size)
        EXPECT_FALSE(exact_file_from(std::string_view(bytes).substr(0, size))) << size;
    const auto error = exact_file_from(bytes_of(Error{ErrorCode::file_damaged, "", "is broken", "Mend it."}));
    EXPECT_EQ(sentence(error.error()), "is broken. Mend it.");
}

TEST(ExactFile, WhatCannotBeReadSaysSo) {
    const Folder folder;
    const auto error_of = [&](std::string_view bytes) {
        test::write(folder / "it.step", bytes);
        const auto file = read_exact_file(folder / "it.step", plume::Run());
        return file ? Error{} : file.error();
    };
    EXPECT_EQ(error_of("").code, ErrorCode::empty_input);
    EXPECT_EQ(sentence(error_of("Dear reserve,")),
              "is neither STEP nor IGES. Choose a file of STEP or IGES.");
    EXPECT_EQ(error_of("ISO-10303-21;").code, ErrorCode::file_damaged);
    EXPECT_EQ(
        error_of("ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=CARTESIAN_POINT('',(nan,0.,0.));\nENDSEC;\n")
            .code,
        ErrorCode::file_damaged);
    EXPECT_EQ(read_exact_file(folder / "gone.step", plume::Run()).error().code, ErrorCode::file_missing);
    ASSERT_TRUE(export_results(test::job_of(Value(CurveSet{{hand_made(false)}}), "reed"),
                               folder / "whole.step", plume::Run()));
    const std::string whole = *read_file(folder / "whole.step", 1'000'000);
    for (std::size_t size = whole.size() / 8; size < whole.size(); size += whole.size() / 8) {
        test::write(folder / "it.step", whole.substr(0, size));
        const auto file = read_exact_file(folder / "it.step", plume::Run());
        EXPECT_TRUE(!file || file->parts.size() <= 1) << size;
    }
}

// The product of a part is put into itself.
TEST(ExactFile, AssembliesWithinThemselvesHaveAnEnd) {
    const Folder folder;
    const Value two(CurveSet{{hand_made(false), *line_between({0, 0, 0}, {1, 0, 0})}});
    ASSERT_TRUE(export_results(test::job_of(two, "reeds"), folder / "it.step", plume::Run()));
    std::string text = *read_file(folder / "it.step", 1'000'000);
    const std::size_t use = text.find("NEXT_ASSEMBLY_USAGE_OCCURRENCE(");
    ASSERT_NE(use, std::string::npos);
    // The relating and the related product stand one after the other: #a,#b becomes #a,#a.
    const std::size_t relating = text.find('#', use), comma = text.find(',', relating),
                      related = text.find('#', comma);
    const std::string whole = text.substr(relating, comma - relating);
    text.replace(related, text.find_first_of(",)", related) - related, whole);
    test::write(folder / "ring.step", text);
    const auto file = read_exact_file(folder / "ring.step", plume::Run());
    EXPECT_TRUE(!file || file->parts.size() <= 2);
}

TEST(HelperProgram, WhatBreaksItIsAnError) {
    EXPECT_EQ(output_of_helper("no-such-program", {}, plume::Run()).error().code, ErrorCode::broke_off);
    EXPECT_EQ(output_of_helper("plume-exact-reader", {}, plume::Run()).error().code, ErrorCode::broke_off);
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(output_of_helper("plume-exact-reader", {"/dev/zero"}, run).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
