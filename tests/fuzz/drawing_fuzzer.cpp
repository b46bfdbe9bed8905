// Any bytes as a drawing: each is read or refused with a sentence, and what is read keeps its promises.

#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/readers/curve_file.hpp"
#include "core/readers/exact_file.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

void read_as(const char* name, std::string_view bytes) {
    const auto file = read_curve_bytes(bytes, name, Run());
    if (!file) return demand(!sentence(file.error()).empty());
    demand(!file->curves.empty() && file->layer_of.size() == file->curves.size());
    for (const std::uint32_t layer : file->layer_of)
        demand(layer < file->layers.size());
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    read_as("a.dxf", bytes);
    read_as("a.svg", bytes);
    const auto handed_over = exact_file_from(bytes);
    demand(handed_over || !sentence(handed_over.error()).empty());
    return 0;
}
