#include "moving_window.hpp"

#include <string>
#include <vector>

#include "core/exchange/study_file.hpp"
#include "core/study/edits/edits.hpp"
#include "median.hpp"
#include "shower.hpp"

namespace bench {

namespace {

constexpr int kept_moments = 30, drags = 15;

// Two corners are led by handles.
StudyPointer hanging(int side) {
    const std::string bays = std::to_string(side - 1);
    return *study_from_text(R"({"plume": 1, "time": {"seconds": 10, "rate": 30}, "page": [
      {"step": "lattice.rectangular", "result": "weave", "show": {"visible": false}, "slots": {"columns": )" +
                            bays + R"(, "rows": )" + bays + R"(, "width": "= 2 m", "depth": "= 2 m"}},
      {"step": "skin", "result": "cloth", "show": {"visible": false}, "slots": {"points": {"result": "weave"}, "surface": "flat"}},
      {"step": "attractors.points", "result": "posts", "slots": {"places": [
        {"name": "a", "x": "-1 m", "y": "-1 m", "z": "0 m"}, {"name": "b", "x": "1 m", "y": "-1 m", "z": "0 m"}]}},
      {"step": "forces.hold", "result": "tied", "show": {"visible": false}, "slots": {"thing": {"result": "cloth"},
        "at": "named", "addresses": "0 )" +
                            bays + R"(", "led": "onto", "leads": {"result": "posts"}}},
      {"step": "sheet.drape", "result": "fallen", "slots": {"sheet": {"result": "tied"}, "lengths": "of", "rest": {"result": "cloth"}}}]})");
}

void drag_handle(Document& document, int times) {
    const Study& study = document.study();
    const Step& posts = *study.step("posts");
    const double along = 1 - 0.01 * times;
    const PlaceMove move{posts.id, "places", 1, {along, -1, 0}, 0.001};
    document.apply(move_places(study, document.catalogue(), {&move, 1}, {}, document.playing().seconds()),
                   "drag", "drag");
}

}  // namespace

MovingFigures moving_figures(int side, const QTemporaryDir& folder) {
    const QString file = folder.filePath("hanging.plume");
    if (!save_study(*hanging(side), file.toStdString())) return {};
    Shower shower;
    if (shower.showing_ms(file, 2) < 0) return {};
    Playing& playing = shower.document().playing();
    const auto go_to = [&](std::size_t frame) {
        return shower.changed_ms("fallen", [&] { playing.go_to(frame); });
    };
    for (std::size_t frame = 1; frame <= kept_moments; ++frame)
        if (go_to(frame) < 0) return {};
    MovingFigures figures;
    figures.turned_a_second = shower.turned_a_second();
    QElapsedTimer timer;
    timer.start();
    playing.set_scrubbing(true);
    for (std::size_t frame = kept_moments; frame-- > 0;)
        if (go_to(frame) < 0) return {};
    playing.set_scrubbing(false);
    figures.scrubbed_a_second = kept_moments * 1000.0 / static_cast<double>(timer.elapsed());
    if (go_to(kept_moments) < 0) return {};
    std::vector<double> taken;
    for (int drag = 1; drag <= drags; ++drag)
        taken.push_back(shower.changed_ms("fallen", [&] { drag_handle(shower.document(), drag); }));
    figures.first_change_ms = median(std::move(taken));
    return figures;
}

}  // namespace bench
