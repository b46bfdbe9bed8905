#pragma once
// What the steps that change curves share.

#include <functional>

#include "core/data/curve_set.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

SlotSpec curves_slot(std::string key = "curve", std::string label = "Curve");
// Each curve of the slot `curve` changed; where there are several, an error says which.
Result<Value> each_curve(const Inputs& in, const Run& run,
                         const std::function<Result<SplineCurve>(const SplineCurve&)>& change);
Error at_curve(Error error, const CurveSet& set, std::size_t index);

double pole_count(const CurveSet& set);
// Of work that grows with the poles of the slot `curve`.
Estimate poles_estimate(const Inputs& in, double bytes_a_pole, double seconds_a_pole);

// "The largest deviation is 12 mm."
std::string deviation_sentence(double deviation, const Inputs& in);

}  // namespace plume
