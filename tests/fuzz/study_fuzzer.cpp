// Any text as the file of a study: it is read or refused with a sentence, and what is read is written and
// read again the same.

#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/exchange/study_file.hpp"
#include "fuzz/demand.hpp"

using namespace plume;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const auto study = study_from_text({reinterpret_cast<const char*>(data), size});
    if (!study) {
        demand(!sentence(study.error()).empty() && !study.error().mend.empty());
        return 0;
    }
    const std::string written = study_to_text(**study);
    const auto again = study_from_text(written);
    demand(again.ok());
    demand(same(**study, **again));
    demand(study_to_text(**again) == written);
    return 0;
}
