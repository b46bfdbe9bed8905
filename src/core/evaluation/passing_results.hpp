#pragma once
// Results that are seen in passing: while a number is dragged nobody goes back to what came between. Those
// that are large and were quickly made are let go of once the next ones are there, so that their memory
// serves again; else each would take fresh memory, which takes as long as filling it.

#include <vector>

#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/result_store.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

class PassingResults {
public:
    PassingResults(const Catalogue& catalogue, ResultStore& store) : catalogue_(catalogue), store_(store) {}

    // What was made of a study, in the order of making. `passing`: another study was waiting by then.
    void see(const Evaluation& evaluation, bool passing);

private:
    const Catalogue& catalogue_;
    ResultStore& store_;
    std::vector<Hash> passed_;
};

}  // namespace plume
