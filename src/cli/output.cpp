#include "cli/output.hpp"

#include <cerrno>
#include <cstdio>
#include <system_error>

#include "core/base/text.hpp"

namespace plume::cli {

void put(std::string_view bytes) {
    std::fwrite(bytes.data(), 1, bytes.size(), stdout);
}

void say(std::string_view line) {
    put(printable(line) + '\n');
}

void warn(std::string_view line) {
    std::fprintf(stderr, "%s\n", printable(line).c_str());
}

bool all_was_written() {
    errno = 0;
    if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return true;
    const std::string why = errno != 0 ? std::generic_category().message(errno) : "it was cut off";
    warn("plume: The output could not be written: " + why + ". Send it somewhere else.");
    return false;
}

}  // namespace plume::cli
