#pragma once
// What one instruction of a formula program does to every lane. Conditions are numbers: 0 is no, all else is
// yes; comparisons give 1 or 0.

#include <cstddef>
#include <cstdint>

namespace plume {

enum class Operation : std::uint8_t {
    // of one number
    copy,
    negate,
    invert,  // not
    absolute,
    sign,
    floor,
    ceil,
    round,  // half away from zero
    trunc,
    fract,  // x - floor(x)
    square_root,
    cube_root,
    exponential,
    logarithm,
    logarithm_10,
    logarithm_2,
    sine,
    cosine,
    tangent,
    arc_sine,
    arc_cosine,
    arc_tangent,
    hyperbolic_sine,
    hyperbolic_cosine,
    hyperbolic_tangent,
    area_hyperbolic_sine,
    area_hyperbolic_cosine,
    area_hyperbolic_tangent,
    saw_wave,       // of an angle in radians, one period a turn, 0 at 0, -1 to 1
    triangle_wave,  // likewise, rising at 0
    square_wave,    // likewise, 1 in the first half turn
    noise_1,
    // of two
    add,
    subtract,
    multiply,
    divide,
    power,
    modulo,  // floored: takes the sign of the second
    minimum,
    maximum,
    arc_tangent_2,
    hypotenuse,
    less,
    less_equal,
    greater,
    greater_equal,
    equal,
    unequal,
    both,
    either,
    step,    // 1 from the first number on
    random,  // of a seed and a point's number: evenly spread over [0, 1)
    noise_2,
    // of three
    select,       // condition, where yes, where no
    clamp,        // number, low, high
    mix,          // a, b, share of b
    smooth_step,  // low, high, number
    multiply_add,
    noise_3,
    number_of_operations
};

inline constexpr std::size_t operation_count = static_cast<std::size_t>(Operation::number_of_operations);

constexpr int operand_count(Operation operation) {
    if (operation < Operation::add) return 1;
    return operation < Operation::select ? 2 : 3;
}

}  // namespace plume
