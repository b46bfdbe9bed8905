#include "core/readers/file_links.hpp"

#include <algorithm>
#include <string>

namespace plume {

namespace fs = std::filesystem;

std::optional<fs::path> linked_file(const fs::path& from, std::string_view name) {
    if (name.empty() || name.size() > 4096 || name.find("://") != std::string_view::npos ||
        name.find('\0') != std::string_view::npos)
        return {};
    const fs::path relative{std::string(name)};
    if (relative.is_absolute() || relative.has_root_name()) return {};
    std::error_code problem;
    const fs::path folder =
        fs::weakly_canonical(from.has_parent_path() ? from.parent_path() : fs::path("."), problem);
    if (problem) return {};
    const fs::path file = fs::weakly_canonical(folder / relative, problem);
    if (problem || !fs::is_regular_file(file, problem)) return {};
    const bool inside = std::ranges::mismatch(folder, file).in1 == folder.end();
    return inside ? std::optional(file) : std::nullopt;
}

}  // namespace plume
