#pragma once
// The last net below work that returns errors as values: libraries throw, memory ends, and a mistake of ours
// may look into a result that was refused. None of that may end a worker thread or a command.

#include <exception>
#include <new>

#include "core/base/error.hpp"

namespace plume {

inline Error out_of_memory_error() {
    return {ErrorCode::out_of_memory, "", "There is not enough free memory for this step",
            "Lower the counts, or close other programs and compute again."};
}

// What `work` returns, a Result; out_of_memory or broke_off in place of whatever it throws.
template <class Work>
auto guarded(Work&& work) -> decltype(work()) {
    try {
        return work();
    } catch (const std::bad_alloc&) {
        return out_of_memory_error();
    } catch (const std::exception& problem) {
        return Error{
            ErrorCode::broke_off, "",
            std::string("This could not be finished, by a mistake of the program (") + problem.what() + ")",
            "Change the step's numbers; everything else goes on."};
    }
}

}  // namespace plume
