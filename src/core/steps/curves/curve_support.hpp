#pragma once
// What the steps that draw, change and measure curves share.

#include <functional>

#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

SlotSpec curves_slot(std::string key = "curve", std::string label = "Curve");
// Of curves held by poles, 1 to 5.
SlotSpec degree_slot();
// "an open", "a closed": of curves held by poles.
SlotSpec ends_slot();
// An angle to turn by, at most once round either way.
SlotSpec sweep_slot(std::string preset);

// Each curve of the slot `curve` changed; where there are several, an error says which.
Result<Value> each_curve(const Inputs& in, const Run& run,
                         const std::function<Result<SplineCurve>(const SplineCurve&)>& change);
// A surface made of each; errors are about the slot given.
Result<Value> surface_of_each(const Inputs& in, const Run& run, std::string_view slot,
                              const std::function<Result<SplinePatch>(const SplineCurve&)>& make);
Error at_curve(Error error, const CurveSet& set, std::size_t index);
// The one curve of a slot. Error at the slot: wrong_kind where it holds another number of them.
Result<SplineCurve> only_curve(const Inputs& in, const char* slot);

// What curves are crossed with, curves or a surface, or the planes of placements as well.
SlotSpec cutter_slot(bool planes);
double cutter_poles(const Inputs& in);
// Where a curve crosses what the slot `cutter` holds: curves no further than the slot `tolerance` from it,
// surfaces, planes of placements. Parameters in order; errors are about the slot.
Result<std::vector<double>> crossings_with_cutter(const SplineCurve& curve, const Inputs& in, const Run& run);

// The curve of the slots `ends`, `degree` and `poles`, whose places stand where `place` says.
Result<Value> held_by_poles(const Inputs& in, const std::function<Vec3(Vec3)>& place);

// Of so many columns read at the places of curves that are nearest to the slot `points`.
Estimate nearest_on_curves_estimate(const Inputs& in, double columns);

struct PointRow {
    std::vector<Vec3> points;
    std::vector<double> numbers;  // one a point
};
// A row of points for each curve, with their numbers as a field; shorter rows end in gaps. A single one is a
// row. Closed along the rows where that is wished and there is no gap.
Result<Value> rows_of_points(const std::vector<PointRow>& rows, const std::string& field, Dimension dimension,
                             bool closed);

double pole_count(const CurveSet& set);
// Of work that grows with the poles of the slot `curve`.
Estimate poles_estimate(const Inputs& in, double bytes_a_pole, double seconds_a_pole);
// The length of the polygon of its poles, than which no curve is longer.
double polygon_length(const SplineCurve& curve);

// "rise, chance", as they can be shown.
std::string listed_names(const std::vector<std::string>& names);

// "The largest deviation is 12 mm."
std::string deviation_sentence(double deviation, const Inputs& in);

}  // namespace plume
