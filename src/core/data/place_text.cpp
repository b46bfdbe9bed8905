#include "core/data/place_text.hpp"

#include "core/base/numbers.hpp"

namespace plume {

std::string place_text(Vec3 place, double size, const Units& units, int digits) {
    const auto told = [&](double value) {
        return short_text(std::abs(value) <= 1e-12 * size ? 0 : value, digits);
    };
    return told(place.x) + ", " + told(place.y) + ", " + told(place.z) + ' ' +
           std::string(symbol(units.length));
}

std::string place_text(Vec3 place) {
    return short_text(place.x) + ", " + short_text(place.y) + ", " + short_text(place.z);
}

}  // namespace plume
