#pragma once
// The head of a PLY file: which elements follow, and the properties of each.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

enum class PlyType : std::uint8_t { int8, uint8, int16, uint16, int32, uint32, float32, float64 };
std::size_t bytes_of(PlyType type);
bool is_real(PlyType type);

struct PlyProperty {
    std::string name;
    PlyType type = PlyType::float32;  // of a list: of its entries
    bool list = false;
    PlyType count_type = PlyType::uint8;  // of a list
};

struct PlyElement {
    std::string name;
    std::uint64_t count = 0;
    std::vector<PlyProperty> properties;
};

enum class PlyOrder { text, little, big };

struct PlyHead {
    PlyOrder order = PlyOrder::text;
    std::vector<PlyElement> elements;
    std::vector<std::string> comments;
    std::size_t body = 0;  // where it begins, in bytes
    std::size_t lines = 0;
};

// By its first bytes.
bool is_ply(std::string_view bytes);
// Errors: file_damaged, naming the line.
Result<PlyHead> read_ply_head(std::string_view bytes);

}  // namespace plume
