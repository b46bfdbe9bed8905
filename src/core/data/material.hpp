#pragma once
// What results are made of, as they are shown.

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace plume {

// How light leaves a material; all 0 to 1. Colours are sRGB, 0xRRGGBB.
struct Material {
    std::string_view key, label;
    std::uint32_t colour = 0;
    float roughness = 1;     // 0: a mirror
    float metalness = 0;     // 1: what it mirrors has its colour
    float transparency = 0;  // 1: all that is not mirrored goes through
    // No material but a way to look: so many dark lights along X, evenly about it, that are mirrored as
    // stripes. Where a surface is smooth they run smoothly; where only its tangents agree they have kinks.
    float stripes = 0;
};
std::span<const Material> materials();
const Material* find_material(std::string_view key);
// The material whose colour is chosen.
inline constexpr std::string_view paint_key = "paint";

// A choice of material: none with an empty key, or with one that is not known (of another version).
struct MaterialStyle {
    std::string key;
    std::string paint = "#B5533C";  // the colour of paint, "#RRGGBB"
    bool operator==(const MaterialStyle&) const = default;
};
// With the colour of the paint; nothing where there is none, and where the paint cannot be read.
std::optional<Material> material_of(const MaterialStyle& style);
std::optional<std::uint32_t> colour_from(std::string_view text);

}  // namespace plume
