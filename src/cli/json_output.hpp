#pragma once
// What commands print for programs.

#include <nlohmann/json.hpp>

#include "core/base/error.hpp"

namespace plume::cli {

using Json = nlohmann::ordered_json;

Json json_of_error(const Error& error);
void put_json(const Json& json);

}  // namespace plume::cli
