#pragma once
// Files made by hand for tests of what reads them.

#include <bit>
#include <cstring>
#include <fstream>

#include "core/readers/mesh_file.hpp"
#include "core/support.hpp"

namespace plume::test {

inline void write(const std::filesystem::path& path, std::string_view bytes) {
    std::ofstream(path, std::ios::binary) << bytes;
}

template <class Number>
void put(std::string& bytes, Number number, bool swapped = false) {
    char raw[sizeof number];
    std::memcpy(raw, &number, sizeof number);
    if (swapped) std::reverse(raw, raw + sizeof number);
    bytes.append(raw, sizeof number);
}

// A box of 2 x 3 x 5 from a corner on: places and quadrangles, seen from outside.
struct HandBox {
    double at_x = 0, at_y = 0, at_z = 0;
    std::array<double, 3> place(int corner) const {
        return {at_x + (corner & 1 ? 2.0 : 0.0), at_y + (corner & 2 ? 3.0 : 0.0),
                at_z + (corner & 4 ? 5.0 : 0.0)};
    }
    static constexpr int faces[6][4] = {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4},
                                        {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}};
};

inline std::string binary_stl(const std::vector<std::array<std::array<float, 3>, 3>>& triangles) {
    std::string bytes(80, ' ');
    put(bytes, static_cast<std::uint32_t>(triangles.size()));
    for (const auto& triangle : triangles) {
        bytes.append(12, '\0');
        for (const auto& corner : triangle)
            for (const float part : corner)
                put(bytes, part);
        bytes.append(2, '\0');
    }
    return bytes;
}

inline std::vector<std::array<std::array<float, 3>, 3>> box_triangles(const HandBox& box = {}) {
    std::vector<std::array<std::array<float, 3>, 3>> triangles;
    for (const auto& face : HandBox::faces)
        for (const auto& corners :
             {std::array{face[0], face[1], face[2]}, std::array{face[0], face[2], face[3]}}) {
            auto& triangle = triangles.emplace_back();
            for (std::size_t at = 0; at < 3; ++at)
                for (std::size_t part = 0; part < 3; ++part)
                    triangle[at][part] = static_cast<float>(box.place(corners[at])[part]);
        }
    return triangles;
}

inline std::string box_obj(const HandBox& box = {}, std::size_t before = 0) {
    std::string text;
    for (int corner = 0; corner < 8; ++corner) {
        const auto place = box.place(corner);
        text += "v " + std::to_string(place[0]) + " " + std::to_string(place[1]) + " " +
                std::to_string(place[2]) + "\n";
    }
    for (const auto& face : HandBox::faces) {
        text += "f";
        for (const int corner : face)
            text += " " + std::to_string(static_cast<std::size_t>(corner) + 1 + before);
        text += "\n";
    }
    return text;
}

}  // namespace plume::test
