#include "core/data/material.hpp"

#include <algorithm>
#include <array>
#include <charconv>

namespace plume {
namespace {

// Colours and roughness as they look under a soft sky; measured on nothing, chosen by eye.
constexpr std::array<Material, 8> all{{
    {"timber", "Timber", 0xBE9569, 0.75F, 0, 0},
    {"metal", "Brushed metal", 0xB4B9BC, 0.35F, 1, 0},
    {"concrete", "Concrete", 0xA9A7A1, 0.95F, 0, 0},
    {"glass", "Glass", 0xD6E6E2, 0.05F, 0, 0.8F},
    {"felt", "Felt", 0x6C7367, 1, 0, 0},
    {"plaster", "Plaster", 0xEDEAE2, 0.9F, 0, 0},
    {paint_key, "Paint", 0xB5533C, 0.4F, 0, 0},
    {"stripes", "Reflected stripes", 0xF4F3EE, 0, 0, 0, 36},
}};

}  // namespace

std::span<const Material> materials() {
    return all;
}

const Material* find_material(std::string_view key) {
    const auto found = std::ranges::find(all, key, &Material::key);
    return found == all.end() ? nullptr : &*found;
}

std::optional<std::uint32_t> colour_from(std::string_view text) {
    constexpr std::size_t digits = 6;
    if (text.size() != digits + 1 || text.front() != '#') return {};
    std::uint32_t colour = 0;
    const char* const end = text.data() + text.size();
    const auto read = std::from_chars(text.data() + 1, end, colour, 16);
    if (read.ec != std::errc{} || read.ptr != end) return {};
    return colour;
}

std::optional<Material> material_of(const MaterialStyle& style) {
    const Material* const found = find_material(style.key);
    if (!found) return {};
    Material material = *found;
    if (style.key != paint_key) return material;
    const auto colour = colour_from(style.paint);
    if (!colour) return {};
    material.colour = *colour;
    return material;
}

}  // namespace plume
