#pragma once
// Characters as UTF-8 (RFC 3629).

#include <string>

namespace plume {

inline void add_character(std::string& text, char32_t c) {
    const auto byte = [&](char32_t value) { text += static_cast<char>(static_cast<unsigned char>(value)); };
    if (c < 0x80) return byte(c);
    if (c < 0x800) {
        byte(0xC0 | c >> 6U);
    } else if (c < 0x10000) {
        byte(0xE0 | c >> 12U);
        byte(0x80 | (c >> 6U & 0x3FU));
    } else {
        byte(0xF0 | (c >> 18U & 0x07U));
        byte(0x80 | (c >> 12U & 0x3FU));
        byte(0x80 | (c >> 6U & 0x3FU));
    }
    byte(0x80 | (c & 0x3FU));
}

}  // namespace plume
