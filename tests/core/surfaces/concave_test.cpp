// Concave faces are cut into triangles that cover them and nothing else, in the model and in files.

#include <cmath>
#include <cstring>
#include <numbers>

#include "core/exchange/export_jobs.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/picture/drawable.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

// One face, seen from above; heights by a function of the corner.
Mesh face_of(const std::vector<std::pair<double, double>>& corners, double slope = 0) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (const auto& [a, b] : corners) {
        parts.corners.push_back(static_cast<std::uint32_t>(x.size()));
        x.push_back(a);
        y.push_back(b);
        z.push_back(slope * (a + 0.5 * b));
    }
    parts.first = {0, static_cast<std::uint32_t>(x.size())};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

// By the shoelace formula.
double area_above(const std::vector<std::pair<double, double>>& corners) {
    double twice = 0;
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const auto& [ax, ay] = corners[at];
        const auto& [bx, by] = corners[(at + 1) % corners.size()];
        twice += ax * by - ay * bx;
    }
    return twice / 2;
}

std::vector<std::pair<double, double>> comb(std::size_t teeth) {
    std::vector<std::pair<double, double>> corners{{0, 0}, {2.0 * static_cast<double>(teeth), 0}};
    for (std::size_t tooth = teeth; tooth-- > 0;) {
        const double x = 2.0 * static_cast<double>(tooth);
        corners.insert(corners.end(), {{x + 1.5, 5}, {x + 1, 1}});
    }
    corners.pop_back();
    return corners;
}

std::vector<std::vector<std::pair<double, double>>> concave_faces() {
    std::vector<std::vector<std::pair<double, double>>> faces{
        {{0, 0}, {2, 0}, {2, 1}, {1, 1}, {1, 2}, {0, 2}},                  // an L
        {{0, 0}, {4, 0}, {4, 3}, {3, 3}, {3, 1}, {1, 1}, {1, 3}, {0, 3}},  // a U
        {{0, 0}, {5, 0}, {5, 5}, {0, 5}, {0, 4}, {4, 4}, {4, 1}, {1, 1}, {1, 2}, {0, 2}},
        comb(12),
    };
    // A dart with its reflex corner at every place of the list.
    std::vector<std::pair<double, double>> dart{{0, 0}, {3, -2}, {1, 0}, {3, 2}};
    for (int turn = 0; turn < 4; ++turn) {
        faces.push_back(dart);
        std::rotate(dart.begin(), dart.begin() + 1, dart.end());
    }
    return faces;
}

TEST(ConcaveFaces, TrianglesTurnAsTheFaceDoesAndCoverIt) {
    for (const auto& corners : concave_faces())
        for (const double slope : {0.0, 0.7})
            for (const bool turned : {false, true}) {
                auto seen = corners;
                if (turned) std::ranges::reverse(seen);
                const Mesh mesh = face_of(seen, slope);
                double sum = 0;
                std::size_t count = 0;
                for_each_triangle(mesh, 0, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                    const Vec3 p = mesh.vertex(a), q = mesh.vertex(b), r = mesh.vertex(c);
                    const double area = cross(q - p, r - p).z / 2;
                    EXPECT_GT(turned ? -area : area, 0) << a << ' ' << b << ' ' << c;
                    sum += area;
                    ++count;
                });
                EXPECT_EQ(count, corners.size() - 2);
                EXPECT_NEAR(sum, area_above(seen), 1e-12) << "each place is covered once";
            }
}

TEST(ConcaveFaces, AFaceThatCrossesItselfStillHasItsTriangles) {
    const Mesh mesh = face_of({{0, 0}, {2, 2}, {2, 0}, {0, 2}, {-1, 1}});
    std::size_t count = 0;
    for_each_triangle(mesh, 0, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        EXPECT_TRUE(a != b && b != c && c != a);
        ++count;
    });
    EXPECT_EQ(count, 3U);
}

TEST(ConcaveFaces, TheModelDrawsThem) {
    for (const auto& corners : concave_faces()) {
        const auto drawable = make_drawable(Value(face_of(corners)), {}, plume::Run());
        ASSERT_TRUE(drawable);
        double sum = 0;
        for (std::size_t at = 0; at < drawable->triangles.size(); at += 3) {
            const auto p = [&](std::size_t corner) {
                const DrawVertex& v = drawable->vertices[drawable->triangles[at + corner]];
                return drawable->absolute(v.x, v.y, v.z);
            };
            sum += length(cross(p(1) - p(0), p(2) - p(0))) / 2;
        }
        EXPECT_NEAR(sum, std::abs(area_above(corners)), 1e-5);
    }
}

TEST(ConcaveFaces, StlHoldsThem) {
    for (const auto& corners : concave_faces()) {
        const Value value(face_of(corners));
        const std::string bytes = test::bytes_of(write_stl, test::job_of(value, "face"));
        double sum = 0;
        for (std::size_t at = 84; at < bytes.size(); at += 50) {
            float numbers[12];
            std::memcpy(numbers, bytes.data() + at, sizeof numbers);
            const Vec3 p{numbers[3], numbers[4], numbers[5]}, q{numbers[6], numbers[7], numbers[8]},
                r{numbers[9], numbers[10], numbers[11]};
            sum += cross(q - p, r - p).z / 2;
            EXPECT_NEAR(numbers[2], 1, 1e-6) << "the normal is the face's";
        }
        EXPECT_NEAR(sum, area_above(corners), 1e-5);
    }
}

}  // namespace
}  // namespace plume
