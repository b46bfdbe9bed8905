// Any text as a manifest: it is read or refused with a sentence, what is read leads to no file outside of its
// folder, and is written and read again the same.

#include <cstddef>
#include <cstdint>

#include "core/handoff/manifest.hpp"
#include "fuzz/demand.hpp"

using namespace plume;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto manifest = manifest_from_text({reinterpret_cast<const char*>(data), size});
    if (!manifest) {
        demand(!sentence(manifest.error()).empty());
        return 0;
    }
    for (const auto& [name, entry] : manifest->entries) {
        demand(!entry.files.empty() && entry.files.front().name == name);
        for (const HandedFile& file : entry.files) {
            const std::filesystem::path whole =
                (std::filesystem::path("/out") / file.name).lexically_normal();
            demand(whole.string().starts_with("/out/"));
        }
    }
    const std::string written = manifest_to_text(*manifest);
    const auto again = manifest_from_text(written);
    demand(again.ok());
    demand(manifest_to_text(*again) == written);
    return 0;
}
