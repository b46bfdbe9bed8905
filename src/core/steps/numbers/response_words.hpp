#pragma once
// What the steps whose numbers answer through a response share: its words, and what its editor shows.

#include "core/geometry/numbers/range.hpp"
#include "core/geometry/numbers/response.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Words for a share from 0 to 1: straight, half_sine, sine_hump, waves, smooth_step, drawn.
SlotSpec share_response_slot();
Word rise_word(std::string help);
Word hump_word(std::string help);
Word waves_word();
// What stands behind the word ‘waves’ in a sentence, and the slots in it.
std::string waves_text(const std::string& condition = {});
std::vector<SlotSpec> with_wave_slots(std::vector<SlotSpec> slots);
// The response of the slot `response`, with errors at it.
Result<Shaping> shaping_in(const Inputs& in);
// Answers to shares, from to.low at 0 to to.high at 1. Error: cancelled.
Result<Column> answered(const Column& shares, const Shaping& shaping, Range to, const Run& run);
// Numbers of the points that are present.
std::vector<double> present_numbers(const PointLattice& points, const Column& values);
// How the shares and their answers spread. Shares that are not finite are left out.
ResponseNumbers flow_of(std::span<const double> shares, const Shaping& shaping);

// To one share.
double answer_to(const Shaping& shaping, double share);

inline constexpr std::size_t response_bins = 48;

}  // namespace plume
