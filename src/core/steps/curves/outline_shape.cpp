#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

constexpr int superellipse_points = 576;

double power_keeping_sign(double value, double exponent) {
    return std::copysign(std::pow(std::abs(value), exponent), value);
}

// Anticlockwise from the first axis.
std::vector<Vec3> around(int count, double half_width, double half_depth, double exponent) {
    std::vector<Vec3> points;
    for (int at = 0; at < count; ++at) {
        const double angle = 2 * std::numbers::pi * at / count;
        points.push_back({half_width * power_keeping_sign(std::cos(angle), exponent),
                          half_depth * power_keeping_sign(std::sin(angle), exponent), 0});
    }
    return points;
}

// Corners or points around the origin of the plane.
Result<SplineCurve> joined(std::vector<Vec3> points, const Placement& plane, CurveShape shape) {
    for (Vec3& point : points)
        point = plane.to_world(point);
    return curve_through({std::move(points), {}, {}, true}, shape);
}

Result<SplineCurve> rectangle_of(const Inputs& in, const Placement& plane) {
    const double width = in.number("width"), depth = in.number("depth");
    const double radius = in.has("corner") ? in.number("corner") : 0;
    if (radius > std::min(width, depth) / 2)
        return about_slot(
            Error{ErrorCode::out_of_range, "", "is more than half of the shorter side",
                  "Type " + quantity_text({std::min(width, depth) / 2, a_length}, in.units()) + " or less."},
            "corner");
    return rectangle(plane, width, depth, radius);
}

Result<SplineCurve> outlined(const Inputs& in) {
    const std::string& shape = in.word("shape");
    const Placement plane = plane_of(in);
    if (shape == "rectangle") return rectangle_of(in, plane);
    if (shape == "polygon")
        return joined(
            around(static_cast<int>(in.count("sides")), in.number("radius"), in.number("radius"), 1), plane,
            CurveShape::straight);
    if (shape == "circle") return ellipse(plane, in.number("radius"), in.number("radius"));
    if (shape == "ellipse") return ellipse(plane, in.number("width") / 2, in.number("depth") / 2);
    return joined(around(superellipse_points, in.number("width") / 2, in.number("depth") / 2,
                         2 / in.number("exponent")),
                  plane, CurveShape::smooth);
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    Result<SplineCurve> curve = outlined(in);
    if (!curve) return curve.error();
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind outline_shape() {
    SlotSpec sides = count_slot("sides", "Sides", "6", 3);
    sides.most = 10'000;
    SlotSpec exponent = number_slot("exponent", "Exponent", "4");
    exponent.least = 0.25;
    exponent.most = 100;
    return {
        .key = "outline.shape",
        .verb = "Outline a shape",
        .synonyms = "rectangle regular polygon circle ellipse superellipse boundary closed curve plan",
        .sentence = std::string("Outline {shape} [shape=polygon|of {sides} sides and ]"
                                "[shape=polygon,circle|with a radius of {radius}]"
                                "[shape=rectangle,ellipse,superellipse|of {width} by {depth}]"
                                "[shape=rectangle| with {corners} corners][shape=rectangle&corners=round| of "
                                "{corner}]"
                                "[shape=superellipse| and exponent {exponent}], ") +
                    plane_words + ".",
        .slots = with_facing_plane(
            {choice_slot(
                 "shape", "Shape",
                 {{"rectangle", "a rectangle", ""},
                  {"polygon", "a regular polygon", "corners on a circle, the first on the first axis"},
                  {"circle", "a circle", ""},
                  {"ellipse", "an ellipse", ""},
                  {"superellipse", "a superellipse",
                   "|x/a|ⁿ + |y/b|ⁿ = 1: 2 is an ellipse, larger comes nearer to a rectangle"}}),
             sides, length_above_zero_slot("radius", "Radius", "12 m"),
             length_above_zero_slot("width", "Width", "36 m"),
             length_above_zero_slot("depth", "Depth", "24 m"),
             choice_slot("corners", "Corners",
                         {{"sharp", "sharp", ""}, {"round", "round", "exact quarter circles"}}),
             length_above_zero_slot("corner", "Radius of corners", "2 m"), exponent}),
        .results = {Kind::curves},
        .result_name = "outline",
        .help =
            "A closed curve around the origin, to lay points in, to keep points inside of, or to divide. "
            "Circles, "
            "ellipses and round corners are exact.",
        .make = make,
    };
}

}  // namespace plume
