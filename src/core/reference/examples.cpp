#include "core/reference/examples.hpp"

#include <algorithm>

#include "core/reference/carried_texts.hpp"

namespace plume {

std::span<const Example> examples() {
    return carried_examples();
}

const Example* example_of(std::string_view kind) {
    const auto found = std::ranges::find(examples(), kind, &Example::kind);
    return found == examples().end() ? nullptr : &*found;
}

Result<StatedFigure> stated_figure(const Study& example) {
    constexpr std::string_view arrow = " → ";
    const std::size_t at = example.note.rfind(arrow);
    const std::size_t colon = at == std::string::npos ? at : example.note.find(": ", at);
    if (colon == std::string::npos)
        return Error{ErrorCode::syntax, "‘" + example.title + "’", "states no figure",
                     "End its note with → RESULT: FIGURE."};
    const std::size_t name = at + arrow.size();
    return StatedFigure{example.note.substr(0, at), example.note.substr(name, colon - name),
                        example.note.substr(colon + 2)};
}

}  // namespace plume
