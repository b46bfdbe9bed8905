#pragma once
// Parts of the program that stand in libraries of their own and are loaded when they are first needed, since
// what they bring along would slow down every start.

#include <string>

namespace plume {

// What a function without arguments of that name in that library (libplume_NAME.so) returns, once for as long
// as the program runs; nullptr when the library is not there.
const void* entry_of_module(const std::string& name, const char* function);

// The same, as what it is.
template <class Entry>
const Entry* module_entry(const std::string& name, const char* function) {
    return static_cast<const Entry*>(entry_of_module(name, function));
}

}  // namespace plume
