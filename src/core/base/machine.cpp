#include "core/base/machine.hpp"

#include <unistd.h>

namespace plume {

double machine_memory() {
    return static_cast<double>(sysconf(_SC_PHYS_PAGES)) * static_cast<double>(sysconf(_SC_PAGE_SIZE));
}

}  // namespace plume
