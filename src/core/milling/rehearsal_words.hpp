#pragma once
// What rehearsals of all sorts say alike.

#include <string>
#include <vector>

#include "core/base/numbers.hpp"

namespace plume {

inline std::string mm_text(double length) {
    return short_text(length, 2) + " mm";
}

inline std::string with_dots(const std::vector<std::string>& parts) {
    std::string text;
    for (const std::string& part : parts)
        text += (text.empty() ? "" : " · ") + part;
    return text;
}

}  // namespace plume
