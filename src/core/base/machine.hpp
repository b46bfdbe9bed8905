#pragma once
// What the machine has.

namespace plume {

// Bytes of memory.
double machine_memory();

}  // namespace plume
