#include "core/growth/surroundings.hpp"

#include <limits>

#include "core/geometry/parts/subset.hpp"

namespace plume {

AttractorSearch::AttractorSearch(const Attractors& attractors) {
    for (const Attractor& item : attractors.items()) {
        if (item.path)
            paths_.emplace_back(*item.path);
        else
            points_.push_back(item.position);
    }
    if (!points_.empty()) tree_ = std::make_unique<PointTree>(points_);
}

Vec3 AttractorSearch::nearest(Vec3 place) const {
    Vec3 best;
    double least = std::numeric_limits<double>::infinity();
    if (tree_) {
        best = points_[tree_->nearest_of(place, 1).front()];
        least = length(best - place);
    }
    for (const SegmentTree& path : paths_) {
        const NearestPlace found = path.nearest(place);
        if (found.distance >= least) continue;
        least = found.distance;
        best = found.place;
    }
    return best;
}

Result<NumbersAtPlaces> NumbersAtPlaces::make(const PointLattice& lattice, std::vector<Field> fields) {
    NumbersAtPlaces made;
    FinitePoints points = finite_points(lattice);
    if (points.places.empty())
        return Error{ErrorCode::empty_input, "", "has no point", "Choose other points."};
    made.points_ = std::make_shared<const std::vector<Vec3>>(std::move(points.places));
    made.addresses_ = std::move(points.addresses);
    made.tree_ = std::make_shared<const PointTree>(*made.points_);
    made.fields_ = std::move(fields);
    return made;
}

std::size_t NumbersAtPlaces::nearest(Vec3 place) const {
    return addresses_[tree_->nearest_of(place, 1).front()];
}

}  // namespace plume
