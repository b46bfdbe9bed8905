#include "core/exchange/ifc_text.hpp"

#include <array>
#include <cstdio>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

template <class Item, class TextOf>
std::string list_of(const std::vector<Item>& items, TextOf text_of) {
    std::string text = "(";
    for (const Item& item : items)
        text += (text.size() > 1 ? "," : "") + text_of(item);
    return text + ')';
}

}  // namespace

std::string ifc_number(double value) {
    std::string text = exact_text(value);
    const std::size_t exponent = text.find('e');
    if (exponent != std::string::npos) text[exponent] = 'E';
    if (text.find('.') == std::string::npos)
        text.insert(exponent == std::string::npos ? text.size() : exponent, ".");
    return text;
}

std::string ifc_string(const std::string& utf8) {
    std::string text = "'";
    for (const char32_t character : characters_of(printable(utf8))) {
        if (character == U'\'' || character == U'\\') text += static_cast<char>(character);
        if (character >= 0x20 && character < 0x7F) {
            text += static_cast<char>(character);
            continue;
        }
        std::array<char, 24> code{};
        const bool wide = character > 0xFFFF;
        std::snprintf(code.data(), code.size(), wide ? "\\X4\\%08X\\X0\\" : "\\X2\\%04X\\X0\\",
                      static_cast<unsigned>(character));
        text += code.data();
    }
    return text + '\'';
}

std::string ifc_guid(const Hash& identity) {
    constexpr std::string_view digits = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$";
    // Two bits first, then 21 times six.
    std::string text(22, '0');
    std::uint64_t high = identity.high, low = identity.low;
    for (std::size_t at = 22; at-- > 0;) {
        text[at] = digits[low & 63U];
        low = low >> 6U | high << 58U;
        high >>= 6U;
    }
    return '\'' + text + '\'';
}

std::string ifc_list(const std::vector<IfcRef>& references) {
    return list_of(references, [](const IfcRef& reference) { return reference.text(); });
}
std::string ifc_list(const std::vector<double>& numbers) {
    return list_of(numbers, ifc_number);
}
std::string ifc_list(const std::vector<int>& counts) {
    return list_of(counts, [](int count) { return std::to_string(count); });
}
std::string ifc_list(Vec3 place) {
    return '(' + ifc_number(place.x) + ',' + ifc_number(place.y) + ',' + ifc_number(place.z) + ')';
}

IfcRef IfcLines::add(std::string_view entity, const std::string& attributes) {
    const IfcRef reference{++count_};
    pending_ += reference.text() + '=';
    pending_ += entity;
    pending_ += attributes + ";\n";
    if (pending_.size() > 1'000'000) flush();
    return reference;
}

IfcRef IfcLines::point(Vec3 place) {
    return add("IFCCARTESIANPOINT", '(' + ifc_list(place) + ')');
}
IfcRef IfcLines::direction(Vec3 way) {
    return add("IFCDIRECTION", '(' + ifc_list(way) + ')');
}
IfcRef IfcLines::placement(IfcRef origin, Vec3 up, Vec3 along) {
    const IfcRef up_line = direction(up), along_line = direction(along);
    return add("IFCAXIS2PLACEMENT3D",
               '(' + origin.text() + ',' + up_line.text() + ',' + along_line.text() + ')');
}

void IfcLines::flush() {
    sink_(pending_);
    pending_.clear();
}

}  // namespace plume
