#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/coons.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;

SplineCurve line(Vec3 from, Vec3 to) {
    return *line_between(from, to);
}

SplineCurve wave(Vec3 from, Vec3 to, double rise) {
    const std::vector<double> knots{0, 0, 0, 0, 1, 2, 2, 2, 2};
    Doubles x, y, z;
    for (int pole = 0; pole < 5; ++pole) {
        const Vec3 at = from + (to - from) * (pole / 4.0);
        x.push_back(at.x);
        y.push_back(at.y);
        z.push_back(at.z + (pole % 2 == 1 ? rise : 0));
    }
    return *SplineCurve::make({{3, false, knots, {}}, x, y, z, {}, {}});
}

Vec3 at_share(const SplineCurve& curve, double share) {
    return evaluate(curve, std::lerp(curve.basis().start(), curve.basis().end(), share)).position;
}

SplinePatch spanned(const std::vector<SplineCurve>& edges) {
    auto patch = spanned_by_edges(edges, plume::Run());
    EXPECT_TRUE(patch) << patch.error().message;
    return *patch;
}

TEST(SpannedByEdges, RimsAreTheEdgesAndTheMiddleIsTheFormulasOne) {
    const SplineCurve south = wave({0, 0, 0}, {8, 0, 1}, 3), east = line({8, 0, 1}, {8, 5, 0}),
                      north = wave({0, 5, 2}, {8, 5, 0}, -2), west = wave({0, 0, 0}, {0, 5, 2}, 1);
    const SplinePatch patch = spanned({south, east, north, west});
    const auto place = [&](double u, double v) {
        return evaluate(patch, std::lerp(patch.u().start(), patch.u().end(), u),
                        std::lerp(patch.v().start(), patch.v().end(), v))
            .position;
    };
    for (double t = 0; t <= 1; t += 0.125) {
        EXPECT_LT(length(place(t, 0) - at_share(south, t)), 1e-12);
        EXPECT_LT(length(place(t, 1) - at_share(north, t)), 1e-12);
        EXPECT_LT(length(place(0, t) - at_share(west, t)), 1e-12);
        EXPECT_LT(length(place(1, t) - at_share(east, t)), 1e-12);
        for (double s = 0; s <= 1; s += 0.125) {
            const auto mix = [](Vec3 a, Vec3 b, double share) { return a * (1 - share) + b * share; };
            const Vec3 wanted = mix(at_share(south, t), at_share(north, t), s) +
                                mix(at_share(west, s), at_share(east, s), t) -
                                mix(mix({0, 0, 0}, {8, 0, 1}, t), mix({0, 5, 2}, {8, 5, 0}, t), s);
            EXPECT_LT(length(place(t, s) - wanted), 1e-12);
        }
    }
}

TEST(SpannedByEdges, InWhateverOrderAndWayTheyRun) {
    const SplineCurve south = line({0, 0, 0}, {4, 0, 0}), east = line({4, 0, 0}, {5, 3, 0}),
                      north = line({5, 3, 0}, {0, 2, 0}), west = line({0, 2, 0}, {0, 0, 0});
    const double wanted = (4 * 3 + 5 * 2) / 2.0;  // the shoelace formula
    for (const auto& edges :
         std::vector<std::vector<SplineCurve>>{{south, east, north, west},
                                               {south, north, reversed(west), east},
                                               {reversed(north), west, south, reversed(east)}})
        EXPECT_NEAR(*area_of({{spanned(edges)}}, plume::Run()), wanted, 1e-9);
}

TEST(SpannedByEdges, ArcsAndTips) {
    // A quarter of a pipe; an eighth of a disc's flat sector cannot be told from a triangle's rims alone.
    const SplineCurve near = ellipse_arc({placement_of({0, 0, 0}, {0, -1, 0}, {1, 0, 0}), 2, 2, 0, pi / 2});
    const SplineCurve far = ellipse_arc({placement_of({0, 5, 0}, {0, -1, 0}, {1, 0, 0}), 2, 2, 0, pi / 2});
    const SplinePatch pipe = spanned({near, line({2, 0, 0}, {2, 5, 0}), far, line({0, 0, 2}, {0, 5, 2})});
    EXPECT_FALSE(pipe.rational());
    EXPECT_NEAR(*area_of({{pipe}}, plume::Run()), 5 * pi, 1e-5);
    const SplinePatch sail =
        spanned({line({0, 0, 0}, {4, 0, 0}), line({4, 0, 0}, {1, 3, 0}), line({1, 3, 0}, {0, 0, 0})});
    EXPECT_NEAR(*area_of({{sail}}, plume::Run()), 6, 1e-9);
}

TEST(SpannedByEdges, BadInputNamesTheMend) {
    const SplineCurve south = line({0, 0, 0}, {4, 0, 0}), east = line({4, 0, 0}, {4, 3, 0}),
                      north = line({4, 3, 0}, {0, 3, 0});
    const auto why = [](const std::vector<SplineCurve>& edges) {
        const auto patch = spanned_by_edges(edges, plume::Run());
        return patch ? std::string() : patch.error().message + " " + patch.error().mend;
    };
    EXPECT_NE(why({south, east}).find("are 2"), std::string::npos);
    EXPECT_NE(why({south, east, north}).find("have ends 3 m apart at 0, 3, 0"), std::string::npos)
        << why({south, east, north});
    EXPECT_NE(why({south, east, ellipse(placement_of({0, 0, 0}, {0, 0, 1}, {1, 0, 0}), 1, 1)}).find("closed"),
              std::string::npos);
    EXPECT_NE(why({south, east, line({4, 3, 0}, {4, 3, 1e-9}), north}).find("without a length"),
              std::string::npos);
}

}  // namespace
}  // namespace plume
