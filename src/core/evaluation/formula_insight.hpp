#pragma once
// What a step's formula is about, line by line: what it can read and has to give, the range of every line
// over the whole form, and graphs of the lines along one direction while the others are held.

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/formula/program.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

struct GraphWish {
    std::size_t direction = 0;               // that the graphs run along
    std::array<double, 3> held{.5, .5, .5};  // share (0 to 1) of each direction at which it is held
    double from = 0, to = 1;                 // the part of the direction seen, as shares
    std::size_t most_samples = 400;
    bool operator==(const GraphWish&) const = default;
};

// A direction the formula runs over.
struct InsightDirection {
    std::string name;
    Dimension dimension;  // of its variable
    std::size_t count = 1;
    double first = 0, last = 0, held = 0;  // of its variable
};

// A line at a glance, over the whole of a direction it varies along; of one that varies along several, along
// the one the graphs run along if it is among them, with another one beside it.
struct SmallGraph {
    std::size_t direction = 0;
    std::vector<double> values;  // evenly spaced over the direction
    std::optional<std::size_t> other;
    std::vector<double> other_values;
};

// One line.
struct TermInsight {
    std::string name;  // empty when left out
    Dimension dimension;
    bool field = false;
    std::optional<double> muted_to;
    std::size_t begin = 0, end = 0;  // bytes of the line
    Survey survey;                   // over the whole form
    Address first_not_finite;
    std::vector<double> graph;  // one value per entry of FormulaInsight::along
    double at_held = 0;         // its value where the graph's own direction is held
    Directions depends = 0;     // on which directions it can depend
    SmallGraph small;
};

struct FormulaInsight {
    std::vector<FormulaInput> inputs;
    std::vector<FormulaResult> results;
    std::vector<std::string> study_names;  // controls that can be read too
    std::array<InsightDirection, 3> directions;
    std::size_t direction = 0;  // that of the graphs
    std::vector<double> along;  // values of its variable
    std::vector<TermInsight> terms;
    // Of rules: the words of their language, names they give, and what their lines came to.
    std::vector<LanguageWord> words;
    std::vector<std::string> given;
    std::vector<LineNote> notes;
    std::string growth;
    std::optional<Error> error;  // of the formula; begin and end in its text
};

// Of a step with an active formula. Errors: whatever keeps its other slots from being resolved; cancelled.
// An error of the formula itself is in the insight. `made` is what came of the step, nullptr where nothing
// did.
Result<FormulaInsight> look_into_formula(const StepKind& kind, const Inputs& inputs, const Value* made,
                                         const GraphWish& wish, const Run& run);

}  // namespace plume
