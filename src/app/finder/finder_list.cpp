#include "app/finder/finder_list.hpp"

#include <QPainter>
#include <QStyledItemDelegate>

#include "app/finder/ready_studies.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int row_height = 28, caption_height = 26, picture_height = 44, pad = 10, gap = 12;

int height_of(const FinderRow& row) {
    if (row.what == FinderRow::What::caption) return caption_height;
    return row.what == FinderRow::What::ready ? picture_height : row_height;
}

class RowDelegate : public QStyledItemDelegate {
public:
    explicit RowDelegate(FinderList& list) : QStyledItemDelegate(&list), list_(list) {}

    QSize sizeHint(const QStyleOptionViewItem& /*option*/, const QModelIndex& index) const override {
        return {0, height_of(list_.at(index.row()))};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const FinderRow& row = list_.at(index.row());
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        const QRect box = option.rect.adjusted(2, 1, -2, -1);
        const bool chosen = option.state & QStyle::State_Selected;
        if (chosen) {
            painter->setPen(Qt::NoPen);
            painter->setBrush(look().accent_soft);
            painter->drawRoundedRect(box, 6, 6);
        }
        if (row.what == FinderRow::What::caption)
            paint_caption(*painter, box, row);
        else
            paint_row(*painter, box, row, chosen);
        painter->restore();
    }

private:
    static void paint_caption(QPainter& painter, const QRect& box, const FinderRow& row) {
        painter.setFont(text_font(12, QFont::Medium));
        painter.setPen(look().second_ink);
        painter.drawText(box.adjusted(pad - 4, 0, -pad, -2), Qt::AlignLeft | Qt::AlignBottom, row.text);
    }

    static void paint_row(QPainter& painter, QRect box, const FinderRow& row, bool chosen) {
        if (row.what == FinderRow::What::ready) {
            const QRect picture(box.left() + pad, box.top() + 3, 54, box.height() - 6);
            ready_studies()[row.ready].picture.paint(&painter, picture);
            box.setLeft(picture.right());
        }
        box.adjust(pad, 0, -pad, 0);
        const QFont font = text_font(13), small = text_font(12);
        const bool plain = row.what != FinderRow::What::step || row.offer.fits;
        const QColor ink = chosen ? look().accent : plain ? look().ink : look().second_ink;
        // What it is called goes before what it gives, where there is no room for both.
        const QFontMetrics metrics(font), small_metrics(small);
        const int wide = metrics.horizontalAdvance(row.text);
        const int left = box.width() - wide - gap;
        painter.setFont(font);
        painter.setPen(ink);
        painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                         metrics.elidedText(row.text, Qt::ElideRight, box.width()));
        if (left < small_metrics.averageCharWidth() * 5) return;
        painter.setFont(small);
        painter.setPen(chosen ? look().accent : look().second_ink);
        painter.drawText(box, Qt::AlignRight | Qt::AlignVCenter,
                         small_metrics.elidedText(row.right, Qt::ElideRight, left));
    }

    FinderList& list_;
};

}  // namespace

FinderList::FinderList(QWidget* parent) : QListWidget(parent) {
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollMode(ScrollPerPixel);
    setFrameShape(NoFrame);
    setFocusPolicy(Qt::NoFocus);
    setMouseTracking(true);
    setItemDelegate(new RowDelegate(*this));
    // Resting on a row shows what it is; a list that scrolls below a mouse at rest does not.
    connect(this, &QListWidget::itemEntered, this, [this](QListWidgetItem* item) {
        if (can_be_chosen(row(item))) setCurrentItem(item);
    });
}

void FinderList::set_rows(std::vector<FinderRow> rows) {
    rows_ = std::move(rows);
    const QSignalBlocker quiet(this);
    clear();
    for (const FinderRow& row : rows_) {
        auto* item = new QListWidgetItem(row.right.isEmpty() ? row.text : row.text + "   " + row.right, this);
        if (!row.can_be_taken) item->setFlags(Qt::NoItemFlags);
        if (row.what == FinderRow::What::ready) item->setIcon(ready_studies()[row.ready].picture);
    }
    scrollToTop();
    for (int row = 0; row < count(); ++row)
        if (can_be_chosen(row)) {
            setCurrentRow(row);
            break;
        }
}

bool FinderList::can_be_chosen(int row) const {
    return row >= 0 && row < count() && at(row).can_be_taken;
}

const FinderRow* FinderList::chosen() const {
    return can_be_chosen(currentRow()) ? &at(currentRow()) : nullptr;
}

void FinderList::step(int direction, bool far) {
    const int page = far ? qMax(1, viewport()->height() / row_height - 1) : 1;
    int to = currentRow(), left = page;
    for (int row = to + direction; row >= 0 && row < count() && left > 0; row += direction) {
        if (!can_be_chosen(row)) continue;
        to = row;
        --left;
    }
    setCurrentRow(to);
    // With the caption of the group it begins.
    if (to > 0 && !can_be_chosen(to - 1)) scrollToItem(item(to - 1));
    scrollToItem(item(to));
}

int FinderList::height_up_to(int most) const {
    int height = 2 * frameWidth();
    for (const FinderRow& row : rows_) {
        height += height_of(row);
        if (height >= most) return most;
    }
    return height;
}

}  // namespace plume::app
