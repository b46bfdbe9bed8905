#pragma once
// A study on which every kind of step can stand, for tests that walk the whole catalogue.

#include "core/support.hpp"

namespace plume::test {

// Results of every kind over a grid of columns x rows bays.
StudyMaker ground(std::size_t columns, std::size_t rows);
// The study with one more step, ‘subject’, of this kind; it reads results of the ground.
StudyMaker with_subject(const StudyMaker& ground, const StepKind& kind);
// What comes of it, of a study that has nothing else than what it reads.
Outcome outcome_of_subject(const StudyPointer& study, ResultStore& cache);
// Whether it needs a file, which the ground has not.
bool reads_file(const StepKind& kind);

// Every number of a result; lengths times `metre` to their power.
std::vector<double> numbers_of(const Value& value, double metre = 1);

}  // namespace plume::test
