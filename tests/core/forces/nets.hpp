#pragma once
// Nets that the tests of forces share.

#include "core/forces/net.hpp"

namespace plume::test {

// A chain from (0, 0, 0) along x, of so many links of a length, held at both ends, each place between them
// loaded downwards.
inline Net chain(std::size_t links, double long_m, double load_kn) {
    Net net;
    for (std::size_t at = 0; at <= links; ++at) {
        net.places.push_back({static_cast<double>(at) * long_m, 0, 0});
        net.held.push_back(at == 0 || at == links ? 1 : 0);
        net.loads.push_back({0, 0, at == 0 || at == links ? 0 : -load_kn});
        if (at > 0) net.links.push_back({static_cast<std::uint32_t>(at - 1), static_cast<std::uint32_t>(at)});
    }
    return net;
}

// Meshes of 1 m in columns and rows, held at its corners, which stand at heights of their own.
inline Net square_net(std::size_t columns, std::size_t rows, double load_kn) {
    Net net;
    const auto at = [&](std::size_t i, std::size_t j) { return static_cast<std::uint32_t>(i + j * columns); };
    for (std::size_t j = 0; j < rows; ++j)
        for (std::size_t i = 0; i < columns; ++i) {
            const bool corner = (i == 0 || i + 1 == columns) && (j == 0 || j + 1 == rows);
            const double height = corner && (i == 0) == (j == 0) ? 3 : 0;
            net.places.push_back({static_cast<double>(i), static_cast<double>(j), height});
            net.held.push_back(corner ? 1 : 0);
            net.loads.push_back({0, 0, -load_kn});
            if (i > 0) net.links.push_back({at(i - 1, j), at(i, j)});
            if (j > 0) net.links.push_back({at(i, j - 1), at(i, j)});
        }
    return net;
}

}  // namespace plume::test
