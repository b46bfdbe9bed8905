#pragma once
// Programs of ours that do what may bring a whole process down: reading what strangers wrote by libraries
// that were not written for that. Whatever happens there, here it is an error.

#include <string>
#include <vector>

#include "core/base/run.hpp"

namespace plume {

// What the program writes to its standard output. Lines of its error output that are numbers are how far it
// is, 0 to 1. It is ended when `run` is cancelled. Errors: broke_off when it ends in any other way than by
// itself with 0, or cannot be found; cancelled.
Result<std::string> output_of_helper(const std::string& name, const std::vector<std::string>& arguments,
                                     const Run& run);

// As a program is started with them; they point into the words.
std::vector<char*> argument_pointers(std::vector<std::string>& words);

}  // namespace plume
