#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

// A smooth curve through so many points is within 1e-8 of the radius of a circle.
constexpr int round_points = 144;

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

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const std::string& shape = in.word("shape");
    CurvePoints item;
    item.closed = true;
    CurveShape kind = CurveShape::smooth;
    if (shape == "rectangle") {
        const double x = in.number("width") / 2, y = in.number("depth") / 2;
        item.points = {{-x, -y, 0}, {x, -y, 0}, {x, y, 0}, {-x, y, 0}};
        kind = CurveShape::straight;
    } else if (shape == "polygon") {
        const double radius = in.number("radius");
        item.points = around(static_cast<int>(in.count("sides")), radius, radius, 1);
        kind = CurveShape::straight;
    } else if (shape == "circle") {
        item.points = around(round_points, in.number("radius"), in.number("radius"), 1);
    } else {
        const double exponent = shape == "superellipse" ? 2 / in.number("exponent") : 1;
        item.points = around(exponent == 1 ? round_points : 4 * round_points, in.number("width") / 2,
                             in.number("depth") / 2, exponent);
    }
    const Placement plane = plane_of(in);
    for (Vec3& point : item.points)
        point = plane.to_world(point);
    Result<SplineCurve> curve = curve_through(std::move(item), kind);
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
        .sentence = std::string("Outline a {shape} [shape=polygon|of {sides} sides and ]"
                                "[shape=polygon,circle|with a radius of {radius}]"
                                "[shape=rectangle,ellipse,superellipse|of {width} by {depth}]"
                                "[shape=superellipse| and exponent {exponent}], ") +
                    plane_words + ".",
        .slots = with_facing_plane(
            {choice_slot("shape", "Shape",
                         {{"rectangle", "rectangle", ""},
                          {"polygon", "regular polygon", "corners on a circle, the first on the first axis"},
                          {"circle", "circle", ""},
                          {"ellipse", "ellipse", ""},
                          {"superellipse", "superellipse",
                           "|x/a|ⁿ + |y/b|ⁿ = 1: 2 is an ellipse, larger comes nearer to a rectangle"}}),
             sides, length_above_zero_slot("radius", "Radius", "12 m"),
             length_above_zero_slot("width", "Width", "36 m"),
             length_above_zero_slot("depth", "Depth", "24 m"), exponent}),
        .results = {Kind::curves},
        .result_name = "outline",
        .help = "A closed curve around the origin, to lay points in, to keep points inside of, or to divide.",
        .make = make,
    };
}

}  // namespace plume
