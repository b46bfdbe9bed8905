#pragma once
// Text in small letters, of any language's alphabet only A to Z: endings of files, keys, units, whatever the
// locale.

#include <filesystem>
#include <string>
#include <string_view>

namespace plume {

inline std::string in_small_letters(std::string_view text) {
    std::string small(text);
    for (char& c : small)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    return small;
}

// ".dxf"; empty where it has none.
inline std::string ending_of(const std::filesystem::path& path) {
    return in_small_letters(path.extension().string());
}

}  // namespace plume
