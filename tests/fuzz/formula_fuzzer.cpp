// Any text: the formula reader answers with a formula or an error, prints what it read so that reading it
// again gives the same, and says nothing about bytes outside the text.

#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/formula/formula.hpp"
#include "core/formula/spans.hpp"
#include "core/formula/syntax.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

void demand_inside(const Error& error, std::string_view text) {
    demand(error.begin <= error.end && error.end <= text.size());
    demand(!sentence(error).empty());
}

void read_and_print(std::string_view text) {
    const auto syntax = parse_formula(text);
    if (!syntax) return demand_inside(syntax.error(), text);
    const std::string once = printed(*syntax);
    const auto again = parse_formula(once);
    // What is printed has more brackets and may so come to be too long or too deep.
    if (!again)
        return demand(again.error().code == ErrorCode::too_long || again.error().code == ErrorCode::too_deep);
    demand(printed(*again) == once);
}

void check(std::string_view text) {
    FormulaSetting setting;
    setting.inputs = {{"x", a_length, InputRef{InputType::column, 0}, {}},
                      {"t", an_angle, InputRef{InputType::loop_value, 0}, {}},
                      {"i", plain_number, InputRef{InputType::loop_index, 1}, {}},
                      {"n", plain_number, 12.0, {}}};
    setting.muted = {"a"};
    for (const auto& checked : {check_formula(text, setting), check_expression(text, setting)})
        if (!checked) demand_inside(checked.error(), text);
}

void colour(std::string_view text) {
    std::size_t before = 0;
    for (const TextSpan& span : formula_spans(text)) {
        demand(span.begin >= before && span.begin < span.end && span.end <= text.size());
        before = span.end;
    }
    if (!text.empty()) {
        const std::size_t at = static_cast<unsigned char>(text.front()) % text.size();
        if (const auto other = matching_bracket(text, formula_spans(text), at))
            demand(matching_bracket(text, formula_spans(text), *other) == at);
    }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    read_and_print(text);
    check(text);
    colour(text);
    return 0;
}
