#include "core/exchange/gltf_buffer.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>

#include "core/base/lane_reach.hpp"

namespace plume {
namespace {

static_assert(std::endian::native == std::endian::little, "GLB is little-endian");

constexpr int of_vertices = 34962, of_indices = 34963;  // ARRAY_BUFFER, ELEMENT_ARRAY_BUFFER
constexpr int unsigned_shorts = 5123, unsigned_ints = 5125, floats = 5126;

void put_number(std::string& bytes, std::uint32_t number) {
    bytes.append(reinterpret_cast<const char*>(&number), sizeof number);
}

}  // namespace

template <class Entry>
std::size_t GltfBuffer::add(Kept<Entry> kept, const char* type, int component, bool indices) {
    const std::string_view bytes(reinterpret_cast<const char*>(kept.entries.data()),
                                 kept.entries.size_bytes());
    pieces_.push_back({std::move(kept.owner), bytes});
    views_.push_back({{"buffer", 0},
                      {"byteOffset", length_},
                      {"byteLength", bytes.size()},
                      {"target", indices ? of_indices : of_vertices}});
    length_ += bytes.size();
    accessors_.push_back({{"bufferView", views_.size() - 1},
                          {"componentType", component},
                          {"count", kept.entries.size()},
                          {"type", type}});
    return accessors_.size() - 1;
}

std::size_t GltfBuffer::add_places(Array<Floats3> places) {
    const LaneReach<float, 12> reach({places.front().data(), 3 * places.size()});
    Floats3 low{}, high{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        low[axis] = reach.low(axis, 3);
        high[axis] = reach.high(axis, 3);
    }
    const std::size_t accessor = add(Kept<Floats3>(std::move(places)), "VEC3", floats, false);
    accessors_[accessor]["min"] = low;
    accessors_[accessor]["max"] = high;
    return accessor;
}

std::size_t GltfBuffer::add_normals(const std::vector<Vec3>& normals) {
    Array<Floats3> narrow(normals.size());
    std::ranges::transform(normals, narrow.begin(), [](Vec3 normal) {
        return narrowed(normal == Vec3{} ? Vec3{0, 0, 1} : normal);
    });
    return add(Kept<Floats3>(std::move(narrow)), "VEC3", floats, false);
}

std::size_t GltfBuffer::add_colours(const std::vector<Rgb>& colours) {
    Array<std::array<std::uint16_t, 4>> shares(colours.size());
    const auto share = [](double light) {
        return static_cast<std::uint16_t>(std::lround(std::clamp(light, 0.0, 1.0) * 65535));
    };
    std::ranges::transform(colours, shares.begin(), [&](const Rgb& colour) {
        const auto [red, green, blue] = linear_light(colour);
        return std::array<std::uint16_t, 4>{share(red), share(green), share(blue), 65535};
    });
    const std::size_t accessor =
        add(Kept<std::array<std::uint16_t, 4>>(std::move(shares)), "VEC4", unsigned_shorts, false);
    accessors_[accessor]["normalized"] = true;
    return accessor;
}

std::size_t GltfBuffer::add_numbers(Array<float> numbers) {
    return add(Kept<float>(std::move(numbers)), "SCALAR", floats, false);
}

std::size_t GltfBuffer::add_indices(Kept<std::uint32_t> indices) {
    return add(std::move(indices), "SCALAR", unsigned_ints, true);
}

std::array<double, 3> GltfBuffer::linear_light(Rgb colour) {
    const auto part = [](float srgb) {
        const double v = static_cast<double>(srgb);
        return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    return {part(colour.red), part(colour.green), part(colour.blue)};
}

void GltfBuffer::describe(nlohmann::ordered_json& json) const {
    json["buffers"] = nlohmann::ordered_json::array({{{"byteLength", length_}}});
    json["bufferViews"] = views_;
    json["accessors"] = accessors_;
}

bool GltfBuffer::write(std::string json, const ByteSink& sink) const {
    json.append((4 - json.size() % 4) % 4, ' ');
    const std::size_t whole = 12 + 8 + json.size() + 8 + length_;
    if (whole > std::numeric_limits<std::uint32_t>::max()) return false;
    std::string head = "glTF";
    put_number(head, 2);
    put_number(head, static_cast<std::uint32_t>(whole));
    put_number(head, static_cast<std::uint32_t>(json.size()));
    head += "JSON" + json;
    put_number(head, static_cast<std::uint32_t>(length_));
    head.append("BIN\0", 4);
    sink(head);
    for (const Piece& piece : pieces_)
        sink(piece.bytes);
    return true;
}

}  // namespace plume
