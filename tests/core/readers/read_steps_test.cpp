// Steps that read forms from files: units, places, parts, and what they offer to choose from.

#include <cmath>

#include "core/readers/files.hpp"
#include "core/study/offers.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume {
namespace {

using test::Folder;
using test::StudyMaker;

// One step that reads a file of these bytes.
class Reading {
public:
    Reading(const std::string& kind, const char* name, std::string_view bytes) : path_(folder_ / name) {
        test::write(path_, bytes);
        maker_.add(kind, "read");
        maker_.set("read", "file", FileName{path_.string()});
        maker_.word("read", "unit", "m");
    }
    StudyMaker& maker() { return maker_; }
    Value value() const { return test::value_of(test::run(maker_.study), "read"); }
    std::string error() const { return sentence(test::error_of(test::run(maker_.study), "read")); }
    std::vector<std::string> remarks() const {
        std::vector<std::string> texts;
        const Evaluation evaluation = test::run(maker_.study);
        for (const Remark& remark : evaluation.outcome("read")->remarks)
            texts.push_back(remark.text);
        return texts;
    }
    std::map<std::string, Offers> offers() const {
        const Evaluation evaluation = test::run(maker_.study);
        const StepKind& kind = *standard_catalogue().find(maker_.study->step("read")->kind);
        auto made = offers_of(kind, *evaluation.outcome("read")->inputs, plume::Run());
        EXPECT_TRUE(made);
        return *made;
    }
    const std::filesystem::path& path() const { return path_; }

private:
    Folder folder_;
    std::filesystem::path path_;
    StudyMaker maker_;
};

std::string two_boxes() {
    return "g hide\n" + test::box_obj() + "g jetty, north\n" + test::box_obj({10, 0, 0}, 8);
}

TEST(ReadMesh, LengthsAreThoseOfTheUnit) {
    Reading reading("mesh.file", "two.obj", two_boxes());
    for (const auto& [unit, metres] :
         {std::pair{"m", 1.0}, {"mm", 0.001}, {"ft", 0.3048}, {"us-ft", 1200.0 / 3937}}) {
        reading.maker().word("read", "unit", unit);
        const Mesh mesh = std::get<Mesh>(reading.value());
        EXPECT_NEAR(test::volume(mesh), 60 * metres * metres * metres, 1e-9) << unit;
        EXPECT_EQ(mesh.part_count(), 2U);
    }
}

TEST(ReadMesh, AFileWithoutAUnitAsksForIt) {
    Reading reading("mesh.file", "two.obj", two_boxes());
    reading.maker().word("read", "unit", "file");
    const std::string error = reading.error();
    EXPECT_TRUE(error.starts_with("Unit is not stated by ‘")) << error;
    EXPECT_TRUE(
        error.ends_with("which is 12 × 3 × 5 m if it counts metres and 0.012 × 0.003 × 0.005 m if it counts "
                        "millimetres. Choose the unit it counts."))
        << error;
    // What it would be in each unit is told though the step fails.
    const auto offers = reading.offers();
    const auto& units = offers.at("unit").offers;
    EXPECT_EQ(units[0].note, "it states none");
    const auto feet = std::ranges::find(units, "ft", &Offer::name);
    ASSERT_NE(feet, units.end());
    EXPECT_EQ(feet->note, "3.66 × 0.914 × 1.52 m");
}

TEST(ReadMesh, StatedUnitsAreTaken) {
    Reading reading("mesh.file", "box.obj", "# Unit: millimetres\n" + test::box_obj());
    reading.maker().word("read", "unit", "file");
    EXPECT_NEAR(test::volume(std::get<Mesh>(reading.value())), 30e-9, 1e-18);
    EXPECT_EQ(reading.offers().at("unit").offers[0].note, "millimetres: 0.002 × 0.003 × 0.005 m");
}

TEST(ReadMesh, PartsAreChosenByName) {
    Reading reading("mesh.file", "two.obj", two_boxes());
    reading.maker().word("read", "parts", "\"jetty, north\"");
    const Mesh mesh = std::get<Mesh>(reading.value());
    EXPECT_EQ(mesh.face_count(), 6U);
    EXPECT_NEAR(mesh.bounds().low.x, 10, 1e-12);
    const Offers parts = reading.offers().at("parts");
    ASSERT_EQ(parts.offers.size(), 2U);
    EXPECT_EQ(parts.offers[1].name, "jetty, north");
    EXPECT_EQ(parts.offers[1].note, "6 faces, 2 × 3 × 5 m");
    reading.maker().word("read", "parts", "hide, boathouse");
    const std::string error = reading.error();
    EXPECT_TRUE(error.starts_with("Parts has ‘boathouse’, which ‘")) << error;
    EXPECT_TRUE(error.ends_with("does not. It has ‘hide’, ‘jetty, north’.")) << error;
}

TEST(ReadMesh, YUpIsTurned) {
    Reading reading("mesh.file", "box.obj", test::box_obj());
    reading.maker().word("read", "up", "y");
    const Box box = std::get<Mesh>(reading.value()).bounds();
    EXPECT_NEAR(box.size().z, 3, 1e-12);
    EXPECT_NEAR(box.low.y, -5, 1e-12);
    EXPECT_NEAR(test::volume(std::get<Mesh>(reading.value())), 30, 1e-9);
}

// A site in a grid in feet: what is 1 mm apart there is 1 mm apart here.
TEST(ReadMesh, TheOriginIsPutNearASite) {
    Reading reading("mesh.file", "box.obj", "# Unit: feet\n" + test::box_obj({1'250'000, 900'000, 12}));
    reading.maker().word("read", "unit", "file");
    ASSERT_EQ(reading.remarks().size(), 1U);
    EXPECT_EQ(reading.remarks()[0],
              "It lies 469 km from the origin, where drawings lose their digits; put the origin to 381000 m, "
              "274300 m.");
    reading.maker()
        .word("read", "placing", "from")
        .number("read", "east", "1250000 ft")
        .number("read", "north", "900000 ft");
    const Box box = std::get<Mesh>(reading.value()).bounds();
    EXPECT_NEAR(box.low.x, 0, 1e-9);
    EXPECT_NEAR(box.high.y, 3 * 0.3048, 1e-9);
    EXPECT_NEAR(box.low.z, 12 * 0.3048, 1e-9);
    EXPECT_EQ(reading.remarks(), std::vector<std::string>());
}

TEST(ReadMesh, LossesAndNamesAreRemarked) {
    Reading reading("mesh.file", "box.obj", "usemtl old reed\n" + test::box_obj() + "f 1 2 77\n");
    const auto remarks = reading.remarks();
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_EQ(remarks[0], "1 face was left out: 1 have corners that are not there (first: number 7).");
    EXPECT_EQ(remarks[1], "Of its materials 1 is ‘old reed’.");
}

TEST(ReadMesh, FilesThatChangeAreNoticedWithWhatTheyReferTo) {
    const Folder folder;
    test::write(folder / "paint.mtl", "newmtl water\nKd 0 0.25 0.5\n");
    test::write(folder / "a.obj", "mtllib paint.mtl\nusemtl water\n" + test::box_obj());
    FileStore store(folder.path());
    const auto read = [](const std::filesystem::path& path) { return read_mesh_file(path, plume::Run()); };
    const Hash before = *store.stamp("a.obj");
    ASSERT_TRUE(store.read("a.obj", "mesh", read));
    EXPECT_TRUE(store.changed().empty());
    test::write(folder / "paint.mtl", "newmtl water\nKd 0 0.75 0.5 \n");
    EXPECT_EQ(store.changed(), (std::vector<std::string>{"a.obj"}));
    store.refresh("a.obj");
    EXPECT_NE(*store.stamp("a.obj"), before);
    const auto again = store.read("a.obj", "mesh", read);
    ASSERT_TRUE(again);
    EXPECT_EQ((*again)->mesh.face_fields()[2].values[0], 0.75);
    std::filesystem::remove(folder / "a.obj");
    EXPECT_EQ(store.changed(), (std::vector<std::string>{"a.obj"}));
}

TEST(ReadCurves, LayersAreChosenAndNumbered) {
    const std::string dxf =
        "0\nSECTION\n2\nENTITIES\n0\nLINE\n8\npaths\n10\n0\n20\n0\n11\n3\n21\n4\n0\nCIRCLE\n8\npond\n10\n9\n2"
        "0\n9\n40\n2\n0\nENDSEC\n0\nEOF\n";
    Reading reading("curve.file", "site.dxf", dxf);
    const CurveSet both = std::get<CurveSet>(reading.value());
    ASSERT_EQ(both.curves.size(), 2U);
    EXPECT_EQ(both.curves[1].fields()[0].name, "layer");
    EXPECT_EQ(both.curves[1].fields()[0].values[0], 2);
    EXPECT_EQ(reading.remarks(), (std::vector<std::string>{"Of its layers 1 is ‘paths’, 2 is ‘pond’."}));
    reading.maker().word("read", "layers", "pond");
    EXPECT_EQ(std::get<CurveSet>(reading.value()).curves.size(), 1U);
    EXPECT_EQ(reading.offers().at("layers").offers[1].note, "1 curve, 4 × 4 × 0 m");
}

TEST(ReadHeights, GridsAndPicturesAreLattices) {
    Reading reading("lattice.heights", "mud.asc",
                    "ncols 3\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 10\n1 2 3\n4 -9999 6\n");
    const PointLattice grid = std::get<PointLattice>(reading.value());
    EXPECT_EQ(grid.counts()[0], 3U);
    EXPECT_EQ(grid.point_count(), 5U);
    EXPECT_EQ(grid.point(0), (Vec3{5, 5, 4}));
    EXPECT_EQ(grid.point(5), (Vec3{25, 15, 3}));
    reading.maker().word("read", "thin", "each").number("read", "step", "2");
    const PointLattice thin = std::get<PointLattice>(reading.value());
    EXPECT_EQ(thin.counts()[0], 2U);
    EXPECT_EQ(thin.point(1), (Vec3{25, 5, 6}));
    reading.maker().word("read", "unit", "file");
    EXPECT_TRUE(reading.error().starts_with("Unit is not stated")) << reading.error();
}

TEST(ReadCloud, OneInSoMany) {
    Reading reading("points.cloud", "scan.xyz", "0 0 0\n1 1 1\n2 2 2\n3 3 3\n4 4 4\n");
    EXPECT_EQ(std::get<PointLattice>(reading.value()).point_count(), 5U);
    reading.maker().word("read", "thin", "each").number("read", "step", "2").word("read", "unit", "cm");
    const PointLattice thin = std::get<PointLattice>(reading.value());
    ASSERT_EQ(thin.point_count(), 3U);
    EXPECT_NEAR(thin.point(2).x, 0.04, 1e-15);
}

TEST(ReadAny, MissingEmptyAndForeignFilesSaySo) {
    for (const char* kind : {"mesh.file", "curve.file", "points.cloud", "lattice.heights"}) {
        Reading reading(kind, "empty.bin", "");
        EXPECT_TRUE(reading.error().find("is empty") != std::string::npos) << reading.error();
        EXPECT_TRUE(reading.error().find("empty.bin") != std::string::npos) << reading.error();
        test::write(reading.path(), std::string("\x7f\x45\x4c\x46\0\0\1\2\3", 9));
        EXPECT_FALSE(reading.error().empty());
        std::filesystem::remove(reading.path());
        EXPECT_TRUE(reading.error().find("is not there") != std::string::npos) << reading.error();
    }
}

TEST(PickedNames, CommasAndQuotesBelongToNamesInQuotes) {
    EXPECT_EQ(picked_names(""), std::vector<std::string>());
    EXPECT_EQ(picked_names(" paths , pond,,"), (std::vector<std::string>{"paths", "pond"}));
    EXPECT_EQ(picked_names("\"a, b\", \" c \", \"say \"\"no\"\"\""),
              (std::vector<std::string>{"a, b", " c ", "say \"no\""}));
    for (const std::vector<std::string>& names : {std::vector<std::string>{"a"},
                                                  {"a,b", "c"},
                                                  {" lead", "trail "},
                                                  {"\"", "\"\"", ","},
                                                  {"reed bed", "0"}})
        EXPECT_EQ(picked_names(picks_text(names)), names);
}

}  // namespace
}  // namespace plume
