#include "app/parts/page_columns.hpp"

#include <QEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>
#include <vector>

namespace plume::app {
namespace {

constexpr int readings_height = 210;

// A text that changes within a pane asks all that holds it for room anew. Where the pane needs no more than
// before, that ends here: else the window is laid out, and drawn, twice for each change.
class CalmSplitter : public QSplitter {
public:
    using QSplitter::QSplitter;

protected:
    bool event(QEvent* event) override {
        if (event->type() != QEvent::LayoutRequest) return QSplitter::event(event);
        const std::vector<Need> before = std::exchange(needs_, needs());
        return needs_ == before || QSplitter::event(event);
    }

private:
    struct Need {
        const QWidget* pane;
        QSize least, most;
        bool hidden;
        bool operator==(const Need&) const = default;
    };
    std::vector<Need> needs() const {
        std::vector<Need> needs;
        for (int index = 0; index < count(); ++index) {
            const QWidget* pane = widget(index);
            const QSize least = pane->minimumSize().expandedTo(pane->minimumSizeHint());
            needs.push_back({pane, least, pane->maximumSize(), pane->isHidden()});
        }
        return needs;
    }

    std::vector<Need> needs_;
};

}  // namespace

PageColumns::PageColumns(QWidget* page, QWidget* sheet, const char* name, QWidget* head)
    : scroll_(new QScrollArea),
      columns_(new CalmSplitter(Qt::Horizontal)),
      rows_(new CalmSplitter(Qt::Vertical)) {
    scroll_->setObjectName(name);
    scroll_->setWidget(sheet);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setMinimumWidth(320);
    auto* left = new QWidget;
    left->setObjectName("page");
    left->setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(left);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    if (head) column->addWidget(head);
    column->addWidget(scroll_, 1);
    columns_->addWidget(left);
    put_beside(rows_);
    for (QSplitter* splitter : {rows_, columns_}) {
        splitter->setChildrenCollapsible(false);
        splitter->setHandleWidth(1);
    }
    auto* whole = new QVBoxLayout(page);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->addWidget(columns_);
}

void PageColumns::put_beside(QWidget* right) const {
    columns_->addWidget(right);
    columns_->setStretchFactor(1, 1);
    columns_->setSizes({540, 740});
}

void PageColumns::put_above(QWidget* made) const {
    const int below = rows_->count() > 0 ? std::min(rows_->sizes().back(), readings_height) : 0;
    const int readings = below > 0 ? below : readings_height;
    rows_->insertWidget(0, made);
    rows_->setStretchFactor(0, 1);
    rows_->setSizes({std::max(2 * readings_height, rows_->height() - readings), readings});
    made->show();
}

}  // namespace plume::app
