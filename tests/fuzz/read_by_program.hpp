#pragma once
// Bytes as a file that a program of ours reads for us, with a limit to how long it may take: what takes
// longer must end when it is cancelled.

#include <unistd.h>

#include <chrono>
#include <condition_variable>
#include <filesystem>
#include <fstream>
#include <mutex>
#include <string>
#include <string_view>
#include <thread>

#include "core/base/run.hpp"
#include "fuzz/demand.hpp"

namespace plume {

class ShortRun {
public:
    explicit ShortRun(std::chrono::seconds most)
        : watch_([this, most](std::stop_token ended) {
              std::mutex mutex;
              std::unique_lock lock(mutex);
              if (!std::condition_variable_any().wait_for(lock, ended, most, [] { return false; }) &&
                  !ended.stop_requested())
                  run_.cancel();
          }) {}
    const Run& run() const { return run_; }

private:
    Run run_;
    std::jthread watch_;
};

// What `read` makes of them is a value, or a sentence.
template <class Read>
auto read_by_program(std::string_view bytes, const char* ending, Read read) {
    const auto path = std::filesystem::temp_directory_path() / ("plume-" + std::to_string(getpid()) + ending);
    std::ofstream(path, std::ios::binary) << bytes;
    const ShortRun limit(std::chrono::seconds(5));
    auto made = read(path, limit.run());
    std::filesystem::remove(path);
    demand(made || !sentence(made.error()).empty());
    return made;
}

}  // namespace plume
