#include "core/exchange/part_ids.hpp"

namespace plume {

Hash identity_of(const std::string& result, const std::string& part, const std::string& what) {
    return Hasher().add("Plume Lattice").add(what).add(result).add(part).finish();
}

std::string uuid_text(const Hash& identity) {
    Hash marked = identity;
    marked.high = (marked.high & ~std::uint64_t{0xf000}) | std::uint64_t{0x8000};        // version 8
    marked.low = (marked.low & ~(std::uint64_t{3} << 62U)) | (std::uint64_t{2} << 62U);  // its variant
    std::string text = hex_text(marked);
    for (const std::size_t at : {20U, 16U, 12U, 8U})
        text.insert(at, "-");
    return text;
}

}  // namespace plume
