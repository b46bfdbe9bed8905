// Threads and nets that fall.

#include <array>
#include <numbers>

#include "core/sheets/threads.hpp"
#include "core/steps/catalogue.hpp"
#include "core/steps/sheets/falling_kind.hpp"

namespace plume {
namespace {

// Of a cubic metre, and of a square metre of its section.
struct Cord {
    const char *key, *words, *help;
    double weight, stretch, bending;  // kg/m³, Pa, Pa
};
constexpr std::array<Cord, 5> cords{
    Cord{"wool", "wool", "400 kg/m³, 20 MPa, hardly resists bending", 400, 2e7, 1e5},
    Cord{"hemp", "hemp", "900 kg/m³, 100 MPa", 900, 1e8, 1e6},
    Cord{"rubber", "rubber", "1000 kg/m³, 2 MPa: it stretches", 1000, 2e6, 2e6},
    Cord{"reed", "reeds", "500 kg/m³, 100 MPa; bent like 1 GPa", 500, 1e8, 1e9},
    Cord{"willow", "willow", "700 kg/m³, 200 MPa; bent like 5 GPa", 700, 2e8, 5e9}};

// Round, and as thick as it is.
ThreadMaterial material_of(const Cord& cord, double thickness) {
    const double section = std::numbers::pi / 4 * thickness * thickness;
    return {thickness, cord.weight * section, cord.stretch * section,
            cord.bending * section * thickness * thickness / 16};
}

Result<Sheet> threads_of(const Inputs& in, const Value& thing, const RestLengths& rest, double metres) {
    const double thickness = in.number("thickness") * metres;
    if (!(thickness > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "is 0, so that nothing would be left of it",
                                "Type how thick the threads are."},
                          "thickness");
    return make_threads(std::get<BarFrame>(thing), rest,
                        material_of(material_in(in, "cord", cords), thickness));
}

}  // namespace

StepKind drop_threads() {
    StepKind kind =
        falling_kind({"Threads", {Kind::frame}, material_slot("cord", "Cord", cords), false, threads_of});
    kind.key = "threads.drop";
    kind.verb = "Let threads fall";
    kind.synonyms = "drop hang ropes cords net strings bundle fringe cables gravity wind simulate physics";
    kind.result_name = "fallen_threads";
    kind.help =
        "Threads and nets that fall from moment to moment, held where ‘held’ says so and where they are held "
        "at that moment. Members of a frame are pieces of round threads; where one goes on, straight through "
        "a "
        "knot or at a node with two members, it resists being bent, and knots let others turn. They bear "
        "each "
        "other and what they touch and never go through. Members carry ‘strain’, 0.02 where one is 2 % "
        "longer "
        "than at rest, nodes that of the worst of them and their speed in m/s. Play it; keep a moment of it "
        "for what follows.";
    return kind;
}

}  // namespace plume
