#include "core/geometry/response.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace plume {
namespace {

// sin^2(pi t / 2) = 1/2 - 1/2 cos(pi t) without cancellation at small t. On [0, pi/2] the Taylor series of
// the sine up to x^21 leaves (pi/2)^23 / 23! < 2e-18: below the rounding of the result. A polynomial, so that
// the compiler turns the loop into vector code, which it cannot do with a call of the C library.
inline double half_sine(double t) {
    constexpr double half_pi = 1.57079632679489661923;
    const double x = half_pi * t;
    const double q = x * x;
    double s = 1.0 / 51090942171709440000.0;  // 1/21!
    s = s * q - 1.0 / 121645100408832000.0;   // 1/19!
    s = s * q + 1.0 / 355687428096000.0;      // 1/17!
    s = s * q - 1.0 / 1307674368000.0;        // 1/15!
    s = s * q + 1.0 / 6227020800.0;           // 1/13!
    s = s * q - 1.0 / 39916800.0;             // 1/11!
    s = s * q + 1.0 / 362880.0;               // 1/9!
    s = s * q - 1.0 / 5040.0;                 // 1/7!
    s = s * q + 1.0 / 120.0;                  // 1/5!
    s = s * q - 1.0 / 6.0;                    // 1/3!
    const double sine = x + x * (s * q);
    return sine * sine;
}

inline double limited(double t) {
    return t < 1 ? t : 1;
}

template <class Answer>
void each(std::span<double> values, double reach, Answer answer) {
    double* const data = values.data();
    const std::size_t count = values.size();
    for (std::size_t index = 0; index < count; ++index)
        data[index] = answer(data[index] / reach);
}

}  // namespace

void respond(const Shaping& shaping, double reach, std::span<double> distances) {
    switch (shaping.response) {
        case Response::distance:
            return;
        case Response::straight:
            return each(distances, reach, [](double t) { return limited(t); });
        case Response::half_sine:
            return each(distances, reach, [](double t) { return half_sine(limited(t)); });
        case Response::smooth_step:
            return each(distances, reach,
                        [](double t) { return limited(t) * limited(t) * (3 - 2 * limited(t)); });
        case Response::inverse:
            return each(distances, reach, [](double t) { return 1 / (1 + t); });
        case Response::inverse_square:
            return each(distances, reach, [](double t) { return 1 / (1 + t * t); });
        case Response::bell:
            return each(distances, reach, [](double t) { return std::exp(-4.5 * t * t); });
        case Response::drawn:
            return each(distances, reach, [&curve = *shaping.drawn](double t) { return curve(t); });
    }
}

std::vector<ResponseKnot> knots_like(const Shaping& shaping) {
    if (shaping.drawn) return shaping.drawn->knots();
    if (shaping.response == Response::straight || shaping.response == Response::distance)
        return {{0, 0, false}, {1, 1, false}};
    std::vector<ResponseKnot> knots;
    for (const double at : {0.0, 0.25, 0.5, 0.75, 1.0}) {
        double answer = at;
        respond(shaping, 1, {&answer, 1});
        knots.push_back({at, std::round(answer * 1e4) / 1e4, false});
    }
    return knots;
}

Result<Shaping> shaping_of(std::string_view word) {
    static constexpr std::array<std::string_view, 7> words{
        "distance", "straight", "half_sine", "smooth_step", "inverse", "inverse_square", "bell"};
    const auto found = std::ranges::find(words, word);
    if (found != words.end()) return Shaping(static_cast<Response>(found - words.begin()));
    constexpr std::string_view drawn = "drawn";
    if (!word.starts_with(drawn))
        return Error{ErrorCode::bad_number, "", "‘" + std::string(word) + "’ is no response",
                     "Choose one of the list."};
    const std::string_view knots = word.substr(drawn.size());
    Result<ResponseCurve> curve = read_response(knots.empty() ? "0:0 1:1" : knots);
    if (!curve) return curve.error();
    Shaping shaping(Response::drawn);
    shaping.drawn = std::make_shared<const ResponseCurve>(*std::move(curve));
    return shaping;
}

}  // namespace plume
