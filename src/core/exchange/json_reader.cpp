#include "core/exchange/json_reader.hpp"

namespace plume {

Error damaged_file(std::string where, std::string message) {
    return {ErrorCode::file_damaged, std::move(where), std::move(message),
            "Mend that line, or go back to an older copy."};
}

std::string text_of(const Json& json) {
    return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

void merge_unknown(Json& json, const UnknownParts& unknown) {
    for (const auto& [key, text] : unknown)
        if (!json.contains(key)) json[key] = Json::parse(text, nullptr, false);
}

}  // namespace plume
