#pragma once
// The twelve corners of an icosahedron of edges 2 m long, typed as points.

#include <cmath>
#include <string>

#include "core/support.hpp"

namespace plume::test {

inline constexpr double golden = 1.6180339887498949;

inline void add_icosahedron(StudyMaker& maker, const std::string& name) {
    std::string rows;
    const auto row = [&](double x, double y, double z) {
        rows += std::to_string(x) + ' ' + std::to_string(y) + ' ' + std::to_string(z) + '\n';
    };
    for (const double a : {-1.0, 1.0})
        for (const double b : {-golden, golden}) {
            row(0, a, b);
            row(a, b, 0);
            row(b, 0, a);
        }
    maker.add("points.typed", name);
    maker.set(name, "rows", Lines{rows});
}

}  // namespace plume::test
