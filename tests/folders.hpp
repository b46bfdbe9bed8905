#pragma once

namespace plume::test {

// Where what comes with the project lies on the machine that built the tests. Said by one unit instead of on
// every compiler's line, so that what one clone compiled fits another.
extern const char* const demo_folder;
extern const char* const docs_folder;
extern const char* const examples_folder;
extern const char* const beginnings_folder;
extern const char* const judges_folder;
extern const char* const readme_file;

}  // namespace plume::test
