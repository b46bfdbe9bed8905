#include "core/exchange/passing_file.hpp"

#include <unistd.h>

#include <cstdlib>
#include <filesystem>

#include "core/base/file.hpp"

namespace plume {

PassingFile::PassingFile() {
    std::error_code none;
    std::string pattern = (std::filesystem::temp_directory_path(none) / "plume-XXXXXX").string();
    const int file = none ? -1 : ::mkstemp(pattern.data());
    if (file < 0) return;
    ::close(file);
    path_ = pattern;
}

PassingFile::~PassingFile() {
    std::error_code ignored;
    if (!path_.empty()) std::filesystem::remove(path_, ignored);
}

Result<std::string> PassingFile::bytes(std::string_view ending) const {
    constexpr std::uintmax_t most_bytes = 4'000'000'000;
    Result<std::string> all = read_file(path_, most_bytes);
    if (all && !all->ends_with(ending))
        return Error{ErrorCode::disk_full, "", "could not be finished in the folder for temporary files",
                     "Make room there, or choose another format."};
    return all;
}

Error no_passing_file(const std::string& place) {
    return {ErrorCode::file_unwritable, place, "could not be made in the folder for temporary files",
            "Make room there, or choose another format."};
}

}  // namespace plume
