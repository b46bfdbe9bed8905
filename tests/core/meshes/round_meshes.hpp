#pragma once
// Meshes with closed forms.

#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <random>

#include "core/data/mesh.hpp"

namespace plume::test {

template <class Faces>
Mesh mesh_of_faces(const std::vector<Vec3>& places, const Faces& faces) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (const Vec3 place : places) {
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    for (const auto& face : faces) {
        parts.corners.insert(parts.corners.end(), face.begin(), face.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return *Mesh::make(std::move(parts));
}

inline Mesh mesh_of_triangles(const std::vector<Vec3>& places,
                              const std::vector<std::array<std::uint32_t, 3>>& triangles) {
    return mesh_of_faces(places, triangles);
}

// An octahedron whose faces are quartered so many times, with every vertex on the sphere.
inline Mesh ball(double radius, int times) {
    std::vector<Vec3> places{{1, 0, 0}, {-1, 0, 0}, {0, 1, 0}, {0, -1, 0}, {0, 0, 1}, {0, 0, -1}};
    std::vector<std::array<std::uint32_t, 3>> triangles{{0, 2, 4}, {2, 1, 4}, {1, 3, 4}, {3, 0, 4},
                                                        {2, 0, 5}, {1, 2, 5}, {3, 1, 5}, {0, 3, 5}};
    for (int time = 0; time < times; ++time) {
        std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> middles;
        const auto middle = [&](std::uint32_t a, std::uint32_t b) {
            const auto [found, is_new] =
                middles.try_emplace(std::minmax(a, b), static_cast<std::uint32_t>(places.size()));
            if (is_new) places.push_back(unit_or_zero(places[a] + places[b]));
            return found->second;
        };
        std::vector<std::array<std::uint32_t, 3>> finer;
        for (const auto& [a, b, c] : triangles) {
            const std::uint32_t ab = middle(a, b), bc = middle(b, c), ca = middle(c, a);
            finer.insert(finer.end(), {{a, ab, ca}, {b, bc, ab}, {c, ca, bc}, {ab, bc, ca}});
        }
        triangles = std::move(finer);
    }
    for (Vec3& place : places)
        place = place * radius;
    return mesh_of_triangles(places, triangles);
}

// Triangles between points of a parameter grid, closed where asked for.
template <class Place>
Mesh parametric(std::size_t columns, std::size_t rows, bool closed_u, bool closed_v, const Place& place) {
    std::vector<Vec3> places;
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i)
            places.push_back(
                place(static_cast<double>(i) / static_cast<double>(closed_u ? columns : columns - 1),
                      static_cast<double>(j) / static_cast<double>(closed_v ? rows : rows - 1)));
    std::vector<std::array<std::uint32_t, 3>> triangles;
    const auto at = [&](std::size_t i, std::size_t j) {
        return static_cast<std::uint32_t>(i % columns + columns * (j % rows));
    };
    for (std::size_t j = 0; j + (closed_v ? 0 : 1) < rows; ++j)
        for (std::size_t i = 0; i + (closed_u ? 0 : 1) < columns; ++i) {
            triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
            triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
        }
    return mesh_of_triangles(places, triangles);
}

inline Mesh ring(double large, double small, std::size_t around, std::size_t across) {
    return parametric(around, across, true, true, [&](double u, double v) {
        const double a = 2 * std::numbers::pi * u, b = 2 * std::numbers::pi * v;
        const double out = large + small * std::cos(b);
        return Vec3{out * std::cos(a), out * std::sin(a), small * std::sin(b)};
    });
}

// Triangles thrown anywhere into a box of side 10, some thin, some alike.
inline Mesh thrown_triangles(std::size_t count, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> place(0, 10), size(-1, 1);
    std::vector<Vec3> places;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 a{place(random), place(random), place(random)};
        const auto first = static_cast<std::uint32_t>(places.size());
        places.push_back(a);
        for (int corner = 0; corner < 2; ++corner)
            places.push_back(a + Vec3{size(random), size(random), size(random)});
        triangles.push_back({first, first + 1, first + 2});
    }
    return mesh_of_triangles(places, triangles);
}

}  // namespace plume::test
