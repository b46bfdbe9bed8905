// Meshes from files: what is read of each format, against figures of boxes made by hand, and what is said of
// files that cannot be read.

#include "core/exchange/export_jobs.hpp"
#include "core/readers/files.hpp"

namespace plume {
namespace {

using test::box_obj;
using test::Folder;
using test::HandBox;

MeshFile read(const std::string& bytes, const std::filesystem::path& path) {
    auto file = read_mesh_bytes(bytes, path, plume::Run());
    EXPECT_TRUE(file) << sentence(file.error());
    return *std::move(file);
}

Error error_of(const std::string& bytes, const std::filesystem::path& path) {
    const auto file = read_mesh_bytes(bytes, path, plume::Run());
    EXPECT_FALSE(file);
    return file ? Error{} : file.error();
}

void expect_box(const Mesh& mesh, std::size_t faces) {
    EXPECT_EQ(mesh.vertex_count(), 8U);
    EXPECT_EQ(mesh.face_count(), faces);
    EXPECT_NEAR(test::volume(mesh), 30, 1e-9);
    EXPECT_EQ(test::open_edges(mesh), 0U);
}

const Field* field(const std::vector<Field>& fields, std::string_view name) {
    const auto found = std::ranges::find(fields, name, &Field::name);
    return found == fields.end() ? nullptr : &*found;
}

// STL -----------------------------------------------------------------------------------------------------

TEST(StlFile, BinaryTrianglesGetTheirCornersTogether) {
    expect_box(read(test::binary_stl(test::box_triangles()), "box.stl").mesh, 12);
}

TEST(StlFile, BinaryOnesThatBeginLikeATextAreBinary) {
    std::string bytes = test::binary_stl(test::box_triangles());
    bytes.replace(0, 6, "solid ");
    expect_box(read(bytes, "box.stl").mesh, 12);
}

TEST(StlFile, BothZerosAreOnePlace) {
    auto triangles = test::box_triangles();
    for (auto& corner : triangles[3])
        for (float& part : corner)
            if (part == 0) part = -0.0F;
    expect_box(read(test::binary_stl(triangles), "box.stl").mesh, 12);
}

std::string text_stl(const char* name, const HandBox& box) {
    std::string text = std::string("solid ") + name + "\n";
    for (const auto& triangle : test::box_triangles(box)) {
        text += " facet normal 0 0 0\n  outer loop\n";
        for (const auto& corner : triangle)
            text += "   vertex " + std::to_string(corner[0]) + " " + std::to_string(corner[1]) + " " +
                    std::to_string(corner[2]) + "\n";
        text += "  endloop\n endfacet\n";
    }
    return text + std::string("endsolid ") + name + "\n";
}

TEST(StlFile, TextsHaveTheirSolidsAsParts) {
    const MeshFile file = read(text_stl("hide", {}) + text_stl("jetty", {10, 0, 0}), "two.stl");
    EXPECT_EQ(file.part_names, (std::vector<std::string>{"hide", "jetty"}));
    ASSERT_EQ(file.mesh.part_count(), 2U);
    EXPECT_EQ(file.mesh.part(1).begin, 12U);
    EXPECT_NEAR(test::volume(file.mesh), 60, 1e-9);
    EXPECT_EQ(file.metres_per_unit, std::nullopt);
}

TEST(StlFile, TrianglesThatAreNoneAreLeftOutAndCounted) {
    auto triangles = test::box_triangles();
    triangles.push_back(triangles.front());
    triangles.back()[1] = triangles.back()[0];
    triangles.push_back(triangles.front());
    triangles.back()[2][1] = std::numeric_limits<float>::quiet_NaN();
    const MeshFile file = read(test::binary_stl(triangles), "box.stl");
    expect_box(file.mesh, 12);
    ASSERT_EQ(file.losses.size(), 2U);
    EXPECT_EQ(file.losses[0],
              "2 faces were left out: 1 have fewer than three corners (first: number 13), 1 have corners "
              "that are not "
              "finite (first: number 14).");
}

TEST(StlFile, WhatEndsEarlySaysWhere) {
    const std::string whole = test::binary_stl(test::box_triangles());
    for (std::size_t size = 1; size < whole.size(); ++size) {
        const Error error = error_of(whole.substr(0, size), "box.stl");
        EXPECT_EQ(error.code, ErrorCode::file_damaged) << size;
    }
    EXPECT_EQ(sentence(error_of(whole.substr(0, whole.size() - 60), "box.stl")),
              "says that it has 12 triangles and ends after 10. Get it anew.");
    EXPECT_EQ(sentence(error_of("solid a\nfacet normal 0 0 1\nouter loop\nvertex 1 2\n", "a.stl")),
              "has a vertex without three numbers in line 4. Get it anew, or mend that line.");
    EXPECT_EQ(error_of("solid nothing\nendsolid nothing\n", "a.stl").code, ErrorCode::empty_input);
}

// PLY -----------------------------------------------------------------------------------------------------

std::string ply_box(const char* format, bool binary, bool swapped) {
    std::string bytes =
        std::string("ply\nformat ") + format +
        " 1.0\ncomment Unit: millimetres. Z is up.\nelement vertex 8\nproperty float x\n"
        "property double y\nproperty int z\nproperty uchar red\nproperty float reed height\n"
        "element face 6\nproperty list uchar int vertex_indices\nproperty ushort moss\nend_header\n";
    const HandBox box;
    for (int corner = 0; corner < 8; ++corner) {
        const auto place = box.place(corner);
        if (binary) {
            test::put(bytes, static_cast<float>(place[0]), swapped);
            test::put(bytes, place[1], swapped);
            test::put(bytes, static_cast<std::int32_t>(place[2]), swapped);
            test::put(bytes, static_cast<std::uint8_t>(51 * (corner % 6)), swapped);
            test::put(bytes, static_cast<float>(corner) / 2, swapped);
        } else {
            bytes += std::to_string(place[0]) + " " + std::to_string(place[1]) + " " +
                     std::to_string(int(place[2])) + " " + std::to_string(51 * (corner % 6)) + " " +
                     std::to_string(corner / 2.0) + "\n";
        }
    }
    for (int face = 0; face < 6; ++face) {
        if (binary) test::put(bytes, std::uint8_t{4}, swapped);
        if (!binary) bytes += "4";
        for (const int corner : HandBox::faces[face]) {
            if (binary) test::put(bytes, corner, swapped);
            if (!binary) bytes += " " + std::to_string(corner);
        }
        if (binary) test::put(bytes, static_cast<std::uint16_t>(1000 + face), swapped);
        if (!binary) bytes += " " + std::to_string(1000 + face) + "\n";
    }
    return bytes;
}

TEST(PlyFile, TextAndBinaryOfBothOrdersAreTheSame) {
    for (const auto& [format, binary, swapped] : {std::tuple{"ascii", false, false},
                                                  {"binary_little_endian", true, false},
                                                  {"binary_big_endian", true, true}}) {
        const MeshFile file = read(ply_box(format, binary, swapped), "box.ply");
        expect_box(file.mesh, 6);
        EXPECT_EQ(file.metres_per_unit, 0.001);
        ASSERT_TRUE(field(file.mesh.fields(), "red")) << format;
        EXPECT_DOUBLE_EQ(field(file.mesh.fields(), "red")->values[5], 1);
        EXPECT_DOUBLE_EQ(field(file.mesh.fields(), "reed")->values[7], 3.5);
        EXPECT_DOUBLE_EQ(field(file.mesh.face_fields(), "moss")->values[4], 1004);
    }
}

TEST(PlyFile, WhatEndsEarlySaysWhere) {
    for (const char* format : {"ascii", "binary_little_endian"}) {
        const std::string whole = ply_box(format, format[0] == 'b', false);
        // A number of a text may still be one without its last digits.
        for (std::size_t size = 4; size + 5 < whole.size(); ++size)
            EXPECT_FALSE(read_mesh_bytes(whole.substr(0, size), "box.ply", plume::Run())) << format << size;
    }
    const std::string whole = ply_box("binary_little_endian", true, false);
    EXPECT_EQ(sentence(error_of(whole.substr(0, whole.size() - 1), "box.ply")),
              "ends or has no number in row 6 of 6 of ‘face’. Get it anew.");
}

TEST(PlyFile, ClaimsTakeNoMemory) {
    const std::string head =
        "ply\nformat binary_little_endian 1.0\nelement vertex 99999999999999\nproperty float x\n"
        "property float y\nproperty float z\nend_header\n123456789012";
    EXPECT_EQ(
        sentence(error_of(head, "a.ply")),
        "says that it has 99 999 999 999 999 rows of ‘vertex’, more than it has room for. Get it anew.");
    const std::string none = "ply\nformat ascii 1.0\nelement nothing 99999999999999\nend_header\n";
    EXPECT_EQ(error_of(none, "a.ply").code, ErrorCode::file_damaged);
    const std::string list =
        "ply\nformat binary_little_endian 1.0\nelement face 1\nproperty list uint int "
        "vertex_indices\nend_header\n\xff\xff\xff\xff";
    EXPECT_EQ(error_of(list, "a.ply").code, ErrorCode::file_damaged);
}

TEST(PlyFile, OurOwnComesBackWhole) {
    Mesh::Parts parts;
    parts.x = Doubles{0.1, 1.1, 1.1, 0.1};
    parts.y = Doubles{0.2, 0.2, 1.2, 1.2};
    parts.z = Doubles{0.3, 1.0 / 3, 0.3, 1e-9};
    parts.corners = {0, 1, 2, 0, 2, 3};
    parts.first = {0, 3, 6};
    parts.part_starts = {0, 1};
    parts.fields = {{"lift", Doubles{0.5, 1.5, 2.5, 1.0 / 7}, plain_number}};
    parts.face_fields = {{"warp", Doubles{3, 4}, plain_number}};
    const Mesh mesh = *Mesh::make(std::move(parts));
    const MeshFile file = read(test::bytes_of(write_ply, test::job_of(Value(mesh))), "it.ply");
    EXPECT_EQ(file.mesh.part_count(), 2U);
    EXPECT_EQ(file.metres_per_unit, 1);
    for (std::size_t at = 0; at < 4; ++at) {
        EXPECT_EQ(file.mesh.vertex(at), mesh.vertex(at));
        EXPECT_EQ(field(file.mesh.fields(), "lift")->values[at], mesh.fields()[0].values[at]);
    }
    EXPECT_EQ(field(file.mesh.face_fields(), "warp")->values[1], 4);
}

// OBJ -----------------------------------------------------------------------------------------------------

TEST(ObjFile, PolygonsStayPolygons) {
    const MeshFile file = read("# Unit: feet\n" + box_obj(), "box.obj");
    expect_box(file.mesh, 6);
    EXPECT_EQ(file.metres_per_unit, 0.3048);
}

TEST(ObjFile, GroupsArePartsHoweverOftenTheyAreTakenUp) {
    const std::string text =
        "g hide\n" + box_obj() + "g jetty\n" + box_obj({10, 0, 0}, 8) + "g hide\n" + box_obj({0, 10, 0}, 16);
    const MeshFile file = read(text, "three.obj");
    EXPECT_EQ(file.part_names, (std::vector<std::string>{"hide", "jetty"}));
    ASSERT_EQ(file.mesh.part_count(), 2U);
    EXPECT_EQ(file.mesh.part(0).end, 12U);
    EXPECT_NEAR(test::volume(file.mesh), 90, 1e-9);
}

TEST(ObjFile, CornersAreCountedFromTheEndToo) {
    const MeshFile file = read("v 0 0 0\nv 1 0 0\nv 1 1 0\nf -3/1/1 -2//4 -1/7\n", "a.obj");
    EXPECT_EQ(file.mesh.face(0)[0], 0U);
    EXPECT_EQ(file.mesh.face(0)[2], 2U);
}

TEST(ObjFile, ColoursOfVerticesAndMaterialsAreNumbers) {
    const Folder folder;
    test::write(folder / "paint.mtl", "newmtl reed\nKd 0.8 0.6 0.2\nnewmtl water\nKd 0 0.25 0.5\n");
    const std::string text =
        "mtllib paint.mtl\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nusemtl water\nf 1 3 4\n";
    const MeshFile file = read(text, folder / "a.obj");
    EXPECT_EQ(file.materials, (std::vector<std::string>{"water"}));
    EXPECT_EQ(field(file.mesh.face_fields(), "material")->values[0], 0);
    EXPECT_EQ(field(file.mesh.face_fields(), "material")->values[1], 1);
    EXPECT_EQ(field(file.mesh.face_fields(), "green")->values[1], 0.25);
    ASSERT_EQ(file.companions.size(), 1U);
    const MeshFile dotted = read("v 0 0 0 1 0.5 0\nv 1 0 0 1 0.5 1\nv 1 1 0 0 0 0\nf 1 2 3\n", "a.obj");
    EXPECT_EQ(field(dotted.mesh.fields(), "blue")->values[1], 1);
    EXPECT_EQ(field(dotted.mesh.fields(), "green")->values[0], 0.5);
}

TEST(ObjFile, LibrariesOutsideItsFolderAreNotOpened) {
    const Folder folder;
    std::filesystem::create_directory(folder / "inner");
    test::write(folder / "paint.mtl", "newmtl water\nKd 0 0.25 0.5\n");
    std::filesystem::create_symlink(folder / "paint.mtl", folder / "inner" / "link.mtl");
    for (const std::string& library :
         {std::string("../paint.mtl"), (folder / "paint.mtl").string(), std::string("link.mtl"),
          std::string("http://sallow.example/paint.mtl")}) {
        const std::string text = "mtllib " + library + "\nusemtl water\nv 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n";
        const MeshFile file = read(text, folder / "inner" / "a.obj");
        EXPECT_FALSE(field(file.mesh.face_fields(), "green")) << library;
        ASSERT_EQ(file.losses.size(), 1U) << library;
        EXPECT_TRUE(file.losses[0].starts_with("Colours of materials are missing")) << file.losses[0];
    }
}

TEST(ObjFile, WhatCannotBeSaysItsLine) {
    EXPECT_EQ(sentence(error_of("v 0 0 0\nv 1 zero 0\n", "a.obj")),
              "has ‘zero’ for a coordinate in line 2. Get it anew, or mend that line.");
    EXPECT_EQ(sentence(error_of("v 0 0\n", "a.obj")),
              "has a vertex of 2 numbers in line 1. Get it anew, or mend that line.");
    const MeshFile file = read(box_obj() + "f 1 2 99\nf 0 1 2\nf 1 2 1\nl 1 2\n", "a.obj");
    EXPECT_EQ(file.mesh.face_count(), 6U);
    EXPECT_EQ(file.losses.size(), 2U);
    EXPECT_EQ(error_of("v 0 0 0\n", "a.obj").code, ErrorCode::empty_input);
}

TEST(ObjFile, AFaceOfAMillionCornersIsOne) {
    std::string text;
    constexpr int corners = 300'000;
    std::string face = "f";
    for (int at = 0; at < corners; ++at) {
        text += "v " + std::to_string(at) + " " + std::to_string(at % 2) + " 0\n";
        face += " " + std::to_string(at + 1);
    }
    EXPECT_EQ(read(text + face + "\n", "a.obj").mesh.face(0).size(), std::size_t{corners});
    EXPECT_EQ(error_of(text + face + " 1 2\n", "a.obj").code, ErrorCode::empty_input);
}

// glTF ----------------------------------------------------------------------------------------------------

// One triangle of 3 x 4 in a buffer: places, then indices.
std::string triangle_buffer() {
    std::string bytes;
    for (const float part : {0.0F, 0.0F, 0.0F, 3.0F, 0.0F, 0.0F, 0.0F, 4.0F, 0.0F})
        test::put(bytes, part);
    for (const std::uint16_t index : {std::uint16_t{0}, std::uint16_t{1}, std::uint16_t{2}, std::uint16_t{0}})
        test::put(bytes, index);
    return bytes;
}

std::string gltf(const std::string& uri, const std::string& nodes, const std::string& more = "",
                 int count = 3, const std::string& version = "2.0") {
    return R"({"asset":{"version":")" + version + R"("},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[)" +
           nodes +
           R"(],"meshes":[{"name":"sail","primitives":[{"attributes":{"POSITION":0},"indices":1}]}],)"
           R"("accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3"},)"
           R"({"bufferView":1,"componentType":5123,"count":)" +
           std::to_string(count) +
           R"(,"type":"SCALAR"}],"bufferViews":[{"buffer":0,"byteLength":36},{"buffer":0,"byteOffset":36,"byteLength":8}],)"
           R"("buffers":[{"byteLength":44)" +
           (uri.empty() ? "" : R"(,"uri":")" + uri + "\"") + "}]" + more + "}";
}

std::string glb(std::string json, const std::string& binary) {
    json.resize((json.size() + 3) / 4 * 4, ' ');
    std::string bytes = "glTF";
    test::put(bytes, std::uint32_t{2});
    test::put(bytes, static_cast<std::uint32_t>(12 + 8 + json.size() + 8 + binary.size()));
    test::put(bytes, static_cast<std::uint32_t>(json.size()));
    bytes += "JSON" + json;
    test::put(bytes, static_cast<std::uint32_t>(binary.size()));
    return bytes + std::string("BIN\0", 4) + binary;
}

TEST(GltfFile, NodesPlaceTheirMeshes) {
    const Folder folder;
    test::write(folder / "sail.bin", triangle_buffer());
    // The second node hangs from the first one, twice as large and moved; it is turned by a quarter about x.
    const std::string nodes =
        R"({"mesh":0,"name":"fore","children":[1],"translation":[10,0,0]},)"
        R"({"mesh":0,"scale":[2,2,2],"rotation":[0.7071067811865476,0,0,0.7071067811865476]})";
    for (const std::string& bytes : {gltf("sail.bin", nodes), glb(gltf("", nodes), triangle_buffer())}) {
        const MeshFile file = read(bytes, folder / "sail.gltf");
        EXPECT_EQ(file.part_names, (std::vector<std::string>{"fore", "sail"}));
        EXPECT_TRUE(file.y_up);
        EXPECT_EQ(file.metres_per_unit, 1);
        ASSERT_EQ(file.mesh.vertex_count(), 6U);
        EXPECT_NEAR(area(file.mesh), 6 + 24, 1e-12);
        EXPECT_NEAR(length(file.mesh.vertex(2) - Vec3{10, 4, 0}), 0, 1e-12);
        EXPECT_NEAR(length(file.mesh.vertex(5) - Vec3{10, 0, 8}), 0, 1e-12);
    }
}

TEST(GltfFile, MirroredNodesStayOutward) {
    const MeshFile file = read(glb(gltf("", R"({"mesh":0,"scale":[-1,1,1]})"), triangle_buffer()), "a.glb");
    EXPECT_NEAR(area_vector(file.mesh, 0).z, 6, 1e-12);
}

TEST(GltfFile, BuffersOutsideItsFolderAreNotOpened) {
    const Folder folder;
    std::filesystem::create_directory(folder / "inner");
    test::write(folder / "sail.bin", triangle_buffer());
    for (const char* uri : {"../sail.bin", "http://sallow.example/sail.bin", "/etc/hostname", "missing.bin",
                            "%2e%2e/sail.bin", "file:///etc/hostname"}) {
        const Error error = error_of(gltf(uri, R"({"mesh":0})"), folder / "inner" / "a.gltf");
        EXPECT_EQ(error.code, ErrorCode::file_missing) << uri;
    }
    EXPECT_EQ(sentence(error_of(gltf("../sail.bin", R"({"mesh":0})"), folder / "inner" / "a.gltf")),
              "refers to ‘../sail.bin’, which is not there or not in its folder. Put it beside the file, or "
              "save the "
              "file with all it needs as GLB.");
}

TEST(GltfFile, WhatCannotBeIsRefused) {
    const std::string buffer = triangle_buffer();
    const auto code = [&](const std::string& json) { return error_of(glb(json, buffer), "a.glb").code; };
    EXPECT_EQ(code(gltf("", R"({"mesh":0})", "", 5)), ErrorCode::file_damaged);
    EXPECT_EQ(code(gltf("", R"({"mesh":0})", "", 2'000'000'000)), ErrorCode::file_damaged);
    EXPECT_EQ(code(gltf("", R"({"mesh":7})")), ErrorCode::file_damaged);
    EXPECT_EQ(code(gltf("", R"({"mesh":0,"children":[0]})")), ErrorCode::file_damaged);
    EXPECT_EQ(code(gltf("", R"({"mesh":0})", "", 3, "1.0")), ErrorCode::file_newer);
    EXPECT_EQ(code(gltf("", R"({"mesh":0})", R"(,"extensionsRequired":["KHR_draco_mesh_compression"])")),
              ErrorCode::file_newer);
    EXPECT_EQ(code(R"({"asset":{"version":"2.0"}})"), ErrorCode::empty_input);
    EXPECT_EQ(code("{}"), ErrorCode::file_damaged);
    const std::string whole = glb(gltf("", R"({"mesh":0})"), buffer);
    for (std::size_t size = 1; size < whole.size(); ++size)
        EXPECT_FALSE(read_mesh_bytes(whole.substr(0, size), "a.glb", plume::Run())) << size;
}

TEST(GltfFile, OurOwnComesBackClosed) {
    const auto box = read("g a\n" + box_obj() + "g b\n" + box_obj({7, 0, 0}, 8), "box.obj");
    const std::string bytes = test::bytes_of(write_glb, test::job_of(Value(box.mesh)));
    const MeshFile file = read(bytes, "it.glb");
    EXPECT_EQ(file.mesh.part_count(), 2U);
    EXPECT_EQ(test::open_edges(file.mesh), 0U);
    EXPECT_NEAR(test::volume(file.mesh), 60, 1e-5);
    EXPECT_EQ(file.mesh.face_count(), 24U);
}

// 3MF -----------------------------------------------------------------------------------------------------

TEST(ThreeMfFile, OurOwnComesBackInMillimetres) {
    const Folder folder;
    const auto boxes = read("g a\n" + box_obj() + "g b\n" + box_obj({7, 0, 0}, 8), "box.obj");
    ExportJob job = test::job_of(Value(boxes.mesh), "hide");
    job.unit = LengthUnit::millimetre;
    job.results[0].show.material.key = "timber";
    test::write(folder / "it.3mf", test::bytes_of(write_3mf, job));
    const auto file = read_mesh_file(folder / "it.3mf", plume::Run());
    ASSERT_TRUE(file) << sentence(file.error());
    EXPECT_EQ(file->metres_per_unit, 0.001);
    EXPECT_EQ(file->mesh.part_count(), 2U);
    EXPECT_EQ(test::open_edges(file->mesh), 0U);
    EXPECT_NEAR(test::volume(file->mesh) * 1e-9, 60, 1e-4);
    ASSERT_EQ(file->materials.size(), 1U);
    EXPECT_EQ(file->materials[0], "Timber");
    EXPECT_NEAR(field(file->mesh.face_fields(), "red")->values[0], 0xBE / 255.0, 1e-9);
    EXPECT_EQ(field(file->mesh.face_fields(), "material")->values[5], 1);
}

TEST(ThreeMfFile, WhatCannotBeIsRefused) {
    const Folder folder;
    const auto boxes = read(box_obj(), "box.obj");
    const std::string whole = test::bytes_of(write_3mf, test::job_of(Value(boxes.mesh)));
    for (const std::size_t size : {std::size_t{4}, whole.size() / 3, whole.size() / 2, whole.size() - 8}) {
        test::write(folder / "it.3mf", whole.substr(0, size));
        const auto file = read_mesh_file(folder / "it.3mf", plume::Run());
        ASSERT_FALSE(file) << size;
        EXPECT_EQ(file.error().code, ErrorCode::file_damaged) << size;
    }
    test::write(folder / "it.3mf", "PK\x03\x04 and nothing else");
    EXPECT_FALSE(read_mesh_file(folder / "it.3mf", plume::Run()));
}

// All -----------------------------------------------------------------------------------------------------

TEST(MeshFile, WhatIsNoneSaysSo) {
    EXPECT_EQ(error_of("", "a.obj").code, ErrorCode::empty_input);
    EXPECT_EQ(sentence(error_of("Dear reserve,", "letter.txt")),
              "is no mesh that can be read. Choose a file of OBJ, STL, PLY, glTF, GLB or 3MF.");
    const Folder folder;
    EXPECT_EQ(read_mesh_file(folder / "gone.obj", plume::Run()).error().code, ErrorCode::file_missing);
    EXPECT_EQ(read_mesh_file(folder.path(), plume::Run()).error().code, ErrorCode::file_unreadable);
}

TEST(MeshFile, ReadingIsCancelled) {
    const plume::Run run;
    run.cancel();
    for (const auto& [bytes, name] : {std::pair{test::binary_stl(test::box_triangles()), "a.stl"},
                                      {ply_box("ascii", false, false), "a.ply"},
                                      {box_obj(), "a.obj"}})
        EXPECT_EQ(read_mesh_bytes(bytes, name, run).error().code, ErrorCode::cancelled) << name;
}

}  // namespace
}  // namespace plume
