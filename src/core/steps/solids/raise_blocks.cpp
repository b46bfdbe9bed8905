#include "core/geometry/solids/block_between.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

BlockFaces faces_of(const std::string& word) {
    if (word == "flat") return BlockFaces::flat;
    return word == "smooth" ? BlockFaces::smooth : BlockFaces::centre;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto &lower = in.held<CurveSet>("curve").curves, &upper = in.held<CurveSet>("upper").curves;
    if (lower.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."}, "curve");
    if (lower.size() != upper.size())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "holds " + std::to_string(upper.size()) + " curves, and the lower ones are " +
                                    std::to_string(lower.size()),
                                "Choose the same outlines, moved."},
                          "upper");
    SolidSet bodies;
    for (std::size_t number = 0; number < lower.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        Result<Body> body = block_between(lower[number], upper[number], faces_of(in.word("faces")), run);
        if (!body) return about_slot(at_body(body.error(), number, lower.size()), "upper");
        bodies.bodies.push_back(*std::move(body));
    }
    return Value(std::move(bodies));
}

}  // namespace

StepKind raise_blocks() {
    return {
        .key = "body.between",
        .verb = "Make bodies between outlines",
        .synonyms = "block building mass roof raise volume prism distorted top",
        .sentence = "Make a body between each of {curve} and of {upper}, with {faces}.",
        .slots = {curves_slot("curve", "Lower"), curves_slot("upper", "Upper"),
                  choice_slot("faces", "Faces",
                              {{"centre", "faces about their middle", "triangles from it to every side"},
                               {"flat", "flat faces", "both outlines have to be flat; exact"},
                               {"smooth", "smooth faces", "as a skin of soap would hang in the outline"}})},
        .results = {Kind::bodies},
        .result_name = "blocks",
        .help =
            "The block from an outline up to the same outline moved, corner by corner; one for each. A flat "
            "lower outline stays flat. Outlines of unlike corners are laid beside each other by length.",
        .estimate =
            [](const Inputs& in) {
                double poles = 0;
                for (const char* slot : {"curve", "upper"})
                    poles += pole_count(in.held<CurveSet>(slot));
                const bool smooth = in.word("faces") == "smooth";
                return Estimate{poles * (smooth ? 600 : 200), poles * (smooth ? 2e-4 : 2e-5)};
            },
        .make = make,
    };
}

}  // namespace plume
