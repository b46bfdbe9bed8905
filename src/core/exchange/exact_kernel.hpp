#pragma once
// How the geometry kernel is reached, and what forms are like that it is given.

#include "core/exchange/exact_module.hpp"

namespace plume {

// Loaded when it is first asked for. Error: that `name` cannot be written without it.
Result<const ExactWriter*> exact_writer(const char* name);

// Closed splines are periodic in one way here and in another there; open at their seams they are the same to
// all.
void open_seams(ExactForm& form);

}  // namespace plume
