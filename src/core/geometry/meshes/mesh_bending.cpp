#include "core/geometry/meshes/mesh_bending.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/geometry/meshes/face_places.hpp"

namespace plume {
namespace {

using Corners = std::array<std::uint32_t, 3>;

struct Triangle {
    std::array<Vec3, 3> places, sides;  // sides: from corner n to the next
    Vec3 area;                          // twice
};

Triangle triangle_at(const Mesh& mesh, const Corners& corners) {
    Triangle one;
    for (std::size_t corner = 0; corner < 3; ++corner)
        one.places[corner] = mesh.vertex(corners[corner]);
    for (std::size_t corner = 0; corner < 3; ++corner)
        one.sides[corner] = one.places[(corner + 1) % 3] - one.places[corner];
    one.area = cross(one.sides[0], one.sides[1]);
    return one;
}

bool is_flat(const Triangle& one) {
    return !(dot(one.area, one.area) > 0) || !is_finite(one.area);
}

// Max's weights: the area vector over the squares of the two sides that meet.
std::vector<Vec3> normals_of(const Mesh& mesh, const std::vector<Corners>& triangles) {
    std::vector<Vec3> normals(mesh.vertex_count());
    for (const Corners& corners : triangles) {
        const Triangle one = triangle_at(mesh, corners);
        if (is_flat(one)) continue;
        for (std::size_t corner = 0; corner < 3; ++corner) {
            const Vec3 &out = one.sides[corner], &in = one.sides[(corner + 2) % 3];
            Vec3& sum = normals[corners[corner]];
            sum = sum + one.area * (1 / (dot(out, out) * dot(in, in)));
        }
    }
    for (Vec3& normal : normals)
        normal = unit_or_zero(normal);
    return normals;
}

// The part of the triangle's area that is nearest to each corner (Meyer, Desbrun, Schroeder & Barr, Discrete
// differential-geometry operators for triangulated 2-manifolds, 2003, figure 4: obtuse ones are halved).
std::array<double, 3> corner_areas(const Triangle& one) {
    const double area = length(one.area) / 2;
    std::array<double, 3> cosines{}, squares{};
    for (std::size_t corner = 0; corner < 3; ++corner) {
        cosines[corner] = -dot(one.sides[corner], one.sides[(corner + 2) % 3]);
        squares[corner] = dot(one.sides[corner], one.sides[corner]);
    }
    std::array<double, 3> areas{};
    for (std::size_t corner = 0; corner < 3; ++corner)
        if (cosines[corner] <= 0) {
            areas.fill(area / 4);
            areas[corner] = area / 2;
            return areas;
        }
    // An eighth of each adjoining side's square times the cotangent of the angle across it.
    for (std::size_t corner = 0; corner < 3; ++corner) {
        const std::size_t next = (corner + 1) % 3, before = (corner + 2) % 3;
        areas[corner] = (squares[corner] * cosines[before] + squares[before] * cosines[next]) / (16 * area);
    }
    return areas;
}

// Least squares over three sides: for each, form * side = difference of normals, both in the triangle's axes.
QuadraticForm form_of(const Triangle& one, const std::array<Vec3, 3>& normals, Vec3 axis_a, Vec3 axis_b) {
    // Normal equations in aa, ab, bb: rows (a, b, 0) and (0, a, b) of each side (a, b).
    double aa = 0, ab = 0, bb = 0, right_aa = 0, right_ab = 0, right_bb = 0;
    for (std::size_t side = 0; side < 3; ++side) {
        const double a = dot(one.sides[side], axis_a), b = dot(one.sides[side], axis_b);
        // The normal turns against the bend.
        const Vec3 turn = normals[side] - normals[(side + 1) % 3];
        const double turn_a = dot(turn, axis_a), turn_b = dot(turn, axis_b);
        aa += a * a;
        ab += a * b;
        bb += b * b;
        right_aa += a * turn_a;
        right_ab += b * turn_a + a * turn_b;
        right_bb += b * turn_b;
    }
    // | aa   ab      0  | by elimination; positive definite for a triangle of positive area.
    // | ab  aa+bb    ab |
    // | 0    ab      bb |
    const double middle = aa + bb - ab * ab / aa - ab * ab / bb;
    QuadraticForm form;
    form.ab = (right_ab - ab * right_aa / aa - ab * right_bb / bb) / middle;
    form.aa = (right_aa - ab * form.ab) / aa;
    form.bb = (right_bb - ab * form.ab) / bb;
    return form;
}

struct Axes {
    Vec3 a, b;
};

Axes axes_square_to(Vec3 normal) {
    const Vec3 other = std::abs(normal.x) < 0.5 ? Vec3{1, 0, 0} : Vec3{0, 1, 0};
    const Vec3 a = unit_or_zero(cross(other, normal));
    return {a, cross(normal, a)};
}

// A form over the axes of one plane, over those of another: axes are turned with the plane, about the line
// where both meet.
QuadraticForm turned_into(const QuadraticForm& form, const Axes& of, Vec3 of_normal, const Axes& into,
                          Vec3 into_normal) {
    const Vec3 about = of_normal + into_normal;
    const double scale = 1 + dot(of_normal, into_normal);
    if (scale < 1e-9) return form;  // folded over: neither says more
    // The shortest turn of a vector d square to into_normal: d - (d . of_normal) / (1 + cos) * (sum of both).
    const auto turned = [&](Vec3 d) { return d - about * (dot(d, of_normal) / scale); };
    const Vec3 a = turned(into.a), b = turned(into.b);
    const double aa = dot(a, of.a), ab = dot(a, of.b), ba = dot(b, of.a), bb = dot(b, of.b);
    return {form.aa * aa * aa + 2 * form.ab * aa * ab + form.bb * ab * ab,
            form.aa * aa * ba + form.ab * (aa * bb + ab * ba) + form.bb * ab * bb,
            form.aa * ba * ba + 2 * form.ab * ba * bb + form.bb * bb * bb};
}

}  // namespace

Result<std::vector<Bending>> bending_at_vertices(const Mesh& mesh, const Run& run) {
    const std::vector<Corners> triangles = triangles_of(mesh).vertices;
    const std::vector<Vec3> normals = normals_of(mesh, triangles);
    std::vector<Axes> axes;
    axes.reserve(normals.size());
    for (const Vec3 normal : normals)
        axes.push_back(axes_square_to(normal));
    std::vector<QuadraticForm> sums(normals.size());
    std::vector<double> weights(normals.size(), 0.0);
    for (std::size_t at = 0; at < triangles.size(); ++at) {
        if (at % 65536 == 0) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(at) / static_cast<double>(triangles.size()));
        }
        const Corners& corners = triangles[at];
        const Triangle one = triangle_at(mesh, corners);
        if (is_flat(one)) continue;
        const Vec3 normal = unit_or_zero(one.area);
        const Axes own{unit_or_zero(one.sides[0]), cross(normal, unit_or_zero(one.sides[0]))};
        const QuadraticForm form =
            form_of(one, {normals[corners[0]], normals[corners[1]], normals[corners[2]]}, own.a, own.b);
        const std::array<double, 3> areas = corner_areas(one);
        for (std::size_t corner = 0; corner < 3; ++corner) {
            const std::uint32_t vertex = corners[corner];
            const QuadraticForm there = turned_into(form, own, normal, axes[vertex], normals[vertex]);
            sums[vertex].aa += areas[corner] * there.aa;
            sums[vertex].ab += areas[corner] * there.ab;
            sums[vertex].bb += areas[corner] * there.bb;
            weights[vertex] += areas[corner];
        }
    }
    std::vector<Bending> result(normals.size());
    for (std::size_t vertex = 0; vertex < result.size(); ++vertex) {
        if (!(weights[vertex] > 0)) continue;
        const double scale = 1 / weights[vertex];
        const QuadraticForm& sum = sums[vertex];
        result[vertex] = {normals[vertex], {sum.aa * scale, sum.ab * scale, sum.bb * scale}, axes[vertex].a};
    }
    return result;
}

}  // namespace plume
