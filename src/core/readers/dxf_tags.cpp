#include "core/readers/dxf_tags.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/text.hpp"
#include "core/base/utf8.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

// What \U+XXXX says at the start of a text.
std::optional<char32_t> coded_character(std::string_view text) {
    if (text.size() < 7 || !text.starts_with("\\U+")) return {};
    unsigned value = 0;
    const auto [end, problem] = std::from_chars(text.data() + 3, text.data() + 7, value, 16);
    const bool surrogate = value >= 0xD800 && value < 0xE000;
    if (problem != std::errc() || end != text.data() + 7 || value < 0x20 || surrogate) return {};
    return static_cast<char32_t>(value);
}

}  // namespace

Result<std::vector<DxfTag>> read_dxf_tags(std::string_view text) {
    if (text.starts_with("AutoCAD Binary DXF"))
        return Error{ErrorCode::file_unreadable, "", "is a DXF in its binary form",
                     "Save it as a DXF of text, of any version."};
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    std::vector<DxfTag> tags;
    tags.reserve(text.size() / 16);
    for (TextLines lines(text); lines.next();) {
        const std::string_view word = without_blanks(lines.line());
        if (word.empty() && lines.rest().empty()) break;
        const auto code = number_in<int>(word);
        if (!code)
            return Error{ErrorCode::file_damaged, "",
                         "has ‘" + printable(shortened(word)) + "’ in line " +
                             std::to_string(lines.number()) + ", where the number of a code is expected",
                         "Get it anew, or mend that line."};
        if (!lines.next()) break;
        if (*code != 999) tags.push_back({*code, without_blanks(lines.line()), lines.number()});
    }
    return tags;
}

double DxfEntity::number(int code, double otherwise) const {
    const auto tag = std::ranges::find(tags_, code, &DxfTag::code);
    if (tag == tags_.end()) return otherwise;
    // What is no number makes the entity one that cannot be.
    return number_in<double>(tag->value).value_or(std::numeric_limits<double>::quiet_NaN());
}

int DxfEntity::whole(int code, int otherwise) const {
    const double value = number(code, otherwise);
    return std::abs(value) < 1e9 ? static_cast<int>(value) : otherwise;
}

std::string_view DxfEntity::text(int code) const {
    const auto tag = std::ranges::find(tags_, code, &DxfTag::code);
    return tag == tags_.end() ? std::string_view() : tag->value;
}

std::vector<double> DxfEntity::numbers(int code) const {
    std::vector<double> values;
    for (const DxfTag& tag : tags_)
        if (tag.code == code)
            values.push_back(number_in<double>(tag.value).value_or(std::numeric_limits<double>::quiet_NaN()));
    return values;
}

std::string dxf_text(std::string_view value) {
    std::string text;
    const std::u32string characters = characters_of(value);
    std::string plain;
    for (const char32_t c : characters)
        add_character(plain, c);
    for (std::size_t at = 0; at < plain.size(); ++at) {
        const auto coded = coded_character(std::string_view(plain).substr(at));
        if (!coded) {
            text += plain[at];
            continue;
        }
        add_character(text, *coded);
        at += 6;
    }
    return printable(text);
}

}  // namespace plume
