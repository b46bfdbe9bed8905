#include "core/geometry/measures/point_tree.hpp"

#include <cmath>
#include <cstdint>
#include <limits>
#include <nanoflann.hpp>

namespace plume {
namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

// The points as the library reads them.
struct Cloud {
    std::span<const Vec3> points;
    std::size_t kdtree_get_point_count() const { return points.size(); }
    double kdtree_get_pt(std::size_t index, std::size_t axis) const {
        const Vec3& point = points[index];
        return axis == 0 ? point.x : (axis == 1 ? point.y : point.z);
    }
    template <class Box>
    bool kdtree_get_bbox(Box& /*box*/) const {
        return false;
    }
};

using Index = nanoflann::KDTreeSingleIndexAdaptor<nanoflann::L2_Simple_Adaptor<double, Cloud>, Cloud, 3>;
constexpr std::size_t points_a_leaf = 12;

// What a search brings, as the library asks for it.
struct LeastSquare {
    double least = infinity;
    double worstDist() const { return least; }
    bool full() const { return true; }
    std::size_t size() const { return 1; }
    bool addPoint(double square, std::uint32_t /*index*/) {
        least = std::min(least, square);
        return true;
    }
};

struct Within {
    std::span<const Vec3> points;
    Vec3 place;
    double reach, bound;
    const std::function<bool(std::size_t, double)>& found;
    double worstDist() const { return bound; }
    bool full() const { return true; }
    std::size_t size() const { return 0; }
    // What is exactly at the reach counts, which squares may miss by a rounding.
    bool addPoint(double /*square*/, std::uint32_t index) {
        const double distance = length(points[index] - place);
        return distance > reach || found(index, distance);
    }
};

}  // namespace

struct PointTree::Tree {
    explicit Tree(std::span<const Vec3> points)
        : cloud{points}, index(3, cloud, nanoflann::KDTreeSingleIndexAdaptorParams(points_a_leaf)) {
        if (!points.empty()) index.buildIndex();
    }
    Cloud cloud;
    Index index;
};

PointTree::PointTree(std::span<const Vec3> points) : tree_(std::make_unique<const Tree>(points)) {}
PointTree::~PointTree() = default;

double PointTree::nearest_square(Vec3 place) const {
    const double at[3] = {place.x, place.y, place.z};
    LeastSquare result;
    if (!tree_->cloud.points.empty()) tree_->index.findNeighbors(result, at, nanoflann::SearchParams());
    return result.least;
}

std::vector<std::size_t> PointTree::nearest_of(Vec3 place, std::size_t count) const {
    count = std::min(count, tree_->cloud.points.size());
    std::vector<std::uint32_t> numbers(count);
    std::vector<double> squares(count);
    if (count == 0) return {};
    const double at[3] = {place.x, place.y, place.z};
    nanoflann::KNNResultSet<double, std::uint32_t> result(count);
    result.init(numbers.data(), squares.data());
    tree_->index.findNeighbors(result, at, nanoflann::SearchParams());
    return {numbers.begin(), numbers.end()};
}

void PointTree::for_each_within(Vec3 place, double reach,
                                const std::function<bool(std::size_t, double)>& found) const {
    if (tree_->cloud.points.empty()) return;
    constexpr double slack = 1 + 1e-12;
    const double bound = std::nextafter(reach * reach * slack, infinity);
    Within result{tree_->cloud.points, place, reach, bound, found};
    const double at[3] = {place.x, place.y, place.z};
    tree_->index.findNeighbors(result, at, nanoflann::SearchParams());
}

}  // namespace plume
