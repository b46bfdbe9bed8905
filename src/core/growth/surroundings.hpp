#pragma once
// What stands around parts while they grow: what they may not leave, what they reach for, numbers at their
// places. May be asked by many threads.

#include <functional>
#include <memory>
#include <vector>

#include "core/base/units.hpp"
#include "core/data/attractors.hpp"
#include "core/data/point_lattice.hpp"
#include "core/geometry/curves/segment_tree.hpp"
#include "core/geometry/measures/point_tree.hpp"

namespace plume {

// The nearest of attractors, whatever their weights; of lines the nearest place on them.
class AttractorSearch {
public:
    explicit AttractorSearch(const Attractors& attractors);
    Vec3 nearest(Vec3 place) const;

private:
    std::vector<Vec3> points_;
    std::unique_ptr<PointTree> tree_;
    std::vector<SegmentTree> paths_;
};

// The numbers of the nearest point of a lattice.
class NumbersAtPlaces {
public:
    // Of these fields of it. Error: empty_input where there is no finite point.
    static Result<NumbersAtPlaces> make(const PointLattice& lattice, std::vector<Field> fields);
    std::size_t nearest(Vec3 place) const;
    const std::vector<Field>& fields() const { return fields_; }

private:
    std::shared_ptr<const std::vector<Vec3>> points_;
    std::shared_ptr<const PointTree> tree_;
    std::vector<std::size_t> addresses_;
    std::vector<Field> fields_;
};

struct Surroundings {
    std::function<bool(Vec3)> contains = {};  // empty: parts may be anywhere
    std::shared_ptr<const AttractorSearch> attractors = {};
    std::shared_ptr<const NumbersAtPlaces> numbers = {};
};

}  // namespace plume
