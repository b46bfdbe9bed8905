#include "core/geometry/solids/block_between.hpp"

#include <Eigen/SparseCore>
#include <Eigen/SparseLU>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/plane_fill.hpp"

namespace plume {
namespace {

constexpr double least_corner_rad = 0.05;
constexpr double flat_share = 1e-9;
constexpr int smooth_rings = 8;

Error not_closed() {
    return {ErrorCode::has_gaps, "", "is open and bounds no block", "Close it."};
}

bool is_flat(const BestFit& fit) {
    return fit.worst <= flat_share * (fit.spread.x + fit.spread.y);
}

// Turned so that its normal points to the side of `way`, or away from it.
SplinePatch facing(const SplinePatch& face, Vec3 way, bool along) {
    const PatchEvaluator evaluator(face);
    const Vec3 normal = normal_at(evaluator, face.u(), face.v(), face.u().start(), face.v().start());
    return (dot(normal, way) > 0) == along ? face : reversed(face, 0);
}

// Both faces and a wall for each side between corners, all exact.
Result<Body> exact_block(const SplineCurve& lower, const SplineCurve& upper, const Run& run) {
    const Vec3 way = centroid_of_line(upper) - centroid_of_line(lower);
    std::vector<SplinePatch> faces;
    for (const SplineCurve* curve : {&lower, &upper}) {
        const auto fill = plane_fills({{*curve}}, run);
        if (!fill) return fill.error();
        faces.push_back(facing(fill->front(), way, curve == &upper));
    }
    // Walls look outwards where the lower curve runs anticlockwise seen from the upper one.
    const bool outwards = dot(area_vector(lower), way) > 0;
    Result<SplinePatch> walls = lofted({{lower, upper}, false, false}, run);
    if (!walls) return walls.error();
    if (!outwards) walls = reversed(*walls, 1);
    std::vector<double> cuts;
    const SplineBasis rim = over_domain(lower.basis(), walls->u().start(), walls->u().end());
    for (const CurveCorner& corner : corners_of(with_basis(lower, rim), least_corner_rad))
        cuts.push_back(corner.parameter);
    if (cuts.empty()) faces.push_back(*walls);
    if (!cuts.empty()) cuts.push_back(cuts.front() + walls->u().end() - walls->u().start());
    for (std::size_t side = 0; side + 1 < cuts.size(); ++side)
        faces.push_back(part_of(*walls, 0, cuts[side], cuts[side + 1]));
    return exact_body(std::move(faces), run);
}

// Places of both curves at the same parameters: corners, and between them as many as bends need.
struct Rims {
    std::vector<Vec3> lower, upper;
};
Rims rims_of(const SplineCurve& lower, const SplineCurve& upper) {
    constexpr int pieces = 12;
    Rims rims;
    for (const double at : knot_lines(lower.basis(), lower.basis().degree == 1 ? 1 : pieces)) {
        rims.lower.push_back(evaluate(lower, at).position);
        rims.upper.push_back(evaluate(upper, at).position);
    }
    return rims;
}

// Whether the middle sees every side from within, in the plane.
bool sees_all(const std::vector<Vec3>& rim, Vec3 middle, Vec3 normal) {
    double turned = 0;
    for (std::size_t at = 0; at < rim.size(); ++at) {
        const double area = dot(cross(rim[at] - middle, rim[(at + 1) % rim.size()] - middle), normal);
        if (turned == 0) turned = area;
        if (!(area * turned > 0)) return false;
    }
    return true;
}

Vec3 mean_of(const std::vector<Vec3>& rim) {
    Vec3 sum;
    double weights = 0;
    for (std::size_t at = 0; at < rim.size(); ++at) {
        const Vec3 next = rim[(at + 1) % rim.size()];
        const double weight = length(next - rim[at]);
        sum = sum + (next + rim[at]) * (weight / 2);
        weights += weight;
    }
    return sum * (1 / weights);
}

// Vertices and polygons that are put together face by face.
class Builder {
public:
    std::uint32_t place(Vec3 at) {
        x_.push_back(at.x);
        y_.push_back(at.y);
        z_.push_back(at.z);
        return static_cast<std::uint32_t>(x_.size() - 1);
    }
    std::vector<std::uint32_t> places(const std::vector<Vec3>& all) {
        std::vector<std::uint32_t> numbers;
        numbers.reserve(all.size());
        for (const Vec3 at : all)
            numbers.push_back(place(at));
        return numbers;
    }
    void face(const std::vector<std::uint32_t>& corners) {
        parts_.corners.insert(parts_.corners.end(), corners.begin(), corners.end());
        parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
    }
    void part() { parts_.part_starts.push_back(static_cast<std::uint32_t>(parts_.first.size() - 1)); }
    Result<Mesh> mesh() {
        parts_.x = std::move(x_);
        parts_.y = std::move(y_);
        parts_.z = std::move(z_);
        return Mesh::make(std::move(parts_));
    }

private:
    Mesh::Parts parts_;
    Doubles x_, y_, z_;
};

void add_fan(Builder& builder, const std::vector<std::uint32_t>& rim, std::uint32_t middle, bool turned,
             bool apart) {
    for (std::size_t at = 0; at < rim.size(); ++at) {
        if (apart) builder.part();
        const std::uint32_t here = rim[at], next = rim[(at + 1) % rim.size()];
        if (turned)
            builder.face({middle, next, here});
        else
            builder.face({middle, here, next});
    }
}

// Heights over a plane of places on rings between a rim and its middle: each the mean of its four neighbours,
// the middle that of the innermost ring.
std::vector<double> soft_heights(const std::vector<double>& rim) {
    const auto around = static_cast<int>(rim.size());
    const int unknowns = (smooth_rings - 1) * around + 1;
    const auto number = [&](int ring, int at) { return ring * around + (at + around) % around; };
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd wanted = Eigen::VectorXd::Zero(unknowns);
    const int middle = unknowns - 1;
    for (int ring = 0; ring < smooth_rings - 1; ++ring)
        for (int at = 0; at < around; ++at) {
            const int here = number(ring, at);
            // Rings are nearer to each other than places around: the shares of a polar Laplacian.
            const double radius = 1 - static_cast<double>(ring + 1) / smooth_rings, step = 1.0 / smooth_rings,
                         angle = 2 * std::numbers::pi / around;
            const double inwards = (1 - step / (2 * radius)) / (step * step),
                         outwards = (1 + step / (2 * radius)) / (step * step),
                         beside = 1 / (radius * radius * angle * angle);
            entries.emplace_back(here, here, inwards + outwards + 2 * beside);
            entries.emplace_back(here, number(ring, at + 1), -beside);
            entries.emplace_back(here, number(ring, at - 1), -beside);
            if (ring == 0)
                wanted[here] += outwards * rim[static_cast<std::size_t>(at)];
            else
                entries.emplace_back(here, number(ring - 1, at), -outwards);
            entries.emplace_back(here, ring + 2 < smooth_rings ? number(ring + 1, at) : middle, -inwards);
        }
    entries.emplace_back(middle, middle, 1);
    for (int at = 0; at < around; ++at)
        entries.emplace_back(middle, number(smooth_rings - 2, at), -1.0 / around);
    Eigen::SparseMatrix<double> matrix(unknowns, unknowns);
    matrix.setFromTriplets(entries.begin(), entries.end());
    Eigen::SparseLU<Eigen::SparseMatrix<double>> solver(matrix);
    const Eigen::VectorXd heights = solver.solve(wanted);
    return {heights.begin(), heights.end()};
}

void add_soft(Builder& builder, const std::vector<Vec3>& rim, const std::vector<std::uint32_t>& numbers,
              const Placement& plane, Vec3 middle, bool turned) {
    std::vector<double> over;
    over.reserve(rim.size());
    for (const Vec3 at : rim)
        over.push_back(plane.to_local(at).z);
    const std::vector<double> heights = soft_heights(over);
    const Vec3 centre = plane.to_local(middle);
    std::vector<std::uint32_t> outer = numbers;
    for (int ring = 0; ring < smooth_rings - 1; ++ring) {
        const double share = static_cast<double>(ring + 1) / smooth_rings;
        std::vector<std::uint32_t> inner;
        for (std::size_t at = 0; at < rim.size(); ++at) {
            const Vec3 local = plane.to_local(rim[at]);
            inner.push_back(builder.place(
                plane.to_world({std::lerp(local.x, centre.x, share), std::lerp(local.y, centre.y, share),
                                heights[static_cast<std::size_t>(ring) * rim.size() + at]})));
        }
        for (std::size_t at = 0; at < rim.size(); ++at) {
            const std::size_t next = (at + 1) % rim.size();
            if (turned)
                builder.face({outer[at], inner[at], inner[next], outer[next]});
            else
                builder.face({outer[at], outer[next], inner[next], inner[at]});
        }
        outer = std::move(inner);
    }
    add_fan(builder, outer, builder.place(plane.to_world({centre.x, centre.y, heights.back()})), turned,
            false);
}

Error hidden_middle() {
    return {ErrorCode::unlike_arrangement, "", "is so bent that its middle does not see every place of it",
            "Split it into simpler outlines, or flatten it and choose flat faces."};
}

Result<Body> meshed_block(const SplineCurve& lower, const SplineCurve& upper, BlockFaces faces) {
    const Rims rims = rims_of(lower, upper);
    Builder builder;
    const std::vector<std::uint32_t> below = builder.places(rims.lower), above = builder.places(rims.upper);
    // Every side of a polygon has a wall and a triangle that are faces of their own.
    const bool straight = lower.basis().degree == 1;
    for (std::size_t at = 0; at < below.size(); ++at) {
        if (straight || at == 0) builder.part();
        const std::size_t next = (at + 1) % below.size();
        builder.face({below[at], below[next], above[next], above[at]});
    }
    for (const bool top : {false, true}) {
        const std::vector<Vec3>& rim = top ? rims.upper : rims.lower;
        const std::vector<std::uint32_t>& numbers = top ? above : below;
        const BestFit fit = best_fit(rim);
        if (is_flat(fit) && !top) {
            builder.part();
            builder.face({numbers.rbegin(), numbers.rend()});
            continue;
        }
        const Vec3 middle = mean_of(rim);
        if (!sees_all(rim, middle, fit.placement.up)) return hidden_middle();
        if (faces == BlockFaces::smooth || !straight) builder.part();
        if (faces == BlockFaces::smooth)
            add_soft(builder, rim, numbers, fit.placement, middle, !top);
        else
            add_fan(builder, numbers, builder.place(middle), !top, straight);
    }
    Result<Mesh> mesh = builder.mesh();
    if (!mesh) return mesh.error();
    return meshed_body(*std::move(mesh));
}

}  // namespace

Result<Body> block_between(const SplineCurve& lower, const SplineCurve& upper, BlockFaces faces,
                           const Run& run) {
    if (!lower.closed() || !upper.closed()) return not_closed();
    // As many poles of one degree: the same curve moved, pole by pole.
    const bool alike = lower.basis().degree == upper.basis().degree && lower.x().size() == upper.x().size() &&
                       lower.rational() == upper.rational();
    const auto pair = alike ? Result<std::vector<SplineCurve>>({lower, with_basis(upper, lower.basis())})
                            : compatible(aligned({lower, upper}, 0), run);
    if (!pair) return pair.error();
    if (faces == BlockFaces::flat) return exact_block(pair->front(), pair->back(), run);
    return meshed_block(pair->front(), pair->back(), faces);
}

}  // namespace plume
