#include "app/formula/formula_colours.hpp"

#include "app/code/code_colours.hpp"
#include "app/code/text_places.hpp"
#include "app/document/document.hpp"
#include "core/formula/spans.hpp"

namespace plume::app {
void FormulaColours::take_words(const FormulaInsight& insight) {
    std::set<std::string, std::less<>> words;
    for (const LanguageWord& word : insight.words)
        words.insert(word.word);
    std::set<std::string, std::less<>> given(insight.given.begin(), insight.given.end());
    if (words == words_ && given == given_) return;
    words_ = std::move(words);
    given_ = std::move(given);
    // Colouring is no edit of the text.
    const QSignalBlocker quiet(document());
    rehighlight();
}

void FormulaColours::highlightBlock(const QString& line) {
    const std::string text = text_of(line);
    for (const TextSpan& span : formula_spans(text)) {
        const int begin = position_of_byte(text, span.begin), end = position_of_byte(text, span.end);
        const std::string_view word = std::string_view(text).substr(span.begin, span.end - span.begin);
        SpanType type = span.type;
        if (type == SpanType::name && words_.contains(word)) type = SpanType::keyword;
        if (type == SpanType::name && given_.contains(word)) type = SpanType::given_name;
        setFormat(begin, end - begin, format_of(type));
    }
}

}  // namespace plume::app
