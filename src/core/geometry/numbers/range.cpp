#include "core/geometry/numbers/range.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"

namespace plume {
namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();

Range range_of(const double* values, std::size_t count) {
    Range range{infinite, -infinite};
    for (std::size_t index = 0; index < count; ++index) {
        // Infinite and not-a-number values fail both comparisons or are caught by the finite bound.
        const double value = values[index];
        const bool finite = std::abs(value) <= std::numeric_limits<double>::max();
        range.low = finite && value < range.low ? value : range.low;
        range.high = finite && value > range.high ? value : range.high;
    }
    return range;
}

Range range_with_gaps(const PointLattice& lattice, const Column& values, std::size_t begin, std::size_t end) {
    Range range{infinite, -infinite};
    for (std::size_t index = begin; index < end; ++index) {
        if (!lattice.present(index) || !std::isfinite(values[index])) continue;
        range.low = std::min(range.low, values[index]);
        range.high = std::max(range.high, values[index]);
    }
    return range;
}

}  // namespace

Result<Range> own_range(const PointLattice& lattice, const Column& values, const Run& run) {
    const std::size_t blocks = (values.size() + usual_block - 1) / usual_block;
    std::vector<Range> found(std::max<std::size_t>(blocks, 1), Range{infinite, -infinite});
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            found[begin / usual_block] = lattice.has_gaps() ? range_with_gaps(lattice, values, begin, end)
                                                            : range_of(values.data() + begin, end - begin);
        });
    if (!finished) return cancelled_error();
    Range whole{infinite, -infinite};
    for (const Range& range : found)
        whole = {std::min(whole.low, range.low), std::max(whole.high, range.high)};
    if (whole.low > whole.high)
        return Error{ErrorCode::empty_input, "", "There is no finite number among the numbers",
                     "Look at the step that makes them."};
    return whole;
}

Result<Column> brought_to_range(const Column& values, Range from, Range to, bool clamp, const Run& run) {
    const double width = from.high - from.low;
    if (!(std::abs(width) > 0) || !std::isfinite(width))
        return Error{ErrorCode::out_of_range, "",
                     "The range to come from has no width, as it runs from " + short_text(from.low) + " to " +
                         short_text(from.high),
                     "Let the numbers differ, or choose a fixed range to come from."};
    const double factor = (to.high - to.low) / width;
    const double least = std::min(to.low, to.high), most = std::max(to.low, to.high);
    Doubles result(values.size());
    const double* const in = values.data();
    double* const out = result.data();
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                out[index] = to.low + (in[index] - from.low) * factor;
            if (!clamp) return;
            // Written so that a not-a-number passes through: both comparisons fail for it.
            for (std::size_t index = begin; index < end; ++index) {
                out[index] = out[index] < least ? least : out[index];
                out[index] = out[index] > most ? most : out[index];
            }
        });
    if (!finished) return cancelled_error();
    return Column(std::move(result));
}

}  // namespace plume
