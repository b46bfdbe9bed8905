#pragma once
// Small studies to begin from, chosen by their pictures among the steps to continue with.

#include <QIcon>
#include <vector>

#include "core/study/study.hpp"

namespace plume::app {

struct ReadyStudy {
    StudyPointer study;  // its title says what it is, its note more, and words it is found by
    QIcon picture;
};

// Read once, from the application itself.
const std::vector<ReadyStudy>& ready_studies();

}  // namespace plume::app
