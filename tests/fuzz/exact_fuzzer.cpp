// Any bytes as STEP or IGES: each is read or refused with a sentence, whatever becomes of the program that
// reads it, and what is read keeps its promises.

#include <cmath>

#include "core/readers/exact_file.hpp"
#include "fuzz/other_numbers.hpp"
#include "fuzz/read_by_program.hpp"

using namespace plume;

extern "C" std::size_t LLVMFuzzerCustomMutator(std::uint8_t* data, std::size_t size, std::size_t most,
                                               unsigned seed) {
    return with_other_numbers(data, size, most, seed);
}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto file = read_by_program({reinterpret_cast<const char*>(data), size}, ".step", &read_exact_file);
    if (!file) return 0;
    demand(!file->parts.empty());
    for (const ExactPart& part : file->parts) {
        const Box box = box_of(part);
        demand(!part.name.empty() && is_finite(box.low) && is_finite(box.high));
    }
    return 0;
}
