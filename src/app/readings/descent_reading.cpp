#include "app/readings/descent_reading.hpp"

#include <QLabel>
#include <QPlainTextEdit>
#include <QVBoxLayout>

#include "app/theme/look.hpp"
#include "core/results/items.hpp"

namespace plume::app {

DescentReading::DescentReading(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), title_(new QLabel), lines_(new QPlainTextEdit) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    title_->setFont(text_font(12));
    title_->setProperty("second", true);
    title_->setObjectName("descent-title");
    title_->setWordWrap(true);
    lines_->setObjectName("descent");
    lines_->setAccessibleName(tr("Why the part is there"));
    lines_->setReadOnly(true);
    lines_->setFrameShape(QFrame::NoFrame);
    lines_->setFont(text_font(12));
    lines_->document()->setDocumentMargin(0);
    lines_->setMinimumWidth(180);
    column->addWidget(title_);
    column->addWidget(lines_, 1);
    connect(&document.attention(), &Attention::hover_changed, this, &DescentReading::follow);
    connect(&document.attention(), &Attention::held_changed, this, &DescentReading::follow);
    hide();
}

void DescentReading::set(const ValuePointer& value, ItemId step) {
    if (value == value_ && step == step_) return;
    value_ = value;
    step_ = step;
    told_.reset();
    lines_->clear();
    title_->setText(tr("Point at a part, or at its row, to read why it is there; click it to keep that."));
    setVisible(value_ && items_of(*value_).why != nullptr);
    follow();
}

void DescentReading::follow() {
    const Hovered& held = document_.attention().held();
    const Hovered& pointed = held.step == step_ ? held : document_.attention().hovered();
    if (!value_ || isHidden() || pointed.step != step_) return;
    const Items all = items_of(*value_);
    if (pointed.index >= all.total()) return;
    const auto& [items, number] = pointed_at(all, pointed.index);
    if (!items.why || told_ == number) return;
    told_ = number;
    title_->setText(text_of(items.title(number)) + tr(", and what it came of"));
    QStringList lines;
    for (const std::string& line : items.why(number))
        lines << text_of(line);
    lines_->setPlainText(lines.join('\n'));
    lines_->moveCursor(QTextCursor::End);
}

}  // namespace plume::app
