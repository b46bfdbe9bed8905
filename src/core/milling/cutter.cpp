#include "core/milling/cutter.hpp"

#include <limits>

namespace plume {

double touch_along(const Cutter& cutter, double rise, double off) {
    constexpr int halvings = 50;
    const double reach = std::sqrt(std::max(0.0, cutter.radius * cutter.radius - off * off));
    if (rise == 0) return 0;
    if (cutter.is_flat()) return rise > 0 ? reach : -reach;
    if (cutter.is_ball()) return rise * reach / std::sqrt(1 + rise * rise);
    const double flat = cutter.flat_radius(), corner = cutter.corner, steep = std::abs(rise);
    double low = flat > off ? std::sqrt(flat * flat - off * off) : 0, high = reach;
    for (int halving = 0; halving < halvings; ++halving) {
        const double at = (low + high) / 2, distance = std::sqrt(at * at + off * off), out = distance - flat;
        const double under = corner * corner - out * out;
        double slope = std::numeric_limits<double>::infinity();
        if (out <= 0 || distance <= 0)
            slope = 0;
        else if (under > 0)
            slope = out / std::sqrt(under) * (at / distance);
        (slope < steep ? low : high) = at;
    }
    return rise > 0 ? (low + high) / 2 : -(low + high) / 2;
}

}  // namespace plume
