// Any bytes as IFC: each is read or refused with a sentence, whatever becomes of the program that reads it,
// and what is read keeps its promises.

#include "core/readers/building_file.hpp"
#include "fuzz/other_numbers.hpp"
#include "fuzz/read_by_program.hpp"

using namespace plume;

extern "C" std::size_t LLVMFuzzerCustomMutator(std::uint8_t* data, std::size_t size, std::size_t most,
                                               unsigned seed) {
    return with_other_numbers(data, size, most, seed);
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto file =
        read_by_program({reinterpret_cast<const char*>(data), size}, ".ifc", &read_building_file);
    if (!file) return 0;
    demand(!file->elements.empty());
    for (const BuildingElement& element : file->elements) {
        demand(element.entity.starts_with("Ifc"));
        demand(!element.facets || element.facets->face_count() > 0);
        demand(element.curved.empty() || !file->curved_shapes.empty());
    }
    return 0;
}
