#include "core/data/address_text.hpp"

namespace plume {

bool one_way(const PointLattice& lattice) {
    return lattice.counts()[1] == 1 && lattice.counts()[2] == 1;
}

std::string address_text(const PointLattice& lattice, std::size_t index) {
    const Address at = lattice.address(index);
    std::string text = std::to_string(at.i);
    if (one_way(lattice)) return text;
    text += ',' + std::to_string(at.j);
    if (lattice.counts()[2] > 1) text += ',' + std::to_string(at.k);
    return text;
}

}  // namespace plume
