#include "app/script/script_block.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "app/theme/look.hpp"

namespace plume::app {

ScriptBlock::ScriptBlock(Document& document, ItemId step, const std::string& slot, QWidget* parent)
    : CodeBlock(parent), document_(document), step_(step) {
    setObjectName("script-block");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 8, 4);
    column->setSpacing(3);
    units_ = new QLabel;
    units_->setObjectName("script-units");
    units_->setProperty("second", true);
    auto* help = new QToolButton;
    help->setObjectName("script-help");
    help->setText(tr("?"));
    help->setProperty("quiet", true);
    help->setToolTip(tr("What can be written in a script"));
    help->setAccessibleName(tr("Help about scripts"));
    auto* header = new QHBoxLayout;
    header->addWidget(units_, 1);
    header->addWidget(help);
    editor_ = new ScriptEditor(document, step, slot, this);
    hint_ = new QLabel;
    hint_->setObjectName("script-hint");
    hint_->setProperty("second", true);
    hint_->setWordWrap(true);
    column->addLayout(header);
    column->addWidget(editor_);
    column->addWidget(hint_);
    connect(editor_, &CodeEditor::leave_wanted, this, &CodeBlock::leave_wanted);
    connect(help, &QToolButton::clicked, this, &CodeBlock::help_wanted);
    connect(editor_, &CodeEditor::hint_changed, this, [this] {
        const QString hint = editor_->hasFocus() ? editor_->hint() : QString();
        hint_->setText(
            hint.isEmpty() ? tr("Runs at a pause, or with Ctrl+Return. Ctrl+Space offers what fits.") : hint);
    });
    connect(&document.results(), &Results::notes_changed, editor_, &ScriptEditor::take_notes);
    refresh();
}

void ScriptBlock::refresh() {
    units_->setFont(text_font(11));
    hint_->setFont(text_font(11));
    const Step* step = document_.study().step(step_);
    if (!step) return;
    const Units units = step->text_units.value_or(document_.study().units);
    units_->setText(tr("Lua 5.4. Lengths count %1, angles radians.").arg(text_of(symbol(units.length))));
    editor_->refresh();
    editor_->take_notes();
}

}  // namespace plume::app
