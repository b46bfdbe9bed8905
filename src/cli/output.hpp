#pragma once
// What commands print. Text that came from files is made harmless for terminals; whether all of it could be
// written is known at the end.

#include <string_view>

namespace plume::cli {

// A line of text to stdout, to stderr.
void say(std::string_view line);
void warn(std::string_view line);
// Bytes to stdout as they are: CSV, JSON.
void put(std::string_view bytes);

// Whether everything said so far reached stdout; says on stderr why not.
bool all_was_written();

}  // namespace plume::cli
