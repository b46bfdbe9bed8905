#pragma once
// Colours of a script's text.

#include <QSyntaxHighlighter>
#include <set>
#include <string>

namespace plume::app {

class ScriptColours : public QSyntaxHighlighter {
public:
    using QSyntaxHighlighter::QSyntaxHighlighter;
    // What the script is given, by the names its head says.
    void take_inputs(std::set<std::string, std::less<>> inputs);

protected:
    void highlightBlock(const QString& line) override;

private:
    std::set<std::string, std::less<>> inputs_;
};

}  // namespace plume::app
