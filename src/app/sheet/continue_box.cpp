#include "app/sheet/continue_box.hpp"

#include <QKeyEvent>
#include <QLineEdit>
#include <QVBoxLayout>

#include "app/theme/look.hpp"

namespace plume::app {

ContinueBox::ContinueBox(Document& document, Page page, QWidget* parent)
    : QWidget(parent), document_(document), page_(page) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(margin_width, 8, 14, 8);
    column->setSpacing(4);
    line_ = new QLineEdit;
    line_->setObjectName(page == Page::sheet ? "continue" : "hand-off-continue");
    line_->setAccessibleName(page == Page::sheet ? tr("Continue with") : tr("Also hand off"));
    line_->installEventFilter(this);
    column->addWidget(line_);
    connect(line_, &QLineEdit::textEdited, this, &ContinueBox::find);
    refresh();
}

ContinueBox::~ContinueBox() {
    delete panel_;
}

FinderPlace ContinueBox::place() const {
    const std::size_t position = position_.value_or(document_.study().page_end(page_));
    return {page_, position, result_in_hand(position)};
}

// The selected step if the new one comes below it, else the nearest above.
std::string ContinueBox::result_in_hand(std::size_t position) const {
    const Study& study = document_.study();
    if (page_ == Page::hand_off) return {};  // what is seen is given
    if (const Step* step = study.step(document_.attention().selected());
        step && *study.position(step->id) < position)
        return step->name;
    for (std::size_t at = position; at-- > 0;)
        if (const Step* step = step_of(study.items[at])) return step->name;
    return {};
}

void ContinueBox::refresh() {
    // It is asked at every move of a drag, and what comes into question changes with steps, not with numbers.
    const FinderPlace now = place();
    std::string told_for = now.in_hand + '\n' + std::to_string(now.position) + '\n' +
                           std::to_string(document_.study().items.size());
    if (told_for == std::exchange(told_for_, told_for)) return;
    const bool empty = document_.study().page_end(page_) == document_.study().page_begin(page_);
    const QString sheet = empty ? tr("Begin with …  ") : tr("Continue with …  ");
    const QString hand_off = empty ? tr("Hand off …  ") : tr("Also hand off …  ");
    line_->setPlaceholderText((page_ == Page::sheet ? sheet : hand_off) +
                              FinderRows(document_, now, {}).first_few());
}

FinderPanel& ContinueBox::panel() {
    if (!panel_) {
        panel_ = new FinderPanel(line_, document_, page_ == Page::sheet ? "offers" : "hand-off-offers");
        connect(panel_, &FinderPanel::taken, this, &ContinueBox::take);
    }
    return *panel_;
}

void ContinueBox::find() {
    panel().open(place(), line_->text());
    Q_EMIT opened();
}

void ContinueBox::start() {
    line_->setFocus(Qt::ShortcutFocusReason);
    find();
}

void ContinueBox::take_keyboard() {
    line_->setFocus(Qt::TabFocusReason);
}

void ContinueBox::close() {
    if (panel_) panel_->hide();
}

void ContinueBox::take() {
    const ItemId added = panel().take();
    if (added == 0) return;
    line_->clear();
    position_.reset();
    document_.attention().select(added);
    Q_EMIT left();
    line_->setFocus(Qt::OtherFocusReason);
}

std::string ContinueBox::kind_in_hand() const {
    return panel_ && panel_->is_open() ? panel_->chosen_kind() : std::string();
}

bool ContinueBox::take_key(int key) {
    const bool open = panel_ && panel_->is_open();
    switch (key) {
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (open)
                take();
            else
                find();
            return true;
        case Qt::Key_Escape:
            line_->clear();
            close();
            position_.reset();
            Q_EMIT left();
            return true;
        case Qt::Key_Down:
        case Qt::Key_Up:
            if (!open && key == Qt::Key_Up && line_->text().isEmpty()) {
                Q_EMIT up_wanted();
                return true;
            }
            if (!open) find();
            return panel().take_key(key);
        default:
            return open && panel_->take_key(key);
    }
}

bool ContinueBox::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::FocusOut) close();
    if (event->type() == QEvent::MouseButtonPress && !(panel_ && panel_->is_open())) find();
    // An empty line has nothing of its own to undo: Ctrl+Z after adding a step takes the step back.
    if (event->type() == QEvent::ShortcutOverride && line_->text().isEmpty() &&
        static_cast<QKeyEvent*>(event)->modifiers() & Qt::ControlModifier) {
        event->ignore();
        return true;
    }
    if (event->type() == QEvent::KeyPress && take_key(static_cast<QKeyEvent*>(event)->key())) return true;
    return QWidget::eventFilter(watched, event);
}

}  // namespace plume::app
