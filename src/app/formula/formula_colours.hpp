#pragma once
// Colours of a formula's text, and of rules: what their own words are is said by what is found out about
// them.

#include <QSyntaxHighlighter>
#include <set>
#include <string>

#include "core/evaluation/formula_insight.hpp"

namespace plume::app {

class FormulaColours : public QSyntaxHighlighter {
public:
    using QSyntaxHighlighter::QSyntaxHighlighter;
    void take_words(const FormulaInsight& insight);

protected:
    void highlightBlock(const QString& line) override;

private:
    std::set<std::string, std::less<>> words_, given_;
};

}  // namespace plume::app
