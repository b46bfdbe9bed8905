#pragma once
// A sheet of quads over a grid, to be looked at and milled.

#include <functional>

#include "core/data/mesh.hpp"

namespace plume {

// Heights at the corners, which stand so far apart.
inline Mesh sheet(std::uint32_t columns, std::uint32_t rows, double apart,
                  const std::function<double(std::uint32_t, std::uint32_t)>& height) {
    Doubles x, y, z;
    Mesh::Parts parts;
    for (std::uint32_t j = 0; j < rows; ++j)
        for (std::uint32_t i = 0; i < columns; ++i) {
            x.push_back(i * apart);
            y.push_back(j * apart);
            z.push_back(height(i, j));
        }
    for (std::uint32_t j = 0; j + 1 < rows; ++j)
        for (std::uint32_t i = 0; i + 1 < columns; ++i) {
            const std::uint32_t a = j * columns + i;
            for (const std::uint32_t corner : {a, a + 1, a + columns + 1, a + columns})
                parts.corners.push_back(corner);
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    parts.x = Column(std::move(x));
    parts.y = Column(std::move(y));
    parts.z = Column(std::move(z));
    return *Mesh::make(std::move(parts));
}

}  // namespace plume
