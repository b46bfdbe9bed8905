#include "app/start/walk_card.hpp"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/parts/soft_shadow.hpp"
#include "app/start/first_walk.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int card_width = 330, from_edge = 18;

}  // namespace

WalkCard::WalkCard(Document& document, QWidget* window) : QFrame(window), document_(document) {
    setObjectName("walk");
    setAccessibleName(tr("First walk"));
    setFixedWidth(card_width);
    cast_shadow(this);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 12, 14);
    column->setSpacing(4);
    auto* top = new QHBoxLayout;
    count_ = new QLabel;
    count_->setObjectName("walk-count");
    count_->setProperty("second", true);
    leave_ = new QPushButton;
    leave_->setObjectName("walk-leave");
    leave_->setFlat(true);
    leave_->setCursor(Qt::PointingHandCursor);
    top->addWidget(count_);
    top->addStretch(1);
    top->addWidget(leave_);
    column->addLayout(top);
    why_ = new QLabel;
    why_->setObjectName("walk-why");
    why_->setWordWrap(true);
    how_ = new QLabel;
    how_->setObjectName("walk-how");
    how_->setWordWrap(true);
    how_->setTextFormat(Qt::RichText);
    column->addWidget(why_);
    column->addWidget(how_);
    connect(leave_, &QPushButton::clicked, this, &QWidget::hide);
    connect(&document, &Document::study_changed, this, &WalkCard::look);
    // Another study is another walk.
    connect(&document, &Document::replaced, this, &QWidget::hide);
    window->installEventFilter(this);
    hide();
}

void WalkCard::begin() {
    stop_ = 0;
    before_ = document_.snapshot();
    show_stop();
    show();
    raise();
}

void WalkCard::look() {
    const auto stops = canopy_walk();
    if (isHidden() || stop_ == stops.size() || !stops[stop_].done(*before_, document_.study())) return;
    // A drag is not over yet; what it goes on to is no matter.
    before_ = document_.snapshot();
    ++stop_;
    show_stop();
    // What was done already, as steps that were added in one, is passed by.
    look();
}

void WalkCard::show_stop() {
    const auto stops = canopy_walk();
    const bool done = stop_ == stops.size();
    why_->setFont(text_font(14, QFont::DemiBold));
    count_->setText(done ? tr("The walk is done") : tr("%1 of %2").arg(stop_ + 1).arg(stops.size()));
    why_->setText(done ? tr("This is the wing canopy.") : tr(stops[stop_].why));
    how_->setText(
        done ? tr("<b>Ctrl+Z</b> takes anything back, <b>Ctrl+S</b> keeps it. <b>F2</b> explains every "
                  "step, <b>F1</b> lists the keys.")
             : tr(stops[stop_].how));
    leave_->setText(done ? tr("Close") : tr("Leave"));
    place();
}

void WalkCard::place() {
    resize(card_width, layout()->totalHeightForWidth(card_width));
    const QWidget* around = parentWidget();
    move(around->width() - width() - from_edge, around->height() - height() - from_edge);
    raise();
}

bool WalkCard::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize && isVisible()) place();
    return QFrame::eventFilter(watched, event);
}

void WalkCard::changeEvent(QEvent* event) {
    QFrame::changeEvent(event);
    if (event->type() == QEvent::StyleChange && isVisible()) place();
}

}  // namespace plume::app
