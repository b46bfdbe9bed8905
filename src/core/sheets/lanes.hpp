#pragma once
// Three numbers in single precision that are reckoned with at once, for sums over many vertices.

#include "core/data/vec3.hpp"

namespace plume {

// A fourth lane is carried along; whoever loads it says what it holds.
struct Lanes {
    using Four [[gnu::vector_size(16)]] = float;
    Four of{};

    Lanes() = default;
    explicit Lanes(Four four) : of(four) {}
    explicit Lanes(Vec3 at, double fourth = 0)
        : of{static_cast<float>(at.x), static_cast<float>(at.y), static_cast<float>(at.z),
             static_cast<float>(fourth)} {}

    Vec3 vec3() const {
        return {static_cast<double>(of[0]), static_cast<double>(of[1]), static_cast<double>(of[2])};
    }
    float fourth() const { return of[3]; }

    friend Lanes operator+(Lanes a, Lanes b) { return Lanes(a.of + b.of); }
    friend Lanes operator-(Lanes a, Lanes b) { return Lanes(a.of - b.of); }
    friend Lanes operator*(Lanes a, float by) { return Lanes(a.of * by); }
    // Of the three.
    friend float dot(Lanes a, Lanes b) {
        const Four products = a.of * b.of;
        return products[0] + products[1] + products[2];
    }
};

}  // namespace plume
