#pragma once
// What the programs that read strangers' files for others share: limits, and one file from its name to bytes.

#include <sys/resource.h>

#include <cstdio>
#include <exception>
#include <string>

#include "core/base/error.hpp"

namespace plume {

// Of a file that would take for ever or everything.
inline void set_limits(rlim_t seconds, rlim_t gigabytes) {
    const rlimit time{seconds, seconds}, dumps{0, 0};
    setrlimit(RLIMIT_CPU, &time);
    setrlimit(RLIMIT_CORE, &dumps);
#ifdef PLUME_SANITIZED  // a sanitizer takes more addresses than there is memory
    (void)gigabytes;
#else
    const rlimit memory{gigabytes << 30U, gigabytes << 30U};
    setrlimit(RLIMIT_AS, &memory);
#endif
}

// Hands over what is in the file named on the command line; exceptions of the standard are errors of it.
template <class Read>
int hand_over(int count, char** arguments, Read read) {
    if (count != 2) return 2;
    using WhatIsRead = decltype(read(arguments[1]));
    std::string bytes;
    try {
        bytes = bytes_of(read(arguments[1]));
    } catch (const std::exception& problem) {
        bytes = bytes_of(
            WhatIsRead(Error{ErrorCode::file_damaged, "", std::string("cannot be read: ") + problem.what(),
                             "Get it anew, or save less of it."}));
    }
    const bool written =
        std::fwrite(bytes.data(), 1, bytes.size(), stdout) == bytes.size() && std::fflush(stdout) == 0;
    return written ? 0 : 1;
}

}  // namespace plume
