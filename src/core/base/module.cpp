#include "core/base/module.hpp"

#include <dlfcn.h>

namespace plume {

const void* entry_of_module(const std::string& name, const char* function) {
    // The loader counts: a library that is loaded again is the same one.
    void* const library = dlopen(("libplume_" + name + ".so").c_str(), RTLD_NOW | RTLD_LOCAL);
    void* const entry = library ? dlsym(library, function) : nullptr;
    // A function by its address, as the standard of the loader has it (POSIX, dlsym).
    return entry ? reinterpret_cast<const void* (*)()>(entry)() : nullptr;
}

}  // namespace plume
