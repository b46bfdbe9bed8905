#include <Eigen/Dense>
#include <cmath>
#include <map>
#include <numbers>

#include "core/geometry/curves/banded_solver.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;

double wavy(double i, double j) {
    return std::sin(0.4 * i) * std::cos(0.3 * j) + 0.05 * i;
}

// Euler's V - E + F over the edges faces share; every edge of a closed mesh has two faces.
struct Topology {
    int euler = 0;
    bool closed = true, oriented = true;
};
Topology topology_of(const Mesh& mesh) {
    std::map<std::pair<std::uint32_t, std::uint32_t>, int> directed;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for (std::size_t c = 0; c < corners.size(); ++c)
            ++directed[{corners[c], corners[(c + 1) % corners.size()]}];
    }
    Topology topology;
    int edges = 0;
    for (const auto& [edge, count] : directed) {
        const bool back = directed.contains({edge.second, edge.first});
        topology.closed = topology.closed && back;
        topology.oriented = topology.oriented && count == 1;
        edges += !back || edge.first < edge.second ? 1 : 0;
    }
    topology.euler = static_cast<int>(mesh.vertex_count()) - edges + static_cast<int>(mesh.face_count());
    return topology;
}

// Signed volume by the divergence theorem.
double volume(const Mesh& mesh) {
    double sum = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for (std::size_t c = 1; c + 1 < corners.size(); ++c)
            sum +=
                dot(mesh.vertex(corners[0]), cross(mesh.vertex(corners[c]), mesh.vertex(corners[c + 1]))) / 6;
    }
    return sum;
}

TEST(Facets, CountsAndAreas) {
    const Mesh quads = *facets(grid(25, 17), FacetShape::quads, plume::Run());
    EXPECT_EQ(quads.face_count(), 24U * 16);
    EXPECT_DOUBLE_EQ(area(quads), 24 * 16);
    const Mesh triangles = *facets(grid(25, 17), FacetShape::triangles, plume::Run());
    EXPECT_EQ(triangles.face_count(), 2U * 24 * 16);
    EXPECT_DOUBLE_EQ(area(triangles), 24 * 16);
    EXPECT_EQ(topology_of(quads).euler, 1) << "a disc";
}

TEST(Facets, ClosedBothWaysIsAWatertightTorus) {
    for (const FacetShape shape : {FacetShape::quads, FacetShape::triangles}) {
        const Mesh mesh = *facets(test::torus(64, 48, 3, 1), shape, plume::Run());
        const Topology topology = topology_of(mesh);
        EXPECT_TRUE(topology.closed && topology.oriented);
        EXPECT_EQ(topology.euler, 0);
        EXPECT_NEAR(std::abs(volume(mesh)), 2 * std::numbers::pi * std::numbers::pi * 3, 0.3);
    }
}

TEST(Facets, GapsStayOpenAndTheirPointIsLeftOut) {
    for (const auto& [name, lattice] : test::pathological()) {
        if (std::string_view(name) != "a gap in the middle") continue;
        const Mesh mesh =
            *facets(lattice.with_field({"f", lattice.x(), a_length}), FacetShape::quads, plume::Run());
        EXPECT_EQ(mesh.face_count(), 12U);
        EXPECT_EQ(mesh.vertex_count(), 24U);
        EXPECT_DOUBLE_EQ(area(mesh), 12);
        for (std::size_t v = 0; v < mesh.vertex_count(); ++v)
            EXPECT_EQ(mesh.fields()[0].values[v], mesh.vertex(v).x) << "fields follow their points";
    }
}

TEST(Facets, ShorterDiagonalIsCut) {
    // A cell whose corner 0 lies far off: the diagonal from 1 to 3 is the shorter.
    const PointLattice cell = grid(2, 2, [](double i, double j) { return i + j == 0 ? -9.0 : 0.0; });
    const Mesh mesh = *facets(cell, FacetShape::triangles, plume::Run());
    EXPECT_EQ((std::vector<std::uint32_t>(mesh.face(0).begin(), mesh.face(0).end())),
              (std::vector<std::uint32_t>{0, 1, 2}));
    EXPECT_EQ((std::vector<std::uint32_t>(mesh.face(1).begin(), mesh.face(1).end())),
              (std::vector<std::uint32_t>{1, 3, 2}));
}

TEST(Facets, RefusesRowsAndTinyRings) {
    EXPECT_EQ(facets(grid(5, 1), FacetShape::quads, plume::Run()).error().code, ErrorCode::too_few_points);
    EXPECT_EQ(facets(grid(2, 5, {}, true), FacetShape::quads, plume::Run()).error().code,
              ErrorCode::too_few_points);
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(facets(grid(5, 5), FacetShape::quads, cancelled).error().code, ErrorCode::cancelled);
}

TEST(SplineBasis, PartitionOfUnityAndSlopes) {
    const SplineBasis open = interpolating_basis({0, 0.1, 0.35, 0.5, 0.8, 1}, 3, false, 1);
    const SplineBasis closed = interpolating_basis({0, 0.1, 0.35, 0.5, 0.8}, 3, true, 1);
    EXPECT_EQ(open.pole_count(), 6U);
    EXPECT_EQ(closed.pole_count(), 8U);
    for (const SplineBasis& basis : {open, closed})
        for (double t = 0; t <= 1; t += 0.01) {
            const BasisAt at = basis_at(basis, t);
            double values = 0, slopes = 0;
            for (int a = 0; a <= basis.degree; ++a) {
                values += at.values[static_cast<std::size_t>(a)];
                slopes += at.slopes[static_cast<std::size_t>(a)];
                EXPECT_GE(at.values[static_cast<std::size_t>(a)], -1e-15);
            }
            EXPECT_NEAR(values, 1, 1e-14);
            EXPECT_NEAR(slopes, 0, 1e-11);
        }
}

TEST(BandedSolver, AgreesWithADenseSolver) {
    for (const bool cyclic : {false, true}) {
        constexpr std::size_t n = 23, band = 2;
        BandedSolver solver(n, band, cyclic);
        Eigen::MatrixXd dense = Eigen::MatrixXd::Zero(n, n);
        for (std::size_t r = 0; r < n; ++r)
            for (int d = -static_cast<int>(band); d <= static_cast<int>(band); ++d) {
                const int column = static_cast<int>(r) + d;
                if (!cyclic && (column < 0 || column >= static_cast<int>(n))) continue;
                const auto c = static_cast<std::size_t>((column + static_cast<int>(n)) % static_cast<int>(n));
                const double value =
                    d == 0 ? 5 + std::sin(static_cast<double>(r)) : std::cos(static_cast<double>(r) * 3 + d);
                solver.add(r, c, value);
                dense(static_cast<Eigen::Index>(r), static_cast<Eigen::Index>(c)) += value;
            }
        ASSERT_TRUE(solver.factor());
        std::vector<double> sides(n * 3);
        for (std::size_t index = 0; index < sides.size(); ++index)
            sides[index] = std::sin(static_cast<double>(index));
        using RowMajor = Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;
        const Eigen::MatrixXd expected = dense.partialPivLu().solve(Eigen::Map<RowMajor>(sides.data(), n, 3));
        solver.solve(sides.data(), 3);
        EXPECT_LT((Eigen::Map<RowMajor>(sides.data(), n, 3) - expected).norm(), 1e-12)
            << (cyclic ? "cyclic" : "open");
    }
    BandedSolver singular(4, 1, false);
    EXPECT_FALSE(singular.factor());
}

double largest_deviation(const SplinePatch& patch, const PointLattice& lattice) {
    double largest = 0;
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        const Address at = lattice.address(index);
        const Vec3 p = evaluate(patch, patch.u().nodes[at.i], patch.v().nodes[at.j]).position;
        largest = std::max(largest, length(p - lattice.point(index)));
    }
    return largest;
}

TEST(Smooth, PassesThroughEveryPoint) {
    const struct {
        const char* name;
        PointLattice lattice;
    } cases[] = {{"two by two", grid(2, 2, wavy)},           {"three by five", grid(3, 5, wavy)},
                 {"four by two", grid(4, 2, wavy)},          {"canopy", grid(25, 17, wavy)},
                 {"torus", test::torus(24, 16, 3, 1)},       {"closed along i", grid(12, 6, wavy, true)},
                 {"smallest ring", test::torus(3, 3, 3, 1)}, {"hundred", grid(100, 100, wavy)}};
    for (const auto& [name, lattice] : cases) {
        const auto patch = interpolate_grid(lattice, plume::Run());
        ASSERT_TRUE(patch) << name << ": " << sentence(patch.error());
        EXPECT_LT(largest_deviation(*patch, lattice), 1e-12 * lattice.bounds().diagonal()) << name;
    }
}

TEST(Smooth, ReproducesAPlaneAndABilinearPatchExactly) {
    const PointLattice lattice =
        grid(9, 7, [](double i, double j) { return 0.5 * i - 2 * j + 0.25 * i * j; });
    const SplinePatch patch = *interpolate_grid(lattice, plume::Run());
    for (double u = 0; u <= 1; u += 0.05)
        for (double v = 0; v <= 1; v += 0.05) {
            const Vec3 p = evaluate(patch, u, v).position;
            EXPECT_NEAR(p.z, 0.5 * p.x - 2 * p.y + 0.25 * p.x * p.y, 1e-12);
        }
}

TEST(Smooth, ClosedDirectionsCloseWithoutACrease) {
    const SplinePatch patch = *interpolate_grid(test::torus(24, 16, 3, 1), plume::Run());
    const double end = patch.u().end(), start = patch.u().start();
    for (double v = 0; v < 1; v += 0.1) {
        const SurfacePoint a = evaluate(patch, start, v), b = evaluate(patch, end, v);
        EXPECT_LT(length(a.position - b.position), 1e-12);
        EXPECT_LT(length(a.along_u - b.along_u), 1e-9 * length(a.along_u));
    }
    // Between its points it lies close to the true torus: the cubic's error falls with the fourth power of
    // the step.
    for (double u = start; u < end; u += 0.013) {
        const Vec3 p = evaluate(patch, u, 0.4).position;
        EXPECT_NEAR(std::hypot(std::hypot(p.x, p.y) - 3, p.z), 1, 2e-3);
    }
}

TEST(Smooth, CarriesFieldsOverTheSameKnots) {
    const PointLattice flat = grid(9, 7);
    const PointLattice lattice =
        flat.with_field({"twice x",
                         [&] {
                             Doubles values(flat.address_count());
                             for (std::size_t index = 0; index < values.size(); ++index)
                                 values[index] = 2 * flat.x()[index];
                             return Column(std::move(values));
                         }(),
                         a_length})
            .with_field({"odd", Doubles(flat.address_count(), NAN), {}});
    const SplinePatch patch = *interpolate_grid(lattice, plume::Run());
    ASSERT_EQ(patch.fields().size(), 1U) << "a field that is not finite stays behind";
    const SurfaceSamples samples = *sample(patch, 3, plume::Run());
    for (std::size_t index = 0; index < samples.x.size(); ++index)
        EXPECT_NEAR(samples.fields[0].values[index], 2 * samples.x[index], 1e-12);
}

TEST(Smooth, PathologicalLatticesGiveASurfaceOrASentence) {
    for (const auto& [name, lattice] : test::pathological()) {
        const auto patch = interpolate_grid(lattice, plume::Run());
        if (!patch) {
            EXPECT_FALSE(patch.error().message.empty()) << name;
            EXPECT_FALSE(patch.error().mend.empty()) << name;
            continue;
        }
        // Coordinates of 1e9 can themselves only say 1e-7, and each place is a sum of sixteen.
        const double rounding = 8e-16 * length(lattice.bounds().high);
        EXPECT_LT(largest_deviation(*patch, lattice),
                  1e-9 * std::max(1e-9, lattice.bounds().diagonal()) + rounding)
            << name;
    }
    EXPECT_EQ(interpolate_grid(grid(4, 4, [](double i, double) { return i == 2 ? NAN : 0; }), plume::Run())
                  .error()
                  .code,
              ErrorCode::not_finite);
}

TEST(Smooth, RefusalsNameTheReason) {
    std::map<std::string, ErrorCode> codes;
    for (const auto& [name, lattice] : test::pathological())
        if (const auto patch = interpolate_grid(lattice, plume::Run()); !patch)
            codes[name] = patch.error().code;
    EXPECT_EQ(codes.at("one point"), ErrorCode::too_few_points);
    EXPECT_EQ(codes.at("one row"), ErrorCode::too_few_points);
    EXPECT_EQ(codes.at("a gap in the middle"), ErrorCode::has_gaps);
    EXPECT_EQ(codes.at("coincident points"), ErrorCode::broken_invariant);
    EXPECT_EQ(codes.size(), 4U);
}

TEST(Sampling, NormalsAgreeWithDifferences) {
    const SplinePatch patch = *interpolate_grid(grid(9, 7, wavy), plume::Run());
    const double h = 1e-6;
    for (double u = 0.1; u < 0.9; u += 0.17)
        for (double v = 0.1; v < 0.9; v += 0.13) {
            const SurfacePoint at = evaluate(patch, u, v);
            const Vec3 du =
                (evaluate(patch, u + h, v).position - evaluate(patch, u - h, v).position) * (0.5 / h);
            const Vec3 dv =
                (evaluate(patch, u, v + h).position - evaluate(patch, u, v - h).position) * (0.5 / h);
            EXPECT_LT(length(at.along_u - du), 1e-6 * length(du));
            EXPECT_LT(length(at.along_v - dv), 1e-6 * length(dv));
        }
}

// A quarter of a cylinder as a rational patch: the exact circle is the closed form.
TEST(Sampling, RationalPatchIsAnExactCylinder) {
    const double w = std::sqrt(0.5);
    SplinePatch::Parts parts;
    parts.u = {2, false, {0, 0, 0, 1, 1, 1}, {}};
    parts.v = {1, false, {0, 0, 1, 1}, {}};
    parts.x = Doubles{2, 2, 0, 2, 2, 0};
    parts.y = Doubles{0, 2, 2, 0, 2, 2};
    parts.z = Doubles{0, 0, 0, 5, 5, 5};
    parts.weights = Doubles{1, w, 1, 1, w, 1};
    const SplinePatch patch = *SplinePatch::make(std::move(parts));
    const SurfaceSamples samples = *sample(patch, 16, plume::Run());
    for (std::size_t index = 0; index < samples.x.size(); ++index) {
        EXPECT_NEAR(std::hypot(samples.x[index], samples.y[index]), 2, 1e-14);
        EXPECT_NEAR(samples.normal_x[index] * 2, samples.x[index], 1e-12);
        EXPECT_NEAR(samples.normal_y[index] * 2, samples.y[index], 1e-12);
    }
}

TEST(Sampling, MeshOfAClosedSurfaceIsWatertight) {
    const SurfaceSet set{{*interpolate_grid(test::torus(24, 16, 3, 1), plume::Run())}};
    const Mesh mesh = *mesh_of(set, 20'000, plume::Run());
    const Topology topology = topology_of(mesh);
    EXPECT_TRUE(topology.closed && topology.oriented);
    EXPECT_EQ(topology.euler, 0);
    EXPECT_NEAR(std::abs(volume(mesh)), 2 * std::numbers::pi * std::numbers::pi * 3, 0.05);
    const SurfaceSet two{{set.patches[0], set.patches[0]}};
    EXPECT_EQ(mesh_of(two, 40'000, plume::Run())->face_count(), 2 * mesh.face_count());
}

}  // namespace
}  // namespace plume
