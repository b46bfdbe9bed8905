#pragma once
// Colour ramps of fields.
//
// Interpolated in OKLab (Bjoern Ottosson, A perceptual color space for image processing, 2020), with
// lightness changing evenly from end to end, or from the ends to the middle where a ramp is to show which
// side of it a number lies on, so that equal steps look equal and the order survives colour blindness and
// grey printing.

#include <array>
#include <cstdint>

#include "core/data/material.hpp"
#include "core/data/ramp_style.hpp"

namespace plume {

struct Rgb {
    float red = 0, green = 0, blue = 0;  // sRGB, 0 to 1
    bool operator==(const Rgb&) const = default;
};

// `at` is limited to 0..1.
Rgb ramp_colour(Ramp ramp, double at);
Rgb ramp_colour(const RampStyle& style, double at);

inline constexpr Rgb not_a_number_colour{0.62F, 0.60F, 0.58F};
// Faces and points without a field to colour them.
inline constexpr Rgb plain_colour{0.80F, 0.80F, 0.76F};
Rgb plain_colour_of(const std::optional<Material>& material);
inline constexpr Rgb attractor_colour{0.71F, 0.40F, 0.46F};

}  // namespace plume
