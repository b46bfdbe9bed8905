#include "app/parts/page_columns.hpp"

#include <QVBoxLayout>
#include <algorithm>

namespace plume::app {
namespace {

constexpr int readings_height = 210;

}  // namespace

PageColumns::PageColumns(QWidget* page, QWidget* sheet, const char* name, QWidget* head)
    : scroll_(new QScrollArea), columns_(new QSplitter(Qt::Horizontal)), rows_(new QSplitter(Qt::Vertical)) {
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
