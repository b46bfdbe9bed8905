#include "app/formula/formula_block.hpp"

#include <QHBoxLayout>
#include <QLabel>

#include "app/formula/formula_header.hpp"
#include "app/formula/note_column.hpp"
#include "app/formula/term_column.hpp"
#include "app/formula/version_menu.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

// A line is looked at once the cursor rests on it, so that crossing the text does not flicker the model.
constexpr int rest_ms = 160;

}  // namespace

FormulaBlock::FormulaBlock(Document& document, ItemId step, QWidget* parent)
    : CodeBlock(parent), document_(document), step_(step) {
    setObjectName("formula-block");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 4);
    column->setSpacing(3);
    header_ = new FormulaHeader(document, step, this);
    editor_ = new FormulaEditor(document, step, this);
    terms_ = new TermColumn(document, step, *editor_, this);
    notes_ = new NoteColumn(document, step, *editor_, this);
    hint_ = new QLabel;
    hint_->setObjectName("formula-hint");
    hint_->setProperty("second", true);
    hint_->setWordWrap(true);
    ghost_ = new QLabel;
    ghost_->setObjectName("formula-ghost");
    ghost_->setWordWrap(true);
    column->addWidget(header_);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    row->addWidget(editor_, 1);
    row->addWidget(terms_);
    row->addWidget(notes_);
    column->addLayout(row);
    column->addWidget(hint_);
    column->addWidget(ghost_);
    look_timer_.setSingleShot(true);
    look_timer_.setInterval(rest_ms);
    connect(&look_timer_, &QTimer::timeout, this, [this] {
        looking_ = true;
        document_.attention().look_at_line(step_, looked_at_);
    });
    connect(editor_, &FormulaEditor::laid_out, terms_, [this] {
        terms_->update();
        notes_->update();
    });
    for (LineColumn* beside : std::initializer_list<LineColumn*>{terms_, notes_}) {
        connect(beside, &LineColumn::line_hovered, this, &FormulaBlock::look_at);
        connect(beside, &LineColumn::left, this, &FormulaBlock::look_away);
    }
    connect(editor_, &FormulaEditor::hint_changed, this, [this] {
        const QString hint = editor_->hasFocus() ? editor_->hint() : QString();
        hint_->setText(hint);
        hint_->setVisible(!hint.isEmpty());
    });
    connect(editor_, &FormulaEditor::line_hovered, this, &FormulaBlock::look_at);
    connect(editor_, &FormulaEditor::left, this, &FormulaBlock::look_away);
    connect(editor_, &FormulaEditor::leave_wanted, this, &FormulaBlock::leave_wanted);
    connect(header_, &FormulaHeader::help_wanted, this, &FormulaBlock::help_wanted);
    connect(&document.results(), &Results::notes_changed, this, &FormulaBlock::take_notes);
    connect(&document.attention(), &Attention::graphed_changed, terms_, [this] { terms_->update(); });
    refresh();
}

void FormulaBlock::refresh() {
    hint_->setFont(text_font(11));
    ghost_->setFont(text_font(11));
    editor_->refresh();
    take_notes();
}

void FormulaBlock::take_notes() {
    header_->refresh();
    editor_->take_notes();
    const FormulaInsight* insight = document_.results().insight(step_);
    const bool rules = insight && !insight->words.empty();
    terms_->setVisible(!rules);
    notes_->setVisible(rules);
    terms_->update();
    notes_->update();
    const QString ghost = ghost_text(document_, step_);
    ghost_->setText(ghost);
    ghost_->setStyleSheet("color: " + look().attention.name());
    ghost_->setVisible(!ghost.isEmpty());
}

std::optional<std::size_t> FormulaBlock::line_to_look_at(std::size_t begin) const {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight || insight->error) return {};
    if (std::ranges::find(insight->terms, begin, &TermInsight::begin) != insight->terms.end()) return begin;
    // Lines of rules begin behind blanks.
    for (const LineNote& note : insight->notes)
        if (editor_->line_rect(note.begin) == editor_->line_rect(begin)) return note.begin;
    return {};
}

void FormulaBlock::look_at(std::size_t at) {
    const auto begin = line_to_look_at(at);
    if (!begin) return look_away();
    if (looked_at_ == *begin && (looking_ || look_timer_.isActive())) return;
    looked_at_ = *begin;
    look_timer_.start();
}

void FormulaBlock::look_away() {
    look_timer_.stop();
    if (!looking_) return;
    looking_ = false;
    document_.attention().look_away();
}

}  // namespace plume::app
