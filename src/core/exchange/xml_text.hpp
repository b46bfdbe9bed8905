#pragma once
// Texts within XML 1.0 (W3C Recommendation, 5th ed. 2008).

#include <string>

#include "core/base/text.hpp"

namespace plume {

// Between tags, or between quotes.
inline std::string xml_text(const std::string& text) {
    std::string safe;
    for (const char c : printable(text))
        switch (c) {
            case '&':
                safe += "&amp;";
                break;
            case '<':
                safe += "&lt;";
                break;
            case '>':
                safe += "&gt;";
                break;
            case '"':
                safe += "&quot;";
                break;
            default:
                safe += c;
        }
    return safe;
}

}  // namespace plume
