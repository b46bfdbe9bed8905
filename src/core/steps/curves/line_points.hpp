#pragma once
// How many points lines are held by: as they come, evened, or thinned.

#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence.
inline constexpr const char* line_points_words =
    "{points}[points=true| {true_to}][points=bays| {bays} bays][points=spacing| {step}][points=thinned| "
    "{within}]"
    "[points=bays,spacing|, {shape}, corners above {corner} kept]";
// The slots points, true_to, bays, step, within, shape and corner, behind those given.
std::vector<SlotSpec> with_line_points(std::vector<SlotSpec> slots);

inline constexpr double most_bays = 1e6;  // of one line
// Of the slots that evening takes: bays, step, shape, corner.
SlotSpec bays_slot();
SlotSpec step_slot(std::string key);
SlotSpec shape_slot();
SlotSpec corner_slot();

struct EvenSlots {
    bool by_bays = true;
    std::string step;  // key of the slot of the spacing
};
// A curve through points at even lengths, as the slots say. Adds to the deviation. Errors at the slot of the
// spacing; those of rebuilt_evenly().
Result<SplineCurve> evened(const SplineCurve& curve, const EvenSlots& slots, const Inputs& in, const Run& run,
                           double& deviation);

// A line with the points that are wished for.
Result<SplineCurve> with_wished_points(const SplineCurve& line, const Inputs& in, const Run& run,
                                       double& deviation);

}  // namespace plume
