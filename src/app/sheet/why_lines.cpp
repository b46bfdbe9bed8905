#include "app/sheet/why_lines.hpp"

#include <QHBoxLayout>
#include <QLabel>

#include "app/parts/asked_parts.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

QString second(const QString& text) {
    return QString("<span style='color:%1'>%2</span>").arg(look().second_ink.name(), text);
}

QString html_of(const TracedStep& traced, std::size_t number) {
    QStringList lines;
    for (const TracedPart& part : traced.parts) {
        lines +=
            QString("<b style='color:%1'>%2</b> <b>%3</b>")
                .arg(asked_colour(number).name(), asked_letter(number), text_of(part.title).toHtmlEscaped());
        for (const std::string& line : part.lines)
            lines += text_of(line).toHtmlEscaped();
    }
    if (traced.more > 0) lines += second(QObject::tr("and %1 more").arg(traced.more));
    for (const std::string& remark : traced.remarks)
        lines += second(text_of(remark).toHtmlEscaped());
    return lines.join("<br>");
}

}  // namespace

WhyLines::WhyLines(const Document& document, ItemId step, QWidget* parent)
    : QWidget(parent), document_(document), step_(step), row_(new QHBoxLayout(this)) {
    setObjectName("why-lines");
    row_->setContentsMargins(0, 4, 0, 2);
    row_->setSpacing(14);
    for (std::size_t number = 0; number < most_asked; ++number) {
        auto* column = new QLabel(this);
        column->setObjectName("why-" + asked_letter(number));
        column->setWordWrap(true);
        column->setTextFormat(Qt::RichText);
        column->setTextInteractionFlags(Qt::TextSelectableByMouse);
        column->setAlignment(Qt::AlignTop | Qt::AlignLeft);
        row_->addWidget(column, 1);
        columns_.push_back(column);
    }
    hide();
}

QString WhyLines::told(std::size_t number) const {
    const auto& all = document_.results().told_why();
    if (number >= all.size()) return {};
    const ToldWhy& why = all[number];
    if (why.error)
        return why.asked.step == step_
                   ? QString("<span style='color:%1'>%2</span>")
                         .arg(look().attention.name(), text_of(sentence(*why.error)).toHtmlEscaped())
                   : QString();
    const TracedStep* traced = why.trace->at(step_);
    return traced ? html_of(*traced, number) : QString();
}

void WhyLines::refresh() {
    bool any = false;
    for (std::size_t number = 0; number < columns_.size(); ++number) {
        const QString text = told(number);
        columns_[number]->setFont(text_font(12));
        columns_[number]->setText(text);
        columns_[number]->setAccessibleName(tr("Why %1").arg(asked_letter(number)));
        // Beside another one it keeps its place, also where it has nothing to say.
        columns_[number]->setVisible(number < document_.results().told_why().size());
        any = any || !text.isEmpty();
    }
    setVisible(any);
}

}  // namespace plume::app
