#pragma once
// DXF as it stands: pairs of a code and a value, and the entities they make.

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct DxfTag {
    int code = 0;
    std::string_view value;
    std::size_t line = 0;  // of the value
};

// Errors: file_damaged, naming the line; file_unreadable for the binary form. The last pair may lack its
// value in a file that ends early: it is left out.
Result<std::vector<DxfTag>> read_dxf_tags(std::string_view text);

// Tags from one of code 0 up to the next.
class DxfEntity {
public:
    DxfEntity(std::string_view type, std::span<const DxfTag> tags) : type_(type), tags_(tags) {}

    std::string_view type() const { return type_; }
    std::span<const DxfTag> tags() const { return tags_; }
    std::size_t line() const { return tags_.empty() ? 0 : tags_.front().line; }
    // The first value of a code; the other one where there is none or it is no number.
    double number(int code, double otherwise = 0) const;
    int whole(int code, int otherwise = 0) const;
    std::string_view text(int code) const;
    // Of the codes `code`, `code` + 10 and `code` + 20.
    Vec3 place(int code) const { return {number(code), number(code + 10), number(code + 20)}; }
    // Every value of a code.
    std::vector<double> numbers(int code) const;

private:
    std::string_view type_;
    std::span<const DxfTag> tags_;
};

// Names in files are in UTF-8, or Latin where they are not, with others as \U+XXXX; as UTF-8.
std::string dxf_text(std::string_view value);

}  // namespace plume
