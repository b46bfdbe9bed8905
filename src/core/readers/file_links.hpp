#pragma once
// Files that a file refers to.

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace plume {

// Where a name that stands in the file at `from` points to: a regular file in its folder or below. Nothing
// for other places, for addresses of the network and for links that lead elsewhere.
std::optional<std::filesystem::path> linked_file(const std::filesystem::path& from, std::string_view name);

}  // namespace plume
