#include "core/geometry/meshes/thinned_mesh.hpp"

#include <meshoptimizer.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

// The library reckons in floats: places about the middle, of a size of 1.
std::vector<float> scaled_places(const Mesh& mesh, const Box& box) {
    const Vec3 middle = box.centre(), size = box.size();
    const double scale = 1 / std::max({size.x, size.y, size.z, 1e-300});
    std::vector<float> places;
    places.reserve(3 * mesh.vertex_count());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
        const Vec3 at = (mesh.vertex(vertex) - middle) * scale;
        places.insert(places.end(),
                      {static_cast<float>(at.x), static_cast<float>(at.y), static_cast<float>(at.z)});
    }
    return places;
}

std::vector<unsigned> triangles_of(const Mesh& mesh, Mesh::Faces faces) {
    std::vector<unsigned> indices;
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            indices.insert(indices.end(), {corners[a], corners[b], corners[c]});
        });
    }
    return indices;
}

class Thinning {
public:
    explicit Thinning(const Mesh& mesh) : mesh_(mesh), places_(scaled_places(mesh, mesh.bounds())) {
        for (std::size_t part = 0; part < mesh.part_count(); ++part)
            parts_.push_back(triangles_of(mesh, mesh.part(part)));
    }
    std::size_t triangle_count() const {
        std::size_t count = 0;
        for (const auto& part : parts_)
            count += part.size() / 3;
        return count;
    }
    // Each part to the same share of its triangles, with an error of no more than that share of its size.
    Mesh to(double share, double error, bool keeps_rims) const {
        FaceBuilder faces(mesh_);
        for (std::size_t part = 0; part < parts_.size(); ++part) {
            const std::vector<unsigned>& before = parts_[part];
            const std::size_t count = before.size() / 3;
            const auto wanted =
                static_cast<std::size_t>(std::floor(static_cast<double>(count) * share + 1e-9)) * 3;
            std::vector<unsigned> after(before.size());
            const unsigned options = keeps_rims || parts_.size() > 1 ? meshopt_SimplifyLockBorder : 0;
            after.resize(meshopt_simplify(after.data(), before.data(), before.size(), places_.data(),
                                          mesh_.vertex_count(), 3 * sizeof(float), wanted,
                                          static_cast<float>(error), options, nullptr));
            for (std::size_t at = 0; at < after.size(); at += 3)
                faces.add(std::array{after[at], after[at + 1], after[at + 2]}, mesh_.part(part).begin);
        }
        Mesh::Parts parts = (*std::move(faces).over_its_vertices()).parts();
        parts.face_fields.clear();
        return without_loose_vertices(*Mesh::make(std::move(parts)));
    }

private:
    const Mesh& mesh_;
    std::vector<float> places_;
    std::vector<std::vector<unsigned>> parts_;
};

// How far vertices there were are from what is left, and how many triangles look against the faces they lie
// on: where many collapses cost nothing the library takes some that fold.
class Comparison {
public:
    explicit Comparison(const Mesh& mesh) : mesh_(mesh), tree_(mesh) {}

    Result<double> deviation(const Mesh& thin, const Run& run) const {
        const TriangleTree tree(thin);
        constexpr std::size_t block = 1024;
        std::vector<double> worst(mesh_.vertex_count() / block + 1, 0);
        const bool done =
            parallel_blocks(mesh_.vertex_count(), block, run, [&](std::size_t begin, std::size_t end) {
                std::size_t guess = 0;
                for (std::size_t vertex = begin; vertex < end; ++vertex) {
                    if (!is_finite(mesh_.vertex(vertex))) continue;
                    const PlaceOnMesh found = tree.nearest(mesh_.vertex(vertex), guess);
                    guess = found.triangle;
                    worst[begin / block] = std::max(worst[begin / block], found.distance);
                }
            });
        if (!done) return cancelled_error();
        return std::ranges::max(worst);
    }
    std::size_t folded(const Mesh& thin) const {
        std::size_t count = 0;
        for (std::size_t face = 0; face < thin.face_count(); ++face) {
            const Vec3 there = area_vector(mesh_, tree_.nearest(face_middle(thin, face)).face),
                       here = area_vector(thin, face);
            // Along a crease the nearest face may stand square to it.
            if (dot(here, there) < -0.5 * length(here) * length(there)) ++count;
        }
        return count;
    }

private:
    const Mesh& mesh_;
    TriangleTree tree_;
};

}  // namespace

Result<ThinnedMesh> thinned(const Mesh& mesh, const ThinningRule& rule, const Run& run) {
    const Mesh used = without_loose_vertices(mesh);
    const Thinning thinning(used);
    const Comparison comparison(used);
    const Vec3 size = used.bounds().size();
    const double extent = std::max({size.x, size.y, size.z, 1e-300});
    const auto count = static_cast<double>(thinning.triangle_count());
    const bool counts = rule.deviation == 0;
    std::optional<ThinnedMesh> best;
    // Whether what came of it holds; what holds is kept if it folds less, or is smaller.
    const auto attempt = [&](double share, double error) -> Result<bool> {
        Mesh thin = thinning.to(share, error, rule.keeps_rims);
        const auto deviation = comparison.deviation(thin, run);
        if (!deviation) return deviation.error();
        if (!counts && *deviation > rule.deviation) return false;
        const std::size_t folded = comparison.folded(thin);
        if (!best || folded < best->folded ||
            (folded == best->folded && thin.face_count() < best->mesh.face_count()))
            best = ThinnedMesh{std::move(thin), *deviation, folded};
        return folded == 0;
    };
    if (counts) {
        // A little fewer, and it takes other ways.
        double share = std::min(1.0, static_cast<double>(rule.triangles) / count);
        for (int time = 0; time < 8; ++time, share *= 0.98) {
            const auto holds = attempt(share, 1);
            if (!holds) return holds.error();
            if (*holds) break;
        }
        return *std::move(best);
    }
    // The library's error is a mean over planes, so what is wished for is measured: the largest error for
    // which it holds, from more than it can be on down.
    double low = 0, high = std::max(8 * rule.deviation / extent, 1e-3);
    for (int time = 0; time < 30 && low == 0; ++time) {
        const auto holds = attempt(0, high * 0.5);
        if (!holds) return holds.error();
        (*holds ? low : high) = high * 0.5;
    }
    for (int time = 0; time < 5 && low > 0; ++time) {
        const double middle = (low + high) / 2;
        const auto holds = attempt(0, middle);
        if (!holds) return holds.error();
        (*holds ? low : high) = middle;
    }
    return best ? *std::move(best) : ThinnedMesh{used, 0, 0};
}

}  // namespace plume
