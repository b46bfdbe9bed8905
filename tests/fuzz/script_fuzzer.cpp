// Any text: the reader of scripts' heads answers with a head or an error that says where.

#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/script/script_head.hpp"
#include "fuzz/demand.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace plume;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto head = read_script_head(text);
    if (head) {
        for (const ScriptInput& input : head->inputs)
            demand(head->sentence.find('{' + input.name + '}') != std::string::npos);
        demand(head->result >= ScriptType::points && !head->title.empty());
        return 0;
    }
    demand(head.error().begin <= head.error().end && head.error().end <= size);
    demand(!head.error().message.empty() && !head.error().mend.empty());
    return 0;
}
