#pragma once
// Steps with a script: all that they are comes from its head.

#include "core/study/step_kind.hpp"

namespace plume {

// A kind of such steps, before there is a head.
struct ScriptKind {
    std::string key, verb, synonyms, result_name, help;
    std::string preset;      // a script
    bool gives_number;       // and nothing else; other kinds give anything but that
    std::string other_verb;  // of the step for what this one does not give
};

StepKind script_step(const ScriptKind& base);

}  // namespace plume
