#include "core/picture/sketch.hpp"

#include <cmath>

namespace plume {

Vec3 Sketch::place_for(Vec3 cursor, double snap, std::optional<double> length) const {
    const Vec3 snapped =
        snap > 0 ? Vec3{std::round(cursor.x / snap) * snap, std::round(cursor.y / snap) * snap, cursor.z}
                 : cursor;
    if (!length || corners_.empty()) return snapped;
    const Vec3 last = corners_.back(), way = unit_or_zero({snapped.x - last.x, snapped.y - last.y, 0});
    return last + (way == Vec3{} ? Vec3{1, 0, 0} : way) * *length;
}

bool Sketch::would_close(Vec3 place, double reach) const {
    return corners_.size() >= 3 && length(place - corners_.front()) <= reach;
}

void Sketch::add(Vec3 place) {
    if (corners_.empty() || corners_.back() != place) corners_.push_back(place);
}

void Sketch::take_back() {
    if (!corners_.empty()) corners_.pop_back();
}

double sketch_snap(double grid_step) {
    return grid_step / 10;
}

}  // namespace plume
