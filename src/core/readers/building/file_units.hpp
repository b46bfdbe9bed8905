#pragma once
// What numbers of an IFC file are in: lengths, areas, volumes and angles each have a unit of their own.

#include "core/base/units.hpp"
#include "core/readers/building/library.hpp"

namespace plume {

struct FileUnits {
    double length = 1, area = 1, volume = 1, angle = 1;  // in metres, square and cubic ones, radians

    double factor(Dimension dimension) const;
};
// What the file says nothing of is in metres or radians.
FileUnits units_of(const BuildingModel& model);

}  // namespace plume
