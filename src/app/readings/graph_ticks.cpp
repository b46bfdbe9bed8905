#include "app/readings/graph_ticks.hpp"

#include <cmath>

#include "app/formula/term_column.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {

void for_each_tick(double least, double most, Dimension dimension, const Units& units, double count,
                   const std::function<void(double at, const QString& text)>& draw) {
    constexpr int most_ticks = 40;
    const double times = shown_per_internal(dimension, units);
    const double step = round_step((most - least) * times / count);
    const double first = std::ceil(least * times / step);
    for (int tick = 0; tick < most_ticks; ++tick) {
        const double at = (first + tick) * step;
        if (!(at <= most * times + step * 1e-9)) return;
        draw(at / times, value_text(std::abs(at) < step / 1000 ? 0 : at / times, dimension, units));
    }
}

}  // namespace plume::app
