#include "app/sheet/why_bar.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

#include "app/parts/asked_parts.hpp"
#include "app/theme/look.hpp"
#include "core/tracing/part_places.hpp"

namespace plume::app {

WhyBar::WhyBar(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), text_(new QLabel(this)) {
    setObjectName("why-bar");
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(margin_width, 6, 10, 6);
    text_->setObjectName("why-asked");
    text_->setWordWrap(true);
    text_->setTextFormat(Qt::RichText);
    auto* end = new QToolButton;
    end->setObjectName("why-end");
    end->setText(tr("End"));
    end->setToolTip(tr("Asks no longer (Escape)"));
    connect(end, &QToolButton::clicked, this, [this] { document_.attention().stop_asking(); });
    row->addWidget(text_, 1);
    row->addWidget(end, 0, Qt::AlignTop);
    connect(&document.attention(), &Attention::looked_elsewhere, this, &WhyBar::refresh);
    connect(&document.results(), &Results::evaluation_changed, this, &WhyBar::refresh);
    refresh();
}

QString WhyBar::asked_text(std::size_t number) const {
    const AskedPart& asked = document_.attention().wishes().asked[number];
    const Step* step = document_.study().step(asked.step);
    const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
    const QString name = step ? text_of(step->name) : tr("what is gone");
    const QString title = shown && shown->value && has_part(*shown->value, asked.part)
                              ? text_of(title_of(*shown->value, asked.part))
                              : QString();
    return QString("<b style='color:%1'>%2</b> <i>%3</i> %4")
        .arg(asked_colour(number).name(), asked_letter(number), name.toHtmlEscaped(), title.toHtmlEscaped());
}

void WhyBar::refresh() {
    const std::size_t count = document_.attention().wishes().asked.size();
    setVisible(count > 0);
    if (count == 0) return;
    text_->setFont(text_font(13));
    const QString hint =
        count == 1 ? tr("F3 on another part puts it beside.") : tr("F3 on a third takes the place of A.");
    text_->setText((count == 1 ? tr("Why is %1 as it is?").arg(asked_text(0))
                               : tr("Why are %1 and %2 as they are?").arg(asked_text(0), asked_text(1))) +
                   QString(" <span style='color:%1'>%2</span>").arg(look().second_ink.name(), hint));
}

}  // namespace plume::app
