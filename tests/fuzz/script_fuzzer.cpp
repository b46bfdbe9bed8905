// Any text: the reader of scripts' heads answers with a head or an error that says where, and its words are
// spans of its lines, one behind the other.

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/script/script_head.hpp"
#include "core/script/script_spans.hpp"
#include "core/script/script_words.hpp"
#include "fuzz/demand.hpp"

using namespace plume;

namespace {

void look_at_words(std::string_view text) {
    int state = 0;
    for (std::size_t begin = 0; begin < text.size();) {
        const std::size_t end = std::min(text.find('\n', begin), text.size());
        std::size_t last = 0;
        for (const TextSpan& span : script_spans(text.substr(begin, end - begin), state)) {
            demand(span.begin >= last && span.end > span.begin && begin + span.end <= end);
            last = span.end;
        }
        begin = end + 1;
    }
    for (const std::size_t at : {std::size_t{0}, text.size() / 2, text.size()}) {
        demand(script_offers(text, at).begin <= at);
        (void)script_help(text, at);
    }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    look_at_words(text);
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
