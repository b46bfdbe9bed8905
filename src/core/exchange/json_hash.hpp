#pragma once
// Fingerprints in JSON: 32 hexadecimal digits, as hex_text() writes them.

#include "core/base/hash.hpp"
#include "core/exchange/json_reader.hpp"

namespace plume {

inline std::optional<Hash> hash_from(const std::string& text) {
    if (text.size() != 32) return {};
    Hash hash;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const char c = text[at];
        const int digit = c >= '0' && c <= '9' ? c - '0' : c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
        if (digit < 0) return {};
        std::uint64_t& half = at < 16 ? hash.high : hash.low;
        half = half << 4U | static_cast<std::uint64_t>(digit);
    }
    return hash;
}

inline Hash needed_hash(JsonReader& reader, const char* key) {
    const auto hash = hash_from(reader.needed_text(key));
    if (!hash) reader.fail(std::string("has a ‘") + key + "’ that is no fingerprint");
    return hash.value_or(Hash());
}

}  // namespace plume
