#pragma once
// Runs a real process and collects what it prints.

#include <string>
#include <vector>

namespace plume::test {

struct Finished {
    int status = -1;
    std::string out, err;
};
// No shell in between; stdin is empty.
Finished run_process(const std::vector<std::string>& words);

// The same with stderr on a terminal of its own; `err` is what that showed.
Finished run_on_terminal(const std::vector<std::string>& words);

}  // namespace plume::test
