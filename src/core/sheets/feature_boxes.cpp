#include "core/sheets/feature_boxes.hpp"

#include "core/base/parallel.hpp"

namespace plume {
namespace {

constexpr std::size_t block = 1024;

// Each around those of its corners.
template <class Corners>
void fit_around(const std::vector<MovingBox>& vertices, std::uint32_t first,
                const std::vector<Corners>& features, std::vector<MovingBox>& boxes) {
    boxes.resize(features.size());
    parallel_blocks(features.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            MovingBox box;
            for (const std::uint32_t corner : features[index])
                box.include(vertices[corner - first]);
            boxes[index] = box;
        }
    });
}

}  // namespace

void FeatureBoxes::fit(const SheetFeatures& features, std::uint32_t first, const std::vector<Vec3>& at,
                       const std::vector<Vec3>& ways, Vec3 middle) {
    vertices.resize(at.size());
    parallel_blocks(at.size(), block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex) {
            MovingBox box;
            const Vec3 from = at[vertex] - middle;
            box.include(from, ways.empty() ? from : from + ways[vertex]);
            vertices[vertex] = box;
        }
    });
    fit_around(vertices, first, features.edges, edges);
    fit_around(vertices, first, features.triangles, triangles);
}

}  // namespace plume
