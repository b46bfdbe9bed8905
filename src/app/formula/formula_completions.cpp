#include "app/formula/formula_completions.hpp"

#include "core/formula/functions.hpp"
#include "core/formula/spans.hpp"

namespace plume::app {

std::vector<Completion> completions_of(const FormulaInsight* insight, const std::string& text) {
    std::vector<Completion> all;
    const auto add = [&](const QString& name, const QString& insert, const QString& help) {
        for (const Completion& known : all)
            if (known.name == name) return;
        all.push_back({name, insert, help});
    };
    const bool rules = insight && !insight->words.empty();
    for (const TextSpan& span : formula_spans(text))
        if (span.type == SpanType::given_name) {
            const QString name = text_of(std::string_view(text).substr(span.begin, span.end - span.begin));
            add(name, name,
                rules ? QObject::tr("a value of these rules") : QObject::tr("a line of this formula"));
        }
    if (insight) {
        for (const std::string& name : insight->given)
            add(text_of(name), text_of(name), QObject::tr("a part of these rules"));
        for (const LanguageWord& word : insight->words)
            add(text_of(word.word), text_of(word.word) + " ", text_of(word.help));
        for (const FormulaInput& input : insight->inputs)
            add(text_of(input.name), text_of(input.name), text_of(input.help));
        for (const FormulaResult& result : insight->results)
            if (!result.name.empty())
                add(text_of(result.name), text_of(result.name) + " = ",
                    QObject::tr("a line to give: %1").arg(text_of(result.help)));
        for (const std::string& name : insight->study_names)
            add(text_of(name), text_of(name), QObject::tr("a control of the study"));
    }
    for (const FunctionSpec& function : formula_functions())
        add(text_of(function.name), text_of(function.name) + "(",
            QString("(%1): %2").arg(text_of(function.arguments), text_of(function.help)));
    for (const ConstantSpec& constant : formula_constants())
        add(text_of(constant.name), text_of(constant.name), text_of(constant.help));
    return all;
}

}  // namespace plume::app
