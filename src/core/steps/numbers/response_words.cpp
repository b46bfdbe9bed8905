#include "core/steps/numbers/response_words.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"

namespace plume {

SlotSpec share_response_slot() {
    return response_slot("response", "Response",
                         {{"straight", "straight", "evenly from the lower to the upper end"},
                          rise_word("from the lower to the upper end, soft at both"),
                          hump_word("from the lower to the upper end and back"),
                          waves_word(),
                          {"smooth_step", "a smooth step", "soft at both ends, cubic"},
                          {"drawn", "drawn", "a curve of your own"}});
}

Word rise_word(std::string help) {
    return {"half_sine", "a sine’s rise", std::move(help)};
}
Word hump_word(std::string help) {
    return {"sine_hump", "a sine’s hump", std::move(help)};
}
Word waves_word() {
    return {"waves", "waves", "up and down again and again, even, growing or fading"};
}

std::string waves_text(const std::string& condition) {
    return "[" + (condition.empty() ? "" : condition + "&") +
           "response=waves| of {periods} periods begun at {phase}, {swell}]";
}

std::vector<SlotSpec> with_wave_slots(std::vector<SlotSpec> slots) {
    SlotSpec periods = number_slot("periods", "Periods", "3");
    periods.least = 0;
    periods.above_least = true;
    periods.most = 1000;
    slots.push_back(periods);
    slots.push_back(angle_slot("phase", "Phase", "0°"));
    slots.push_back(choice_slot("swell", "Swell",
                                {{"even", "even", "all waves are of one height"},
                                 {"growing", "growing", "flat at first, whole at the end"},
                                 {"fading", "fading", "whole at first, flat at the end"}}));
    return slots;
}

Result<Shaping> shaping_in(const Inputs& in) {
    Result<Shaping> shaping = shaping_of(in.word("response"));
    if (!shaping) return about_slot(shaping.error(), "response");
    if (shaping->response == Response::waves)
        shaping->waves = {in.number("periods"), in.number("phase"), swell_of(in.word("swell"))};
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

double answer_to(const Shaping& shaping, double share) {
    respond(shaping, 1, {&share, 1});
    return share;
}

std::vector<double> present_numbers(const PointLattice& points, const Column& values) {
    std::vector<double> numbers;
    numbers.reserve(points.point_count());
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index)) numbers.push_back(values[index]);
    return numbers;
}

ResponseNumbers flow_of(std::span<const double> shares, const Shaping& shaping) {
    ResponseNumbers flow;
    flow.incoming.assign(response_bins, 0);
    flow.outgoing.assign(response_bins, 0);
    const auto bin = [](double share) {
        return std::min(static_cast<std::size_t>(std::clamp(share, 0.0, 1.0) * response_bins),
                        response_bins - 1);
    };
    for (double share : shares) {
        if (!std::isfinite(share)) continue;
        ++flow.incoming[bin(share)];
        ++flow.outgoing[bin(answer_to(shaping, share))];
    }
    return flow;
}

}  // namespace plume
