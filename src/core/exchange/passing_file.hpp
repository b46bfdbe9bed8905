#pragma once
// A file for a library that writes or reads files of its own; gone when it is done with.

#include <string>
#include <string_view>

#include "core/base/error.hpp"

namespace plume {

class PassingFile {
public:
    PassingFile();
    ~PassingFile();
    PassingFile(const PassingFile&) = delete;
    PassingFile& operator=(const PassingFile&) = delete;

    // Empty where none could be made.
    const std::string& path() const { return path_; }
    // Errors: file_unreadable; more than 4 GB; disk_full, where it does not end as whole ones do: libraries
    // may not say that they could not go on.
    Result<std::string> bytes(std::string_view ending = {}) const;

private:
    std::string path_;
};

// That none could be made, said of what was to be written.
Error no_passing_file(const std::string& place);

}  // namespace plume
