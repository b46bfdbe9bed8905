// Any bytes as a picture: each is read or refused with a sentence, and what is read has the pixels it says.

#include "core/assets/image_file.hpp"
#include "fuzz/read_by_program.hpp"

using namespace plume;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const auto facts = read_by_program(bytes, ".picture",
                                       [](const auto& path, const Run&) { return read_image_facts(path); });
    // What a step asks before it reads: a small file may say that it is a large picture.
    if (!facts || facts->bytes() > 1e8) return 0;
    const auto picture = read_by_program(bytes, ".picture", &read_image);
    demand(!picture || picture->values.size() == facts->width * facts->height * facts->channels);
    return 0;
}
