// IFC as web-ifc reads it, which has Y up.

#include <cmath>
#include <numbers>

#include "core/data/building_classes.hpp"
#include "core/exchange/study_file.hpp"
#include "folders.hpp"
#include "judged/judges.hpp"

namespace plume {
namespace {

using test::Folder;
using test::judged;
using Json = nlohmann::json;

Json written_and_read(const ExportJob& job, const std::filesystem::path& path) {
    const auto report = export_results(job, path, plume::Run());
    EXPECT_TRUE(report) << sentence(report.error());
    Json read = judged("ifc.mjs", path);
    EXPECT_EQ(read["schema"], "IFC4");
    EXPECT_EQ(read["sites"], 1);
    EXPECT_EQ(read["buildings"], 1);
    return read;
}
double sum_of(const Json& read, const char* figure) {
    double sum = 0;
    for (const Json& element : read["elements"])
        sum += element[figure].get<double>();
    return sum;
}
Value beams() {
    return test::value_of(test::run(*load_study(std::string(test::examples_folder) + "/mesh.bars.plume")),
                          "beams");
}

TEST(JudgedIfc, BarsAreSweptBeamsWithTheirNumbers) {
    const Folder folder;
    ExportJob job = test::job_of(beams(), "beams");
    job.results[0].show.material.key = "timber";
    job.results[0].show.colour_by = "-";
    const Json read = written_and_read(job, folder / "it.ifc");
    ASSERT_EQ(read["elements"].size(), 58U);
    EXPECT_EQ(read["swept"], 58);
    EXPECT_EQ(read["profiles"], 1) << "one section for all";
    EXPECT_EQ(read["materials"], Json::array({"Timber"}));
    EXPECT_EQ(read["storeys"], Json::array({"ground"}));
    EXPECT_NEAR(sum_of(read, "volume"), 58 * 0.08 * 0.2, 1e-5);
    std::set<std::string> ids;
    for (const Json& element : read["elements"]) {
        EXPECT_EQ(element["kind"], "IfcBeam");
        ids.insert(element["id"].get<std::string>());
        EXPECT_NEAR(element["numbers"]["length"].get<double>(), element["numbers"]["Length"].get<double>(),
                    1e-9);
        EXPECT_NEAR(element["numbers"]["NetVolume"].get<double>(), element["volume"].get<double>(), 1e-6);
        EXPECT_NEAR(element["numbers"]["section_width"].get<double>(), 0.08, 1e-12);
        EXPECT_NEAR(element["colour"]["x"].get<double>(), 0xBE / 255.0, 1e-6);
    }
    EXPECT_EQ(ids.size(), 58U);
    // The same parts keep their identity, whatever else is written.
    job.results.insert(job.results.begin(), {std::make_shared<const Value>(Value(*Mesh::make([] {
                                                 Mesh::Parts parts;
                                                 parts.x = Doubles{0, 1, 0};
                                                 parts.y = Doubles{0, 0, 1};
                                                 parts.z = Doubles{0, 0, 0};
                                                 parts.first = {0, 3};
                                                 parts.corners = {0, 1, 2};
                                                 return parts;
                                             }()))),
                                             "roof"});
    const Json again = written_and_read(job, folder / "again.ifc");
    std::size_t known = 0, roofs = 0;
    for (const Json& element : again["elements"]) {
        known += ids.contains(element["id"].get<std::string>()) ? 1 : 0;
        roofs += element["kind"] == "IfcRoof" ? 1 : 0;
    }
    EXPECT_EQ(known, 58U);
    EXPECT_EQ(roofs, 1U);
}

TEST(JudgedIfc, UnitsAreSaid) {
    const Folder folder;
    for (const LengthUnit unit : {LengthUnit::millimetre, LengthUnit::foot}) {
        ExportJob job = test::job_of(beams(), "beams", unit);
        job.study_units.length = LengthUnit::foot;  // as if it were one in feet
        const Json read = written_and_read(job, folder / "it.ifc");
        EXPECT_NEAR(sum_of(read, "volume"), 58 * 0.08 * 0.2 * std::pow(0.3048, 3), 1e-6) << symbol(unit);
        EXPECT_NEAR(read["elements"][0]["numbers"]["NetVolume"].get<double>(), 0.016 * std::pow(0.3048, 3),
                    1e-9);
        const double length = read["elements"][0]["numbers"]["length"];
        EXPECT_NEAR(length, unit == LengthUnit::foot ? 1 : 304.8, 1e-9);
    }
}

TEST(JudgedIfc, BodiesAndFramesClassesAndStoreys) {
    const Folder folder;
    const Evaluation tower = test::run(*load_study(std::string(test::demo_folder) + "/flight-tower.plume"));
    ExportJob job{{}, {}, LengthUnit::metre};
    for (const char* name : {"family", "plates"})
        job.results.push_back({tower.outcome(name)->value, name});
    job.results[1].building_class = "slab";
    job.layers_by = "family";
    const Json read = written_and_read(job, folder / "it.ifc");
    EXPECT_EQ(read["members"], 1176);
    EXPECT_GT(read["storeys"].size(), 20U) << "one a family, one for the plates";
    std::size_t slabs = 0;
    double area = 0;
    for (const Json& element : read["elements"]) {
        if (element["kind"] != "IfcSlab") continue;
        ++slabs;
        area += element["area"].get<double>();
    }
    EXPECT_EQ(slabs, 17U);
    EXPECT_NEAR(area, number_of(test::value_of(tower, "floor_area"))->value, 0.5)
        << "arcs in straight pieces";
    job.results[1].building_class = "chimney";
    const auto refused = export_results(job, folder / "it.ifc", plume::Run());
    ASSERT_FALSE(refused);
    EXPECT_NE(sentence(refused.error()).find("roof, slab, wall"), std::string::npos);
}

TEST(JudgedIfc, TubesAreSweptWithTheirHollow) {
    const Folder folder;
    test::StudyMaker maker;
    maker.add("lattice.rectangular", "plot");
    maker.number("plot", "columns", "1").number("plot", "rows", "1");
    maker.number("plot", "width", "3 m").number("plot", "depth", "2 m");
    maker.add("frame.lattice", "net");
    maker.set("net", "points", ResultName{"plot"});
    maker.add("mesh.bars", "struts");
    maker.set("struts", "frame", ResultName{"net"}).word("struts", "section", "tube");
    const Value struts = test::value_of(test::run(maker.study), "struts");
    const Json read = written_and_read(test::job_of(struts, "Stäbe, \"hohl\""), folder / "it.ifc");
    EXPECT_EQ(read["swept"], 4);
    EXPECT_EQ(read["elements"][0]["kind"], "IfcMember") << "bars are members, whatever their name";
    EXPECT_EQ(read["elements"][0]["name"], "Stäbe, \"hohl\" 0,0–1,0");
    for (const Json& element : read["elements"])
        EXPECT_NEAR(element["volume"].get<double>(), element["numbers"]["NetVolume"].get<double>(), 1e-6);
}

TEST(BuildingClasses, AreToldFromTheWordsOfNames) {
    EXPECT_EQ(usual_building_class("north_columns", false).key, "column");
    EXPECT_EQ(usual_building_class("Canopy", false).key, "proxy") << "names are words as they are typed";
    EXPECT_EQ(usual_building_class("canopy", false).key, "roof");
    EXPECT_EQ(usual_building_class("roofs2", true).key, "roof");
    EXPECT_EQ(usual_building_class("net", true).key, "member");
    EXPECT_EQ(usual_building_class("proofs", false).key, "proxy");
}

}  // namespace
}  // namespace plume
