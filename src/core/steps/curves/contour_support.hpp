#pragma once
// What the steps share that draw levels, iso-lines and sections.

#include "core/geometry/levels/contours.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

SlotSpec levelled_slot(std::string key);  // what has a surface

// Stands in the sentence: which levels.
inline constexpr const char* level_rule_words =
    "{rule} [rule=every|{spacing} from {start}][rule=count|{count}][rule=list|{list}]";
// The slots rule, spacing, start, count and list, behind those given; spacing and start are lengths, or
// whatever the numbers are.
std::vector<SlotSpec> with_level_rule(std::vector<SlotSpec> slots, bool lengths);

struct LevelSteps {
    double spacing = 1, start = 0;  // above 0
};
// Those within a range. Error: out_of_range at the slot `start`, where it has no digits for such steps.
Result<std::vector<double>> levels_every(const LevelSteps& steps, std::pair<double, double> range);
// The levels between the ends of a range, which increase. Errors: unit_mismatch, out_of_range (none lies in
// it; a spacing of 0), bad_number; at their slots.
Result<std::vector<double>> wished_levels(const Inputs& in, std::pair<double, double> range,
                                          Dimension dimension);
// How true lines on it are to be. Error: out_of_range at its slot, where numbers as large as the thing cannot
// tell so little.
Result<LineTruth> wished_truth(const Value& thing, const Inputs& in);

// About how many, for estimates.
double level_count(const Inputs& in, double extent);

// How many bays or faces lines run over, at most, each through a form: the square root of faces, and twice
// for what is closed.
double bays_across(const Value& thing);
// Of so many cuts through a form; with the points that are wished for.
Estimate contours_estimate(const Value& thing, double cuts);
Estimate with_points_estimate(Estimate lines, const Value& thing, double cuts, const Inputs& in);

// The field that says at which level a line is.
struct LevelField {
    std::string name;
    Dimension dimension;
    std::span<const double> numbers;  // one a level
};
// Lines with the points that are wished for, by level, the longest first, and the fields length, closed,
// within and depth, and last that of the level. They are seen along the up axis of a view: one for all
// levels, or one for each, whose lines then lie in each other alone. Remarks how many there are, how true
// they are, and what gives none. Errors: at the slot `thing`; cancelled.
Result<Value> drawn_contours(Contours contours, const LevelField& level, std::span<const Placement> views,
                             const std::string& thing, const Inputs& in, const Run& run);

}  // namespace plume
