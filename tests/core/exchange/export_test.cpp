#include "core/exchange/export.hpp"

#include <sys/mman.h>
#include <sys/resource.h>

#include <cmath>
#include <csignal>
#include <cstring>
#include <sstream>

#include "core/exchange/export_jobs.hpp"
#include "core/exchange/gltf_buffer.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

using test::Folder;
using test::grid;

std::string written(test::Writer write, const Value& value, LengthUnit unit = LengthUnit::metre) {
    return test::bytes_of(write, test::job_of(value, "a roof", unit));
}

Value quad_mesh() {
    return *[] {
        Mesh::Parts parts;
        parts.x = Doubles{0, 2, 2, 0};
        parts.y = Doubles{0, 0, 1, 1};
        parts.z = Doubles{0, 0, 0, 0.5};
        parts.first = {0, 4};
        parts.corners = {0, 1, 2, 3};
        return Mesh::make(std::move(parts));
    }();
}

std::size_t lines_starting(const std::string& text, const std::string& with) {
    std::istringstream stream(text);
    std::string line;
    std::size_t count = 0;
    while (std::getline(stream, line))
        count += line.starts_with(with) ? 1 : 0;
    return count;
}

TEST(Obj, FacetsWithUnitAndName) {
    EXPECT_EQ(written(write_obj, quad_mesh(), LengthUnit::millimetre),
              "# Plume Lattice. Unit: millimetres. Z is up.\no a_roof\nv 0 0 0\nv 2000 0 0\nv 2000 1000 0\nv "
              "0 1000 500\nf 1 2 3 4\n");
}

TEST(Obj, PointsAttractorsAndSurfaces) {
    EXPECT_EQ(lines_starting(written(write_obj, grid(3, 2)), "p "), 6U);
    EXPECT_EQ(lines_starting(written(write_obj, *Attractors::make({{"a", {1, 2, 3}, 1}})), "v 1 2 3"), 1U);
    const Evaluation evaluation = test::run(test::canopy().study);
    const std::string text = written(write_obj, test::value_of(evaluation, "roof"));
    EXPECT_GT(lines_starting(text, "f "), 384U) << "finer than the lattice it passes through";
}

TEST(Obj, AttractorsAlongCurvesAreLines) {
    const auto path = std::make_shared<const std::vector<Vec3>>(
        std::vector<Vec3>{{0, 0, 0}, {3, 0, 0}, {3, 4, 0}, {0, 0, 0}});
    const Attractors ring = *Attractors::make({{"ring", {0, 0, 0}, 1, path}});
    const std::string text = written(write_obj, ring);
    EXPECT_EQ(lines_starting(text, "v "), 3U) << "it comes back to its first";
    EXPECT_EQ(lines_starting(text, "l 1 2 3 1"), 1U);
    const Folder folder;
    const auto said = export_results(test::job_of(ring, "ring"), folder / "ring.step", plume::Run());
    ASSERT_TRUE(said) << sentence(said.error());
    EXPECT_NE(said->find("1 curve"), std::string::npos) << *said;
}

TEST(Obj, CurvesAreLineElementsAndClosedOnesComeBack) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {3, 1, 1};
    parts.x = Doubles{0, 1, 1};
    parts.y = Doubles{0, 0, 2};
    parts.z = Doubles{0, 0, 0};
    const PointLattice row = *PointLattice::make(std::move(parts));
    const auto joined = [&](bool closed) {
        return *join_points(row, Route::in_order, CurveShape::straight, closed, plume::Run());
    };
    EXPECT_TRUE(written(write_obj, joined(false)).ends_with("v 0 0 0\nv 1 0 0\nv 1 2 0\nl 1 2 3\n"));
    EXPECT_TRUE(written(write_obj, joined(true)).ends_with("\nl 1 2 3 1\n"));
}

TEST(Stl, TrianglesNormalsAndHeader) {
    const std::string bytes = written(write_stl, quad_mesh(), LengthUnit::centimetre);
    ASSERT_EQ(bytes.size(), 80U + 4 + 2 * 50);
    EXPECT_EQ(bytes.substr(0, 22), "Plume Lattice, unit cm");
    EXPECT_FALSE(bytes.starts_with("solid")) << "readers would take it for the text format";
    std::uint32_t count = 0;
    std::memcpy(&count, bytes.data() + 80, 4);
    EXPECT_EQ(count, 2U);
    float numbers[12];
    std::memcpy(numbers, bytes.data() + 84, sizeof numbers);
    EXPECT_FLOAT_EQ(numbers[2], 1) << "the first triangle lies flat";
    EXPECT_FLOAT_EQ(numbers[6], 200);
}

TEST(Csv, AddressesUnitsAndFields) {
    const PointLattice lattice =
        grid(2, 1)
            .with_field({"rise, high", Doubles{0.5, std::numeric_limits<double>::quiet_NaN()}, a_length})
            .with_field({"turn", Doubles{0, std::acos(-1.0)}, an_angle});
    EXPECT_EQ(written(write_csv, lattice, LengthUnit::centimetre),
              "i,j,k,x cm,y cm,z cm,\"rise, high cm\",turn °\n0,0,0,0,0,0,50,0\n1,0,0,100,0,0,,180\n");
}

TEST(Csv, AreasScaleWithTheSquareAndGapsAreLeftOut) {
    PointLattice::Parts parts;
    parts.counts = {3, 1, 1};
    parts.x = parts.y = parts.z = Column(Doubles(3, 0.0));
    parts.present = {1, 0, 1};
    parts.fields = {{"a", Doubles{1, 2, 3}, {2, 0}}};
    const std::string text =
        written(write_csv, *PointLattice::make(std::move(parts)), LengthUnit::centimetre);
    EXPECT_EQ(text, "i,j,k,x cm,y cm,z cm,a cm²\n0,0,0,0,0,0,10000\n2,0,0,0,0,0,30000\n");
}

TEST(Csv, Attractors) {
    EXPECT_EQ(written(write_csv, *Attractors::make({{"say \"a\"", {1, 2, 3}, 2}})),
              "name,x m,y m,z m,weight\n\"say \"\"a\"\"\",1,2,3,2\n");
}

TEST(Export, WritesByEndingAndSaysWhatAndInWhichUnit) {
    const Folder folder;
    const ExportJob job = test::job_of(quad_mesh(), "roof", LengthUnit::millimetre);
    const std::string stl = *export_results(job, folder / "a.STL", plume::Run());
    EXPECT_NE(stl.find("2 triangles"), std::string::npos);
    EXPECT_NE(stl.find("millimetres"), std::string::npos);
    EXPECT_NE(stl.find("no unit of its own"), std::string::npos);
    EXPECT_EQ(export_results(job, folder / "a.obj", plume::Run())->find("no unit"), std::string::npos);
    EXPECT_EQ(export_results(job, folder / "a.xyz", plume::Run()).error().code, ErrorCode::unknown_name);
}

TEST(Export, NothingOddOrUnfitIsWrittenAndTheOldFileStays) {
    const Folder folder;
    ASSERT_TRUE(write_file(folder / "a.obj", "old"));
    const Value empty = *Mesh::make({}), points = grid(2, 2),
                odd = grid(2, 2, [](double, double) { return NAN; });
    const Value none = SurfaceSet{};
    const auto code = [&](const Value& value, const char* file) {
        return export_results(test::job_of(value), folder / file, plume::Run()).error().code;
    };
    EXPECT_EQ(code(empty, "a.obj"), ErrorCode::nothing_to_write);
    EXPECT_EQ(code(none, "a.obj"), ErrorCode::nothing_to_write);
    EXPECT_EQ(code(odd, "a.obj"), ErrorCode::not_finite);
    EXPECT_EQ(code(points, "a.stl"), ErrorCode::wrong_kind);
    EXPECT_EQ(code(empty, "a.csv"), ErrorCode::nothing_to_write);
    EXPECT_EQ(*read_file(folder / "a.obj", 10), "old");
    EXPECT_FALSE(std::filesystem::exists(folder / "a.stl"));
}

// A box of quads about a place.
Mesh::Parts box_at(Vec3 low, double size) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (int corner = 0; corner < 8; ++corner) {
        x.push_back(low.x + ((corner & 1) != 0 ? size : 0));
        y.push_back(low.y + ((corner & 2) != 0 ? size : 0));
        z.push_back(low.z + ((corner & 4) != 0 ? size : 0));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.corners = {0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5, 4, 2, 6, 7, 3, 0, 4, 6, 2, 1, 3, 7, 5};
    parts.first = {0, 4, 8, 12, 16, 20, 24};
    return parts;
}

// What the check for print says of meshes, joined into one.
std::string said_of_print(const std::vector<Mesh>& meshes) {
    ExportJob job = test::job_of(Value(*joined(meshes)), "vase");
    job.for_print = true;
    const auto written = test::tried(write_stl, job);
    return written ? "fit" : sentence(written.error());
}

TEST(PrintCheck, SaysWhatIsWrongAndWhere) {
    const Mesh box = *Mesh::make(box_at({1, 2, 3}, 2));
    EXPECT_EQ(said_of_print({box}), "fit");
    Mesh::Parts open = box_at({1, 2, 3}, 2);
    open.first.pop_back();
    open.corners.resize(20);
    const std::string hole = said_of_print({*Mesh::make(std::move(open))});
    EXPECT_NE(hole.find("‘vase’ cannot be printed: it has 4 open edges, the first at 3, "), std::string::npos)
        << hole;
    EXPECT_NE(said_of_print({turned_over(box)}).find("faces that are turned inwards"), std::string::npos);
    EXPECT_NE(said_of_print({box, *Mesh::make(box_at({2, 3, 4}, 2))}).find("faces that others cross"),
              std::string::npos);
    // A hollow is turned inwards as it has to be; so is nothing that lies beside.
    const Mesh inner = turned_over(*Mesh::make(box_at({1.5, 2.5, 3.5}, 1)));
    EXPECT_EQ(said_of_print({box, inner}), "fit");
    EXPECT_NE(said_of_print({box, turned_over(*Mesh::make(box_at({9, 2, 3}, 1)))}).find("turned inwards"),
              std::string::npos);
    // An edge that two boxes share has four faces.
    EXPECT_NE(said_of_print({box, *Mesh::make(box_at({3, 4, 3}, 2))}).find("more than two faces"),
              std::string::npos);
}

TEST(Export, SeveralResultsStandInOneFile) {
    ExportJob job = test::job_of(quad_mesh(), "a");
    job.results.push_back({std::make_shared<const Value>(grid(2, 1)), "b"});
    job.results.push_back({std::make_shared<const Value>(quad_mesh()), "c"});
    const std::string text = test::bytes_of(write_obj, job);
    EXPECT_NE(text.find("o b\nv 0 0 0\nv 1 0 0\np 5\np 6\n"), std::string::npos) << text;
    EXPECT_TRUE(text.ends_with("f 7 8 9 10\n")) << "numbers run on";
    const Folder folder;
    const auto none = export_results(job, folder / "a.stl", plume::Run());
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::wrong_kind);
    EXPECT_NE(sentence(none.error()).find("‘b’ holds points, which STL has no place for"), std::string::npos)
        << sentence(none.error());
    EXPECT_NE(
        sentence(export_results(job, folder / "a.csv", plume::Run()).error()).find("one result in a file"),
        std::string::npos);
}

TEST(Export, WhatHasNoPlaceIsSaid) {
    Mesh::Parts parts = box_at({}, 1);
    parts.fields = {{"wear", Doubles(8, 1.5), plain_number}, {"sag", Doubles(8, 0.5), a_length}};
    parts.part_starts = {0, 3};
    ExportJob job = test::job_of(*Mesh::make(std::move(parts)), "box");
    job.results[0].show.material.key = "glass";
    const Folder folder;
    EXPECT_NE(export_results(job, folder / "a.stl", plume::Run())
                  ->find("left out: the parts, materials and the numbers wear and sag;"),
              std::string::npos);
    EXPECT_EQ(export_results(job, folder / "a.glb", plume::Run())->find("left out"), std::string::npos);
    EXPECT_NE(
        export_results(job, folder / "a.obj", plume::Run())->find("left out: the numbers wear and sag."),
        std::string::npos);
}

TEST(Export, ThePageTellsOfEveryFormat) {
    const std::string page = *read_file(std::string(test::docs_folder) + "/exchange.md", 100'000);
    for (const ExportFormat& format : export_formats()) {
        const std::size_t row = page.find("| `" + format.extension + "` |");
        ASSERT_NE(row, std::string::npos) << format.extension;
        const std::string told = page.substr(row, page.find('\n', row) - row);
        EXPECT_EQ(told.find("layers") != std::string::npos, format.layers) << told;
        EXPECT_EQ(told.find("numbers") != std::string::npos, format.keeps.numbers) << told;
    }
}

// Room that is set aside and never touched stands for indices that would fill a disk.
TEST(Glb, LargerThanItsHeadCanSayIsRefusedBeforeAnythingIsWritten) {
    constexpr std::size_t bytes = std::size_t{5} << 30U;
    void* const room = mmap(nullptr, bytes, PROT_READ, MAP_PRIVATE | MAP_ANONYMOUS | MAP_NORESERVE, -1, 0);
    ASSERT_NE(room, MAP_FAILED);
    GltfBuffer buffer;
    buffer.add_indices({nullptr, {static_cast<const std::uint32_t*>(room), bytes / sizeof(std::uint32_t)}});
    std::size_t written = 0;
    EXPECT_FALSE(buffer.write("{}", [&](std::string_view piece) { written += piece.size(); }));
    EXPECT_EQ(written, 0U);
    munmap(room, bytes);
}

// A limit on file sizes stands in for a full disk.
TEST(Export, AFullDiskIsSaidAndTheOldFileStaysInEveryFormat) {
    const Folder folder;
    const Mesh box = *Mesh::make(box_at({}, 1));
    rlimit before{};
    getrlimit(RLIMIT_FSIZE, &before);
    const auto handler = std::signal(SIGXFSZ, SIG_IGN);
    for (const ExportFormat& format : export_formats()) {
        const std::filesystem::path path = folder.path() / ("box" + format.extension);
        ASSERT_TRUE(write_file(path, "old"));
        const rlimit small{64, before.rlim_max};
        setrlimit(RLIMIT_FSIZE, &small);
        const auto said = export_results(test::job_of(Value(box), "box"), path, plume::Run());
        setrlimit(RLIMIT_FSIZE, &before);
        ASSERT_FALSE(said) << format.name;
        EXPECT_TRUE(said.error().code == ErrorCode::disk_full ||
                    said.error().code == ErrorCode::file_unwritable)
            << format.name << ": " << sentence(said.error());
        EXPECT_FALSE(said.error().mend.empty()) << format.name;
        EXPECT_EQ(*read_file(path, 100), "old") << format.name;
        std::filesystem::remove(path);
        EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 0) << format.name;
    }
    std::signal(SIGXFSZ, handler);
}

TEST(Export, CanBeCancelled) {
    const Folder folder;
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(export_results(test::job_of(grid(50, 50)), folder / "a.csv", run).error().code,
              ErrorCode::cancelled);
    EXPECT_FALSE(std::filesystem::exists(folder / "a.csv"));
}

}  // namespace
}  // namespace plume
