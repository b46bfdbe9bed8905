#include "core/exchange/export.hpp"

#include <cmath>
#include <cstring>
#include <sstream>

#include "core/exchange/formats.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::Folder;
using test::grid;

std::string written(Result<std::string> (*write)(const ExportJob&, const ByteSink&, const plume::Run&),
                    const Value& value, LengthUnit unit = LengthUnit::metre) {
    std::string bytes;
    const auto result = write(
        {value, "a roof", {}, unit}, [&](std::string_view piece) { bytes += piece; }, plume::Run());
    EXPECT_TRUE(result) << sentence(result.error());
    return bytes;
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
    const PointLattice lattice = grid(2, 1)
                                     .with_field({"rise, high", Doubles{0.5, NAN}, a_length})
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
    const Value mesh = quad_mesh();
    const ExportJob job{mesh, "roof", {}, LengthUnit::millimetre};
    const std::string stl = *export_value(job, folder / "a.STL", plume::Run());
    EXPECT_NE(stl.find("2 triangles"), std::string::npos);
    EXPECT_NE(stl.find("millimetres"), std::string::npos);
    EXPECT_NE(stl.find("no unit of its own"), std::string::npos);
    EXPECT_EQ(export_value(job, folder / "a.obj", plume::Run())->find("no unit"), std::string::npos);
    EXPECT_EQ(export_value(job, folder / "a.xyz", plume::Run()).error().code, ErrorCode::unknown_name);
}

TEST(Export, NothingOddOrUnfitIsWrittenAndTheOldFileStays) {
    const Folder folder;
    ASSERT_TRUE(write_file(folder / "a.obj", "old"));
    const Value empty = *Mesh::make({}), points = grid(2, 2),
                odd = grid(2, 2, [](double, double) { return NAN; });
    const Value none = SurfaceSet{};
    const auto code = [&](const Value& value, const char* file) {
        return export_value({value, "v", {}, LengthUnit::metre}, folder / file, plume::Run()).error().code;
    };
    EXPECT_EQ(code(empty, "a.obj"), ErrorCode::nothing_to_write);
    EXPECT_EQ(code(none, "a.obj"), ErrorCode::nothing_to_write);
    EXPECT_EQ(code(odd, "a.obj"), ErrorCode::not_finite);
    EXPECT_EQ(code(points, "a.stl"), ErrorCode::wrong_kind);
    EXPECT_EQ(code(empty, "a.csv"), ErrorCode::nothing_to_write);
    EXPECT_EQ(*read_file(folder / "a.obj", 10), "old");
    EXPECT_FALSE(std::filesystem::exists(folder / "a.stl"));
}

TEST(Export, CanBeCancelled) {
    const Folder folder;
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(
        export_value({Value(grid(50, 50)), "v", {}, LengthUnit::metre}, folder / "a.csv", run).error().code,
        ErrorCode::cancelled);
    EXPECT_FALSE(std::filesystem::exists(folder / "a.csv"));
}

}  // namespace
}  // namespace plume
