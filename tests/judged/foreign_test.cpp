// Files that programs wrote which nobody here made, read by our readers: assimp's meshes, ezdxf's drawings.

#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/readers/curve_file.hpp"
#include "core/readers/files.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;

TEST(Foreign, MeshesOfAnotherWriterAreClosedBoxes) {
    const Folder folder;
    test::write(folder / "hide.obj",
                "o hide\n" + test::box_obj() + "o jetty\n" + test::box_obj({10, 0, 0}, 8));
    for (const auto& [format, name] : {std::pair{"obj", "it.obj"},
                                       {"stl", "text.stl"},
                                       {"stlb", "it.stl"},
                                       {"ply", "text.ply"},
                                       {"plyb", "it.ply"},
                                       {"gltf2", "it.gltf"},
                                       {"glb2", "it.glb"}}) {
        test::output_of("assimp export '" + (folder / "hide.obj").string() + "' '" +
                        (folder / name).string() + "' -f" + format);
        const auto file = read_mesh_file(folder / name, plume::Run());
        ASSERT_TRUE(file) << format << ' ' << sentence(file.error());
        EXPECT_NEAR(test::volume(file->mesh), 60, 1e-4) << format;
        const Box box = file->mesh.bounds();
        EXPECT_NEAR(box.high.x, 12, 1e-6) << format;
        EXPECT_NEAR(box.high.z, 5, 1e-6) << format;
        // PLY shares no vertices there, since normals differ; the other formats are put together.
        if (std::string_view(format).starts_with("ply") || std::string_view(format) == "obj") continue;
        EXPECT_EQ(test::open_edges(file->mesh), 0U) << format;
        EXPECT_EQ(file->mesh.vertex_count(), 16U) << format;
    }
}

TEST(Foreign, DrawingsOfAnotherWriterHaveItsLengths) {
    const Folder folder;
    const auto told = test::judged("foreign.py", folder / "site.dxf");
    const auto file = read_curve_file(folder / "site.dxf", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    EXPECT_EQ(file->metres_per_unit, 0.001);
    ASSERT_EQ(file->curves.size(), told["lengths"].size());
    std::vector<double> ours, theirs = told["lengths"].get<std::vector<double>>();
    for (const SplineCurve& curve : file->curves)
        ours.push_back(CurveLength(curve).total());
    std::ranges::sort(ours);
    std::ranges::sort(theirs);
    // Its arcs are cubic pieces there, ours are exact.
    for (std::size_t at = 0; at < ours.size(); ++at)
        EXPECT_NEAR(ours[at], theirs[at], 3e-4 * theirs[at]) << at;
    EXPECT_EQ(file->losses, (std::vector<std::string>{"Left out, for they are no curves: 1 TEXT."}));
    EXPECT_EQ(std::ranges::count(file->layers, "jetty"), 1);
}

}  // namespace
}  // namespace plume
