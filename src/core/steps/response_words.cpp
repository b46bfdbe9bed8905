#include "core/steps/response_words.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"

namespace plume {

SlotSpec share_response_slot() {
    return response_slot("response", "Response",
                         {{"straight", "straight", "evenly from the lower to the upper end"},
                          {"half_sine", "half a sine", "soft at both ends"},
                          {"smooth_step", "a smooth step", "soft at both ends, cubic"},
                          {"drawn", "drawn", "a curve of your own"}});
}

Result<Shaping> shaping_in(const Inputs& in) {
    Result<Shaping> shaping = shaping_of(in.word("response"));
    if (!shaping) return at_place(shaping.error(), "Response");
    return shaping;
}

Result<Column> answered(const Column& shares, const Shaping& shaping, Range to, const Run& run) {
    Doubles values(shares.data(), shares.data() + shares.size());
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            respond(shaping, 1, std::span(values).subspan(begin, end - begin));
            for (std::size_t index = begin; index < end; ++index)
                values[index] = to.low + (to.high - to.low) * values[index];
        });
    if (!finished) return cancelled_error();
    return Column(std::move(values));
}

std::vector<double> present_numbers(const PointLattice& points, const Column& values) {
    std::vector<double> numbers;
    numbers.reserve(points.point_count());
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index)) numbers.push_back(values[index]);
    return numbers;
}

ResponseFlow flow_of(std::span<const double> shares, const Shaping& shaping) {
    ResponseFlow flow;
    flow.incoming.assign(response_bins, 0);
    flow.outgoing.assign(response_bins, 0);
    const auto bin = [](double share) {
        return std::min(static_cast<std::size_t>(std::clamp(share, 0.0, 1.0) * response_bins),
                        response_bins - 1);
    };
    for (double share : shares) {
        if (!std::isfinite(share)) continue;
        ++flow.incoming[bin(share)];
        respond(shaping, 1, {&share, 1});
        ++flow.outgoing[bin(share)];
    }
    return flow;
}

}  // namespace plume
