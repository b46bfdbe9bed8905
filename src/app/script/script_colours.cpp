#include "app/script/script_colours.hpp"

#include <QTextDocument>

#include "app/code/code_colours.hpp"
#include "app/code/text_places.hpp"
#include "app/document/document.hpp"
#include "core/script/script_spans.hpp"

namespace plume::app {

void ScriptColours::take_inputs(std::set<std::string, std::less<>> inputs) {
    if (inputs == inputs_) return;
    inputs_ = std::move(inputs);
    // Colouring is no edit of the text.
    const QSignalBlocker quiet(document());
    rehighlight();
}

void ScriptColours::highlightBlock(const QString& line) {
    const std::string text = text_of(line);
    int state = std::max(0, previousBlockState());
    for (const TextSpan& span : script_spans(text, state)) {
        const int begin = position_of_byte(text, span.begin), end = position_of_byte(text, span.end);
        const std::string_view word = std::string_view(text).substr(span.begin, span.end - span.begin);
        const bool given = span.type == SpanType::name && inputs_.contains(word);
        setFormat(begin, end - begin, format_of(given ? SpanType::given_name : span.type));
    }
    setCurrentBlockState(state);
}

}  // namespace plume::app
