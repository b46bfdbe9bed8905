#include "cli/json_output.hpp"

#include "cli/output.hpp"

namespace plume::cli {

Json json_of_error(const Error& error) {
    Json json{{"code", code_key(error.code)},
              {"place", error.where},
              {"message", error.message},
              {"mend", error.mend}};
    if (!error.slot.empty()) json["slot"] = error.slot;
    return json;
}

void put_json(const Json& json) {
    put(json.dump(2, ' ', false, Json::error_handler_t::replace) + '\n');
}

}  // namespace plume::cli
