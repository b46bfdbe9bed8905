#include "core/geometry/numbers/response.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

// The sine of 0 to pi/2. The Taylor series up to x^21 leaves (pi/2)^23 / 23! < 2e-18: below the rounding of
// the result. A polynomial, so that the compiler turns loops into vector code, which it cannot do with a call
// of the C library.
inline double quarter_sine(double x) {
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
    return x + x * (s * q);
}

constexpr double half_pi = std::numbers::pi / 2;

// sin^2(pi t / 2) = 1/2 - 1/2 cos(pi t) without cancellation at small t.
inline double half_sine(double t) {
    const double sine = quarter_sine(half_pi * t);
    return sine * sine;
}

// sin(pi t): the sine of the second half is that of the first, run backwards.
inline double sine_hump(double t) {
    return quarter_sine(half_pi * 2 * (t < 0.5 ? t : 1 - t));
}

inline double limited(double t) {
    return t < 1 ? t : 1;
}

double wave(const Waves& waves, double t) {
    const double size = waves.swell == Swell::even ? 1 : waves.swell == Swell::growing ? t : 1 - t;
    return 0.5 - size / 2 * std::cos(2 * std::numbers::pi * waves.periods * t + waves.phase_rad);
}

template <class Answer>
void each(std::span<double> values, double reach, Answer answer) {
    double* const data = values.data();
    const std::size_t count = values.size();
    for (std::size_t index = 0; index < count; ++index)
        data[index] = answer(data[index] / reach);
}

}  // namespace

Swell swell_of(std::string_view word) {
    return word == "growing" ? Swell::growing : word == "fading" ? Swell::fading : Swell::even;
}

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
        case Response::sine_hump:
            return each(distances, reach, [](double t) { return sine_hump(limited(t)); });
        case Response::waves:
            return each(distances, reach,
                        [&waves = shaping.waves](double t) { return wave(waves, limited(t)); });
        case Response::drawn:
            return each(distances, reach, [&curve = *shaping.drawn](double t) { return curve(t); });
    }
}

std::vector<ResponseKnot> knots_like(const Shaping& shaping) {
    if (shaping.drawn) return shaping.drawn->knots();
    if (shaping.response == Response::straight || shaping.response == Response::distance)
        return {{0, 0, false}, {1, 1, false}};
    // Eight pieces to a wave draw it within a hundredth; more knots than 64 nobody could take hold of.
    const double periods = shaping.response == Response::waves ? shaping.waves.periods : 0.5;
    const auto pieces = static_cast<std::size_t>(std::clamp(std::ceil(8 * periods), 4.0, 60.0));
    const std::vector<double> answers = shape_of(shaping, pieces + 1);
    std::vector<ResponseKnot> knots;
    for (std::size_t at = 0; at <= pieces; ++at)
        knots.push_back({static_cast<double>(at) / static_cast<double>(pieces),
                         std::round(answers[at] * 1e4) / 1e4, false});
    return knots;
}

std::vector<double> shape_of(const Shaping& shaping, std::size_t count) {
    std::vector<double> answers(count);
    for (std::size_t at = 0; at < count; ++at)
        answers[at] = static_cast<double>(at) / static_cast<double>(count - 1);
    if (shaping.response != Response::distance) respond(shaping, 1, answers);
    return answers;
}

Result<Shaping> shaping_of(std::string_view word) {
    static constexpr std::array<std::string_view, 9> words{"distance",    "straight",  "half_sine",
                                                           "smooth_step", "inverse",   "inverse_square",
                                                           "bell",        "sine_hump", "waves"};
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
