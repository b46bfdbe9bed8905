#pragma once
// Whole files, read with a limit and written so that an old file is never lost.

#include <cstdint>
#include <filesystem>
#include <functional>
#include <string>
#include <string_view>

#include "core/base/error.hpp"

namespace plume {

// Error: file_missing; file_unreadable for a folder, pipe or device, saying which.
Status check_regular_file(const std::filesystem::path& path);

// The file's bytes; refuses directories, devices and files over `limit_bytes` before reading them.
Result<std::string> read_file(const std::filesystem::path& path, std::uintmax_t limit_bytes);

// Receives pieces of a file in order.
using ByteSink = std::function<void(std::string_view bytes)>;

// Writes to a temporary file beside `path`, syncs it to the disk and renames it over `path`. On any error
// `path` is as it was and the temporary file is gone; those that ended programs left in the folder go, too. A
// link is written through; a pipe or device is written into as it stands. `produce` is called once.
Status write_file(const std::filesystem::path& path, const std::function<Status(const ByteSink&)>& produce);
Status write_file(const std::filesystem::path& path, std::string_view bytes);

}  // namespace plume
