#pragma once
// A step's script, open below its sentence: what its numbers count, the text, a line about the word under the
// cursor.

#include "app/code/code_block.hpp"
#include "app/script/script_editor.hpp"

class QLabel;

namespace plume::app {

class ScriptBlock : public CodeBlock {
    Q_OBJECT

public:
    ScriptBlock(Document& document, ItemId step, const std::string& slot, QWidget* parent);
    void refresh() override;
    ScriptEditor& editor() override { return *editor_; }

private:
    Document& document_;
    ItemId step_;
    ScriptEditor* editor_;
    QLabel *units_, *hint_;
};

}  // namespace plume::app
