#include "app/finder/finder_panel.hpp"

#include <QAbstractScrollArea>
#include <QEvent>
#include <QHBoxLayout>
#include <QScrollBar>

#include "app/finder/lately_used.hpp"
#include "app/finder/ready_studies.hpp"
#include "app/parts/soft_shadow.hpp"
#include "app/theme/look.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/study/needed_steps.hpp"

namespace plume::app {
namespace {

constexpr int list_width = 300, detail_width = 390, most_height = 420, least_height = 300, margin = 8;

}  // namespace

FinderPanel::FinderPanel(QWidget* line, Document& document, const QString& list_name)
    : QFrame(line->window()), line_(line), document_(document) {
    setObjectName("finder");
    setAutoFillBackground(true);
    setFocusPolicy(Qt::NoFocus);
    cast_shadow(this);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(1, 1, 1, 1);
    row->setSpacing(0);
    auto* left = new QVBoxLayout;
    left->setContentsMargins(4, 6, 4, 6);
    list_ = new FinderList(this);
    list_->setObjectName(list_name);
    list_->setAccessibleName(tr("Steps that fit"));
    left->addWidget(list_);
    row->addLayout(left);
    auto* ruled = new QFrame;
    ruled->setObjectName("finder-rule");
    ruled->setFixedWidth(1);
    row->addWidget(ruled);
    detail_ = new FinderDetail(this);
    row->addWidget(detail_, 1);
    connect(list_, &QListWidget::currentRowChanged, this, &FinderPanel::show_chosen);
    connect(list_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        if (!list_->at(list_->row(item)).can_be_taken) return;
        list_->setCurrentItem(item);
        Q_EMIT taken();
    });
    window()->installEventFilter(this);
    // It stays beside its line when the page below it is scrolled.
    for (QWidget* above = line->parentWidget(); above; above = above->parentWidget())
        if (auto* area = qobject_cast<QAbstractScrollArea*>(above))
            connect(area->verticalScrollBar(), &QScrollBar::valueChanged, this, [this] {
                if (isVisible()) place();
            });
    hide();
}

FinderPanel::~FinderPanel() {
    // A list tells of its rows until its last one is gone.
    list_->disconnect(this);
}

void FinderPanel::open(FinderPlace where, const QString& typed) {
    // They are files, which may come and go between two looks.
    if (!isVisible()) own_ = read_own_steps(own_steps_folder(), document_.catalogue());
    where_ = std::move(where);
    typed_ = typed;
    list_->set_rows(FinderRows(document_, where_, own_).rows(typed));
    show_chosen();
    place();
    show();
    raise();
    describe_line();
}

// It has the focus, so it says what is told beside the list.
void FinderPanel::describe_line() {
    if (line_) line_->setAccessibleDescription(isVisible() ? detail_->told() : QString());
}

void FinderPanel::place() {
    if (!line_) return;
    const QWidget* around = window();
    const QPoint top = line_->mapTo(around, QPoint(0, 0));
    const int below = around->height() - margin - (top.y() + line_->height() + 6);
    const int above = top.y() - 6 - margin;
    const bool hangs = below >= qMin(above, least_height);
    const int wide = qMin(list_width + detail_width, around->width() - 2 * margin);
    list_->setFixedWidth(qMin(list_width, wide / 2));
    const int room = qMin(most_height, hangs ? below : above);
    const int high = qMin(qMax(list_->height_up_to(room - 14) + 14, least_height), room);
    setFixedSize(wide, high);
    move(qBound(margin, top.x(), qMax(margin, around->width() - margin - wide)),
         hangs ? top.y() + line_->height() + 6 : top.y() - 6 - high);
}

bool FinderPanel::eventFilter(QObject* watched, QEvent* event) {
    if (isVisible() && (event->type() == QEvent::Resize || event->type() == QEvent::LayoutRequest)) place();
    return QFrame::eventFilter(watched, event);
}

void FinderPanel::hideEvent(QHideEvent* event) {
    describe_line();
    QFrame::hideEvent(event);
}

bool FinderPanel::take_key(int key) {
    switch (key) {
        case Qt::Key_Down:
            list_->step(1, false);
            return true;
        case Qt::Key_Up:
            list_->step(-1, false);
            return true;
        case Qt::Key_PageDown:
            list_->step(1, true);
            return true;
        case Qt::Key_PageUp:
            list_->step(-1, true);
            return true;
        default:
            return false;
    }
}

Result<Added> FinderPanel::added(const FinderRow& row) const {
    const Study& study = document_.study();
    const Catalogue& catalogue = document_.catalogue();
    if (row.what == FinderRow::What::heading)
        return add_heading(study, where_.position, "New heading", where_.page);
    if (row.what == FinderRow::What::ready) {
        const Result<Pasted> made =
            pasted(study, catalogue, *ready_studies()[row.ready].study, where_.position, PastedControls::own);
        if (!made) return made.error();
        return Added{made->study, made->items.back()};
    }
    return add_with_needed(study, catalogue, row.offer.needed,
                           offered_step(row.offer, read_typed(text_of(typed_)).numbers), where_.position,
                           where_.in_hand);
}

void FinderPanel::show_chosen() {
    const FinderRow* row = list_->chosen();
    FinderDetail::Preview preview;
    if (row && row->what == FinderRow::What::step)
        if (const Result<Added> made = added(*row)) preview = {made->study, made->id};
    detail_->show_row(row, document_.catalogue(), preview);
    describe_line();
}

ItemId FinderPanel::take() {
    const FinderRow* row = list_->chosen();
    if (!row) return 0;
    const Result<Added> made = added(*row);
    if (!made) {
        document_.show_message(text_of(sentence(made.error())));
        return 0;
    }
    const bool is_step = row->what == FinderRow::What::step;
    if (is_step) note_used(row->offer.kind->key);
    const QString label = is_step                               ? tr("new step")
                          : row->what == FinderRow::What::ready ? tr("new steps")
                                                                : tr("new heading");
    hide();
    return document_.apply(made->study, label) ? made->id : 0;
}

std::string FinderPanel::chosen_kind() const {
    const FinderRow* row = list_->chosen();
    return row && row->what == FinderRow::What::step ? row->offer.kind->key : std::string();
}

}  // namespace plume::app
