// The command line as its users meet it: real processes, their output and exit status.

#include <gtest/gtest.h>

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <sstream>
#include <thread>

#include "cli/process.hpp"
#include "folders.hpp"

namespace plume::test {
namespace {

using Json = nlohmann::json;

const std::string canopy = std::string(demo_folder) + "/wing-canopy.plume";

Finished plume(std::vector<std::string> words) {
    words.insert(words.begin(), PLUME_PROGRAM);
    return run_process(words);
}

class Commands : public testing::Test {
protected:
    Commands() {
        std::string name = (std::filesystem::temp_directory_path() / "plume-cli-XXXXXX").string();
        folder_ = mkdtemp(name.data());
    }
    ~Commands() override { std::filesystem::remove_all(folder_); }
    std::string file(const char* name) const { return (folder_ / name).string(); }
    std::string written(const char* name, const std::string& text) const {
        std::ofstream(file(name)) << text;
        return file(name);
    }
    // The canopy with one piece of text replaced.
    std::string changed(const std::string& from, const std::string& to) const {
        std::stringstream text;
        text << std::ifstream(canopy).rdbuf();
        std::string whole = text.str();
        EXPECT_NE(whole.find(from), std::string::npos);
        whole.replace(whole.find(from), from.size(), to);
        return written("changed.plume", whole);
    }

private:
    std::filesystem::path folder_;
};

// Stopped from outside while it works, or while it starts (143 of SIGTERM, which nobody hears yet): nothing
// half written, nothing left behind.
TEST_F(Commands, SignalsStopItCleanly) {
    const std::string study = written("long.plume", R"({"plume": 1, "page": [
      {"step": "lattice.rectangular", "result": "a", "slots": {"columns": 2500, "rows": 2500}},
      {"step": "field.noise", "result": "b", "slots": {"points": "a"}},
      {"step": "field.smooth", "result": "c", "slots": {"field": "b", "times": 400}}]})");
    for (const char* signal : {"INT", "TERM"}) {
        const Finished stopped =
            run_process({"/usr/bin/timeout", "--preserve-status", "-s", signal, "1", PLUME_PROGRAM, "run",
                         study, "--budget", "100", "--out", "c=" + file("c.csv")});
        EXPECT_TRUE(stopped.status == 130 || stopped.status == 143) << signal << ": " << stopped.err;
        EXPECT_FALSE(std::filesystem::exists(file("c.csv")));
        EXPECT_EQ(std::distance(std::filesystem::directory_iterator(file("")),
                                std::filesystem::directory_iterator()),
                  1)
            << "the study alone";
    }
}

// What README tells a reader to type, with files of the demo and into this test's folder.
TEST_F(Commands, TheLinesOfTheReadmeWork) {
    std::ifstream page(readme_file);
    std::size_t lines = 0;
    for (std::string line; std::getline(page, line);) {
        if (!line.starts_with("    plume ")) continue;
        ++lines;
        std::istringstream typed(line.substr(10));
        std::vector<std::string> words;
        for (std::string word; typed >> word;) {
            const bool demo = word.starts_with("demo/");
            if (demo) word = demo_folder + word.substr(4);
            std::erase(word, '\'');
            for (const char* ending : {".obj", ".png", ".step", ".glb", ".3mf", ".dxf", ".pdf"})
                if (!demo && word.ends_with(ending))
                    word.insert(word.find('=') + 1, file(""));  // 0 without one
            words.push_back(word);
        }
        const Finished done = plume(words);
        EXPECT_EQ(done.status, 0) << line << '\n' << done.err;
        EXPECT_TRUE(words.back() != "--json" || Json::accept(done.out)) << line;
    }
    EXPECT_EQ(lines, 11U);
    EXPECT_TRUE(std::filesystem::exists(file("canopy.obj")));
    for (const char* name :
         {"canopy.png", "ridge.step", "tower.glb", "tower.3mf", "sheets.dxf", "sheets.pdf"})
        EXPECT_TRUE(std::filesystem::exists(file(name))) << name;
}

TEST_F(Commands, ValuesOfPlacementsAndCurvesAsCsvAndJson) {
    const std::string study = written("edge.plume", R"({"plume": 1, "page": [
      {"step": "points.typed", "result": "pegs", "slots": {"rows": "0, 0, 0\n3, 4, 0"}},
      {"step": "curve.join", "result": "edge", "slots": {"points": "pegs", "shape": "straight"}},
      {"step": "placement.on_curve", "result": "marks", "slots": {"curve": "edge", "bays": 1}},
      {"step": "skin", "result": "roof", "slots": {"points": "pegs"}}]})");
    const Finished csv = plume({"values", study, "edge", "--unit", "cm"});
    EXPECT_EQ(csv.status, 0) << csv.err;
    EXPECT_EQ(csv.out, "curve,point,u,s cm,x cm,y cm,z cm\n0,0,0,0,0,0,0\n0,1,1,500,300,400,0\n");
    const Json json = Json::parse(plume({"values", study, "marks", "--json"}).out);
    EXPECT_EQ(json["rows_are"], "placements");
    EXPECT_EQ(json["columns"].size(), 15U);
    EXPECT_NEAR(json["rows"][1][14].get<double>(), 0, 1e-12) << "up_z of a curve on the ground";
    EXPECT_NEAR(json["rows"][1][12].get<double>(), 0.6, 1e-12) << "up_x runs along it";
    const Finished none = plume({"values", study, "roof"});
    EXPECT_EQ(none.status, 1);
}

TEST_F(Commands, HelpReadsWell) {
    const Finished help = plume({"--help"});
    EXPECT_EQ(help.status, 0);
    for (const char* word :
         {"run", "inspect", "values", "picture", "steps", "contents", "check", "Exit status"})
        EXPECT_NE(help.out.find(word), std::string::npos) << word;
    for (const char* command : {"run", "inspect", "values", "picture", "steps", "contents", "check"})
        EXPECT_EQ(plume({command, "--help"}).status, 0) << command;
    EXPECT_EQ(plume({"--version"}).status, 0);
}

TEST_F(Commands, WrongUsageIsTwo) {
    const std::vector<std::vector<std::string>> wrong{
        {},
        {"dance"},
        {"run"},
        {"run", canopy, "--dance"},
        {"values", canopy},
        {"picture", canopy},
        {"run", canopy, "--out", "roof"},
        {"run", canopy, "--out", "canopy=/tmp/x.obj", "--unit", "mile"},
        {"picture", canopy, "--out", "x.png", "--size", "big"},
        {"picture", canopy, "--out", "x.png", "--view", "inside"},
        {"run", canopy, "--budget", "-1"}};
    for (const auto& words : wrong)
        EXPECT_EQ(plume(words).status, 2) << (words.empty() ? "nothing" : words.front());
}

TEST_F(Commands, RunWritesResults) {
    const Finished run =
        plume({"run", canopy, "--set", "swell=250cm", "--out", "canopy=" + file("c.obj"), "--out",
               "canopy=" + file("c.stl"), "--out", "rise=" + file("r.csv"), "--unit", "mm"});
    EXPECT_EQ(run.status, 0) << run.err;
    EXPECT_NE(run.out.find("millimetres"), std::string::npos);
    EXPECT_TRUE(run.err.empty()) << "no progress where nobody looks: " << run.err;
    EXPECT_GT(std::filesystem::file_size(file("c.stl")), 1000U);
    std::ifstream csv(file("r.csv"));
    std::string line;
    double highest = 0;
    std::getline(csv, line);
    EXPECT_EQ(line, "i,j,k,x mm,y mm,z mm,nearness,rise mm");
    while (std::getline(csv, line))
        highest = std::max(highest, std::stod(line.substr(line.rfind(',') + 1)));
    EXPECT_NEAR(highest, 2500, 1e-9);
}

TEST_F(Commands, RunWritesSeveralResultsIntoOneFile) {
    const Finished two = plume({"run", canopy, "--out", "canopy,contours=" + file("two.obj")});
    EXPECT_EQ(two.status, 0) << two.err;
    std::ifstream obj(file("two.obj"));
    std::string line, objects;
    while (std::getline(obj, line))
        if (line.starts_with("o ")) objects += line + ';';
    EXPECT_EQ(objects, "o canopy;o contours;");
    EXPECT_NE(two.out.find("left out: "), std::string::npos) << two.out;
    const Finished shown =
        plume({"run", canopy, "--out", "*=" + file("all.glb"), "--out", "*=" + file("all.stl")});
    EXPECT_EQ(shown.status, 0) << shown.err;
    EXPECT_NE(shown.out.find("points"), std::string::npos) << "the perches, too: " << shown.out;
    EXPECT_GT(std::filesystem::file_size(file("all.stl")), 1000U) << "what has faces";
    const Finished unknown = plume({"run", canopy, "--out", "canopy,roof=" + file("x.obj")});
    EXPECT_EQ(unknown.status, 2);
    EXPECT_NE(unknown.err.find("names no result ‘roof’"), std::string::npos) << unknown.err;
    const Finished open = plume({"run", canopy, "--out", "canopy=" + file("open.stl"), "--for-print"});
    EXPECT_EQ(open.status, 1);
    EXPECT_NE(open.err.find("cannot be printed: it has"), std::string::npos) << open.err;
    EXPECT_FALSE(std::filesystem::exists(file("open.stl")));
    EXPECT_EQ(plume({"run", canopy, "--out", "canopy=" + file("x.pdf"), "--scale", "-2"}).status, 2);
}

TEST_F(Commands, ProgressIsDrawnOnATerminalAndWipedAway) {
    const std::string study = changed("\"= 16\"", "\"= 1500\"");
    const Finished run = run_on_terminal({PLUME_PROGRAM, "run", study, "--set", "bays=1500"});
    EXPECT_EQ(run.status, 0) << run.err;
    EXPECT_NE(run.err.find("step "), std::string::npos) << run.err;
    EXPECT_NE(run.err.find(" of 10"), std::string::npos) << run.err;
    EXPECT_TRUE(run.err.ends_with("\r\033[K")) << "the line is gone at the end";
}

TEST_F(Commands, InspectSaysWhatIsThere) {
    const Finished text = plume({"inspect", canopy});
    EXPECT_EQ(text.status, 0);
    EXPECT_NE(text.out.find("25 × 17 points, 24 × 16 bays"), std::string::npos);
    const Json all = Json::parse(plume({"inspect", canopy, "--json"}).out);
    EXPECT_EQ(all["results"].size(), 16U) << "ten of the sheet and six that are handed off";
    EXPECT_EQ(all["results"].back()["kind"], "delivery");
    EXPECT_EQ(all["controls"][0]["name"], "bays");
    const Json rise = Json::parse(plume({"inspect", canopy, "rise", "--json"}).out);
    EXPECT_EQ(rise["kind"], "field");
    EXPECT_EQ(rise["points"], 425);
    EXPECT_EQ(rise["bays"], Json::array({24, 16, 0}));
    EXPECT_EQ(rise["fields"][1]["unit"], "m");
    EXPECT_NEAR(rise["fields"][1]["most"].get<double>(), 3.2, 1e-12);
    EXPECT_EQ(rise["fields"][1]["not_finite"], 0);
    EXPECT_EQ(plume({"inspect", canopy, "nothing"}).status, 1);
}

TEST_F(Commands, ValuesAreCsv) {
    const Finished values = plume({"values", canopy, "ground", "--set", "bays=2"});
    EXPECT_EQ(values.status, 0);
    EXPECT_EQ(std::count(values.out.begin(), values.out.end(), '\n'), 1 + 3 * 17);
    EXPECT_EQ(values.out.substr(0, values.out.find('\n')), "i,j,k,x m,y m,z m");
    EXPECT_NE(values.out.find("\n2,16,0,18,12,0\n"), std::string::npos);
    EXPECT_TRUE(plume({"values", canopy, "canopy"}).out.starts_with("surface,pole,x m,y m,z m\n0,0,"))
        << "a surface has its poles";
}

TEST_F(Commands, PictureNeedsNoDisplay) {
    const Finished picture = plume({"picture", canopy, "--out", file("p.png"), "--size", "200x120"});
    EXPECT_EQ(picture.status, 0) << picture.err;
    std::ifstream png(file("p.png"), std::ios::binary);
    std::string start(24, '\0');
    png.read(start.data(), 24);
    EXPECT_EQ(start.substr(1, 3), "PNG");
    EXPECT_EQ(static_cast<unsigned char>(start[19]), 200);
    for (const char* view : {"plan", "front", "side"})
        EXPECT_EQ(plume({"picture", canopy, "--out", file("p.png"), "--size", "60x40", "--view", view,
                         "--show", "swollen"})
                      .status,
                  0);
    EXPECT_EQ(plume({"picture", canopy, "--out", "/nowhere/p.png", "--size", "60x40"}).status, 1);
    EXPECT_EQ(
        plume({"picture", canopy, "--out", file("p.png"), "--size", "60x40", "--show", "nothing"}).status, 1);
}

TEST_F(Commands, MomentsAreInspectedAndFilmed) {
    const std::string walk = std::string(demo_folder) + "/float-walk.plume";
    const Json then = Json::parse(plume({"inspect", walk, "--json", "--time", "2.5"}).out);
    EXPECT_EQ(then["moment"], 2.5);
    EXPECT_EQ(then["controls"][0]["value"], 0.4);
    EXPECT_NE(plume({"inspect", walk, "--time", "2.5"}).out.find("here at 2.5 s: boat, riding"),
              std::string::npos);
    const Json fixed =
        Json::parse(plume({"inspect", walk, "--json", "--time", "2.5", "--set", "swell=0.3"}).out);
    EXPECT_EQ(fixed["controls"][0]["value"], 0.3) << "a setting stands for all moments";
    const Finished film = plume({"film", walk, "--out", file("frames"), "--size", "40x24", "--samples", "1",
                                 "--from", "1", "--to", "1.1", "--view", "from the bank"});
    EXPECT_EQ(film.status, 0) << film.err;
    EXPECT_NE(film.out.find("4 frames of 40 × 24 pixels"), std::string::npos) << film.out;
    EXPECT_TRUE(std::filesystem::exists(file("frames") + "/frame-0004.png"));
    EXPECT_EQ(plume({"film", walk, "--out", file("f"), "--from", "3", "--to", "2"}).status, 2);
    EXPECT_EQ(plume({"film", walk, "--out", file("f"), "--time", "2"}).status, 2) << "it has many";
    EXPECT_EQ(plume({"inspect", walk, "--time", "-1"}).status, 2);
    const Finished set = plume({"inspect", walk, "--set", "time=3"});
    EXPECT_NE(set.err.find("--time"), std::string::npos) << set.err;
    const std::string day =
        written("day.plume", R"({"plume": 1, "time": {"seconds": 86400, "rate": 24}, "page": []})");
    const Finished many = plume({"film", day, "--out", file("f")});
    EXPECT_EQ(many.status, 2);
    EXPECT_NE(many.err.find("2073601 frames"), std::string::npos) << many.err;
}

TEST_F(Commands, PicturesAreToScaleWithNothingBehind) {
    // The roof is 18.2 m wide: at 1:200 and 254 dots an inch a metre takes 50 pixels.
    const std::string roof = std::string(demo_folder) + "/ridge-roof.plume";
    const Finished picture = plume({"picture", roof, "--out", file("p.png"), "--show", "roof", "--view",
                                    "plan", "--scale", "200", "--dpi", "254", "--transparent"});
    EXPECT_EQ(picture.status, 0) << picture.err;
    EXPECT_NE(picture.out.find("958 × 550 pixels"), std::string::npos) << picture.out;
    const Finished huge = plume({"picture", roof, "--out", file("p.png"), "--scale", "1"});
    EXPECT_EQ(huge.status, 1);
    EXPECT_NE(huge.err.find("more than the 32768 a picture can have"), std::string::npos) << huge.err;
}

TEST_F(Commands, PicturesHaveASunACameraAndATurn) {
    const std::string study = written("nests.plume", R"({"plume": 1,
      "cameras": [{"name": "the door", "target": [0, 0, 0.5], "distance": 6, "azimuth": -90, "elevation": 5}],
      "page": [
        {"step": "lattice.block", "result": "corners", "show": {"visible": false}, "slots": {
          "columns": 1, "rows": 1, "layers": 1, "width": "2 m", "depth": "1 m", "height": "1 m"}},
        {"step": "body.cells", "result": "box", "slots": {"points": "corners"}}]})");
    const auto picture = [&](std::vector<std::string> words) {
        words.insert(words.begin(), {"picture", study, "--out", file("p.png"), "--size", "60x40"});
        return plume(words);
    };
    EXPECT_NE(picture({"--sun", "215,35", "--plain", "--clay", "--outlines", "--view", "the door"})
                  .out.find("the sun at a bearing of 215°, 35° high"),
              std::string::npos);
    // 14:00 in Universal Time, as astronomy-engine has it.
    EXPECT_NE(picture({"--sun", "54,1,2026-06-21T15:00+01:00"}).out.find("of 229°, 51.8° high"),
              std::string::npos);
    EXPECT_NE(picture({"--sun", "54,1,2026-06-21T14:00Z"}).out.find("of 229°, 51.8° high"),
              std::string::npos);
    EXPECT_NE(picture({"--sun", "0,-8"}).out.find("8° below the horizon"), std::string::npos);
    EXPECT_NE(picture({"--turn", "4", "--seconds", "2", "--samples", "1"})
                  .out.find("4 pictures around of 60 × 40 pixels, shown in 2 s"),
              std::string::npos);
    for (const char* sun :
         {"", "noon", "215", "215,35,12", "95,1,2026-06-21T14:00Z", "54,1,2026-02-30T14:00Z",
          "54,1,2026-06-21T14:00", "54,1,2026-06-21T14:75Z", "54,1,2026-06-21T14:00+1"}) {
        const Finished refused = picture({"--sun", sun});
        EXPECT_EQ(refused.status, *sun ? 2 : 0) << sun;
        EXPECT_EQ(refused.err.find("--sun") != std::string::npos, *sun != 0) << refused.err;
    }
    const Finished nowhere = picture({"--view", "the window"});
    EXPECT_EQ(nowhere.status, 2);
    EXPECT_NE(nowhere.err.find("nor a camera of the study"), std::string::npos);
}

TEST_F(Commands, ContentsSayWhatIsInAFile) {
    const std::string plan = std::string(demo_folder) + "/site/plan.dxf";
    const Finished told = plume({"contents", plan});
    EXPECT_EQ(told.status, 0) << told.err;
    EXPECT_NE(told.out.find("willows     56 curves"), std::string::npos) << told.out;
    const Json json = Json::parse(plume({"contents", plan, "--json"}).out);
    ASSERT_EQ(json.size(), 1U);
    EXPECT_EQ(json[0]["step"], "curve.file");
    EXPECT_EQ(json[0]["slots"]["layers"].size(), 8U);
    EXPECT_TRUE(json[0]["error"].is_null());
    EXPECT_EQ(plume({"contents", file("letter.docx")}).status, 2);
    EXPECT_EQ(plume({"contents", plan, "--step", "no.such"}).status, 2);
    EXPECT_EQ(plume({"contents", file("gone.dxf")}).status, 1);
}

TEST_F(Commands, StepsOfOnesOwnAreKeptAndListed) {
    const char* before = std::getenv("XDG_DATA_HOME");
    const std::string kept = before ? before : "";
    ::setenv("XDG_DATA_HOME", file("data").c_str(), 1);
    EXPECT_NE(plume({"own"}).out.find("None is kept in"), std::string::npos);
    const std::string dune = std::string(examples_folder) + "/group.steps.plume";
    EXPECT_EQ(plume({"own", dune, "--keep", "dune"}).status, 0);
    EXPECT_EQ(plume({"own", dune, "--keep", "dune"}).status, 2) << "one of that title is there";
    EXPECT_EQ(plume({"own", dune, "--keep", "dune", "--over"}).status, 0);
    EXPECT_EQ(plume({"own", dune, "--keep", "sand"}).status, 2);
    EXPECT_EQ(plume({"own", canopy, "--keep", "perches"}).status, 1);
    const Json json = Json::parse(plume({"own", "--json"}).out);
    ASSERT_EQ(json["steps"].size(), 1U);
    EXPECT_EQ(json["steps"][0]["title"], "Heap a dune");
    EXPECT_EQ(json["steps"][0]["sentence"], "Heap a dune of 12 bays, 1 m high (2 steps).");
    written("data/plume-lattice/steps/bad.lua", "return 1");
    const Finished told = plume({"own"});
    EXPECT_EQ(told.status, 1);
    EXPECT_NE(told.err.find("‘bad.lua’"), std::string::npos) << told.err;
    if (before)
        ::setenv("XDG_DATA_HOME", kept.c_str(), 1);
    else
        ::unsetenv("XDG_DATA_HOME");
}

TEST_F(Commands, WhatGrewSaysWhyItIsThere) {
    const std::string study = written("tree.plume", R"({"plume": 1, "page": [
        {"step": "growth.parts", "result": "tree", "slots": {"generations": 2,
         "formula": {"formula": ["a becomes", "a, moved 1 m up", "leaf, sized 0.5"]}}}]})");
    const Finished told = plume({"why", study, "tree", "4"});
    EXPECT_EQ(told.status, 0);
    EXPECT_TRUE(told.out.starts_with("tree — Grow parts at the origin")) << told.out;
    EXPECT_NE(told.out.find("    generation 0: a, 1 m; where it began\n"
                            "    generation 1: a, 1 m; 1st of 2; by ‘a, moved 1 m up’\n"
                            "    generation 2: leaf, 0.5 m; 2nd of 2; by ‘leaf, sized 0.5’\n"),
              std::string::npos)
        << told.out;
    const Json json = Json::parse(plume({"why", study, "tree", "4", "--json"}).out);
    EXPECT_EQ(json["part"], "4");
    EXPECT_EQ(json["steps"][0]["result"], "tree");
    EXPECT_FALSE(json["steps"][0]["ends"]);
    const Json inspected = Json::parse(plume({"inspect", study, "tree", "--json"}).out);
    EXPECT_EQ(inspected["generations"], Json({1, 2, 2}));
    EXPECT_EQ(inspected["parts"]["leaf"], 2);
    EXPECT_EQ(plume({"why", study, "tree", "9"}).status, 2);
    EXPECT_EQ(plume({"why", study, "tree", "0 1"}).status, 2);
}

TEST_F(Commands, WhySaysUnderEverySentenceWhatAPartWasThere) {
    const Finished told = plume({"why", canopy, "swollen", "4,3", "12,8"});
    EXPECT_EQ(told.status, 0) << told.err;
    for (const char* line : {"\nground — ", "\nperches — ", "\nrise — ", "\nswollen — ", "  i 4  j 3\n",
                             "  i 12  j 8\n", "    the nearest is ", " is a share of "})
        EXPECT_NE(("\n" + told.out).find(line), std::string::npos) << line << told.out;
    const Json both = Json::parse(plume({"why", canopy, "swollen", "4,3", "12,8", "--json"}).out);
    ASSERT_EQ(both.size(), 2U);
    EXPECT_EQ(both[1]["part"], "12,8");
    EXPECT_EQ(both[0]["steps"].back()["result"], "swollen");
    const Finished wrong = plume({"why", canopy, "swollen", "400,3"});
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.err.find("‘400,3’ is no part of swollen"), std::string::npos) << wrong.err;
    EXPECT_EQ(plume({"why", canopy, "nothing", "0"}).status, 1);
}

TEST_F(Commands, WordsOfTheTradeAreTold) {
    const Finished told = plume({"steps", "--words"});
    EXPECT_EQ(told.status, 0);
    EXPECT_NE(told.out.find("Points in an order of columns, rows and layers"), std::string::npos) << told.out;
}

TEST_F(Commands, StepsListTheCatalogue) {
    const Json steps = Json::parse(plume({"steps", "--json"}).out);
    EXPECT_GT(steps.size(), 50U);
    EXPECT_EQ(steps[0]["key"], "lattice.rectangular");
    EXPECT_EQ(steps[0]["slots"][0]["type"], "count");
    EXPECT_NE(plume({"steps"}).out.find("Measure distance to attractors"), std::string::npos);
    // All of one, by its key or by words.
    const std::string page = plume({"steps", "lattice.polar"}).out;
    for (const char* part : {"Lay a polar lattice", "Lay 36 spokes all around", "Sallow Reach", "above 0 m",
                             "Type a larger radius.", "Outer radius"})
        EXPECT_NE(page.find(part), std::string::npos) << part;
    EXPECT_EQ(page.find("**"), std::string::npos);
    EXPECT_EQ(plume({"steps", "polar latice"}).out, page);
    EXPECT_EQ(Json::parse(plume({"steps", "skin", "--json"}).out)["verb"], "Skin points");
    EXPECT_EQ(plume({"steps", "zzzz"}).status, 2);
    std::filesystem::create_directory(file("pages"));
    EXPECT_EQ(plume({"steps", "--pages", file("pages")}).status, 0);
    EXPECT_TRUE(std::filesystem::exists(file("pages") + "/lattice.polar.md"));
    EXPECT_TRUE(std::filesystem::exists(file("pages") + "/README.md"));
    EXPECT_NE(plume({"steps", "--pages", file("nowhere")}).status, 0);
}

TEST_F(Commands, RemarksAndSingleNumbersAreInspected) {
    const std::string field = std::string(demo_folder) + "/perch-field.plume";
    const Json posts = Json::parse(plume({"inspect", field, "perches", "--json"}).out);
    EXPECT_EQ(posts["kind"], "mesh");
    ASSERT_EQ(posts["remarks"].size(), 1U);
    EXPECT_NE(posts["remarks"][0].get<std::string>().find("posts"), std::string::npos);
    EXPECT_NE(plume({"inspect", field, "perches"}).out.find("posts"), std::string::npos);
    // A picture that is linked relative to the study is found from anywhere.
    EXPECT_EQ(plume({"check", std::string(demo_folder) + "/reed-screen.plume"}).status, 0);
    const Json depth = Json::parse(
        plume({"inspect", std::string(demo_folder) + "/reed-screen.plume", "depth", "--json"}).out);
    EXPECT_EQ(depth["fields"].back()["least"], 0);
    EXPECT_NEAR(depth["fields"].back()["most"].get<double>(), 42, 1e-9);
    EXPECT_EQ(depth["bays"], Json::array({120, 60, 0}));
}

TEST_F(Commands, CheckPrintsEveryErrorAndExitsOne) {
    EXPECT_EQ(plume({"check", canopy}).status, 0);
    const Finished bad = plume({"check", canopy, "--set", "bays=2.5"});
    EXPECT_EQ(bad.status, 1);
    EXPECT_NE(bad.err.find("ground: Bays along i has to be a whole number, and is 2.5."), std::string::npos)
        << bad.err;
    EXPECT_EQ(bad.err.find("perches"), std::string::npos) << "what is sound is not complained about";
    const Json list = Json::parse(plume({"check", canopy, "--set", "bays=0", "--json"}).out);
    EXPECT_EQ(list[0]["code"], "out-of-range");
    EXPECT_EQ(list[1]["state"], "blocked");
    EXPECT_EQ(Json::parse(plume({"check", file("none.plume"), "--json"}).out)[0]["code"], "file-missing");
}

TEST_F(Commands, SettingsThatMakeNoSense) {
    for (const char* setting : {"bayz=3", "bays", "=3", "bays=", "bays=3 m", "swell=30°", "swell=1/0"})
        EXPECT_EQ(plume({"run", canopy, "--set", setting}).status, 1) << setting;
    EXPECT_NE(plume({"run", canopy, "--set", "bayz=3"}).err.find("‘bays’"), std::string::npos);
}

TEST_F(Commands, FilesThatAreNoStudies) {
    std::filesystem::create_directory(file("folder.plume"));
    const std::string cases[] = {file("none.plume"),
                                 written("empty.plume", ""),
                                 written("binary.plume", std::string("\x7f"
                                                                     "ELF\0",
                                                                     5)),
                                 written("newer.plume", R"({"plume": 7})"),
                                 written("deep.plume", std::string(1'000'000, '[')),
                                 file("folder.plume"),
                                 "/dev/null"};
    for (const std::string& path : cases) {
        const Finished run = plume({"run", path});
        EXPECT_EQ(run.status, 1) << path;
        EXPECT_TRUE(run.err.starts_with("plume: ‘" + path + "’")) << run.err;
    }
}

TEST_F(Commands, AnEnormousLatticeIsRefusedBeforeItIsTried) {
    const std::string study = changed("\"= 16\"", "\"= 40000\"");
    const Finished run = plume({"check", study, "--set", "bays=40000"});
    EXPECT_EQ(run.status, 1);
    EXPECT_NE(run.err.find("38.4 GB"), std::string::npos) << run.err;
    EXPECT_NE(plume({"check", canopy, "--budget", "0.00001"}).err.find("--budget"), std::string::npos);
}

TEST_F(Commands, AHandMadeCycleIsExplained) {
    const Finished run = plume(
        {"check", changed("\"points\": {\"result\": \"ground\"}", "\"points\": {\"result\": \"swollen\"}")});
    EXPECT_EQ(run.status, 1);
    EXPECT_NE(run.err.find("does not stand above"), std::string::npos) << run.err;
}

TEST_F(Commands, FilesThatCannotBeWritten) {
    const Finished run =
        plume({"run", canopy, "--out", "canopy=/proc/c.obj", "--out", "rise=" + file("r.csv")});
    EXPECT_EQ(run.status, 1);
    EXPECT_NE(run.err.find("/proc/c.obj"), std::string::npos);
    EXPECT_TRUE(std::filesystem::exists(file("r.csv"))) << "the other file is written all the same";
    EXPECT_EQ(plume({"run", canopy, "--out", "canopy=" + file("c.xyz")}).status, 2);
}

// What can be said of an output is said before anything is computed or written.
TEST_F(Commands, OutputsAreCheckedBeforeTheWork) {
    const std::string good = "rise=" + file("r.csv");
    const struct {
        std::string output, said;
    } cases[] = {{"canopy=" + file("c.xyz"), "ending"},
                 {"nothing=" + file("n.csv"), "names no result"},
                 {"canopy", "result=file"},
                 {"canopy=" + file("./r.csv"), "another result"}};
    for (const auto& c : cases) {
        const Finished run = plume({"run", canopy, "--out", good, "--out", c.output});
        EXPECT_EQ(run.status, 2) << c.output;
        EXPECT_NE(run.err.find(c.said), std::string::npos) << run.err;
        EXPECT_FALSE(std::filesystem::exists(file("r.csv"))) << c.output;
    }
}

TEST_F(Commands, DevicesPipesAndLinksAreWrittenIntoNotReplaced) {
    std::filesystem::create_symlink(file("real.csv"), file("link.csv"));
    written("real.csv", "old");
    ASSERT_EQ(plume({"run", canopy, "--out", "rise=" + file("link.csv")}).status, 0);
    EXPECT_TRUE(std::filesystem::is_symlink(file("link.csv")));
    EXPECT_EQ(std::filesystem::is_symlink(file("real.csv")), false);
    EXPECT_GT(std::filesystem::file_size(file("real.csv")), 1000U);
    // A link to a device stands for whatever is no regular file.
    std::filesystem::create_symlink("/dev/null", file("null.csv"));
    EXPECT_EQ(plume({"run", canopy, "--out", "rise=" + file("null.csv")}).status, 0);
    EXPECT_TRUE(std::filesystem::is_character_file(file("null.csv")));
    ASSERT_EQ(mkfifo(file("pipe.csv").c_str(), 0600), 0);
    std::string read;
    std::thread reader([&] {
        std::stringstream all;
        all << std::ifstream(file("pipe.csv")).rdbuf();
        read = all.str();
    });
    EXPECT_EQ(plume({"run", canopy, "--out", "rise=" + file("pipe.csv")}).status, 0);
    reader.join();
    EXPECT_TRUE(std::filesystem::is_fifo(file("pipe.csv")));
    std::stringstream real;
    real << std::ifstream(file("real.csv")).rdbuf();
    EXPECT_EQ(read, real.str());
}

// What a program of before left behind goes with the next file written there; what is being written, and what
// is not ours to judge, stays.
TEST_F(Commands, TemporaryFilesLeftBehindAreRemovedLater) {
    const std::string left = written(".plume-part-0123456789abcdef", "half"),
                      young = written(".plume-part-0", "x"), other = written(".plume-partridge", "a bird");
    const auto long_ago = std::filesystem::file_time_type::clock::now() - std::chrono::hours(2);
    for (const std::string& name : {left, other})
        std::filesystem::last_write_time(name, long_ago);
    const std::string held = written(".plume-part-held", "x");
    std::filesystem::last_write_time(held, long_ago);
    const int lock = open(held.c_str(), O_RDONLY | O_CLOEXEC);
    ASSERT_EQ(flock(lock, LOCK_EX), 0);
    ASSERT_EQ(plume({"run", canopy, "--out", "rise=" + file("r.csv")}).status, 0);
    close(lock);
    EXPECT_FALSE(std::filesystem::exists(left));
    for (const std::string& name : {young, other, held})
        EXPECT_TRUE(std::filesystem::exists(name)) << name;
    std::size_t files = 0;
    for (const auto& entry : std::filesystem::directory_iterator(std::filesystem::path(left).parent_path()))
        files += entry.exists() ? 1 : 0;
    EXPECT_EQ(files, 4U) << "nothing of ours is left";
}

TEST_F(Commands, OutputThatCannotBeWrittenIsAnError) {
    for (const std::vector<std::string>& words : {std::vector<std::string>{"values", canopy, "rise"},
                                                  {"inspect", canopy, "--json"},
                                                  {"steps"},
                                                  {"check", canopy}}) {
        for (const char* to : {"> /dev/full", ">&-"}) {
            std::vector<std::string> line{"/bin/sh", "-c", std::string("\"$0\" \"$@\" ") + to, PLUME_PROGRAM};
            line.insert(line.end(), words.begin(), words.end());
            const Finished run = run_process(line);
            EXPECT_EQ(run.status, 1) << words.front() << to;
            EXPECT_NE(run.err.find("could not be written"), std::string::npos) << run.err;
        }
    }
}

TEST_F(Commands, NamesFromFilesDoNotDriveTheTerminal) {
    const std::string hostile =
        written("hostile.plume", R"({"plume": 1, "title": "a\u001b[31mb\u0007c\u009bd\u0000", "page": [
        {"step": "lattice.rectangular", "result": "g\u001b]0;x\u0007", "slots": {"c\u001b[2J": 3}}]})");
    for (const char* command : {"inspect", "check", "run"}) {
        const Finished run = plume({command, hostile});
        for (const std::string& text : {run.out, run.err})
            for (const char c : text)
                ASSERT_TRUE(c == '\n' || static_cast<unsigned char>(c) >= 0x20) << command << text;
    }
    EXPECT_NE(plume({"inspect", hostile}).out.find("\\x1b[31m"), std::string::npos);
    const std::string name(100'000, 'n');
    const std::string long_name = written("long.plume", R"({"plume": 1, "title": "t", "page": [
        {"step": "lattice.rectangular", "result": ")" + name +
                                                            R"("}]})");
    for (const char* command : {"inspect", "check", "run"}) {
        const Finished run = plume({command, long_name});
        EXPECT_LT(run.out.size() + run.err.size(), 2000U) << command;
    }
}

TEST_F(Commands, InspectAsJsonSaysWhyAStudyCannotBeOpened) {
    for (const char* text : {"{", R"({"plume": 1e30})", R"({"plume": 1.5})", ""}) {
        const Finished run = plume({"inspect", written("bad.plume", text), "--json"});
        EXPECT_EQ(run.status, 1);
        const Json json = Json::parse(run.out);
        EXPECT_FALSE(json["error"]["code"].get<std::string>().empty()) << text;
        EXPECT_FALSE(json["error"]["message"].get<std::string>().empty()) << text;
    }
}

TEST_F(Commands, RunAndCheckSayWhatWasLostOrIsNotKnown) {
    const std::string study = written("lost.plume", R"({"plume": 1, "weather": 3, "page": [
        {"step": "points.typed", "result": "p", "slots": {"rows": {"text": ["0, 0, 0", "1, x, 0", "2, 0, 0"]}}},
        {"step": "lattice.rectangular", "result": "g", "slots": {"colums": "= 3"}}]})");
    for (const char* command : {"run", "check"}) {
        const Finished run = plume({command, study});
        EXPECT_EQ(run.status, 0);
        EXPECT_NE(run.err.find("p: 1 row was left out: line 2"), std::string::npos) << run.err;
        EXPECT_NE(run.err.find("did you mean ‘columns’"), std::string::npos) << run.err;
    }
    EXPECT_NE(plume({"check", study}).err.find("‘weather’"), std::string::npos);
}

TEST_F(Commands, ASettingBeyondItsRangeIsTakenAndSaid) {
    const Finished run = plume({"run", canopy, "--set", "bays=61"});
    EXPECT_EQ(run.status, 0);
    EXPECT_NE(run.err.find("beyond the control's range, 2 … 60"), std::string::npos) << run.err;
    EXPECT_EQ(plume({"run", canopy, "--set", "bays=60"}).err, "");
}

// What is handed off, with a control that changes it.
std::string handing_off(double height) {
    std::ostringstream text;
    text << R"({"plume": 1, "title": "Nest boxes",
      "controls": [{"name": "height", "value": )"
         << height << R"(, "least": 0, "most": 9, "unit": "m"}],
      "page": [
        {"step": "lattice.block", "result": "corners", "show": {"visible": false},
         "slots": {"columns": 20, "rows": 10, "layers": 2, "height": "= height"}},
        {"step": "body.cells", "result": "boxes", "show": {"material": "timber"}, "slots": {"points": "corners"}}],
      "handoff": [
        {"step": "handoff.building", "result": "parts", "slots": {"results": {"results": ["boxes"]}}},
        {"step": "handoff.mesh", "result": "scene", "slots": {"results": {"all_of": true}, "format": ".obj"}}]})";
    return text.str();
}

TEST_F(Commands, HandsOffWhatHasChanged) {
    const std::string study = written("nests.plume", handing_off(1));
    const Finished check = plume({"handoff", study, "--check"});
    EXPECT_EQ(check.status, 0) << check.err;
    EXPECT_NE(check.out.find("nest-boxes.ifc  400 new"), std::string::npos) << check.out;
    EXPECT_FALSE(std::filesystem::exists(file("handoff")));
    EXPECT_EQ(plume({"handoff", study}).status, 0);
    EXPECT_NE(plume({"handoff", study}).out.find("‘nest-boxes.ifc’ is as before."), std::string::npos);
    const Finished higher = plume({"handoff", study, "--set", "height=2", "--only", "parts", "--json"});
    const Json json = Json::parse(higher.out.substr(0, higher.out.rfind("Wrote")));
    ASSERT_EQ(json["deliveries"].size(), 1U);
    EXPECT_EQ(json["deliveries"][0]["state"], "400 changed");
    // 12 m by 12 m by 1 m over 20 by 10 by 2 boxes, and twice that.
    EXPECT_NEAR(json["deliveries"][0]["parts"][0]["was"].get<double>(), 0.36, 1e-9);
    EXPECT_NEAR(json["deliveries"][0]["parts"][0]["is"].get<double>(), 0.72, 1e-9);
    // The scene still is of the lower ones.
    EXPECT_NE(plume({"handoff", study, "--check"}).out.find("nest-boxes.obj  as before"), std::string::npos);
    std::ofstream(file("handoff/nest-boxes.ifc"), std::ios::app) << "by hand";
    const Finished asked = plume({"handoff", study});
    EXPECT_EQ(asked.status, 1);
    EXPECT_NE(asked.err.find("was changed by somebody else since it was written. Move it away, or allow it "
                             "with --over."),
              std::string::npos)
        << asked.err;
    EXPECT_EQ(plume({"handoff", study, "--over"}).status, 0);
    EXPECT_EQ(plume({"handoff", study, "--only", "roof"}).status, 2);
    EXPECT_EQ(plume({"handoff", canopy, "--to", file("elsewhere"), "--check"}).status, 0);
    // What only makes the study does not look at what is handed off.
    EXPECT_EQ(plume({"run", study}).out.find("handoff"), std::string::npos);
    EXPECT_EQ(plume({"check", study}).status, 0);
}

TEST_F(Commands, WhatArrivedIsTakenInAndUpdatedInPlace) {
    const std::string study = written("nests.plume", handing_off(1)), folder = file("handoff");
    EXPECT_EQ(plume({"receive", folder}).status, 1) << "nothing was handed off yet";
    ASSERT_EQ(plume({"handoff", study}).status, 0);
    const Finished look = plume({"receive", folder, "--check"});
    EXPECT_EQ(look.status, 0) << look.err;
    EXPECT_NE(look.out.find("nest-boxes.ifc  400 new\nThe model is empty."), std::string::npos) << look.out;
    EXPECT_FALSE(std::filesystem::exists(folder + "/received"));
    const Finished first = plume({"receive", folder});
    EXPECT_EQ(first.status, 0) << first.err;
    EXPECT_NE(first.out.find("nest-boxes.ifc  400 new: 400 parts in it, 400 of it here"), std::string::npos)
        << first.out;
    // 12 m by 12 m by 1 m.
    EXPECT_NE(first.out.find("Timber      400  "), std::string::npos) << first.out;
    EXPECT_NE(first.out.find("144 m³"), std::string::npos) << first.out;
    EXPECT_NE(first.out.find("The model is 12 × 12 × 1 m."), std::string::npos) << first.out;
    // Half as many, of twice the height; one of them locked, one deleted there.
    ASSERT_EQ(plume({"receive", folder, "--lock", "boxes 0,0,0", "--delete", "boxes 1,0,0"}).status, 0);
    std::string fewer = handing_off(2);
    fewer.replace(fewer.find("\"layers\": 2"), 11, "\"layers\": 1");
    ASSERT_EQ(plume({"handoff", written("nests.plume", fewer)}).status, 0);
    const Finished second = plume({"receive", folder, "--json"});
    EXPECT_EQ(second.status, 0) << second.err;
    const Json json = Json::parse(second.out);
    std::map<std::string, int> states;
    for (const Json& part : json["files"][0]["parts"])
        ++states[part["state"].get<std::string>()];
    EXPECT_EQ(states, (std::map<std::string, int>{
                          {"changed", 198}, {"gone", 200}, {"locked", 1}, {"deleted here", 1}}));
    EXPECT_EQ(json["parts"].size(), 199U) << "no ghosts";
    double volume = 0;
    for (const Json& part : json["parts"])
        volume += part["volume"].get<double>();
    EXPECT_NEAR(volume, 198 * 1.44 + 0.36, 1e-6) << "the locked one is as it was";
    const Finished one = plume({"receive", folder, "--part", "boxes 3,0,0"});
    EXPECT_NE(one.out.find("proxies, Timber, ground"), std::string::npos) << one.out;
    EXPECT_NE(one.out.find("NetVolume"), std::string::npos) << one.out;
    // Read in a wrong unit, everything says so.
    const Finished wrong = plume({"receive", folder, "--reads-as", "mm"});
    EXPECT_NE(wrong.err.find("all of it is 1000 times too small"), std::string::npos) << wrong.err;
    EXPECT_NE(wrong.err.find("states 285.5 m³ for 199 parts whose shapes have 2.855e-7 m³"),
              std::string::npos)
        << wrong.err;
    EXPECT_EQ(plume({"receive", folder, "--reads-as", "told", "--unlock", "boxes 0,0,0", "--again"}).status,
              0);
    EXPECT_NE(plume({"receive", folder, "--by", "storey"}).out.find("200 as before"), std::string::npos);
    EXPECT_EQ(plume({"receive", folder, "--lock", "chimney"}).status, 1);
    EXPECT_EQ(plume({"receive", folder, "--reads-as", "ells"}).status, 1);
    EXPECT_EQ(plume({"receive", folder, "--by", "colour"}).status, 2);
}

std::string bytes_of(const std::filesystem::path& path) {
    std::ostringstream text;
    text << std::ifstream(path, std::ios::binary).rdbuf();
    return text.str();
}

// Of a hand-off as it lies in a folder: each sentence's file with what it refers to.
std::vector<std::string> handed_off(const std::filesystem::path& folder) {
    const std::string obj = bytes_of(folder / "nest-boxes.obj");
    const std::size_t from = obj.find("mtllib ");
    if (from == std::string::npos) return {};
    const std::string materials = obj.substr(from + 7, obj.find('\n', from) - from - 7);
    return {bytes_of(folder / "nest-boxes.ifc"), obj + bytes_of(folder / materials)};
}

TEST_F(Commands, AHandOffThatIsKilledLeavesTheOldOrTheNew) {
    const std::string low = written("low.plume", handing_off(1)),
                      high = written("high.plume", handing_off(2));
    const auto hand_off = [&](const std::string& study, std::vector<std::string> before = {}) {
        before.insert(before.end(), {PLUME_PROGRAM, "handoff", study, "--to", file("out")});
        return run_process(before);
    };
    ASSERT_EQ(hand_off(high).status, 0);
    const auto of_high = handed_off(file("out"));
    ASSERT_EQ(hand_off(low).status, 0);
    const auto of_low = handed_off(file("out"));
    ASSERT_EQ(of_low.size(), 2U);
    ASSERT_NE(of_low, of_high);
    std::vector<std::string> next{high, low};
    int mixed = 0, killed = 0;
    for (int instant = 0; instant < 100; ++instant) {
        const std::string seconds = std::to_string(0.002 * (instant + 1));
        killed += hand_off(next[0], {"/usr/bin/timeout", "-s", "KILL", seconds}).status != 0;
        const auto now = handed_off(file("out"));
        ASSERT_EQ(now.size(), 2U) << instant;
        for (std::size_t sentence = 0; sentence < 2; ++sentence)
            EXPECT_TRUE(now[sentence] == of_low[sentence] || now[sentence] == of_high[sentence])
                << sentence << " after " << seconds << " s";
        mixed += (now[0] == of_low[0]) != (now[1] == of_low[1]);
        // Taken up again without a question.
        if (instant % 10 != 9) continue;
        const Finished again = hand_off(next[0]);
        EXPECT_EQ(again.status, 0) << again.err;
        EXPECT_EQ(handed_off(file("out")), next[0] == high ? of_high : of_low);
        std::swap(next[0], next[1]);
    }
    EXPECT_GT(killed, 0);
    RecordProperty("between_sentences", mixed);
}

// Sheets that are cut: what the study writes, and a file that cuts less.
TEST_F(Commands, CuttingFilesAreRehearsed) {
    const std::string study = std::string(examples_folder) + "/handoff.cutting.plume";
    const Finished handed = plume({"handoff", study, "--to", file("handed")});
    ASSERT_EQ(handed.status, 0) << handed.err;
    EXPECT_NE(handed.out.find("1 sheet · as drawn"), std::string::npos) << handed.out;
    const std::string cut = file("handed/cut-flat.nc");
    const auto read = nlohmann::json::parse(plume({"rehearse", cut, "--study", study, "--json"}).out);
    EXPECT_EQ(read["sheets"], 1);
    EXPECT_EQ(read["uncut_mm"], 0);
    // Four levels around two boards of 900 by 900 mm beside their lines, corners rounded, and leading in.
    EXPECT_NEAR(read["cut_mm"].get<double>(), 2 * (4 * (4 * 900 + 6 * 3.14159265) + 5 + 18.5 * 3 / 4), 5);
    std::ofstream(file("half.nc")) << "G21 G90\nG0 X50 Y50 Z5\nG1 Z-20 F500\nG1 X900\nG0 Z5\n";
    const Finished half = plume({"rehearse", file("half.nc"), "--study", study, "--only", "cutting"});
    EXPECT_EQ(half.status, 0) << half.err;
    EXPECT_NE(half.out.find("uncut"), std::string::npos) << half.out;
    EXPECT_EQ(plume({"rehearse", file("none.nc"), "--study", study}).status, 1);
}

// What the study writes, and a file from elsewhere.
TEST_F(Commands, MillingFilesAreRehearsed) {
    const std::string study = std::string(examples_folder) + "/handoff.milling.plume";
    const Finished handed = plume({"handoff", study, "--to", file("handed")});
    ASSERT_EQ(handed.status, 0) << handed.err;
    EXPECT_NE(handed.out.find("within 0 mm of the form"), std::string::npos) << handed.out;
    const std::string milled = file("handed/mill-a-relief.nc");
    const Finished again = plume({"rehearse", milled, "--study", study});
    EXPECT_EQ(again.status, 0) << again.err;
    EXPECT_NE(again.out.find("within 0 mm of the form"), std::string::npos) << again.out;
    const Finished json = plume({"rehearse", milled, "--study", study, "--only", "milling", "--json"});
    const auto read = nlohmann::json::parse(json.out);
    EXPECT_EQ(read["places_left"], 0);
    EXPECT_GT(read["minutes"], 0.1);
    // A ball leaves ridges where the file was made for a flat cutter.
    const Finished other =
        plume({"rehearse", milled, "--board", "240 160 20", "--cutter", "ball 20", "--json"});
    ASSERT_EQ(other.status, 0) << other.err;
    EXPECT_FALSE(nlohmann::json::parse(other.out).contains("most_left_mm")) << "no form to be compared with";
    std::ofstream(file("wrong.nc")) << "G21 G90\nG68 R20\n";
    const Finished wrong = plume({"rehearse", file("wrong.nc"), "--board", "10 10 5", "--cutter", "flat 3"});
    EXPECT_EQ(wrong.status, 1);
    EXPECT_NE(wrong.err.find("line 2 has G68, which is not rehearsed"), std::string::npos) << wrong.err;
    EXPECT_EQ(plume({"rehearse", milled, "--board", "10 10", "--cutter", "flat 3"}).status, 2);
    EXPECT_EQ(plume({"rehearse", milled, "--board", "10 10 5", "--cutter", "round 3"}).status, 2);
    EXPECT_EQ(plume({"rehearse", milled, "--board", "10 10 5"}).status, 2);
    EXPECT_EQ(plume({"rehearse", file("none.nc"), "--board", "10 10 5", "--cutter", "flat 3"}).status, 1);
    EXPECT_EQ(plume({"rehearse", milled, "--study", study, "--only", "sheet"}).status, 1);
}

}  // namespace
}  // namespace plume::test
