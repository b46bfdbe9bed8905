#pragma once
// Responses: how a number answers to a distance d >= 0, with a reach r > 0 and t = d / r.
//
//   distance         d, a length; the reach does not matter
//   straight         t up to 1, then 1: rises evenly away from the attractor
//   half_sine        1/2 - 1/2 cos(pi t) up to t = 1, then 1: from trough to crest of a sine
//   smooth_step      3 t^2 - 2 t^3 up to t = 1, then 1
//   inverse          1 / (1 + t): 1 at the attractor, 1/2 at the reach
//   inverse_square   1 / (1 + t^2): the same at the reach, flatter near, steeper far
//   bell             exp(-(3 t)^2 / 2): the reach is three standard deviations
//   sine_hump        sin(pi t) up to t = 1, then 0: up to 1 half way and back
//   waves            1/2 - a/2 cos(2 pi n t + phase) up to t = 1, then its end: n periods from a trough on;
//                    a is 1, grows as t or fades as 1 - t
//   drawn            a curve of t up to 1 drawn by hand (response_curve.hpp), then its end
//
// None divides by the distance, so an attractor that stands on a point is no special case.

#include <memory>
#include <span>
#include <string_view>

#include "core/geometry/numbers/response_curve.hpp"

namespace plume {

enum class Response {
    distance,
    straight,
    half_sine,
    smooth_step,
    inverse,
    inverse_square,
    bell,
    sine_hump,
    waves,
    drawn
};

enum class Swell { even, growing, fading };
Swell swell_of(std::string_view word);  // "even", "growing", "fading"
struct Waves {
    double periods = 3, phase_rad = 0;
    Swell swell = Swell::even;
};

struct Shaping {
    Shaping(Response is) : response(is) {}  // NOLINT: a response is a shaping
    Response response = Response::straight;
    std::shared_ptr<const ResponseCurve> drawn;  // of Response::drawn
    Waves waves;                                 // of Response::waves
};

// Replaces every distance by its answer, in place. Values are within 2 ulp of the formulas above.
void respond(const Shaping& shaping, double reach, std::span<double> distances);

// Knots of a drawn response that runs about as this one does up to t = 1, to go on from.
std::vector<ResponseKnot> knots_like(const Shaping& shaping);

// Answers at t = 0, 1/(count-1), ... 1, for a picture of it; the distance itself is straight.
std::vector<double> shape_of(const Shaping& shaping, std::size_t count);

// As slots keep it: "half_sine", "drawn 0:0 1:1"; waves are the usual ones. Errors: bad_number, and those of
// read_response().
Result<Shaping> shaping_of(std::string_view word);

}  // namespace plume
