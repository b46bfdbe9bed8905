// How long the window takes to show a million points, beside what computing them takes: the study is opened
// in a window that is up already, and the picture counts that has everything in it.

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <functional>
#include <vector>

#include "app/theme/look.hpp"
#include "app/window/application.hpp"
#include "core/exchange/study_file.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"
#include "dragged_studies.hpp"
#include "long_study.hpp"
#include "median.hpp"
#include "moving_window.hpp"
#include "played_rehearsal.hpp"
#include "shower.hpp"
#include "waiting.hpp"

namespace {

using namespace plume;
using namespace plume::app;
using bench::Shower;

// Of another width each time, so that nothing is known from before.
StudyPointer million_points(int round) {
    StudyPointer study = *load_study(std::string(PLUME_BENCH_STUDIES) + "/canopy.plume");
    for (const char* slot : {"columns", "rows"})
        study = *set_slot(*study, study->step("ground")->id, slot, NumberText{"1000"});
    return *set_slot(*study, study->step("ground")->id, "width",
                     NumberText{std::to_string(36 + round) + " m"});
}

double computing_ms(const StudyPointer& study) {
    ResultStore store(2'000'000'000);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = &store;
    QElapsedTimer timer;
    timer.start();
    const Evaluation evaluation = evaluate(study, plan, Run());
    return evaluation.problem_count() == 0 ? static_cast<double>(timer.nsecsElapsed()) * 1e-6 : -1;
}

// 111 111 parts by rules, whose angle is changed again and again as if it were dragged: frames a second that
// show what came of it.
constexpr const char* many_parts = R"({"plume": 1, "page": [{"step": "growth.parts", "result": "parts",
    "slots": {"generations": 5, "formula": {"formula": ["part becomes",
    "part times 10, moved size up, turned 36° * copy about up, turned 20° about along, sized 0.6"]}}}]})";

void turn_parts(Document& document, double degrees) {
    const Step& step = *step_of(document.study().items.front());
    std::string text = document.formula(step.id).text;
    const std::size_t begin = text.find("turned ", text.find("about up")) + 7;
    text.replace(begin, text.find("°", begin) - begin, std::to_string(degrees));
    document.apply(set_formula_text(document.study(), *document.kind_of(step), step.id, text), "angle",
                   "drag");
}

double followed_frames_a_second(const QTemporaryDir& folder) {
    const StudyPointer study = *study_from_text(many_parts);
    const QString file = folder.filePath("parts.plume");
    if (!save_study(*study, file.toStdString())) return 0;
    Shower shower;
    if (shower.showing_ms(file, 1) < 0) return 0;
    return shower.followed_a_second("parts",
                                    [&](int change) { turn_parts(shower.document(), 20 + change * 0.1); });
}

// Whatever else the machine does can only make it longer.
double least(const std::vector<double>& values) {
    return *std::ranges::min_element(values);
}

// What follows a number that is dragged: how long until it is seen, and how often a second.
int print_dragged() {
    for (const bench::DraggedStudy& dragged :
         {bench::dragged_pole(), bench::dragged_spacing(), bench::dragged_twist()}) {
        Shower shower;
        const std::string file = std::string(PLUME_BENCH_STUDIES) + "/" + dragged.file;
        if (!shower.open(QString::fromStdString(file))) return 1;
        const auto drag = [&](int to) {
            Document& document = shower.document();
            document.apply(dragged.dragged(document.study(), to), "drag", "drag");
        };
        constexpr int drags = 60;
        std::vector<double> taken;
        for (int to = 1; to <= drags; ++to)
            taken.push_back(shower.changed_ms(dragged.result, [&] { drag(to); }));
        const double a_second = shower.followed_a_second(dragged.result, [&](int to) { drag(drags + to); });
        std::printf("%-58s %6.1f ms %6.0f frames/s\n", (dragged.what + ", dragged until seen").c_str(),
                    bench::median(std::move(taken)), a_second);
    }
    return 0;
}

int print_moving_sheets(const QTemporaryDir& folder) {
    for (const int side : {30, 100}) {
        const bench::MovingFigures figures = bench::moving_figures(side, folder);
        std::printf("a sheet of %-6d points: %-34s %6.0f frames/s\n", side * side, "turned",
                    figures.turned_a_second);
        std::printf("a sheet of %-6d points: %-34s %6.0f frames/s   at least 60\n", side * side,
                    "kept moments scrubbed", figures.scrubbed_a_second);
        std::printf("a sheet of %-6d points: %-34s %6.0f ms   at most 50\n", side * side,
                    "a handle dragged, first seen", figures.first_change_ms);
    }
    return 0;
}

int print_rehearsal() {
    std::printf("%-58s %6.0f frames/s   at least 60\n", "a rehearsal of 200 000 moves played",
                bench::played_frames_a_second());
    return 0;
}

int print_parts(const QTemporaryDir& folder) {
    std::printf("%-58s %6.0f frames/s   at least 30\n", "111 111 parts that follow an angle",
                followed_frames_a_second(folder));
    return 0;
}

int print_long_study(const QTemporaryDir& folder) {
    const bench::LongStudyFigures figures = bench::long_study_figures(folder);
    std::printf("%-58s %6.0f ms   at most 500\n%-58s %6.0f frames/s   at least 60\n%-58s %6.0f ms\n",
                "500 steps opened, to the sheet", figures.opened_ms, "500 steps scrolled",
                figures.scrolled_a_second, "500 steps, a number changed, to the sheet", figures.edited_ms);
    return 0;
}

// Seven times, each after something small.
int print_million_points(const QTemporaryDir& folder) {
    // What is drawn for the first time compiles what draws it, so something small is drawn before.
    const QString file = folder.filePath("million.plume");
    const QString small = folder.filePath("small.plume");
    if (!save_study(**load_study(std::string(PLUME_BENCH_STUDIES) + "/canopy.plume"), small.toStdString()))
        return 1;
    Shower shower;
    std::vector<double> computing, showing;
    for (int round = 0; round < 7; ++round) {
        const StudyPointer study = million_points(round);
        if (!save_study(*study, file.toStdString())) return 1;
        computing.push_back(computing_ms(study));
        shower.showing_ms(small, 2);
        showing.push_back(shower.showing_ms(file, 2));
    }
    std::printf("%-58s %6.0f ms\n%-58s %6.0f ms\n%-58s %6.3f   at most 1.5\n", "a million points, computed",
                least(computing), "a million points, opened and seen in the window", least(showing),
                "seen / computed", least(showing) / least(computing));
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    const QTemporaryDir folder;
    qputenv("XDG_CONFIG_HOME", folder.filePath("config").toUtf8());
    qputenv("XDG_DATA_HOME", folder.filePath("data").toUtf8());
    const QApplication application(argc, argv);
    prepare_application();
    apply_look(false);
    // One of them alone, by its name, or all.
    const std::pair<std::string_view, std::function<int()>> parts[] = {
        {"million", [&] { return print_million_points(folder); }},
        {"rehearsal", [] { return print_rehearsal(); }},
        {"parts", [&] { return print_parts(folder); }},
        {"long", [&] { return print_long_study(folder); }},
        {"dragged", [] { return print_dragged(); }},
        {"moving", [&] { return print_moving_sheets(folder); }},
    };
    for (const auto& [name, print] : parts)
        if (argc < 2 || name == argv[1])
            if (const int failed = print()) return failed;
    return 0;
}
