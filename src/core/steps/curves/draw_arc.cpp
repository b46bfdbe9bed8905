#include "core/geometry/curves/exact_curves.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Result<SplineCurve> drawn(const Inputs& in) {
    const std::string& shape = in.word("shape");
    if (shape == "centre")
        return ellipse_arc(
            {plane_of(in), in.number("radius"), in.number("radius"), in.number("from"), in.number("sweep")});
    const auto& places = in.places(shape == "line" ? "ends" : "places");
    const std::size_t wanted = shape == "line" ? 2 : 3;
    if (places.size() != wanted)
        return Error{ErrorCode::too_few_points, "",
                     "hold " + std::to_string(places.size()) + (places.size() == 1 ? " place" : " places") +
                         ", and " + (shape == "line" ? "a line has two" : "an arc takes three"),
                     places.size() < wanted ? "Add some." : "Take some away."};
    if (shape == "line") return line_between(places[0].position, places[1].position);
    return arc_through(places[0].position, places[1].position, places[2].position);
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    Result<SplineCurve> curve = drawn(in);
    if (!curve) return about_slot(curve.error(), in.word("shape") == "line" ? "ends" : "places");
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind draw_arc() {
    return {
        .key = "curve.arc",
        .verb = "Draw a line or an arc",
        .synonyms = "straight segment circle part radius angle bow vault",
        .sentence = std::string(
            "Draw {shape} [shape=line|between {ends}][shape=arc|through {places}]"
            "[shape=centre|of a radius of {radius} from {from} over {sweep}, on the {plane} plane]"
            "[shape=centre&plane=placed| of {placement}]"
            "[shape=centre&plane=xz,yz,placed|, seen from the {facing}]."),
        .slots = with_facing_plane(
            {choice_slot("shape", "Shape",
                         {{"arc", "an arc", "through three places"},
                          {"centre", "an arc around the origin", "by its radius and angles"},
                          {"line", "a line", "between two places"}}),
             corners_slot("ends", "Ends",
                          {{"start", "-6 m", "0 m", "0 m", "1"}, {"end", "6 m", "0 m", "0 m", "1"}}),
             corners_slot("places", "Places",
                          {{"start", "-6 m", "0 m", "0 m", "1"},
                           {"middle", "0 m", "0 m", "3 m", "1"},
                           {"end", "6 m", "0 m", "0 m", "1"}}),
             length_above_zero_slot("radius", "Radius", "6 m"), angle_slot("from", "From", "0°"),
             sweep_slot("180°")}),
        .results = {Kind::curves},
        .result_name = "arc",
        .help = "An exact line or an exact part of a circle. An arc over 360° is a whole circle, closed.",
        .make = make,
    };
}

}  // namespace plume
