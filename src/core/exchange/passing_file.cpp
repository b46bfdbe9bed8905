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

Result<std::string> PassingFile::bytes() const {
    constexpr std::uintmax_t most_bytes = 4'000'000'000;
    return read_file(path_, most_bytes);
}

Error no_passing_file(const std::string& place) {
    return {ErrorCode::file_unwritable, place, "could not be made in the folder for temporary files",
            "Make room there, or choose another format."};
}

}  // namespace plume
