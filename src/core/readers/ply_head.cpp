#include "core/readers/ply_head.hpp"

#include <array>
#include <optional>

#include "core/base/text.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

struct TypeName {
    std::string_view name;
    PlyType type;
};
constexpr std::array type_names = {
    TypeName{"char", PlyType::int8},      TypeName{"int8", PlyType::int8},
    TypeName{"uchar", PlyType::uint8},    TypeName{"uint8", PlyType::uint8},
    TypeName{"short", PlyType::int16},    TypeName{"int16", PlyType::int16},
    TypeName{"ushort", PlyType::uint16},  TypeName{"uint16", PlyType::uint16},
    TypeName{"int", PlyType::int32},      TypeName{"int32", PlyType::int32},
    TypeName{"uint", PlyType::uint32},    TypeName{"uint32", PlyType::uint32},
    TypeName{"float", PlyType::float32},  TypeName{"float32", PlyType::float32},
    TypeName{"double", PlyType::float64}, TypeName{"float64", PlyType::float64}};

std::optional<PlyType> type_named(std::string_view name) {
    for (const TypeName& known : type_names)
        if (known.name == name) return known.type;
    return {};
}

Error damaged(const TextLines& lines, const std::string& what) {
    return {ErrorCode::file_damaged, "", what + " in line " + std::to_string(lines.number()) + " of its head",
            "Get it anew, or mend that line."};
}

Status add_property(PlyHead& head, std::string_view line, const TextLines& lines) {
    if (head.elements.empty()) return damaged(lines, "has a property before any element");
    PlyProperty property;
    std::string_view type = take_word(line);
    if (type == "list") {
        property.list = true;
        const auto count = type_named(take_word(line));
        if (!count || is_real(*count)) return damaged(lines, "has a list whose count is of no whole type");
        property.count_type = *count;
        type = take_word(line);
    }
    const auto known = type_named(type);
    if (!known)
        return damaged(lines, "has a property of the unknown type ‘" + printable(shortened(type)) + "’");
    property.type = *known;
    property.name = printable(take_word(line));
    if (property.name.empty()) return damaged(lines, "has a property without a name");
    head.elements.back().properties.push_back(std::move(property));
    return Done{};
}

Status add_element(PlyHead& head, std::string_view line, const TextLines& lines) {
    PlyElement element;
    element.name = printable(take_word(line));
    const auto count = number_in<std::uint64_t>(take_word(line));
    if (!count) return damaged(lines, "has an element without a count");
    element.count = *count;
    head.elements.push_back(std::move(element));
    return Done{};
}

Status set_order(PlyHead& head, std::string_view line, const TextLines& lines) {
    const std::string_view order = take_word(line);
    if (order == "ascii")
        head.order = PlyOrder::text;
    else if (order == "binary_little_endian")
        head.order = PlyOrder::little;
    else if (order == "binary_big_endian")
        head.order = PlyOrder::big;
    else
        return damaged(lines, "has an unknown form");
    return Done{};
}

}  // namespace

std::size_t bytes_of(PlyType type) {
    constexpr std::array<std::size_t, 8> sizes = {1, 1, 2, 2, 4, 4, 4, 8};
    return sizes[static_cast<std::size_t>(type)];
}

bool is_real(PlyType type) {
    return type == PlyType::float32 || type == PlyType::float64;
}

bool is_ply(std::string_view bytes) {
    return bytes.starts_with("ply\n") || bytes.starts_with("ply\r");
}

Result<PlyHead> read_ply_head(std::string_view bytes) {
    PlyHead head;
    TextLines lines(bytes);
    bool formed = false;
    for (lines.next(); lines.next();) {
        std::string_view line = lines.line();
        const std::string_view word = take_word(line);
        Status taken = Done{};
        if (word == "end_header") {
            if (!formed) return damaged(lines, "says no form");
            head.body = bytes.size() - lines.rest().size();
            head.lines = lines.number();
            return head;
        }
        if (word == "format") {
            taken = set_order(head, line, lines);
            formed = true;
        } else if (word == "element") {
            taken = add_element(head, line, lines);
        } else if (word == "property") {
            taken = add_property(head, line, lines);
        } else if (word == "comment" || word == "obj_info") {
            head.comments.emplace_back(printable(without_blanks(line)));
        } else if (!word.empty()) {
            return damaged(lines, "says ‘" + printable(shortened(word)) + "’");
        }
        if (!taken) return taken.error();
    }
    return Error{ErrorCode::file_damaged, "", "ends within its head", "Get it anew."};
}

}  // namespace plume
