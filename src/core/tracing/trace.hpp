#pragma once
// Why a part of a result is as it is: under every sentence it came through, what it was there.
//
// Followed from the asked part upwards through what each step read: by what the kind of step tells
// (StepKind::story), else by place and address (part_origins.hpp). What it was is told from the values
// themselves: where it is and how far it moved, the numbers it got there, each line of a formula.

#include <map>
#include <string>
#include <vector>

#include "core/evaluation/evaluation.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

struct TracedPart {
    PartRef part;
    std::string title;               // "i 4  j 3"
    std::vector<std::string> lines;  // "moved by 0, 0, 1.38 m", "rise 1.38 m = swell 3.2 m × reach 0.43"
};

struct TracedStep {
    ItemId step = 0;
    std::vector<TracedPart> parts;     // few: the corners of a face, the ends of a member
    std::size_t more = 0;              // that are left out
    std::vector<std::string> remarks;  // "reads perches as a whole", "the trace ends here: …"
    bool ends = false;                 // it reads results, and of none of them it can be told which part
};

struct Trace {
    std::vector<TracedStep> steps;  // in the order of the study; the asked one is the last

    const TracedStep* at(ItemId step) const;
};

// Errors: missing_input where the step has no result; out_of_range where it has no such part. O(parts of all
// results it came through).
Result<Trace> trace_part(const Evaluation& evaluation, const Catalogue& catalogue, ItemId step, PartRef part,
                         const Run& run);

// The part of a result that is named as lists, labels or tables name it: "4,3", "8,5–8,6", "12", "north"; of
// a frame its members before its nodes. Errors: out_of_range, unknown_name; wrong_kind where nothing of the
// result can be asked about.
Result<PartRef> part_named(const Value& value, const std::string& result, std::string_view name);

}  // namespace plume
