#include "core/steps/sheets/begun_sheet.hpp"

#include <algorithm>
#include <memory>

#include "core/base/text.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/sheets/led_out.hpp"
#include "core/steps/sheets/loose_pieces.hpp"

namespace plume {
namespace {

// nullptr of threads.
Result<std::unique_ptr<Mesh>> lying(const BegunSheet& begun) {
    if (!std::holds_alternative<Mesh>(begun.thing)) return std::unique_ptr<Mesh>();
    auto lies = with_places(begun.thing, begun.at);
    if (!lies) return lies.error();
    return std::make_unique<Mesh>(std::get<Mesh>(*std::move(lies)));
}

void say_what_was_led(const LedOut& led, const Run& run) {
    const std::string place =
        led.closed ? "inside the form" : "on the other side of the form than most of it";
    if (led.led > 0)
        run.remark(count_text(led.led, "point begins ", "points begin ") + place +
                   (led.closed ? ", and went out of it to where that is nearest."
                               : ", and went over to where that is nearest."));
    if (led.held > 0)
        run.remark(count_text(led.held, "point that is held", "points that are held") + " firmly begin " +
                   place + ", and stay there.");
    if (led.crowded > 0)
        run.remark(count_text(led.crowded, "point begins ", "points begin ") + place +
                   ", and stay there: led straight over they would lie on each other.");
}

void say_what_goes_through(const GoesThrough& goes, const Run& run) {
    if (goes.edges == 0 && goes.sides == 0) return;
    const std::string edges =
        count_text(goes.edges, "edge of it goes", "edges of it go") + " through the form";
    const std::string sides =
        count_text(goes.sides, "side of the form goes", "sides of the form go") + " through it";
    run.remark((goes.sides == 0   ? edges
                : goes.edges == 0 ? sides
                                  : edges + " and " + sides) +
               " from the beginning, and may go on doing so: move one of the two out of the other.");
}

void say_what_holds(const BegunSheet& begun, const Run& run) {
    const auto all = [&](double firmness) {
        return std::ranges::all_of(begun.firmness, [&](double held) { return held == firmness; });
    };
    if (all(0)) {
        run.remark("Nothing holds it: it falls. Hold some of its points to hang it.");
    } else if (all(1)) {
        run.remark("All of it is held: it only goes where it is held.");
    } else {
        const std::size_t loose = loose_pieces(begun.sheet, begun.firmness).size();
        if (loose > 0)
            run.remark(count_text(loose, "part of it is held nowhere: it falls.",
                                  "parts of it are held nowhere: they fall."));
    }
}

void say_what_is_below(const BegunSheet& begun, const Run& run) {
    if (!begun.ground) return;
    std::size_t rises = 0, held = 0;
    for (std::size_t at = 0; at < begun.at.size(); ++at)
        if (begun.at[at].z < *begun.ground) ++(begun.firmness[at] < 1 ? rises : held);
    if (rises > 0)
        run.remark(count_text(rises, "point begins below the ground, and comes up to it.",
                              "points begin below the ground, and come up to it."));
    if (held > 0)
        run.remark(count_text(held, "point that is held", "points that are held") +
                   " firmly begin below the ground, and stay there.");
}

}  // namespace

Status lead_out_of(const Mesh& form, const BegunSheet& begun, const Run& run) {
    const auto led = lead_out(form, begun.sheet, begun.thickness, begun.firmness, begun.at, run);
    if (!led) return led.error();
    say_what_was_led(*led, run);
    const auto lies = lying(begun);
    if (!lies) return lies.error();
    const auto goes = what_goes_through(form, begun.sheet, begun.at, lies->get(), run);
    if (!goes) return goes.error();
    say_what_goes_through(*goes, run);
    return Done{};
}

Status say_how_it_begins(const BegunSheet& begun, const Run& run) {
    say_what_holds(begun, run);
    say_what_is_below(begun, run);
    const auto lies = lying(begun);
    if (!lies) return lies.error();
    if (*lies == nullptr) return Done{};
    const auto crossing = crossing_faces(**lies, run);
    if (!crossing) return crossing.error();
    if (!crossing->empty())
        run.remark(count_text(crossing->size(), "face crosses", "faces cross") +
                   " others from the beginning, and may go on doing so.");
    return Done{};
}

}  // namespace plume
