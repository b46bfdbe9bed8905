#include "app/code/completion_list.hpp"

#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>

#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int row_height = 22, most_rows = 8, list_width = 440, name_width = 150;
constexpr int insert_role = Qt::UserRole, help_role = Qt::UserRole + 1;

// The name in the code face, what it is beside it.
class CompletionDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const bool chosen = option.state & QStyle::State_Selected;
        if (chosen) painter->fillRect(option.rect, look().accent_soft);
        const QRect row = option.rect.adjusted(8, 0, -8, 0);
        painter->setFont(code_font(12));
        painter->setPen(chosen ? look().accent : look().ink);
        const QString name = index.data(Qt::DisplayRole).toString();
        painter->drawText(row, Qt::AlignLeft | Qt::AlignVCenter,
                          painter->fontMetrics().elidedText(name, Qt::ElideRight, name_width - 8));
        painter->setFont(text_font(11));
        painter->setPen(look().second_ink);
        const QRect rest = row.adjusted(name_width, 0, 0, 0);
        painter->drawText(rest, Qt::AlignLeft | Qt::AlignVCenter,
                          painter->fontMetrics().elidedText(index.data(help_role).toString(), Qt::ElideRight,
                                                            rest.width()));
    }
    QSize sizeHint(const QStyleOptionViewItem& /*option*/, const QModelIndex& /*index*/) const override {
        return {list_width - 12, row_height};
    }
};

}  // namespace

QString help_for(const std::vector<Completion>& all, const QString& name) {
    for (const Completion& known : all)
        if (known.name == name)
            return known.help.startsWith('(') ? name + known.help : name + ": " + known.help;
    return {};
}

CompletionList::CompletionList(QWidget* parent) : QListWidget(parent) {
    setObjectName("offers");
    setWindowFlags(Qt::ToolTip | Qt::FramelessWindowHint);
    setFocusPolicy(Qt::NoFocus);
    setItemDelegate(new CompletionDelegate(this));
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Names that fit"));
}

void CompletionList::offer(const std::vector<Completion>& all, const QString& typed, const QPoint& at) {
    clear();
    for (const bool at_start : {true, false})
        for (const Completion& each : all) {
            const bool starts = each.name.startsWith(typed, Qt::CaseInsensitive);
            if (starts != at_start || !each.name.contains(typed, Qt::CaseInsensitive)) continue;
            auto* item = new QListWidgetItem(each.name, this);
            item->setData(insert_role, each.insert);
            item->setData(help_role, each.help);
        }
    // A whole name needs no list, and Return after it is to begin a line.
    if (count() == 0 || item(0)->text() == typed) return hide();
    setCurrentRow(0);
    setFixedSize(list_width, std::min(count(), most_rows) * row_height + 12);
    move(at);
    show();
}

void CompletionList::step(int direction) {
    setCurrentRow((currentRow() + direction + count()) % count());
}

QString CompletionList::chosen() const {
    return currentItem() ? currentItem()->data(insert_role).toString() : QString();
}

void CompletionList::mouseReleaseEvent(QMouseEvent* event) {
    QListWidget::mouseReleaseEvent(event);
    if (itemAt(event->pos())) Q_EMIT taken();
}

}  // namespace plume::app
