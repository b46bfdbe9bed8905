#pragma once
// Drawings made by hand, and what is asked of their curves.

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/readers/curve_file.hpp"
#include "core/readers/files.hpp"

namespace plume::test {

inline CurveFile drawing_of(const std::string& bytes, const char* name) {
    auto file = read_curve_bytes(bytes, name, plume::Run());
    EXPECT_TRUE(file) << sentence(file.error());
    return file ? *std::move(file) : CurveFile{};
}
// The one curve of a drawing in which there is nothing else.
inline SplineCurve only_curve_of(const std::string& bytes, const char* name) {
    const CurveFile file = drawing_of(bytes, name);
    EXPECT_EQ(file.curves.size(), 1U);
    EXPECT_EQ(file.losses, std::vector<std::string>());
    return file.curves.front();
}
inline Error drawing_error(const std::string& bytes, const char* name) {
    const auto file = read_curve_bytes(bytes, name, plume::Run());
    EXPECT_FALSE(file);
    return file ? Error{} : file.error();
}

inline Vec3 at(const SplineCurve& curve, double share) {
    const SplineBasis& basis = curve.basis();
    return evaluate(curve, basis.start() + share * (basis.end() - basis.start())).position;
}
inline void expect_near(Vec3 place, Vec3 wanted, double slack = 1e-12) {
    EXPECT_NEAR(length(place - wanted), 0, slack) << place.x << " " << place.y << " " << place.z;
}

}  // namespace plume::test
