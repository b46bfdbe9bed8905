// Files of meshes, lines and points as readers find them that nobody here made: assimp, gltf-validator, and
// two scripts that know nothing but zip, XML and the bytes of PLY.

#include <cmath>
#include <cstring>
#include <numbers>

#include "core/geometry/meshes/posts.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;
using test::judged;
using test::read_by_assimp;
using test::ReadFacets;

// Posts of six sides in a slanting row, no two alike, each with a height on its faces; closed.
Mesh posts() {
    std::vector<Post> all;
    for (double at = 0; at < 12; ++at) {
        Post post;
        post.placement = placement_of({2 * at, at, 0.5 * at}, unit_or_zero({0.1 * at, 0.2, 1}), {1, 0, 0});
        post.radius = 0.3 + 0.02 * at;
        post.height = 1 + 0.25 * at;
        post.turn_rad = at;
        all.push_back(post);
    }
    const Mesh mesh = *posts_mesh(all, {Footprint::polygon, 6}, plume::Run());
    Mesh::Parts parts = mesh.parts();
    Doubles heights(mesh.face_count());
    for (std::size_t face = 0; face < heights.size(); ++face)
        heights[face] = 1 + 0.25 * static_cast<double>(mesh.part_of(face));
    parts.face_fields = {{"post_height", std::move(heights), a_length}};
    return *Mesh::make(std::move(parts));
}
double posts_volume() {
    double volume = 0;
    for (int at = 0; at < 12; ++at)
        volume += 3 * std::sin(std::numbers::pi / 3) * std::pow(0.3 + 0.02 * at, 2) * (1 + 0.25 * at);
    return volume;
}

void write(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    ASSERT_TRUE(report) << sentence(report.error());
}

void expect_no_complaint(const std::filesystem::path& glb) {
    const auto report = judged("gltf.mjs", glb);
    ASSERT_TRUE(report.contains("issues"));
    EXPECT_EQ(report["issues"]["numErrors"], 0) << report["issues"].dump(1);
    EXPECT_EQ(report["issues"]["numWarnings"], 0) << report["issues"].dump(1);
}

// The half of a GLB file that is words.
nlohmann::json described(const std::filesystem::path& glb) {
    const std::string bytes = *read_file(glb, 10'000'000);
    std::uint32_t count = 0;
    std::memcpy(&count, bytes.data() + 12, sizeof count);
    return nlohmann::json::parse(bytes.substr(20, count));
}

void expect_box(const Box& is, const Box& wanted, double within) {
    EXPECT_LT(length(is.low - wanted.low), within);
    EXPECT_LT(length(is.high - wanted.high), within);
}
// Y up, as glTF has it.
Box turned_over(const Box& box, double scale) {
    Box turned;
    turned.include(Vec3{box.low.x, box.low.z, -box.high.y} * scale);
    turned.include(Vec3{box.high.x, box.high.z, -box.low.y} * scale);
    return turned;
}

TEST(JudgedMeshes, AssimpReadsTheSameFromEveryFormat) {
    const Folder folder;
    const Mesh mesh = posts();
    const double area = plume::area(mesh), size = mesh.bounds().diagonal();
    for (const char* name : {"p.obj", "p.stl", "p.ply", "p.glb"}) {
        SCOPED_TRACE(name);
        write(test::job_of(Value(mesh), "posts"), folder / name);
        const ReadFacets read = read_by_assimp(folder / name);
        EXPECT_NEAR(read.area(), area, 1e-6 * area);
        EXPECT_NEAR(read.volume(), posts_volume(), 2e-6 * posts_volume());
        const bool y_up = std::string(name) == "p.glb";
        expect_box(read.bounds(), y_up ? turned_over(mesh.bounds(), 1) : mesh.bounds(), 2e-6 * size);
    }
}

TEST(JudgedMeshes, UnitsAreConverted) {
    const Folder folder;
    const Mesh mesh = posts();
    ExportJob job = test::job_of(Value(mesh), "posts", LengthUnit::foot);
    for (const char* name : {"p.obj", "p.ply"}) {
        write(job, folder / name);
        EXPECT_NEAR(read_by_assimp(folder / name).volume(), posts_volume() / std::pow(0.3048, 3),
                    1e-5 * posts_volume() / std::pow(0.3048, 3));
    }
    // A study in feet: glTF has metres, 3MF millimetres.
    job.study_units.length = LengthUnit::foot;
    write(job, folder / "p.glb");
    EXPECT_NEAR(read_by_assimp(folder / "p.glb").volume(), posts_volume() * std::pow(0.3048, 3), 1e-6);
    write(job, folder / "p.3mf");
    const auto read = judged("threemf.py", folder / "p.3mf");
    double volume = 0;
    for (const auto& object : read["objects"])
        volume += object["volume"].get<double>();
    EXPECT_NEAR(volume, posts_volume() * std::pow(304.8, 3), 1e-6 * volume);
}

TEST(JudgedMeshes, GltfSharesPartsOfOneShapeAndNamesThem) {
    const Folder folder;
    ExportJob job = test::job_of(Value(posts()), "posts");
    job.results[0].show.colour_by = "-";
    write(job, folder / "p.glb");
    expect_no_complaint(folder / "p.glb");
    const auto info = judged("gltf.mjs", folder / "p.glb")["info"];
    EXPECT_EQ(info["drawCallCount"], 1) << "one mesh for all posts";
    EXPECT_EQ(info["totalTriangleCount"], 20);
    const std::string bytes = *read_file(folder / "p.glb", 1'000'000);
    EXPECT_NE(bytes.find("\"posts 11\""), std::string::npos);
    EXPECT_NE(bytes.find("\"post_height (m)\":3.75"), std::string::npos);
}

TEST(JudgedMeshes, GltfOfEveryFormIsAcceptedWithoutAWarning) {
    const Folder folder;
    const Evaluation canopy = test::run(test::canopy().study);
    ExportJob job{{}, {}, LengthUnit::metre};
    for (const Item& item : canopy.study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step ? canopy.outcome(step->id) : nullptr;
        if (outcome && outcome->value && form_of(*outcome->value) != WrittenForm::nothing)
            job.results.push_back({outcome->value, step->name, step->show});
    }
    ASSERT_GT(job.results.size(), 3U);
    job.results[0].show.material.key = "glass";
    // Numbers of faces that meet: each has corners of its own.
    Mesh::Parts folded;
    folded.x = Doubles{0, 1, 1, 0, 0, 1};
    folded.y = Doubles{0, 0, 1, 1, 0, 0};
    folded.z = Doubles{0, 0, 0, 0, 1, 1};
    folded.first = {0, 4, 8};
    folded.corners = {0, 1, 2, 3, 0, 4, 5, 1};
    folded.face_fields = {{"side", Doubles{1, 2}, plain_number}};
    folded.fields = {{"odd", Doubles{1, std::numeric_limits<double>::quiet_NaN(), 2, 3, 4, 5}, plain_number},
                     {"Größe", Doubles(6, 0.5), a_length}};
    job.results.push_back({std::make_shared<const Value>(*Mesh::make(std::move(folded))), "folded \"one\""});
    const auto report = export_results(job, folder / "all.glb", plume::Run());
    ASSERT_TRUE(report) << sentence(report.error());
    EXPECT_NE(report->find("odd, which is not finite"), std::string::npos) << *report;
    expect_no_complaint(folder / "all.glb");
}

// Parts that share their vertices tell numbers themselves; where vertices differ they share none.
TEST(JudgedMeshes, GltfLosesNoNumberSilently) {
    const Folder folder;
    Mesh::Parts parts = posts().parts();
    Doubles same(parts.x.size()), each(parts.x.size()), sides(parts.first.size() - 1);
    for (std::size_t at = 0; at < same.size(); ++at) {
        same[at] = static_cast<double>(at / 12);  // of twelve vertices a post
        each[at] = static_cast<double>(at);
    }
    for (std::size_t face = 0; face < sides.size(); ++face)
        sides[face] = static_cast<double>(face);
    parts.fields = {{"post", std::move(same), plain_number}};
    ExportJob job = test::job_of(*Mesh::make(parts), "posts");
    job.results[0].show.colour_by = "-";
    EXPECT_EQ(export_results(job, folder / "p.glb", plume::Run())->find("left out"), std::string::npos);
    const auto told = described(folder / "p.glb");
    EXPECT_EQ(told["meshes"].size(), 1U);
    std::set<double> numbers;
    for (const auto& node : told["nodes"])
        if (node.contains("mesh")) numbers.insert(node["extras"]["post"].get<double>());
    EXPECT_EQ(numbers.size(), 12U);
    parts.fields.push_back({"vertex", std::move(each), plain_number});
    parts.face_fields.push_back({"side", std::move(sides), plain_number});
    job = test::job_of(*Mesh::make(parts), "posts");
    job.results[0].show.colour_by = "-";
    const std::string report = *export_results(job, folder / "p.glb", plume::Run());
    EXPECT_NE(report.find("left out: the number side of faces, which varies within a part."),
              std::string::npos)
        << report;
    EXPECT_EQ(described(folder / "p.glb")["meshes"].size(), 12U);
    expect_no_complaint(folder / "p.glb");
    const std::string ifc = *export_results(job, folder / "p.ifc", plume::Run());
    for (const char* name : {"side", "vertex"})
        EXPECT_NE(ifc.find(std::string("the number ") + name + " where"), std::string::npos) << ifc;
    EXPECT_EQ(ifc.find("post_height"), std::string::npos) << ifc;
}

TEST(JudgedMeshes, FarFromZeroGltfStaysSharp) {
    const Folder folder;
    Mesh::Parts parts = posts().parts();
    Doubles x(parts.x.size());
    for (std::size_t at = 0; at < x.size(); ++at)
        x[at] = parts.x[at] + 4'512'345.25;
    parts.x = std::move(x);
    const Mesh far = *Mesh::make(std::move(parts));
    write(test::job_of(Value(far), "posts"), folder / "p.glb");
    expect_no_complaint(folder / "p.glb");
    const auto told = described(folder / "p.glb");
    for (const auto& accessor : told["accessors"])
        if (accessor.contains("max")) {
            EXPECT_LT(accessor["max"][0].get<double>(), 10) << "about the middle of a part";
        }
    double most = 0;
    for (const auto& node : told["nodes"])
        if (node.contains("mesh")) most = std::max(most, node["translation"][0].get<double>());
    // The last post stands at 22 m and leans.
    const Vec3 lean = unit_or_zero({1.1, 0.2, 1}) * (3.75 / 2);
    EXPECT_NEAR(most, 4'512'345.25 + 22 + lean.x, 1e-6);
}

TEST(JudgedMeshes, ThreeMfHasABodyAPartItsMaterialAndColours) {
    const Folder folder;
    ExportJob job = test::job_of(Value(posts()), "posts");
    job.results[0].show.material.key = "timber";
    write(job, folder / "p.3mf");
    const auto read = judged("threemf.py", folder / "p.3mf");
    EXPECT_EQ(read["unit"], "millimeter");
    ASSERT_EQ(read["objects"].size(), 12U);
    double volume = 0;
    std::set<std::string> colours;
    for (std::size_t at = 0; at < 12; ++at) {
        const auto& object = read["objects"][at];
        EXPECT_EQ(object["name"], "posts " + std::to_string(at));
        EXPECT_EQ(object["type"], "model");
        EXPECT_EQ(object["placed"], 1);
        EXPECT_EQ(object["triangles"], 20);
        EXPECT_TRUE(object["material"].get<std::string>().starts_with("Timber #"));
        for (const auto& colour : object["colours"])
            colours.insert(colour.get<std::string>());
        volume += object["volume"].get<double>();
    }
    EXPECT_EQ(colours.size(), 12U) << "one for each height";
    EXPECT_NEAR(volume, posts_volume() * 1e9, 1e-6 * volume);
    // The same study gives the same bytes.
    write(job, folder / "again.3mf");
    EXPECT_EQ(*read_file(folder / "p.3mf", 1'000'000), *read_file(folder / "again.3mf", 1'000'000));
}

TEST(JudgedMeshes, OpenSurfacesAreNoModelsIn3mf) {
    const Folder folder;
    const Evaluation canopy = test::run(test::canopy().study);
    write(test::job_of(test::value_of(canopy, "roof"), "roof"), folder / "roof.3mf");
    const auto read = judged("threemf.py", folder / "roof.3mf");
    ASSERT_EQ(read["objects"].size(), 1U);
    EXPECT_EQ(read["objects"][0]["type"], "surface");
}

TEST(JudgedMeshes, PlyKeepsEveryNumberInFull) {
    const Folder folder;
    ExportJob job = test::job_of(Value(posts()), "posts", LengthUnit::centimetre);
    write(job, folder / "p.ply");
    const auto read = judged("ply.py", folder / "p.ply");
    const auto& faces = read["elements"]["face"];
    EXPECT_EQ(faces["count"], 12 * 8);
    EXPECT_EQ(faces["sums"]["corners"], 12 * (6 * 4 + 2 * 6));
    EXPECT_EQ(faces["sums"]["part"], 8 * 66);
    EXPECT_DOUBLE_EQ(faces["sums"]["post_height"].get<double>(), 100.0 * 8 * (12 + 0.25 * 66));
    EXPECT_NE(read["comments"].dump().find("post_height is post_height in cm"), std::string::npos);
    double x = 0;
    const Mesh mesh = posts();
    for (std::size_t at = 0; at < mesh.vertex_count(); ++at)
        x += mesh.vertex(at).x * 100;
    EXPECT_NEAR(read["elements"]["vertex"]["sums"]["x"].get<double>(), x, 1e-9 * std::abs(x));
}

TEST(JudgedMeshes, ObjNamesItsMaterialsInAFileBeside) {
    const Folder folder;
    ExportJob job = test::job_of(Value(posts()), "my posts");
    job.results[0].show.material = {"paint", "#3366CC"};
    write(job, folder / "the posts.obj");
    ASSERT_TRUE(std::filesystem::exists(folder / "the_posts.mtl"));
    const std::string info = test::output_of("assimp export '" + (folder / "the posts.obj").string() + "' '" +
                                             (folder / "out.gltf").string() + "' && cat '" +
                                             (folder / "out.gltf").string() + '\'');
    EXPECT_NE(info.find("\"my_posts\""), std::string::npos);
    // Of the paint: 0x33, 0x66, 0xCC of 255.
    EXPECT_NE(info.find("0.2"), std::string::npos);
    EXPECT_NE(info.find("0.4"), std::string::npos);
    EXPECT_NE(info.find("0.8"), std::string::npos);
}

}  // namespace
}  // namespace plume
