#pragma once
// A study on which every kind of step can stand, for tests that walk the whole catalogue.

#include "core/support.hpp"

namespace plume::test {

// The kinds of steps by the subject their keys begin with: "lattice", "curve", … A walk of the catalogue is a
// test for each of these, so that several go at a time and a change of one kind need not walk them all.
std::vector<std::string> families();
std::vector<StepKind> kinds_of(const std::string& family);
inline std::string family_name(const testing::TestParamInfo<std::string>& family) {
    return family.param;
}

// Results of every kind over a grid of columns x rows bays.
StudyMaker ground(std::size_t columns, std::size_t rows);
// The study with one more step, ‘subject’, of this kind; it reads results of the ground.
StudyMaker with_subject(const StudyMaker& ground, const StepKind& kind);
// The subject and what it reads, and nothing else.
StudyPointer upstream_of_subject(const Study& study);
// What comes of it there.
Outcome outcome_of_subject(const StudyPointer& study, ResultStore& cache);
// Whether it needs a file, which the ground has not.
bool reads_file(const StepKind& kind);

// Every number of a result; lengths times `metre` to their power.
std::vector<double> numbers_of(const Value& value, double metre = 1);

}  // namespace plume::test
