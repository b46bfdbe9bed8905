#include "app/sheet/heading_block.hpp"

#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QTextDocumentFragment>
#include <QToolButton>

#include "app/parts/button_icon.hpp"
#include "app/parts/form_popup.hpp"
#include "app/sheet/result_line.hpp"
#include "app/theme/look.hpp"
#include "core/base/text.hpp"

namespace plume::app {

HeadingBlock::HeadingBlock(Document& document, ItemId item, QWidget* parent)
    : ItemBlock(document, item, parent) {
    setObjectName("heading");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(margin_width, 10, 10, 4);
    column->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    row->setContentsMargins(16, 0, 0, 0);
    title_ = new QLabel;
    figures_ = new QLabel;
    figures_->setObjectName("heading-figures");
    figures_->setProperty("second", true);
    figures_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    fold_ = new QToolButton;
    fold_->setFixedSize(22, 22);
    fold_->setIconSize({14, 14});
    fold_->setProperty("quiet", true);
    connect(fold_, &QToolButton::clicked, this, &HeadingBlock::fold);
    row->addWidget(title_);
    row->addWidget(figures_, 1);
    row->addWidget(fold_);
    note_ = new QLabel;
    note_->setProperty("second", true);
    note_->setWordWrap(true);
    column->addLayout(row);
    column->addWidget(note_);
    refresh();
}

const Heading* HeadingBlock::heading() const {
    const auto at = document_.study().position(item_);
    return at ? heading_of(document_.study().items[*at]) : nullptr;
}

void HeadingBlock::refresh() {
    const Heading* now = heading();
    if (!now) return;
    title_->setFont(text_font(13, QFont::DemiBold));
    title_->setText(text_of(now->title));
    note_->setFont(text_font(12));
    note_->setText(text_of(now->note));
    note_->setVisible(!now->note.empty() && !now->folded);
    figures_->setFont(text_font(12));
    set_icon(*fold_, now->folded ? "folded" : "unfolded", look().second_ink);
    fold_->setToolTip(now->folded ? tr("Unfold the steps under this heading")
                                  : tr("Fold the steps under this heading away"));
    fold_->setAccessibleName(fold_->toolTip());
    setAccessibleName(tr("Heading %1").arg(title_->text()));
    if (std::exchange(painted_, now->colour) != now->colour) update();
}

void HeadingBlock::set_folded(const Folded& folded) {
    QStringList told;
    if (folded.steps > 0) told += text_of(count_text(folded.steps, "step", "steps"));
    if (folded.wrong > 0)
        told += QString("<span style='color:%1'>%2</span>")
                    .arg(look().attention.name(),
                         folded.wrong == 1 ? tr("1 with an error") : tr("%1 with errors").arg(folded.wrong));
    const Step* last = document_.study().step(folded.last);
    const Shown* shown = last ? document_.results().shown(last->id) : nullptr;
    if (shown)
        told += QString("<i>%1</i> %2")
                    .arg(text_of(last->name).toHtmlEscaped(),
                         told_in_a_line(*shown, document_.study().units).toHtmlEscaped());
    const QString text = told.join(" · ");
    if (figures_->text() == text) return;
    figures_->setText(text);
    setAccessibleDescription(QTextDocumentFragment::fromHtml(figures_->text()).toPlainText());
    figures_->setToolTip(accessibleDescription());
    update();
}

void HeadingBlock::paintEvent(QPaintEvent* event) {
    ItemBlock::paintEvent(event);
    const Heading* now = heading();
    if (!now) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().thread(now->colour));
    const int middle = title_->mapTo(this, QPoint(0, title_->height() / 2)).y();
    painter.drawRoundedRect(QRectF(margin_width, middle - 5, 10, 10), 3, 3);
    painter.setPen(look().hairline);
    const int told = figures_->text().isEmpty() ? 0 : figures_->sizeHint().width() + 8;
    const int from = figures_->mapTo(this, QPoint(told, 0)).x();
    if (from < fold_->x() - 6) painter.drawLine(from, middle, fold_->x() - 6, middle);
}

void HeadingBlock::fold() {
    Heading changed = *heading();
    changed.folded = !changed.folded;
    document_.apply(set_heading(document_.study(), item_, changed),
                    changed.folded ? tr("fold") : tr("unfold"));
}

void HeadingBlock::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space) return fold();
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return rename();
    ItemBlock::keyPressEvent(event);
}

void HeadingBlock::mouseDoubleClickEvent(QMouseEvent* /*event*/) {
    rename();
}

void HeadingBlock::rename() {
    const Heading* now = heading();
    if (!now) return;
    auto* form = new FormPopup(this, tr("Heading"));
    QLineEdit* title = form->add_line(tr("Title"), text_of(now->title));
    QLineEdit* note = form->add_line(tr("Note"), text_of(now->note), tr("what this part is for"));
    std::vector<QString> colours;
    colours.reserve(heading_colour_count);
    for (int index = 0; index < heading_colour_count; ++index)
        colours.push_back(text_of(key_of(static_cast<HeadingColour>(index))));
    QComboBox* colour = form->add_choice(tr("Colour"), colours, static_cast<int>(now->colour));
    Document& document = document_;
    form->open(tr("Set heading"),
               [&document, id = item_, old = *now, title, note, colour]() mutable -> QString {
                   old.title = text_of(title->text());
                   old.note = text_of(note->text());
                   old.colour = static_cast<HeadingColour>(colour->currentIndex());
                   document.apply(set_heading(document.study(), id, old), QObject::tr("change of heading"));
                   return {};
               });
}

void HeadingBlock::fill_menu(QMenu& menu) {
    menu.addAction(tr("&Fold or unfold\tSpace"), this, [this] { fold(); });
    menu.addSeparator();
    ItemBlock::fill_menu(menu);
}

}  // namespace plume::app
