#include "folders.hpp"

namespace plume::test {

const char* const demo_folder = PLUME_PROJECT "/demo";
const char* const docs_folder = PLUME_PROJECT "/docs";
const char* const examples_folder = PLUME_PROJECT "/resources/examples";
const char* const beginnings_folder = PLUME_PROJECT "/resources/beginnings";
const char* const judges_folder = PLUME_PROJECT "/tests/judges";
const char* const readme_file = PLUME_PROJECT "/README.md";

}  // namespace plume::test
